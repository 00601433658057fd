"""Locks between the processes of one Bexi: held by whoever works on something, gone when its process ends."""

import fcntl
import hashlib
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings


class Held(Exception):
    """Somebody else holds it."""


@contextmanager
def holding(*what: object, wait: bool = False) -> Iterator[None]:
    """Hold a lock while the block runs, by the name that its parts make; raises Held when it is taken.

    With `wait` it is waited for instead.
    """
    folder = Path(settings.DATA_FOLDER) / "locks"
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    name = hashlib.sha256("\n".join(map(str, what)).encode()).hexdigest()[:32]
    descriptor = os.open(folder / name, os.O_RDWR | os.O_CREAT, 0o600)
    try:
        try:
            fcntl.flock(descriptor, fcntl.LOCK_EX | (0 if wait else fcntl.LOCK_NB))
        except OSError as error:
            raise Held from error
        yield
    finally:
        os.close(descriptor)


def is_held(*what: object) -> bool:
    """Whether somebody works on it."""
    try:
        with holding(*what):
            return False
    except Held:
        return True
