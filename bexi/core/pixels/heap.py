"""One heap for all threads: memory that one thread gives back is there for the next."""

import ctypes
import platform
from functools import cache

_M_ARENA_MAX = -8
"""mallopt(3)."""


@cache
def share_heap() -> None:
    """Keep threads that begin later from having heaps of their own, which hold a tenth of a large picture each.

    Known to the GNU C library alone; elsewhere nothing is done.
    """
    if platform.libc_ver()[0] == "glibc":
        ctypes.CDLL(None).mallopt(_M_ARENA_MAX, 1)
