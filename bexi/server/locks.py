"""Locks between the processes of one machine that share a data folder: gone when their process ends."""

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
def holding(*what: object) -> Iterator[None]:
    """Hold a lock while the block runs, by the name that its parts make; raises Held when it is taken."""
    file = _file(what)
    file.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
    descriptor = os.open(file, os.O_RDWR | os.O_CREAT, 0o600)
    try:
        try:
            fcntl.flock(descriptor, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise Held from error
        yield
    finally:
        os.close(descriptor)


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
