"""What Bexi asks of a place where a site's files live. Paths are relative to the top folder, with forward slashes."""

import re
from collections.abc import Iterator
from typing import Protocol

from bexi.core.errors import HostRefused

LARGEST_FILE = 64 * 1024 * 1024
MOST_FILES = 200_000
MOST_FOLDERS = 20_000
DEEPEST = 40
OF_ONE_FILE = ("path-outside", "file-too-large", "cannot-read", "odd-name")
"""Codes of refusals that concern one file, so that work on others goes on."""


# A part between slashes that is empty or leads elsewhere, or a backslash.
_UNSAFE = re.compile(r"(?:^|/)\.{0,2}(?:/|$)|\\")


class Storage(Protocol):
    """The plain operations of a place. Every method raises HostRefused when it cannot do its work.

    `place_note` says, when there is something to say, which folder was taken.
    """

    place_note: str

    def walk(self) -> Iterator[str]:
        """Paths of all files below the top folder, in any order, hidden folders left out."""

    def get(self, path: str, most: int) -> bytes | None:
        """At most `most` bytes from the start of a file; None when there is no such file."""

    def put(self, path: str, data: bytes) -> None:
        """Write a file, over an existing one if need be."""

    def move(self, old: str, new: str) -> None:
        """Rename a file over another one; refuses with code `cannot-rename` when the place knows no such thing."""

    def remove(self, path: str) -> None:
        """Remove a file; it is no error when it is gone already."""


class OpenStorage(Storage, Protocol):
    """A storage that was opened, and is closed again."""

    def close(self) -> None:
        """End the connection, if there is one."""


def is_plain_name(name: str) -> bool:
    """Whether a name that a place lists is one of a file or folder right there, and leads nowhere else."""
    return name not in ("", ".", "..") and not re.search(r"[/\\]", name) and name.replace("\xa0", " ").isprintable()


class Folders:
    """Counts the folders that a listing goes through: a hostile place could have folders within folders for ever."""

    def __init__(self) -> None:
        self._seen = 0

    def count(self, folder: str) -> None:
        """One more; raises HostRefused when they have no end."""
        self._seen += 1
        if self._seen > MOST_FOLDERS:
            raise HostRefused(
                "endless-listing",
                f"This place holds more than {MOST_FOLDERS:,} folders, {folder[:80]} among them. "
                "Choose the site's own top folder.",
            )


class Host(Protocol):
    """A site's top folder, wherever it is. Every method raises HostRefused when it cannot do its work."""

    def files(self) -> Iterator[str]:
        """Paths of all files below the top folder, sorted, hidden folders left out."""

    def read(self, path: str) -> bytes | None:
        """The bytes of a file, or None when there is no such file."""

    def write(self, path: str, data: bytes) -> None:
        """Put a whole file in place at once: a visitor gets the old bytes or the new ones, never a part."""

    def delete(self, path: str) -> None:
        """Remove a file; it is no error when it is gone already."""


def safe_path(path: str) -> str:
    """The path itself, if it stays below the top folder; raises HostRefused."""
    if _UNSAFE.search(path) or not path.replace("\xa0", " ").isprintable():
        raise HostRefused(
            "path-outside",
            f"“{ascii(path[:80])[1:-1]}” is not inside the site's top folder, so Bexi will not touch it.",
        )
    return path
