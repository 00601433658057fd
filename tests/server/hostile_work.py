"""Work that misbehaves in the sandbox; apart from the tests, since the sandbox imports it without Django."""

import os
import time

from bexi.core.errors import ArtworkRefused


def endless() -> None:
    while True:
        pass


def greedy() -> int:
    return len(bytearray(64 * 1024**3))


def crashing() -> None:
    os.abort()


def refusing() -> None:
    raise ArtworkRefused("no", "No.")


def waiting() -> str:
    time.sleep(1.5)
    return "waited"
