"""A site as a ZIP: read from one, and what changes collected for another."""

import stat
import zipfile
from collections.abc import Iterator, Mapping
from typing import IO

from bexi.core.errors import HostRefused
from bexi.hosts.protocol import MOST_FILES

LARGEST_ARCHIVE = 256 * 1024**2
MOST_UNPACKED = 2 * 1024**3
_MOST_SWELLING = 200
"""A file that swells more than this when unpacked is made to harm; web pages swell some twenty times."""


class ZipStorage:
    """The files of a ZIP, never unpacked to disk; writing and removing is remembered in `changed`."""

    def __init__(self, packed: IO[bytes]) -> None:
        try:
            self._zip = zipfile.ZipFile(packed)
        except (zipfile.BadZipFile, ValueError, NotImplementedError) as error:
            raise HostRefused("not-a-zip", "This file is not a valid ZIP. Pack the site's folder again.") from error
        self._entries = {info.filename: info for info in self._zip.infolist() if _is_plain_file(info)}
        self._refuse_bombs()
        self.place_note = ""
        self._top = self._shared_folder()
        self.changed: dict[str, bytes | None] = {}

    def walk(self) -> Iterator[str]:
        """See Storage."""
        for name in self._entries:
            path = name.removeprefix(self._top)
            hidden = any(part.startswith(".") for part in path.split("/")[:-1])
            if not hidden and self.changed.get(path, b"") is not None:
                yield path
        yield from (path for path, data in self.changed.items() if data is not None)

    def get(self, path: str, most: int) -> bytes | None:
        """See Storage."""
        if path in self.changed:
            data = self.changed[path]
            return None if data is None else data[:most]
        info = self._entries.get(self._top + path)
        if info is None:
            return None
        try:
            with self._zip.open(info) as file:
                return file.read(most)
        except (zipfile.BadZipFile, RuntimeError, NotImplementedError, EOFError, OSError) as error:
            raise HostRefused("cannot-read", f"{path} in this ZIP is damaged or locked with a password.") from error

    def put(self, path: str, data: bytes) -> None:
        """See Storage."""
        self.changed[path] = data

    def move(self, old: str, new: str) -> None:
        """See Storage."""
        self.changed[new] = self.changed.pop(old)

    def remove(self, path: str) -> None:
        """See Storage."""
        if self._top + path in self._entries:
            self.changed[path] = None
        else:
            self.changed.pop(path, None)

    def _refuse_bombs(self) -> None:
        total = sum(info.file_size for info in self._entries.values())
        packed = sum(info.compress_size for info in self._entries.values())
        if len(self._entries) > MOST_FILES or total > MOST_UNPACKED or total > _MOST_SWELLING * packed + 1_000_000:
            raise HostRefused(
                "zip-too-large", "This ZIP unpacks to far more than a site holds. Pack only the site's own folder."
            )

    def _shared_folder(self) -> str:
        """The one folder that everything lies in, as packing a folder gives it; empty when there is none."""
        tops = {name.split("/", 1)[0] if "/" in name else "" for name in self._entries}
        return f"{tops.pop()}/" if len(tops) == 1 and "" not in tops else ""


def unpacked(changed: Mapping[str, bytes | None]) -> tuple[dict[str, bytes], list[str]]:
    """What changed, apart: the files to put on the site, and the paths to remove from it."""
    return {path: data for path, data in changed.items() if data is not None}, [
        path for path, data in changed.items() if data is None
    ]


def _is_plain_file(info: zipfile.ZipInfo) -> bool:
    return not info.is_dir() and not stat.S_ISLNK(info.external_attr >> 16)
