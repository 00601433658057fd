"""The edge to a stranger's place: whatever goes wrong there is a HostRefused, and nothing there takes for ever."""

import socket
import ssl
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import TypeVar

from bexi.core.errors import HostRefused
from bexi.hosts.line import Line
from bexi.hosts.patience import Patience, Watch
from bexi.hosts.protocol import OpenStorage

T = TypeVar("T")
_LONGEST_QUOTE = 200
_SPEAKING = ("ftplib", "paramiko")
"""Libraries whose errors carry what the server said."""
_IN_PLAIN_WORDS: tuple[tuple[type[Exception], str], ...] = (
    (ssl.SSLError, "its TLS does not work"),
    (socket.gaierror, "there is no server of that name"),
    (TimeoutError, "it did not answer in time"),
    (ConnectionRefusedError, "it refuses the connection"),
    (ConnectionError, "it closed the connection"),
    (EOFError, "it closed the connection"),
    (UnicodeError, "a file name in it is not UTF-8; rename that file, then try again"),
)


class GuardedStorage:
    """Another storage, whose every step is bounded in time and whose every failure is a HostRefused."""

    def __init__(self, opening: Callable[[Line], OpenStorage], patience: Patience) -> None:
        """Opens the storage itself; raises HostRefused."""
        line = Line()
        self._watch = Watch(patience, line.cut)
        try:
            with self._step("The place cannot be reached"):
                self._storage = opening(line)
        except BaseException:
            line.cut()
            self._watch.end()
            raise
        self.place_note = self._storage.place_note

    def close(self) -> None:
        """See OpenStorage. What goes wrong now is of no matter any more."""
        try:
            self._storage.close()
        except Exception:  # whatever a library may raise: the connection ends with this object
            pass
        finally:
            self._watch.end()

    def walk(self) -> Iterator[str]:
        """See Storage."""
        paths = self._done("The files cannot be listed", lambda: iter(self._storage.walk()))
        while (path := self._done("The files cannot be listed", lambda: next(paths, None))) is not None:
            yield path

    def get(self, path: str, most: int) -> bytes | None:
        """See Storage."""
        return self._done(f"{path} cannot be read", lambda: self._storage.get(path, most))

    def put(self, path: str, data: bytes) -> None:
        """See Storage."""
        self._done(f"{path} cannot be written", lambda: self._storage.put(path, data))

    def move(self, old: str, new: str) -> None:
        """See Storage."""
        self._done(f"{new} cannot be written", lambda: self._storage.move(old, new))

    def remove(self, path: str) -> None:
        """See Storage."""
        self._done(f"{path} cannot be removed", lambda: self._storage.remove(path))

    def _done(self, what: str, work: Callable[[], T]) -> T:
        with self._step(what):
            return work()

    @contextmanager
    def _step(self, what: str) -> Iterator[None]:
        self._watch.begin_step()
        try:
            yield
        except Exception as error:  # whatever a library makes of what a stranger sends it
            if self._watch.cause:
                raise self._watch.cause from error
            if isinstance(error, HostRefused):
                raise
            code = "odd-name" if isinstance(error, UnicodeError) else "host-failed"
            raise HostRefused(code, f"{what}: {reason_of(error)}.") from error
        finally:
            self._watch.end_step()


def reason_of(error: Exception) -> str:
    """What went wrong at a place in plain words, without a full stop; what its server said is quoted as text."""
    for kind, words in _IN_PLAIN_WORDS:
        if isinstance(error, kind):
            return words
    if isinstance(error, OSError) and error.strerror:
        return quoted(error.strerror)
    is_speaking = type(error).__module__.partition(".")[0] in _SPEAKING or isinstance(error, OSError)
    return (quoted(str(error)) if is_speaking else "") or "its answer cannot be understood"


def quoted(said: str) -> str:
    """What a server said as one line of text, cut where it is long, without a full stop."""
    plain = " ".join("".join(char if char.isprintable() else " " for char in said[: 10 * _LONGEST_QUOTE]).split())
    return plain[:_LONGEST_QUOTE].rstrip(" .")
