"""What every worker sees to beside its work: sites to be looked at by themselves, and what another worker left."""

import logging
import threading
import time
from contextlib import suppress

from django.db import DatabaseError, connection

from bexi.server.builds import services as builds
from bexi.server.checks import services as checks
from bexi.server.checks import watching
from bexi.server.checks.starting import start_check
from bexi.server.installs import planning
from bexi.server.installs.models import InstallState
from bexi.server.installs.services import recover
from bexi.server.machines import leases

logger = logging.getLogger(__name__)
_EVERY_SECONDS = 15


def keep_attending() -> None:
    """See to it from now on, beside the work, until the process ends."""
    threading.Thread(target=_keep_attending, daemon=True).start()


def attend() -> None:
    """See to it once; one worker at a time."""
    with suppress(leases.LeaseHeld), leases.holding("attending"):
        for watch in watching.due():
            start_check(watch.site)
        give_up_interrupted()
        recover([InstallState.STARTED])  # what is stuck waits for somebody, or for the next start


def give_up_interrupted() -> None:
    """Note of what was interrupted when its worker ended that it will not go on."""
    builds.give_up_interrupted()
    planning.give_up_interrupted()
    checks.give_up_interrupted()


def _keep_attending() -> None:
    while True:
        time.sleep(_EVERY_SECONDS)
        try:
            attend()
        except (OSError, DatabaseError) as error:  # a full disk or a locked database passes
            logger.warning("What is to be seen to could not be: %s", error)
        finally:
            connection.close()
