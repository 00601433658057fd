"""Switches by which the stand-in host misbehaves, for tests and for practice."""

import errno
import time
from dataclasses import dataclass, fields
from pathlib import Path

OFF = 0


class Dropped(Exception):
    """The connection is cut here."""


@dataclass
class Mischief:
    """What goes wrong now. Numbers of 0 are off.

    `drop_after` and `full_after` count the bytes that were stored since the switch was set; `slow` are milliseconds
    before each operation over FTP and SFTP, `slow_web` before each answer to a visitor. The last five are about
    visitors: icons kept for a year, a page in place of /favicon.ico, pictures sent as text, each address sent on once.
    """

    drop_after: int = OFF
    full_after: int = OFF
    slow: int = OFF
    no_overwrite: bool = False
    read_only: bool = False
    no_rename: bool = False
    slow_web: int = OFF
    cache_year: bool = False
    page_for_icon: bool = False
    wrong_type: bool = False
    send_on: bool = False
    stored: int = 0

    def set(self, **switches: int) -> None:
        """Change switches, the others go off; what was stored counts anew."""
        for field in fields(self):
            setattr(self, field.name, type(getattr(self, field.name))(switches.get(field.name, 0)))

    def before_operation(self) -> None:
        """Wait, if it is slow."""
        if self.slow:
            time.sleep(self.slow / 1000)

    def before_opening(self, path: Path) -> None:
        """Refuse to open a file for writing; raises OSError."""
        self.before_changing(path)
        if self.no_overwrite and path.exists():
            raise OSError(errno.EACCES, "Overwriting is not allowed")

    def before_changing(self, path: Path) -> None:
        """Refuse any change; raises OSError."""
        if self.read_only:
            raise PermissionError(errno.EACCES, "Permission denied")

    def before_renaming(self, source: Path, target: Path) -> None:
        """Refuse to rename; raises OSError."""
        self.before_changing(source)
        if self.no_rename:
            raise OSError(errno.EPERM, "Renaming is not allowed")
        if self.no_overwrite and target.exists():
            raise OSError(errno.EACCES, "Overwriting is not allowed")

    def before_storing(self, count: int) -> None:
        """Count bytes about to be stored; raises OSError when the disk is full, Dropped when the line is cut."""
        self.stored += count
        if self.full_after and self.stored > self.full_after:
            raise OSError(errno.ENOSPC, "No space left on device")
        if self.drop_after and self.stored > self.drop_after:
            self.stored = 0
            raise Dropped
