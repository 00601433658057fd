"""Draw the icons that the stand-in's sites have at the start."""

from pathlib import Path

from django.core.management.base import BaseCommand, CommandParser

from bexi.server.demo.artwork import site_pictures


class Command(BaseCommand):
    help = "Draw the pictures of the stand-in's sites into the folder of their first state."

    def add_arguments(self, parser: CommandParser) -> None:
        """Take the folder."""
        parser.add_argument("folder", type=Path)

    def handle(self, *args: object, folder: Path, **options: object) -> None:
        """Write each picture."""
        for path, data in site_pictures().items():
            target = folder / path
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_bytes(data)
