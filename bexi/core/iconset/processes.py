"""Encoding in processes: a PNG is searched for on one core and keeps all else in its process waiting."""

import multiprocessing
import os
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from threading import Lock, Thread

from bexi.core.iconset.encode import Job

_WORTH_IT = 400_000
"""In px; starting the processes takes as long as encoding so many of them [measured]."""


class Processes:
    """Spreads jobs over processes, which are started for the first set that is worth it and then kept."""

    def __init__(self, count: int) -> None:
        self._count = count
        self._pool: ProcessPoolExecutor | None = None
        self._lock = Lock()

    def each(self, work: Callable[[Job], bytes], jobs: Sequence[Job]) -> Iterator[bytes]:
        """See `Each`."""
        if self._count < 2 or sum(job.area for job in jobs) < _WORTH_IT:
            return map(work, jobs)
        return self._spread(work, jobs)

    def _spread(self, work: Callable[[Job], bytes], jobs: Sequence[Job]) -> Iterator[bytes]:
        done, pool = 0, self._started()
        begun: dict[int, Future[bytes]] = {}
        try:
            for number in self._in_turn(jobs):
                begun[number] = pool.submit(work, jobs[number])
            for number in range(len(jobs)):
                yield begun[number].result()
                done += 1
        except BrokenProcessPool:  # one was ended from outside, for want of memory perhaps
            self._end(pool)
            yield from map(work, jobs[done:])
        finally:
            for future in begun.values():
                future.cancel()

    def _in_turn(self, jobs: Sequence[Job]) -> list[int]:
        """The numbers of jobs: the largest first, so that none is left alone at the end; one process goes in order."""
        by_area = sorted(range(len(jobs)), key=lambda number: jobs[number].area, reverse=True)
        largest = by_area[: self._count - 1]
        return [*largest, *(number for number in range(len(jobs)) if number not in largest)]

    def close(self) -> None:
        """End the processes."""
        if self._pool:
            self._end(self._pool)

    def _started(self) -> ProcessPoolExecutor:
        with self._lock:
            if self._pool is None:
                context = multiprocessing.get_context("forkserver")
                context.set_forkserver_preload(["bexi.core.iconset.encode"])
                self._pool = ProcessPoolExecutor(self._count, context, _begin)
            return self._pool

    def _end(self, pool: ProcessPoolExecutor) -> None:
        """End these processes; those that another thread has started since go on."""
        with self._lock:
            self._pool = None if self._pool is pool else self._pool
        pool.shutdown(cancel_futures=True)


def _begin() -> None:
    """Let whoever waits for an answer go first, and end with the process that asked, however that ends."""
    os.nice(5)
    end_with_parent()


def end_with_parent() -> None:
    """End this process when the one that started it is gone, however that ended."""
    Thread(target=_end_after_parent, daemon=True).start()


def _end_after_parent() -> None:
    if parent := multiprocessing.parent_process():
        parent.join()
        os._exit(0)
