"""Running work on hostile bytes in a process of its own, bounded in time and memory.

A child that hangs is killed, one that crashes takes nothing with it; either way the caller gets a refusal.
"""

import multiprocessing
import resource
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any, ParamSpec, TypeVar

from bexi.core.errors import ArtworkRefused

SECONDS = 20
MEMORY_BYTES = 6 * 1024**3

P = ParamSpec("P")
T = TypeVar("T")

# A server that forks fresh children: a fork of the web server itself would copy its threads' locks.
_processes = multiprocessing.get_context("forkserver")
_processes.set_forkserver_preload(["bexi.server.artwork.measuring"])


def in_sandbox(work: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
    """The result of `work`, which must be importable, as its arguments and result must be picklable.

    Raises ArtworkRefused: the work's own refusal, or one that says it took too long, too much, or crashed.
    """
    receiver, sender = _processes.Pipe(duplex=False)
    child = _processes.Process(target=_child, args=(sender, work, args, kwargs), daemon=True)
    child.start()
    sender.close()
    try:
        if not receiver.poll(SECONDS):
            raise ArtworkRefused(
                "took-too-long",
                f"Reading this file took more than the limit of {SECONDS} seconds. Save a simpler or smaller copy.",
            )
        outcome: Any = receiver.recv()
    except EOFError:
        raise ArtworkRefused(
            "too-demanding",
            "Reading this file takes more memory than a picture may, or its reader gave up. Save it as a smaller PNG.",
        ) from None
    finally:
        receiver.close()
        child.kill()
        child.join()
    if isinstance(outcome, _Refused):
        raise ArtworkRefused(outcome.code, outcome.sentence)
    return outcome  # type: ignore[no-any-return]


class _Refused:
    """A refusal on its way through the pipe."""

    def __init__(self, refusal: ArtworkRefused) -> None:
        self.code = refusal.code
        self.sentence = refusal.sentence


def _child(
    sender: Connection, work: Callable[..., object], args: tuple[object, ...], kwargs: dict[str, object]
) -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    try:
        sender.send(work(*args, **kwargs))
    except ArtworkRefused as refusal:
        sender.send(_Refused(refusal))
    except MemoryError:
        pass  # closing the pipe without a word tells it
