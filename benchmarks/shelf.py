"""The shelf with 2,000 pieces, against the shelf with one page of them."""

import os
import tempfile
from collections.abc import Iterator
from functools import partial

from benchmarks.timing import median

PIECES = 2000


def rows() -> Iterator[tuple[str, float, str]]:
    """Name of the request, its time over that of the same request to a shelf of one page, what is asked of it."""
    with tempfile.TemporaryDirectory() as folder:
        os.environ.update(BEXI_DATA=folder, DJANGO_SETTINGS_MODULE="bexi.server.settings")
        yield from _measured()


def _measured() -> Iterator[tuple[str, float, str]]:
    import django

    django.setup()
    from django.core.management import call_command
    from django.test import Client

    from bexi.server.artwork.api import PAGE_SIZE
    from bexi.server.artwork.models import Artwork
    from bexi.server.artwork.services import add_artwork

    call_command("migrate", verbosity=0)
    svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><circle cx="4" cy="4" r="3"/></svg>'
    first = add_artwork("disc.svg", svg.encode())
    client = Client(headers={"host": "127.0.0.1"})
    requests = {
        "first page": "/api/artwork",
        "last page": f"/api/artwork?page={-(-PIECES // PAGE_SIZE)}",
        "search": "/api/artwork?search=piece",
        "a thumbnail": f"/api/artwork/{first.pk}/picture?longest=320",
    }

    def grow(count: int) -> None:
        Artwork.objects.bulk_create(
            Artwork(sha256=f"{number:064}", title=f"Piece {number}", file_name="a.svg", facts=first.facts)
            for number in range(Artwork.objects.count(), count)
        )

    grow(PAGE_SIZE)
    small = median(lambda: client.get(requests["first page"]))
    grow(PIECES)
    for name, address in requests.items():
        yield f"{name} of {PIECES} pieces", median(partial(client.get, address)) / small, "at most 3"
