"""`manage.py work`: the process that does what takes long. It first sees to what was interrupted."""

import time

from django.core.management import call_command
from django.core.management.base import BaseCommand

from bexi.server import own_disk, worker
from bexi.server.builds import services as builds
from bexi.server.checks import services as checks
from bexi.server.checks import watching
from bexi.server.checks.starting import start_check
from bexi.server.installs import planning
from bexi.server.installs.services import recover

_PAUSE_SECONDS = 5


class Command(BaseCommand):
    """Recover, then work; a full disk is waited out."""

    help = "Put back installations that were interrupted when Bexi ended, then do background work until Ctrl-C."

    def handle(self, *args: object, **options: object) -> None:
        """Work until the signal to end."""
        worker.keep_beating()
        watching.keep_looking(start_check)
        while True:
            try:
                self._see_to_what_was_interrupted()
                call_command("db_worker", interval=0.2)
                return
            except Exception as error:
                if not own_disk.is_to_blame(error):
                    raise
                self.stderr.write(f"Waiting, since {own_disk.told(error)}")
                time.sleep(_PAUSE_SECONDS)

    def _see_to_what_was_interrupted(self) -> None:
        """Say of each interrupted installation how it ended."""
        builds.give_up_interrupted()
        planning.give_up_interrupted()
        checks.give_up_interrupted()
        for journal in recover():
            self.stdout.write(f"{journal}: {journal.get_state_display()}. {journal.problem}")
