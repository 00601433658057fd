"""Taking in, opening and showing artwork."""

import dataclasses
from functools import lru_cache
from pathlib import PurePath

from bexi.core.artwork.facts import Facts, measure
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.preview import preview_png
from bexi.server import blobs
from bexi.server.artwork.models import Artwork


def add_artwork(file_name: str, data: bytes, title: str = "") -> Artwork:
    """The artwork of a picture file, the known one if its bytes were taken in before.

    Raises ArtworkRefused; nothing is stored then.
    """
    name = PurePath(file_name.replace("\\", "/")).name[:200] or "picture"
    picture_format, picture = take_in(data)
    facts = measure(name, data, picture_format, picture)
    defaults = {
        "title": (title or PurePath(name).stem)[:120],
        "file_name": name,
        "facts": as_json(facts),
    }
    artwork, _ = Artwork.objects.get_or_create(sha256=blobs.put(data), defaults=defaults)
    return artwork


@lru_cache(maxsize=3)  # decoding is most of the work of an answer; three large pictures fit in memory
def open_picture(sha256: str) -> Picture:
    """The decoded picture of an artwork."""
    return take_in(blobs.get(sha256))[1]


@lru_cache(maxsize=32)
def preview(sha256: str, longest: int) -> bytes:
    """A PNG of the whole artwork, at most `longest` px along its longer side."""
    return preview_png(open_picture(sha256), longest)


def as_json(facts: Facts) -> dict[str, object]:
    """Facts as plain data for storage."""
    return dataclasses.asdict(facts) | {"ground_colour": str(facts.ground_colour) if facts.ground_colour else None}
