"""Comparing two sets file by file: bytes, and the pictures pixel by pixel."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from bexi.core.artwork.intake import every_picture
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels import palette
from bexi.core.pixels.light import Pixels

_DARKEST = 208
"""How much darker than white what differs most is drawn, of 255."""


class FileChange(StrEnum):
    """What became of a file between two sets."""

    SAME = "same"
    CHANGED = "changed"
    ADDED = "added"
    GONE = "gone"


@dataclass(frozen=True)
class PictureDifference:
    """How one picture differs: its size in px, and the mean and the largest difference of its channels, of 255.

    Both None when the pictures are not of the same size.
    """

    width: int
    height: int
    mean: float | None
    largest: int | None


@dataclass(frozen=True)
class FileDifference:
    """One file in two sets; None where it is not there."""

    name: str
    change: FileChange
    bytes_before: int | None
    bytes_after: int | None
    pictures: tuple[PictureDifference, ...]


def compare(before: Mapping[str, bytes], after: Mapping[str, bytes]) -> list[FileDifference]:
    """Every file of two sets, by name: those of the first in their order, then those only the second has."""
    names = [*before, *(name for name in after if name not in before)]
    return [_compared(name, before.get(name), after.get(name)) for name in names]


def _compared(name: str, before: bytes | None, after: bytes | None) -> FileDifference:
    lengths = (None if before is None else len(before)), (None if after is None else len(after))
    if before is None or after is None:
        return FileDifference(name, FileChange.ADDED if before is None else FileChange.GONE, *lengths, ())
    if before == after:
        return FileDifference(name, FileChange.SAME, *lengths, ())
    pairs = zip(pictures_in(before), pictures_in(after), strict=False)
    return FileDifference(name, FileChange.CHANGED, *lengths, tuple(_difference(one, other) for one, other in pairs))


def _difference(before: Pixels, after: Pixels) -> PictureDifference:
    height, width = after.shape[:2]
    if before.shape != after.shape:
        return PictureDifference(width, height, None, None)
    return PictureDifference(width, height, palette.error(before, after), int(_apart(before, after).max()))


def difference_image(before: Pixels, after: Pixels) -> Pixels:
    """White where two pictures of one size are equal, the darker the more they differ: opaque, shape as theirs.

    Drawn by the square root, small differences can be seen and large ones still told apart; the largest is no black.
    """
    strength = np.rint(_DARKEST * np.sqrt(_apart(before, after) / 255)).astype(np.uint8)
    image = np.full((*strength.shape, 4), 255, dtype=np.uint8)
    image[..., :3] -= strength[..., None]
    return image


def _apart(before: Pixels, after: Pixels) -> np.ndarray[tuple[int, int], np.dtype[np.int64]]:
    """The largest difference of each pixel's channels, colour counted by its alpha."""
    one, other = (
        np.concatenate([pixels[..., :3] * (pixels[..., 3:] / 255), pixels[..., 3:]], axis=-1)
        for pixels in (before, after)
    )
    apart: np.ndarray[tuple[int, int], np.dtype[np.int64]] = np.rint(np.abs(one - other)).max(axis=-1).astype(int)
    return apart


def pictures_in(data: bytes) -> list[Pixels]:
    """The pictures of a file of a set: the frames of an ICO, an SVG at 128 px, any other as it is.

    None in a text file; a picture that is too large or broken counts as none.
    """
    try:
        return list(every_picture(data))
    except ArtworkRefused:
        return []
