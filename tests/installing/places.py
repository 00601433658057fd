"""Places for tests: in memory, or one of the real ones on the stand-in host, each of which can be made to fail."""

from collections.abc import Iterator
from contextlib import contextmanager

from bexi.core.errors import HostRefused
from bexi.hosts.careful import CarefulHost
from bexi.hosts.protocol import Storage

PAGE = b'<html>\n<head>\n<title>a</title>\n<link rel="icon" href="x.gif">\n</head>\n<body></body>\n</html>\n'
FIRST_STATE = {
    "favicon.ico": b"old icon",
    "index.html": PAGE,
    "deep/page.htm": PAGE,
    "part.html": b"<p>fragment</p>",
    "site.webmanifest": b'{"name": "Rota", "icons": []}',
    "notes.txt": b"<head></head>",
}


class MemoryStorage:
    """A place in memory."""

    place_note = ""

    def __init__(self, files: dict[str, bytes]) -> None:
        self.contents = dict(files)

    def walk(self) -> Iterator[str]:
        yield from list(self.contents)

    def get(self, path: str, most: int) -> bytes | None:
        data = self.contents.get(path)
        return None if data is None else data[:most]

    def put(self, path: str, data: bytes) -> None:
        self.contents[path] = data

    def move(self, old: str, new: str) -> None:
        self.contents[new] = self.contents.pop(old)

    def remove(self, path: str) -> None:
        self.contents.pop(path, None)


class Killed(BaseException):
    """Bexi was killed here."""


class FailingStorage:
    """Another storage that fails at its operation number `at`, counted from 0, in one of several ways."""

    def __init__(self, storage: Storage, at: int, how: str) -> None:
        self._storage, self._left, self._how = storage, at, how
        self.place_note = storage.place_note

    def walk(self) -> Iterator[str]:
        return self._storage.walk()

    def get(self, path: str, most: int) -> bytes | None:
        self._count(path, None)
        return self._storage.get(path, most)

    def put(self, path: str, data: bytes) -> None:
        self._count(path, data)
        self._storage.put(path, data)

    def move(self, old: str, new: str) -> None:
        self._count(old, None)
        self._storage.move(old, new)

    def remove(self, path: str) -> None:
        self._count(path, None)
        self._storage.remove(path)

    @property
    def has_failed(self) -> bool:
        return self._left < 0

    def _count(self, path: str, data: bytes | None) -> None:
        self._left -= 1
        if self._left != -1:
            return
        if data is not None and self._how in ("part", "killed"):
            self._storage.put(path, data[: len(data) // 2])
        if self._how == "killed":
            raise Killed
        raise HostRefused("host-failed", "The line went dead.")


@contextmanager
def over(storage: Storage) -> Iterator[CarefulHost]:
    yield CarefulHost(storage)
