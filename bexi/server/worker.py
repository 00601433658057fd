"""Whether the process that does background work is alive: it touches a file every few seconds."""

import threading
import time
from datetime import datetime, timedelta
from pathlib import Path

from django.conf import settings
from django.utils import timezone

_EVERY_SECONDS = 5
GONE_AFTER = timedelta(seconds=20)


def keep_beating() -> None:
    """Touch the file from now on, beside the work, until the process ends."""
    _file().touch()
    threading.Thread(target=_beat, daemon=True).start()


def is_gone(since: datetime) -> bool:
    """Whether work of which nothing was heard `since` has nobody to do it: it may as well wait for its turn."""
    if timezone.now() - since < GONE_AFTER:
        return False
    try:
        alive = _file().stat().st_mtime
    except FileNotFoundError:
        return True
    return time.time() - alive > GONE_AFTER.total_seconds()


def _beat() -> None:
    while True:
        time.sleep(_EVERY_SECONDS)
        _file().touch()


def _file() -> Path:
    return Path(settings.DATA_FOLDER) / "worker-alive"
