"""Free ports for servers under test."""

import os
import random
import socket
from contextlib import ExitStack

from tests.__main__ import PROCESS, PROCESSES

FIRST, LAST = 10_000, 32_000  # below those that the system itself hands out


def free_port_range(count: int) -> int:
    """The first of `count` free ports in a row on the loopback address; each test process has a stretch of its own."""
    number, processes = int(os.environ.get(PROCESS, "0")), int(os.environ.get(PROCESSES, "1"))
    stretch = (LAST - FIRST) // processes
    for _ in range(100):
        start = FIRST + number * stretch + random.randrange(stretch - count)
        with ExitStack() as stack:
            try:
                for port in range(start, start + count):
                    probe = stack.enter_context(socket.socket())
                    probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return start
    raise OSError("no free ports")
