"""Putting files on Bexi's own disk: whole or not at all, readable by their owner only."""

import os
import tempfile
from contextlib import suppress
from pathlib import Path

from django.conf import settings
from django.core.files import File
from django.core.files.storage import FileSystemStorage


def keep(file: Path, data: bytes) -> None:
    """Write a file aside, have it reach the disk, then put it in its place; raises OSError and leaves nothing then."""
    private_folder(file.parent)
    descriptor, name = tempfile.mkstemp(dir=file.parent)
    aside = Path(name)
    try:
        with os.fdopen(descriptor, "wb") as target:
            target.write(data)
            target.flush()
            os.fsync(target.fileno())
        aside.replace(file)
        _sync_folder(file.parent)
    except BaseException:
        with suppress(OSError):
            aside.unlink()
        raise


def private_folder(folder: Path, above: Path | None = None) -> None:
    """Make a folder, and those above it that are missing, its owner's alone, whatever the umask.

    Those that are there already are made so, too, as far as `above`, which is left as it is.
    """
    if folder == above:
        return
    if not folder.exists():
        private_folder(folder.parent, above)
        folder.mkdir(exist_ok=True)
        folder.chmod(0o700)
    elif above and folder.is_relative_to(above):
        folder.chmod(0o700)
        private_folder(folder.parent, above)


def _sync_folder(folder: Path) -> None:
    """Have the new name reach the disk, too, where the system can."""
    with suppress(OSError):
        descriptor = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(descriptor)
        finally:
            os.close(descriptor)


class KeptBlobs(FileSystemStorage):
    """The blob folder as a storage of Django's: names are hashes, so what is there already is the same."""

    @property
    def base_location(self) -> str:
        """Where the folder is now, for tests have their own."""
        return str(settings.BLOB_FOLDER)

    location = base_location

    def get_available_name(self, name: str, max_length: int | None = None) -> str:
        """The very name."""
        return name

    def _save(self, name: str, content: "File[bytes]") -> str:
        keep(Path(self.path(name)), content.read())
        return name
