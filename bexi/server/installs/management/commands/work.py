"""`manage.py work`: the process that does what takes long. It first sees to what was interrupted."""

from django.core.management import call_command
from django.core.management.base import BaseCommand

from bexi.server import worker
from bexi.server.builds import services as builds
from bexi.server.installs import planning
from bexi.server.installs.services import recover


class Command(BaseCommand):
    """Recover, then work."""

    help = "Put back installations that were interrupted when Bexi ended, then do background work until Ctrl-C."

    def handle(self, *args: object, **options: object) -> None:
        """Say of each interrupted installation how it ended."""
        worker.keep_beating()
        builds.give_up_interrupted()
        planning.give_up_interrupted()
        for journal in recover():
            self.stdout.write(f"{journal}: {journal.get_state_display()}. {journal.problem}")
        call_command("db_worker", interval=0.2)
