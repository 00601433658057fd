"""Free ports for servers under test."""

import random
import socket
from contextlib import ExitStack


def free_port_range(count: int) -> int:
    """The first of `count` free ports in a row on the loopback address."""
    for _ in range(100):
        start = random.randrange(20_000, 60_000)  # another run on this machine will hardly choose the same
        with ExitStack() as stack:
            try:
                for port in range(start, start + count):
                    probe = stack.enter_context(socket.socket())
                    probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return start
    raise OSError("no free ports")
