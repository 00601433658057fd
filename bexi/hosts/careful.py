"""Working on a place with care: every path is checked, every file is written aside, read back and then renamed."""

import hashlib
from collections.abc import Iterator
from contextlib import suppress

from bexi.core.errors import HostRefused
from bexi.hosts.protocol import DEEPEST, LARGEST_FILE, MOST_FILES, Storage, safe_path

PART_PREFIX = ".bexi-"


class CarefulHost:
    """A Host over any Storage.

    Where a place cannot rename, or not over an existing file, the file is written in place, which a visitor may meet
    half done; there is no better way on such a place.
    """

    def __init__(self, storage: Storage) -> None:
        self._storage = storage
        self.place_note = storage.place_note

    def files(self) -> Iterator[str]:
        """See Host. Names that are no safe paths are passed over."""
        found: list[str] = []
        for count, path in enumerate(self._storage.walk(), 1):
            if count > MOST_FILES:
                raise HostRefused(
                    "endless-listing",
                    f"This place lists more than {MOST_FILES:,} files. Choose the site's own top folder.",
                )
            if _is_safe(path):
                found.append(path)
        yield from sorted(set(found))

    def read(self, path: str) -> bytes | None:
        """See Host."""
        data = self._storage.get(safe_path(path), LARGEST_FILE + 1)
        if data is not None and len(data) > LARGEST_FILE:
            raise HostRefused(
                "file-too-large",
                f"{path} is larger than {LARGEST_FILE // 1024 // 1024} MB, too large for a page or an icon.",
            )
        return data

    def write(self, path: str, data: bytes) -> None:
        """See Host."""
        part = part_of(safe_path(path))
        try:
            self._put_and_check(part, data)
            self._storage.move(part, path)
        except HostRefused as refusal:
            self._try_to_remove(part)
            if refusal.code != "cannot-rename":
                raise
            self._put_and_check(path, data)

    def delete(self, path: str) -> None:
        """See Host."""
        self._storage.remove(safe_path(path))

    def sweep(self, path: str) -> None:
        """Remove what an interrupted writing of this file may have left aside."""
        self._storage.remove(part_of(safe_path(path)))

    def _put_and_check(self, path: str, data: bytes) -> None:
        self._storage.put(path, data)
        if self._storage.get(path, len(data) + 1) != data:
            raise HostRefused("not-as-written", f"{path} read back differently from what was written.")

    def _try_to_remove(self, path: str) -> None:
        with suppress(HostRefused):  # the refusal that led here says more
            self._storage.remove(path)


def part_of(path: str) -> str:
    """Where a file is written aside: a hidden name in the same folder, always the same for the same file."""
    folder, _, name = path.rpartition("/")
    aside = f"{PART_PREFIX}{hashlib.sha256(name.encode()).hexdigest()[:12]}"
    return f"{folder}/{aside}" if folder else aside


def _is_safe(path: str) -> bool:
    try:
        safe_path(path)
    except HostRefused:
        return False
    return path.count("/") < DEEPEST and PART_PREFIX not in path
