"""Whether the process that does background work is alive: it touches a file every few seconds."""

import threading
import time
from contextlib import suppress
from datetime import datetime, timedelta
from pathlib import Path
from typing import Protocol

from django.conf import settings
from django.utils import timezone

_EVERY_SECONDS = 5
GONE_AFTER = timedelta(seconds=20)


def keep_beating() -> None:
    """Touch the file from now on, beside the work, until the process ends."""
    with suppress(OSError):
        _file().touch(mode=0o600)
    threading.Thread(target=_beat, daemon=True).start()


class Work(Protocol):
    """What is recorded of work in the background: whether it is over, and when something was heard of it last."""

    changed: datetime

    @property
    def is_over(self) -> bool:
        """Whether nothing more will happen."""


def is_lost(work: Work) -> bool:
    """Whether unfinished work has nobody to do it; as long as a worker is alive, it may wait for its turn."""
    if work.is_over or timezone.now() - work.changed < GONE_AFTER:
        return False
    try:
        alive = _file().stat().st_mtime
    except FileNotFoundError:
        return True
    return time.time() - alive > GONE_AFTER.total_seconds()


def _beat() -> None:
    while True:
        time.sleep(_EVERY_SECONDS)
        with suppress(OSError):  # a full disk passes
            _file().touch(mode=0o600)


def _file() -> Path:
    return Path(settings.DATA_FOLDER) / "worker-alive"
