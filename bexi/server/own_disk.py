"""When the disk that Bexi keeps its own data on is full or cannot be written."""

import errno
import sqlite3

from django.db import DatabaseError, OperationalError

_OF_THE_DISK = (errno.ENOSPC, errno.EDQUOT, errno.EROFS, errno.EIO, errno.EFBIG)
_BUSY = (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED)
_SQLITE = (sqlite3.SQLITE_FULL, sqlite3.SQLITE_IOERR, sqlite3.SQLITE_READONLY, sqlite3.SQLITE_CANTOPEN)
_FULL = "the disk that Bexi keeps its data on is full. Make room on it, then try again; nothing that was saved is lost."


def is_to_blame(error: BaseException | None) -> bool:
    """Whether an error came of Bexi's own disk."""
    if isinstance(error, OSError):
        return error.errno in _OF_THE_DISK
    return _sqlite_code(error) in _SQLITE or is_busy(error)


def is_busy(error: BaseException | None) -> bool:
    """Whether another process has kept the database locked for too long."""
    return _sqlite_code(error) in _BUSY


def told(error: BaseException) -> str:
    """What is wrong and what to do, as the end of a sentence."""
    if isinstance(error, OSError) and error.errno not in (errno.ENOSPC, errno.EDQUOT):
        return f"the disk that Bexi keeps its data on cannot be written ({error.strerror}). Look it up, then try again."
    if is_busy(error):
        return "another program keeps Bexi's database locked. Wait a moment, then try again; nothing is lost."
    if is_to_blame(error):
        return _FULL
    kind = "its database" if isinstance(error, DatabaseError) else "its disk"
    return f"{kind} does not take them. Look at Bexi's log, then try again."


def _sqlite_code(error: BaseException | None) -> int | None:
    """The primary result code of SQLite, which is the low byte; None for another error."""
    code = getattr(error.__cause__, "sqlite_errorcode", None) if isinstance(error, OperationalError) else None
    return None if code is None else int(code) & 0xFF
