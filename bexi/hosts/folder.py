"""A site in a folder on this machine."""

import os
from collections.abc import Iterator
from pathlib import Path

from bexi.core.errors import HostRefused
from bexi.hosts.place import Place
from bexi.hosts.protocol import DEEPEST, safe_path

_AT_ONCE = 64 * 1024


class FolderStorage:
    """The folder at `root`. Links that lead out of it are never followed; one that stays inside stays a link."""

    def __init__(self, root: Path) -> None:
        if not root.is_dir():
            raise HostRefused(
                "no-such-folder", f"There is no folder {root}. Correct the site's folder, or create it first."
            )
        self._root = root.resolve()
        self.place_note = ""
        self._top = str(self._root)

    @classmethod
    def at(cls, place: Place, _: str = "") -> "FolderStorage":
        """The folder of a place, which needs no secret."""
        return cls(place.folder)

    def close(self) -> None:
        """See OpenStorage."""

    def walk(self) -> Iterator[str]:
        """See Storage."""
        yield from self._walk("", 0)

    def _walk(self, folder: str, depth: int) -> Iterator[str]:
        if depth >= DEEPEST:
            return
        with os.scandir(self._root / folder) as entries:
            listed = sorted(entries, key=lambda entry: entry.name)
        for entry in listed:
            path = f"{folder}/{entry.name}" if folder else entry.name
            if entry.is_dir(follow_symlinks=False):
                if not entry.name.startswith("."):
                    yield from self._walk(path, depth + 1)
            elif entry.is_file(follow_symlinks=False) or (entry.is_file() and self._is_way_in(Path(entry.path))):
                yield path

    def _is_way_in(self, link: Path) -> bool:
        """Whether a link leads to a file inside that is not listed by itself: then it is the page's one name."""
        target = link.resolve()
        inside = target.relative_to(self._root).parts if target.is_relative_to(self._root) else ()
        return any(part.startswith(".") for part in inside[:-1])

    def get(self, path: str, most: int) -> bytes | None:
        """See Storage."""
        try:
            with open(self._checked(path), "rb") as file:  # noqa: PTH123
                start = file.read(min(most, _AT_ONCE))  # the room for `most` is made only where it is needed
                return start + file.read(most - len(start)) if len(start) == _AT_ONCE else start
        except FileNotFoundError:
            return None
        except OSError as error:
            raise HostRefused("cannot-read", f"{path} cannot be read: {error.strerror}.") from error

    def put(self, path: str, data: bytes) -> None:
        """See Storage."""
        try:
            with self._locate(path).open("wb") as file:  # through a link, which stays one
                file.write(data)
                file.flush()
                os.fsync(file.fileno())
        except OSError as error:
            raise _not_written(path, error) from error

    def move(self, old: str, new: str) -> None:
        """See Storage. The permissions of a file that gives way are kept."""
        source, target = self._locate(old), self._locate(new).resolve()
        try:
            if target.exists():
                source.chmod(target.stat().st_mode & 0o777)
            source.replace(target)
        except OSError as error:
            raise _not_written(new, error) from error

    def remove(self, path: str) -> None:
        """See Storage."""
        try:
            self._locate(path).unlink(missing_ok=True)
        except NotADirectoryError:
            pass
        except OSError as error:
            raise HostRefused("cannot-delete", f"{path} cannot be removed: {error.strerror}.") from error

    def _locate(self, path: str) -> Path:
        return Path(self._checked(path))

    def _checked(self, path: str) -> str:
        """The full path; refuses one that leads out of the top folder over a link."""
        at = self._top
        for part in safe_path(path).split("/"):
            at = f"{at}/{part}"
            if os.path.islink(at) and not self._is_inside(Path(at)):  # noqa: PTH114
                raise HostRefused("path-outside", f"{path} is a link that leads out of the site's folder.")
        return at

    def _is_inside(self, path: Path) -> bool:
        return path.resolve().is_relative_to(self._root)


def _not_written(path: str, error: OSError) -> HostRefused:
    return HostRefused(
        "cannot-write", f"{path} cannot be written: {error.strerror}. Check the folder's permissions and space."
    )
