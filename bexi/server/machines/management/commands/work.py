"""`manage.py work`: the process that does what takes long, from one line or several."""

import time
from argparse import ArgumentParser

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import close_old_connections, connections
from django_tasks.signals import task_started

from bexi.server import own_disk
from bexi.server.keeper import end_with_keeper
from bexi.server.machines import attending, worker

_PAUSE_SECONDS = 5
_PATIENT_SECONDS = 90
"""For a database that another process keeps locked: whoever works in the background can wait."""


class Command(BaseCommand):
    """Work; a full disk is waited out, and so is a busy database."""

    help = "Do background work until Ctrl-C."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Which line to take from."""
        parser.add_argument("--line", default="*", help="default, elsewhere, or * for all")

    def handle(self, *args: object, **options: str) -> None:
        """Work until the signal to end."""
        if not settings.DATABASE_ADDRESS:
            connections["default"].settings_dict["OPTIONS"]["timeout"] = _PATIENT_SECONDS
        end_with_keeper()
        worker.keep_beating()
        attending.keep_attending()
        while True:
            try:
                self._work(options["line"])
                return
            except Exception as error:
                if not own_disk.is_to_blame(error):
                    raise
                self.stderr.write(f"Waiting, since {own_disk.told(error)}")
                time.sleep(_PAUSE_SECONDS)

    def _work(self, line: str) -> None:
        """Take what is in line, one after the other, in this very process: what it has imported stays."""
        if not settings.QUEUE:
            call_command("db_worker", interval=0.2, queue_name=line)
            return
        task_started.connect(_with_fresh_connections)
        here = {"job_class": "django_tasks_rq.Job", "worker_class": "rq.worker.SimpleWorker"}
        lines = settings.LINES if line == "*" else (line,)
        call_command("rqworker", *lines, verbosity=0, **here)


def _with_fresh_connections(sender: object, **_: object) -> None:
    close_old_connections()
