"""From composed pictures to the bytes of an icon file."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from bexi.core.formats import ico, media_types, png
from bexi.core.iconset.catalogue import IconSpec
from bexi.core.pixels import palette
from bexi.core.pixels.light import Pixels

_FRAME_KINDS = {
    "bitmap": lambda pixels: ico.FrameKind.BITMAP_32,
    "compact": ico.smallest_bitmap,
    "png": lambda pixels: ico.FrameKind.PNG,
}


def canvas(spec: IconSpec, square: Pixels) -> Pixels:
    """The picture of a file: the square itself, or in the middle of a wider, clear one."""
    if spec.width is None:
        return square
    height = square.shape[0]
    left = (spec.width - height) // 2
    return np.pad(square, ((0, 0), (left, spec.width - height - left), (0, 0)))


@dataclass(frozen=True, eq=False)
class Job:
    """One ICO or PNG file to encode, apart from all others; see `Plan` for the choices."""

    spec: IconSpec
    pictures: Sequence[Pixels]
    frame_kind: str = "bitmap"
    palette_error: float = 0

    @property
    def area(self) -> int:
        """How many pixels there are."""
        return sum(picture.shape[0] * picture.shape[1] for picture in self.pictures)


Each = Callable[[Callable[[Job], bytes], Sequence[Job]], Iterator[bytes]]
"""Does the work on each job and gives the results in order: `map`, or one that spreads them over processes."""


def encode(job: Job) -> bytes:
    """The bytes of one ICO or PNG file."""
    if job.spec.media_type == media_types.ICO:
        return ico.write(job.pictures, _FRAME_KINDS[job.frame_kind])
    (picture,) = job.pictures
    whole = png.write(picture)
    reduced = palette.within(picture, job.palette_error) if job.palette_error else None
    return min(whole, png.write(reduced.pixels), key=len) if reduced else whole
