"""Decoding and measuring a file: the work that runs in the sandbox."""

import dataclasses
from dataclasses import dataclass
from typing import Any

from bexi.core.artwork.detection import PictureFormat, name_mismatch
from bexi.core.artwork.facts import measure
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.notes import notes_on
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.preview import preview_png
from bexi.core.artwork.treatment import Treatment

THUMBNAIL = 320


@dataclass(frozen=True)
class MeasuredFile:
    """Facts and notes as plain data for storage, and a thumbnail PNG of THUMBNAIL px along the longer side."""

    facts: dict[str, Any]
    notes: list[dict[str, Any]]
    thumbnail: bytes


def picture_up_to(data: bytes, treatment: Treatment, most: int | None) -> Picture | None:
    """The decoded picture, None when it is a bitmap of more than `most` px; raises ArtworkRefused."""
    picture = take_in(data, DEFAULT_LIMITS, treatment)[1]
    is_large = most is not None and isinstance(picture, Bitmap) and picture.width * picture.height > most
    return None if is_large else picture


def preview_file(data: bytes, treatment: Treatment, longest: int) -> bytes:
    """A PNG of a whole file, at most `longest` px along its longer side; raises ArtworkRefused."""
    return preview_png(take_in(data, DEFAULT_LIMITS, treatment)[1], longest)


def measure_file(name: str, data: bytes, treatment: Treatment) -> MeasuredFile:
    """Take in and measure a file; raises ArtworkRefused."""
    picture_format, picture = take_in(data, DEFAULT_LIMITS, treatment)
    facts, notes = _measured(name, data, picture_format, picture)
    return MeasuredFile(facts, notes, preview_png(picture, THUMBNAIL))


def noted_facts(name: str, data: bytes) -> dict[str, Any]:
    """The facts of a file as it is, and its notes among them; raises ArtworkRefused."""
    facts, notes = _measured(name, data, *take_in(data, DEFAULT_LIMITS))
    return facts | {"notes": notes}


def _measured(
    name: str, data: bytes, picture_format: PictureFormat, picture: Picture
) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    facts = measure(data, picture_format, picture)
    notes = notes_on(facts, name_mismatch(name, picture_format))
    return facts.as_json(), [dataclasses.asdict(note) for note in notes]
