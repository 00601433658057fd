"""A site in a folder on this machine.

Every path is walked from the open top folder on, one part after the other, and what is done is done relative to the
folder that was opened last (POSIX.1-2008 `openat` and its kin). So whoever swaps folders and links meanwhile has
nothing outside read or written.
"""

import os
import stat
import weakref
from collections import deque
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path

from bexi.core.errors import HostRefused
from bexi.hosts.line import Line
from bexi.hosts.place import Place
from bexi.hosts.protocol import DEEPEST, safe_path
from bexi.hosts.secret import Secret

_AT_ONCE = 64 * 1024
_MOST_LINKS = 40
"""Followed for one path, as Linux does."""
_FOLDER = os.O_RDONLY | os.O_DIRECTORY | os.O_NOFOLLOW
_FILE = os.O_NOFOLLOW | os.O_NONBLOCK  # a pipe would keep its reader waiting


class FolderStorage:
    """The folder at `root`. Links that lead out of it are never followed; one that stays inside stays a link."""

    def __init__(self, root: Path) -> None:
        try:
            self._top = os.open(root, os.O_RDONLY | os.O_DIRECTORY)
        except OSError as error:
            raise HostRefused(
                "no-such-folder", f"There is no folder {root}. Correct the site's folder, or create it first."
            ) from error
        self._closed = weakref.finalize(self, os.close, self._top)
        self._root = root.resolve()
        self.place_note = ""

    @classmethod
    def at(cls, place: Place, secret: Secret, line: Line) -> "FolderStorage":
        """The folder of a place, which needs neither secret nor line."""
        return cls(place.folder)

    def close(self) -> None:
        """See OpenStorage."""
        self._closed()

    def walk(self) -> Iterator[str]:
        """See Storage."""
        yield from self._walk(self._top, "", 0)

    def _walk(self, opened: int, folder: str, depth: int) -> Iterator[str]:
        if depth >= DEEPEST:
            return
        with os.scandir(opened) as entries:
            listed = sorted(entries, key=lambda entry: entry.name)
        for entry in listed:
            path = f"{folder}/{entry.name}" if folder else entry.name
            if entry.is_dir(follow_symlinks=False):
                if not entry.name.startswith("."):
                    with _open_folder(entry.name, opened) as inner:
                        yield from self._walk(inner, path, depth + 1)
            elif entry.is_file(follow_symlinks=False) or (entry.is_file() and self._is_way_in(self._root / path)):
                yield path

    def _is_way_in(self, link: Path) -> bool:
        """Whether a link leads to a file inside that is not listed by itself: then it is the page's one name."""
        target = link.resolve()
        inside = target.relative_to(self._root).parts if target.is_relative_to(self._root) else ()
        return any(part.startswith(".") for part in inside[:-1])

    def get(self, path: str, most: int) -> bytes | None:
        """See Storage."""
        try:
            straight = self._opened_straight(path)
            if straight is not None:
                with _plain_file(straight):
                    return _read(straight, most)
            with self._located(path) as (folder, name), _open_file(name, os.O_RDONLY, folder) as descriptor:
                return _read(descriptor, most)
        except FileNotFoundError:
            return None
        except OSError as error:
            raise HostRefused("cannot-read", f"{path} cannot be read: {error.strerror}.") from error

    def put(self, path: str, data: bytes) -> None:
        """See Storage."""
        try:
            with (
                self._located(path) as (folder, name),  # through a link, which stays one
                _open_file(name, os.O_WRONLY | os.O_CREAT, folder) as descriptor,
                os.fdopen(descriptor, "wb", closefd=False) as file,
            ):
                file.truncate()
                file.write(data)
                file.flush()
                os.fsync(descriptor)
        except OSError as error:
            raise _not_written(path, error) from error

    def move(self, old: str, new: str) -> None:
        """See Storage. The permissions of a file that gives way are kept."""
        try:
            with self._located(old, to_the_end=False) as (source, part), self._located(new) as (target, name):
                self._keep_permissions(source, part, target, name)
                os.rename(part, name, src_dir_fd=source, dst_dir_fd=target)
        except OSError as error:
            raise _not_written(new, error) from error

    @staticmethod
    def _keep_permissions(source: int, part: str, target: int, name: str) -> None:
        try:
            before = os.stat(name, dir_fd=target, follow_symlinks=False)
        except FileNotFoundError:
            return
        with _open_file(part, os.O_RDONLY, source) as descriptor:
            os.fchmod(descriptor, before.st_mode & 0o777)

    def remove(self, path: str) -> None:
        """See Storage."""
        try:
            with self._located(path, to_the_end=False) as (folder, name):
                os.unlink(name, dir_fd=folder)
        except (FileNotFoundError, NotADirectoryError):
            pass
        except OSError as error:
            raise HostRefused("cannot-delete", f"{path} cannot be removed: {error.strerror}.") from error

    def _opened_straight(self, path: str) -> int | None:
        """A file, open, if no part of its path is a link: what most are, and soon opened. None for all else."""
        *folders, name = safe_path(path).split("/")
        at = self._top
        try:
            for folder in folders:
                inner = os.open(folder, _FOLDER, dir_fd=at)
                if at != self._top:
                    os.close(at)
                at = inner
            return os.open(name, os.O_RDONLY | _FILE, dir_fd=at)
        except OSError:
            return None
        finally:
            if at != self._top:
                os.close(at)

    @contextmanager
    def _located(self, path: str, to_the_end: bool = True) -> Iterator[tuple[int, str]]:
        """The open folder that a path leads to, and the name in it, which is no link at this moment.

        With `to_the_end` a link in the last part is followed, too. Refuses what leads out of the top folder; raises
        OSError for what is not there.
        """
        parts, links = deque(safe_path(path).split("/")), 0
        with ExitStack() as opened:
            folders = [self._top]
            while True:
                if not parts:  # a link to a folder
                    raise IsADirectoryError(0, "it is a folder")
                name = parts.popleft()
                if name in ("", "."):
                    continue
                if name == "..":
                    if len(folders) == 1:
                        raise _outside(path)
                    folders.pop()
                    continue
                target = _target_of(name, folders[-1]) if parts or to_the_end else None
                if target is not None:
                    links += 1
                    if links > _MOST_LINKS:
                        raise _outside(path)
                    if target.startswith("/"):
                        folders, target = [self._top], self._from_top(path, target)
                    parts.extendleft(reversed(target.split("/")))
                elif parts:
                    folders.append(opened.enter_context(_open_folder(name, folders[-1])))
                else:
                    yield folders[-1], name
                    return

    def _from_top(self, path: str, target: str) -> str:
        """Where in the top folder an absolute link leads to."""
        real = Path(target).resolve()
        if not real.is_relative_to(self._root):
            raise _outside(path)
        return str(real.relative_to(self._root))


