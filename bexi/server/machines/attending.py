"""What every worker sees to beside its work: whatever is due, and work whose worker is gone. Each piece by itself."""

import logging
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import suppress

from django.apps import apps
from django.db import connection

from bexi.server.machines import leases
from bexi.server.machines.work import Work

logger = logging.getLogger(__name__)
_EVERY_SECONDS = 15
_due: list[Callable[[], None]] = []


def also(see_to: Callable[[], None]) -> None:
    """Have something else seen to, too, each time."""
    _due.append(see_to)


def keep_attending() -> None:
    """See to it from now on, beside the work, until the process ends."""
    threading.Thread(target=_keep_attending, daemon=True).start()


def attend() -> None:
    """See to it once; one worker at a time."""
    with suppress(leases.LeaseHeld), leases.holding("attending"):
        for see_to in _due:
            _by_itself(see_to)
        for work in _under_way():
            _by_itself(work.see_to)


def _under_way() -> Iterator[Work]:
    for kind in apps.get_models():
        if issubclass(kind, Work):
            yield from kind.objects.filter(**{"state__in": kind.UNDER_WAY}).order_by("pk")


def _by_itself(see_to: Callable[[], None]) -> None:
    """What goes wrong with one thing is noted, and keeps nothing else from being seen to."""
    try:
        see_to()
    except Exception:
        logger.exception("Regular work failed")


def _keep_attending() -> None:
    while True:
        try:
            attend()
        except Exception as error:  # a full disk or a locked database passes
            logger.warning("Regular work failed: %s", error)
        finally:
            connection.close()
        time.sleep(_EVERY_SECONDS)
