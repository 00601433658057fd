"""The processes that read what comes from outside.

A child that hangs or grows is killed, one that crashes takes nothing with it; either way the caller gets a refusal.
A child serves one caller at a time and is kept for the next; it ends with the process that started it.
"""

import dataclasses
import io
import multiprocessing
import os
import pickle
import resource
import signal
import sys
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from enum import Enum
from multiprocessing import forkserver
from multiprocessing.connection import Connection
from threading import Event, Lock, Timer
from typing import Any, ParamSpec, TypeVar

from bexi.core.errors import ArtworkRefused

SECONDS = 20
"""Of processor time: on a busy machine a picture waits, and is not refused for it."""
_PATIENCE = 6
"""Times as long by the clock, for work that hangs."""
MEMORY_BYTES = 4 * 1024**3
_KEPT = 2
_GRACE = 2

P = ParamSpec("P")
T = TypeVar("T")

# A server that forks fresh children: a fork of the web server itself would copy its threads' locks.
_processes = multiprocessing.get_context("forkserver")
_processes.set_forkserver_preload(["bexi.sandbox.measuring"])


def get_ready() -> None:
    """Start what children come from, which takes its time, beside other work."""
    forkserver.ensure_running()


def in_sandbox(work: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
    """The result of `work`, which must be importable, as its arguments and result must be picklable.

    Raises ArtworkRefused: the work's own refusal, or one that says it took too long, too much, or crashed.
    """
    child = _idle_child() or _Child()
    try:
        outcome = child.ask((work, args, kwargs))
    except BaseException:
        child.end()
        raise
    _keep(child)
    if isinstance(outcome, _Refused):
        raise ArtworkRefused(outcome.code, outcome.sentence)
    return outcome  # type: ignore[no-any-return]


@dataclass(frozen=True)
class _Refused:
    """A refusal on its way through the pipe."""

    code: str
    sentence: str


class _Child:
    """A process that does one piece of work after the other."""

    def __init__(self) -> None:
        self._pipe, theirs = _processes.Pipe()
        self._process = _processes.Process(target=_serve, args=(theirs,), daemon=True)
        self._process.start()
        theirs.close()

    @property
    def is_alive(self) -> bool:
        """Whether it can still be asked."""
        return self._process.is_alive() and not self._pipe.poll()

    def ask(self, work: object) -> Any:
        """The outcome of some work; raises ArtworkRefused when there is none, and the child is of no use then."""
        expired = Event()

        def expire() -> None:
            expired.set()
            self._process.kill()

        deadline = Timer(_PATIENCE * SECONDS, expire)
        deadline.start()
        try:
            self._pipe.send((SECONDS, work))
            return _read(self._pipe.recv_bytes())
        except (OSError, EOFError, pickle.UnpicklingError):
            self._process.join(_GRACE)
            is_late = expired.is_set() or self._process.exitcode == -signal.SIGPROF
            raise _too_long() if is_late else _too_much() from None
        finally:
            deadline.cancel()

    def end(self) -> None:
        """Kill it."""
        self._pipe.close()
        self._process.kill()
        self._process.join()


def _too_long() -> ArtworkRefused:
    return ArtworkRefused(
        "took-too-long",
        f"Reading this file took more than the limit of {SECONDS} seconds. Save a simpler or smaller copy.",
    )


def _too_much() -> ArtworkRefused:
    return ArtworkRefused(
        "too-demanding",
        "Reading this file takes more memory than a picture may, or its reader gave up. Save it as a smaller PNG.",
    )


def _read(said: bytes) -> Any:
    """What a child says; raises UnpicklingError, whatever is wrong with it."""
    try:
        return _Outcomes(io.BytesIO(said)).load()
    except Exception as error:
        raise pickle.UnpicklingError("not what a child says") from error


class _Outcomes(pickle.Unpickler):
    """Reads what a child says; it may have been taken over, so nothing but Bexi's values and arrays comes to life."""

    def find_class(self, module: str, name: str) -> Any:
        """Only classes of values and arrays: whatever else could run."""
        if (module, name) in _ARRAYS:
            return super().find_class(module, name)
        found = super().find_class(module, name) if module.startswith(("bexi.core.", "bexi.sandbox.")) else None
        is_value = dataclasses.is_dataclass(found) or (isinstance(found, type) and issubclass(found, Enum))
        if is_value and getattr(found, "__module__", None) == module:
            return found
        raise pickle.UnpicklingError(f"{module}.{name}")


_ARRAYS = (
    *(("numpy._core.multiarray", "_reconstruct"), ("numpy._core.multiarray", "scalar")),
    *(("numpy._core.numeric", "_frombuffer"), ("numpy", "ndarray"), ("numpy", "dtype")),
)
_idle: list[_Child] = []
_lock = Lock()
os.register_at_fork(after_in_child=_idle.clear)  # a child belongs to the process that started it


def _idle_child() -> _Child | None:
    with _lock:
        while _idle:
            child = _idle.pop()
            if child.is_alive:
                return child
            child.end()
    return None


def _keep(child: _Child) -> None:
    with _lock:
        if len(_idle) < _KEPT:
            _idle.append(child)
            return
    child.end()


def _serve(pipe: Connection) -> None:
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl-C is for the process that asks
    sys.stderr = os.fdopen(os.dup(2), "w")  # for tracebacks; what C libraries say of a stranger's file is for nobody
    os.dup2(os.open(os.devnull, os.O_WRONLY), 2)
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    with suppress(EOFError, OSError):  # whoever asked is gone
        while True:
            seconds, (work, args, kwargs) = pipe.recv()
            signal.setitimer(signal.ITIMER_PROF, seconds)  # its signal ends this process
            signal.setitimer(
                signal.ITIMER_REAL, _PATIENCE * seconds + _GRACE
            )  # ends even what its parent cannot end any more
            pipe.send_bytes(pickle.dumps(_outcome(work, args, kwargs), protocol=pickle.HIGHEST_PROTOCOL))
            signal.setitimer(signal.ITIMER_PROF, 0)
            signal.setitimer(signal.ITIMER_REAL, 0)


def _outcome(work: Callable[..., object], args: tuple[object, ...], kwargs: dict[str, object]) -> object:
    try:
        return work(*args, **kwargs)
    except ArtworkRefused as refusal:
        return _Refused(refusal.code, refusal.sentence)
    except MemoryError:
        os._exit(1)  # the closed pipe tells it