@contextmanager
def _open_folder(name: str, folder: int) -> Iterator[int]:
    descriptor = os.open(name, _FOLDER, dir_fd=folder)
    try:
        yield descriptor
    finally:
        os.close(descriptor)


@contextmanager
def _open_file(name: str, flags: int, folder: int) -> Iterator[int]:
    """A plain file, open; raises OSError for whatever else lies there."""
    descriptor = os.open(name, flags | _FILE, 0o666, dir_fd=folder)
    with _plain_file(descriptor):
        yield descriptor


@contextmanager
def _plain_file(descriptor: int) -> Iterator[None]:
    """Closes it at the end; raises OSError for what is none."""
    try:
        if not stat.S_ISREG(os.fstat(descriptor).st_mode):
            raise OSError(0, "it is no plain file")
        yield
    finally:
        os.close(descriptor)


def _read(descriptor: int, most: int) -> bytes:
    """At most so many bytes; room for all of them is made only where it is needed."""
    pieces = []
    while most > 0 and (piece := os.read(descriptor, min(most, _AT_ONCE))):
        pieces.append(piece)
        most -= len(piece)
    return b"".join(pieces)


def _target_of(name: str, folder: int) -> str | None:
    """Where a link leads; None for what is no link, or is not there."""
    try:
        return os.readlink(name, dir_fd=folder)
    except OSError:
        return None


def _outside(path: str) -> HostRefused:
    return HostRefused("path-outside", f"{path} is a link that leads out of the site's folder.")


def _not_written(path: str, error: OSError) -> HostRefused:
    return HostRefused(
        "cannot-write", f"{path} cannot be written: {error.strerror}. Check the folder's permissions and space."
    )
