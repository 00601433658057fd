"""Locks between the processes of one machine that share a data folder: gone when their process ends."""

import fcntl
import hashlib
import os
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path

from django.conf import settings

from bexi.server.kept_files import private_folder

_ASKED_EVERY = 0.05


class Held(Exception):
    """Somebody else holds it."""


@contextmanager
def holding(*what: object) -> Iterator[None]:
    """Hold a lock while the block runs, by the name that its parts make; raises Held when it is taken."""
    file = _file(what)
    private_folder(file.parent)
    descriptor = os.open(file, os.O_RDWR | os.O_CREAT, 0o600)
    try:
        try:
            fcntl.flock(descriptor, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise Held from error
        yield
    finally:
        os.close(descriptor)


@contextmanager
def one_of(count: int, *what: object, wait: float = 0) -> Iterator[None]:
    """Hold one of so many locks while the block runs; raises Held when none gets free within `wait` seconds."""
    end = time.monotonic() + wait
    with ExitStack() as held:
        while not any(_taken(held, *what, number) for number in range(count)):
            if time.monotonic() >= end:
                raise Held
            time.sleep(_ASKED_EVERY)
        yield


def count_held(count: int, *what: object) -> int:
    """How many of so many locks are held."""
    return sum(is_held(*what, number) for number in range(count))


def _taken(stack: ExitStack, *what: object) -> bool:
    try:
        stack.enter_context(holding(*what))
    except Held:
        return False
    return True


def is_left(*what: object) -> bool:
    """Whether a process of this machine held it once and is gone."""
    return _file(what).exists() and not is_held(*what)


def is_held(*what: object) -> bool:
    """Whether somebody works on it."""
    try:
        with holding(*what):
            return False
    except Held:
        return True


def _file(what: tuple[object, ...]) -> Path:
    return Path(settings.DATA_FOLDER) / "locks" / hashlib.sha256("\n".join(map(str, what)).encode()).hexdigest()[:32]
