"""Load the demo data, once."""

from pathlib import Path

from django.core.management.base import BaseCommand, CommandError, CommandParser

from bexi.server.demo.load import load_demo
from bexi.server.sites.models import Site


class Command(BaseCommand):
    help = "Load the demo data into an empty database and its sites into a folder for the stand-in host."

    def add_arguments(self, parser: CommandParser) -> None:
        """Take the stand-in's folder and control port."""
        parser.add_argument("folder", type=Path)
        parser.add_argument("--port", type=int, default=8410)

    def handle(self, *args: object, folder: Path, port: int, **options: object) -> None:
        """Load it, unless there are sites already."""
        if Site.objects.exists():
            self.stdout.write("The demo data is there already; it is kept as it is.")
            return
        try:
            load_demo(folder.resolve(), port)
        except OSError as error:
            raise CommandError(
                f"The demo cannot be loaded while ports {port} to {port + 3} are in use: {error}"
            ) from error
        self.stdout.write("Demo data loaded.")
