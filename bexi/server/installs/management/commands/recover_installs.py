"""`manage.py recover_installs`: run when Bexi starts, before its worker."""

from django.core.management.base import BaseCommand

from bexi.server.installs.services import recover


class Command(BaseCommand):
    """Put back what was interrupted."""

    help = "Put back installations that were interrupted when Bexi ended."

    def handle(self, *args: object, **options: object) -> None:
        """Say of each how it ended."""
        for journal in recover():
            self.stdout.write(f"{journal}: {journal.get_state_display()}. {journal.problem}")
