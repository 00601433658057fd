"""Reading pictures apart, a few at once on this machine: who comes later waits, and can be told so."""

import os
from collections.abc import Callable
from contextlib import ExitStack
from typing import ParamSpec, TypeVar

from bexi.sandbox import in_sandbox
from bexi.server import locks
from bexi.server.problems import Busy

AT_ONCE = os.cpu_count() or 1
MOST_WAITING = 12
"""Each keeps a thread of the web server."""
_AWAITED_SECONDS = 300.0
_WAITING, _READING = "waiting to read", "reading"

P = ParamSpec("P")
T = TypeVar("T")


def read_apart(work: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
    """The result of work on a picture, done in the sandbox when its turn comes; see `in_sandbox`.

    Raises Busy when too many wait already.
    """
    with ExitStack() as held:
        try:
            with locks.one_of(MOST_WAITING, _WAITING):
                held.enter_context(locks.one_of(AT_ONCE, _READING, wait=_AWAITED_SECONDS))
        except locks.Held as error:
            told = "Many pictures are being read right now. Wait a little, then try again."
            raise Busy("many-pictures", told) from error
        return in_sandbox(work, *args, **kwargs)


def how_many_wait() -> int:
    """How many pictures wait for their turn to be read."""
    return locks.count_held(MOST_WAITING, _WAITING)
