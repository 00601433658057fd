"""A site in a folder on this machine."""

import os
from collections.abc import Iterator
from pathlib import Path

from bexi.core.errors import HostRefused
from bexi.hosts.protocol import DEEPEST, Entry, safe_path


class FolderStorage:
    """The folder at `root`. Links that lead out of it are never followed."""

    def __init__(self, root: Path) -> None:
        if not root.is_dir():
            raise HostRefused(
                "no-such-folder", f"There is no folder {root}. Correct the site's folder, or create it first."
            )
        self._root = root.resolve()

    def walk(self) -> Iterator[Entry]:
        """See Storage."""
        for folder, folders, names in os.walk(self._root):
            depth = len(Path(folder).relative_to(self._root).parts)
            folders[:] = sorted(name for name in folders if not name.startswith(".")) if depth < DEEPEST else []
            for name in names:
                path = Path(folder) / name
                if path.is_file() and path.resolve().is_relative_to(self._root):
                    yield Entry(path.relative_to(self._root).as_posix(), path.stat().st_size)

    def get(self, path: str, most: int) -> bytes | None:
        """See Storage."""
        try:
            with self._locate(path).open("rb") as file:
                return file.read(most)
        except FileNotFoundError:
            return None
        except OSError as error:
            raise HostRefused("cannot-read", f"{path} cannot be read: {error.strerror}.") from error

    def put(self, path: str, data: bytes) -> None:
        """See Storage."""
        try:
            with self._locate(path).open("wb") as file:
                file.write(data)
                file.flush()
                os.fsync(file.fileno())
        except OSError as error:
            raise _not_written(path, error) from error

    def move(self, old: str, new: str) -> None:
        """See Storage. The permissions of a file that gives way are kept."""
        source, target = self._locate(old), self._locate(new)
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
        file = self._root / safe_path(path)
        if not file.resolve().is_relative_to(self._root):
            raise HostRefused("path-outside", f"{path} is a link that leads out of the site's folder.")
        return file


def _not_written(path: str, error: OSError) -> HostRefused:
    return HostRefused(
        "cannot-write", f"{path} cannot be written: {error.strerror}. Check the folder's permissions and space."
    )
