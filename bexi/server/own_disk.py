"""When the disk that Bexi keeps its own data on is full or cannot be written."""

import errno
import sqlite3

from django.db import DatabaseError, OperationalError

_OF_THE_DISK = (errno.ENOSPC, errno.EDQUOT, errno.EROFS, errno.EIO, errno.EFBIG)
_SQLITE = (sqlite3.SQLITE_FULL, sqlite3.SQLITE_IOERR, sqlite3.SQLITE_READONLY, sqlite3.SQLITE_CANTOPEN)
_FULL = "the disk that Bexi keeps its data on is full. Make room on it, then try again; nothing that was kept is lost."


def is_to_blame(error: BaseException | None) -> bool:
    """Whether an error came of Bexi's own disk."""
    if isinstance(error, OSError):
        return error.errno in _OF_THE_DISK
    code = getattr(error.__cause__, "sqlite_errorcode", None) if isinstance(error, OperationalError) else None
    return code is not None and (code & 0xFF) in _SQLITE  # the low byte is the primary result code


def told(error: BaseException) -> str:
    """What is wrong and what to do, as the end of a sentence."""
    if isinstance(error, OSError) and error.errno not in (errno.ENOSPC, errno.EDQUOT):
        return f"the disk that Bexi keeps its data on cannot be written ({error.strerror}). Look at it, then try again."
    if is_to_blame(error):
        return _FULL
    kind = "its database" if isinstance(error, DatabaseError) else "its disk"
    return f"{kind} does not take them. Look at Bexi's log, then try again."
