"""A Django test run that takes test class after test class from a line that several processes share."""

import fcntl
import os
import time
from collections.abc import Iterator
from itertools import groupby
from pathlib import Path
from unittest import TestSuite

from django.test import TestCase, TransactionTestCase
from django.test.runner import DiscoverRunner
from django.test.utils import iter_test_cases

from tests.__main__ import LINE

_TOLD = 20
SLOWEST_FIRST = ("tests.server.test_crashes", "tests.browser", "tests.installing", "tests.server", "")
"""Within those that leave the database as it was, which come before those that flush it, as in Django's own order.

The last stands for all others, those of a module that cannot be imported among them.
"""


class LineSuite(TestSuite):
    """Test classes in an order that every process finds alike; run are those that this one takes."""

    def run(self, result, debug=False):
        """Take the next class until none is left."""
        classes = sorted(self, key=_turn)
        took: list[tuple[float, str]] = []
        for number in _taken(len(classes)):
            if result.shouldStop:
                break
            start, name = time.monotonic(), _turn(classes[number])[-1]
            classes[number].run(result, debug)
            result._previousTestClass = None  # it is torn down already; unittest would do so once more
            took.append((time.monotonic() - start, name))
        print("", *(f"took {seconds:6.1f} s {name}" for seconds, name in sorted(took)[-_TOLD:]), sep="\n")
        return result


class LineRunner(DiscoverRunner):
    """Django's runner, whose suite is a line."""

    def build_suite(self, *args, **options):
        """The suite with one entry for each test class."""
        cases = list(iter_test_cases(super().build_suite(*args, **options)))
        grouped = groupby(sorted(cases, key=lambda case: _name(type(case))), key=type)
        return LineSuite(TestSuite(tests) for _, tests in grouped)


def _name(kind: type) -> str:
    return f"{kind.__module__}.{kind.__qualname__}"


def _turn(suite: TestSuite) -> tuple[bool, int, str]:
    kind = type(next(iter(suite)))
    flushes = issubclass(kind, TransactionTestCase) and not issubclass(kind, TestCase)
    return flushes, next(turn for turn, start in enumerate(SLOWEST_FIRST) if _name(kind).startswith(start)), _name(kind)


def _taken(count: int) -> Iterator[int]:
    """Numbers below `count` that no other process has taken."""
    while True:
        with Path(os.environ[LINE]).open("r+") as line:
            fcntl.flock(line, fcntl.LOCK_EX)
            number = int(line.read())
            line.seek(0)
            line.write(str(number + 1))
        if number >= count:
            return
        yield number
