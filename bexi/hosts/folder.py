"""A site in a folder on this machine."""

import contextlib
import os
import tempfile
from collections.abc import Iterator
from pathlib import Path

from bexi.core.errors import HostRefused
from bexi.hosts.protocol import safe_path

LARGEST_FILE = 64 * 1024 * 1024


class FolderHost:
    """The folder at `root`. Links that lead out of it are never followed."""

    def __init__(self, root: Path) -> None:
        if not root.is_dir():
            raise HostRefused(
                "no-such-folder", f"There is no folder {root}. Correct the site's folder, or create it first."
            )
        self._root = root.resolve()

    def files(self) -> Iterator[str]:
        """See Host."""
        for folder, folders, names in os.walk(self._root):
            folders[:] = sorted(name for name in folders if not name.startswith("."))
            for name in sorted(names):
                path = Path(folder) / name
                if path.is_file() and path.resolve().is_relative_to(self._root):
                    yield path.relative_to(self._root).as_posix()

    def read(self, path: str) -> bytes | None:
        """See Host."""
        file = self._locate(path)
        try:
            if file.stat().st_size > LARGEST_FILE:
                raise HostRefused("file-too-large", f"{path} is too large for a file of a site's icons or pages.")
            return file.read_bytes()
        except FileNotFoundError:
            return None
        except OSError as error:
            raise HostRefused("cannot-read", f"{path} cannot be read: {error.strerror}.") from error

    def write(self, path: str, data: bytes) -> None:
        """See Host. Written to a temporary name beside it, read back, then renamed over it."""
        file = self._locate(path)
        try:
            mode = file.stat().st_mode & 0o777 if file.exists() else 0o644
            descriptor, name = tempfile.mkstemp(dir=file.parent, prefix=".bexi-")
            temporary = Path(name)
            try:
                with os.fdopen(descriptor, "wb") as target:
                    target.write(data)
                    target.flush()
                    os.fsync(target.fileno())
                if temporary.read_bytes() != data:
                    raise HostRefused("not-as-written", f"{path} read back differently from what was written.")
                temporary.chmod(mode)
                temporary.replace(file)
            except BaseException:
                with contextlib.suppress(FileNotFoundError):
                    temporary.unlink()
                raise
        except OSError as error:
            raise HostRefused(
                "cannot-write",
                f"{path} cannot be written: {error.strerror}. Check the folder's permissions and space.",
            ) from error

    def delete(self, path: str) -> None:
        """See Host."""
        try:
            self._locate(path).unlink(missing_ok=True)
        except OSError as error:
            raise HostRefused("cannot-delete", f"{path} cannot be removed: {error.strerror}.") from error

    def _locate(self, path: str) -> Path:
        file = self._root / safe_path(path)
        if not file.resolve().is_relative_to(self._root):
            raise HostRefused("path-outside", f"{path} is a link that leads out of the site's folder.")
        return file
