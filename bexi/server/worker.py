"""Whether the process that does background work is alive: it touches a file every few seconds."""

import threading
import time
from contextlib import suppress
from datetime import timedelta
from pathlib import Path

from django.conf import settings

_EVERY_SECONDS = 5
GONE_AFTER = timedelta(seconds=20)


def keep_beating() -> None:
    """Touch the file from now on, beside the work, until the process ends."""
    with suppress(OSError):
        _file().touch(mode=0o600)
    threading.Thread(target=_beat, daemon=True).start()


def is_alive() -> bool:
    """Whether a worker was heard of lately."""
    try:
        return time.time() - _file().stat().st_mtime <= GONE_AFTER.total_seconds()
    except FileNotFoundError:
        return False


def _beat() -> None:
    while True:
        time.sleep(_EVERY_SECONDS)
        with suppress(OSError):  # a full disk passes
            _file().touch(mode=0o600)


def _file() -> Path:
    return Path(settings.DATA_FOLDER) / "worker-alive"
