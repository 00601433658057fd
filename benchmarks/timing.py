"""Medians of repeated work."""

import statistics
import time
from collections.abc import Callable

ROUNDS = 5


def median(work: Callable[[], object]) -> float:
    """Seconds that `work` takes, the median of ROUNDS."""
    times = []
    for _ in range(ROUNDS):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return statistics.median(times)
