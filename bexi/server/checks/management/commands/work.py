"""`manage.py work`: the process that does what takes long. It first sees to what was interrupted."""

import time

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import close_old_connections
from django_tasks.signals import task_started

from bexi.server import own_disk
from bexi.server.checks import attending
from bexi.server.installs.services import recover
from bexi.server.machines import worker

_PAUSE_SECONDS = 5


class Command(BaseCommand):
    """Recover, then work; a full disk is waited out."""

    help = "Put back installations that were interrupted when Bexi ended, then do background work until Ctrl-C."

    def handle(self, *args: object, **options: object) -> None:
        """Work until the signal to end."""
        worker.keep_beating()
        attending.keep_attending()
        while True:
            try:
                self._see_to_what_was_interrupted()
                self._work()
                return
            except Exception as error:
                if not own_disk.is_to_blame(error):
                    raise
                self.stderr.write(f"Waiting, since {own_disk.told(error)}")
                time.sleep(_PAUSE_SECONDS)

    def _see_to_what_was_interrupted(self) -> None:
        """Say of each interrupted installation how it ended."""
        attending.give_up_interrupted()
        for journal in recover():
            self.stdout.write(f"{journal}: {journal.get_state_display()}. {journal.problem}")

    def _work(self) -> None:
        """Take what is in line, one after the other, in this very process: what it has imported stays."""
        if not settings.QUEUE:
            call_command("db_worker", interval=0.2)
            return
        task_started.connect(_with_fresh_connections)
        here = {"job_class": "django_tasks_rq.Job", "worker_class": "rq.worker.SimpleWorker"}
        call_command("rqworker", "default", verbosity=0, **here)


def _with_fresh_connections(sender: object, **_: object) -> None:
    close_old_connections()
