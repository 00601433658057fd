"""Large pictures are worked on aside, in a process of its own, so that a web process stays small.

That process ends when nobody has asked it for a while, and with the one that started it.
"""

import multiprocessing
import signal
import threading
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor, TimeoutError
from concurrent.futures.process import BrokenProcessPool
from functools import wraps
from multiprocessing.util import Finalize
from typing import Any, ParamSpec, TypeVar, cast

from bexi.core.iconset.processes import end_with_parent
from bexi.server.problems import Busy, Conflict

MOST_PIXELS = 1024 * 1024
"""What a web process decodes: it keeps a few pictures, and its threads work on others at the same time."""
_IDLE_SECONDS = 60.0
_MOST_SECONDS = 300
_ASKED_EVERY = 0.2

P = ParamSpec("P")
T = TypeVar("T")


class TooLargeHere(Exception):
    """A picture that this process does not decode."""


class _Aside:
    """The process aside, while there is one."""

    def __init__(self) -> None:
        self.most_pixels: int | None = None
        self._pool: ProcessPoolExecutor | None = None
        self._lock = threading.Lock()
        self._askers = 0
        self._idle = threading.Timer(_IDLE_SECONDS, self._end_idle)

    def ask(self, work: Callable[..., T], args: Any, kwargs: Any, nobody_waits: Callable[[], bool]) -> T:
        """The result of some work; raises Conflict when nobody waits for it any more, Busy when it comes to no end."""
        pool = self._begun()
        try:
            return _awaited(pool.submit(_done_aside, work, args, kwargs), nobody_waits)
        except BrokenProcessPool as error:
            self._end(pool)
            told = "Working on this large picture took too long, or too much memory. Add a copy of at most 4096 px."
            raise Busy("too-demanding", told) from error
        finally:
            self._left()

    def _begun(self) -> ProcessPoolExecutor:
        with self._lock:
            self._askers += 1
            self._idle.cancel()
            if self._pool is None:
                self._pool = ProcessPoolExecutor(1, multiprocessing.get_context("forkserver"), _begin)
            return self._pool

    def _left(self) -> None:
        with self._lock:
            self._askers -= 1
            if not self._askers:
                self._idle = threading.Timer(_IDLE_SECONDS, self._end_idle)
                self._idle.daemon = True
                self._idle.start()

    def _end_idle(self) -> None:
        with self._lock:
            pool, self._pool = (self._pool, None) if not self._askers else (None, self._pool)
        if pool:
            pool.shutdown(wait=False)

    def _end(self, pool: ProcessPoolExecutor) -> None:
        with self._lock:
            self._pool = None if self._pool is pool else self._pool
        pool.shutdown(wait=False, cancel_futures=True)


def _awaited(asked: "Future[T]", nobody_waits: Callable[[], bool]) -> T:
    while True:
        try:
            return asked.result(_ASKED_EVERY)
        except TimeoutError:
            if nobody_waits():
                asked.cancel()
                raise Conflict("outdated", "Nobody waits for these pictures any more.") from None


_aside = _Aside()


def stay_small() -> None:
    """Have this process leave large pictures to the one aside from now on."""
    _aside.most_pixels = MOST_PIXELS


def most_pixels() -> int | None:
    """How large a bitmap this process decodes, None for any."""
    return _aside.most_pixels


def aside_when_large(work: Callable[P, T]) -> Callable[P, T]:
    """Have some work done aside when a picture turns out to be too large for this process.

    Its arguments and result must be picklable, but for `nobody_waits`, which is asked from here.
    """

    @wraps(work)
    def done(*args: P.args, **kwargs: P.kwargs) -> T:
        try:
            return work(*args, **kwargs)
        except TooLargeHere:
            waits = cast(Callable[[], bool], kwargs.pop("nobody_waits", lambda: False))
            return _aside.ask(done, args, kwargs, waits)

    return done


def _begin() -> None:
    end_with_parent()
    import django

    django.setup()
    from bexi.server.encoding import processes

    Finalize(None, processes.close, exitpriority=100)  # first of all, or this process would wait for them for good


def _done_aside(work: Callable[..., T], args: Any, kwargs: Any) -> T:
    from django.db import close_old_connections

    close_old_connections()
    signal.alarm(_MOST_SECONDS)  # its signal ends this process
    try:
        return work(*args, **kwargs)
    finally:
        signal.alarm(0)
