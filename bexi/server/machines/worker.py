"""Whether a process that does background work is alive: each is heard of every few seconds."""

import logging
import os
import socket
import threading
import time
from datetime import timedelta

from django.db import DatabaseError, connection
from django.utils import timezone

from bexi.server.machines.models import WorkerSeen

logger = logging.getLogger(__name__)
_EVERY_SECONDS = 1
GONE_AFTER = timedelta(seconds=20)
"""From then on its work is lost."""
MISSED_AFTER = timedelta(seconds=3)
"""From then on whoever waits for it is told."""
_FORGOTTEN_AFTER = timedelta(days=1)


def keep_beating() -> None:
    """Be heard of from now on, beside the work, until the process ends."""
    name = f"{socket.gethostname()[:80]}:{os.getpid()}"
    be_heard(name)
    threading.Thread(target=_beat, args=(name,), daemon=True).start()


def be_heard(name: str) -> None:
    """Note that a worker is alive now; what cannot be noted passes, like a full disk."""
    now = timezone.now()
    try:
        WorkerSeen.objects.update_or_create(name=name, defaults={"at": now})
        WorkerSeen.objects.filter(at__lt=now - _FORGOTTEN_AFTER).delete()
    except DatabaseError as error:
        logger.warning("The worker could not be noted: %s", error)


def is_alive(lately: timedelta = GONE_AFTER) -> bool:
    """Whether any worker was heard of lately."""
    return WorkerSeen.objects.filter(at__gte=timezone.now() - lately).exists()


def _beat(name: str) -> None:
    while True:
        time.sleep(_EVERY_SECONDS)
        be_heard(name)
        connection.close()
