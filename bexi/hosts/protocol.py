"""What Bexi asks of a place where a site's files live. Paths are relative to the top folder, with forward slashes."""

from collections.abc import Iterator
from typing import Protocol

from bexi.core.errors import HostRefused


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
    parts = path.split("/")
    if not path or "\\" in path or "\0" in path or any(part in ("", ".", "..") for part in parts):
        raise HostRefused(
            "path-outside",
            f"“{path[:80]}” does not lie inside the site's top folder, so Bexi will not touch it.",
        )
    return path
