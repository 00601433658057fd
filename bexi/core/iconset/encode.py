"""From composed pictures to the bytes of an icon file."""

from collections.abc import Sequence

import numpy as np

from bexi.core.formats import ico, png
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


def encode(spec: IconSpec, pictures: Sequence[Pixels], frame_kind: str = "bitmap", palette_error: float = 0) -> bytes:
    """The bytes of one ICO or PNG file; see `Plan` for the choices."""
    if spec.media_type == ico.MEDIA_TYPE:
        return ico.write(pictures, _FRAME_KINDS[frame_kind])
    whole = png.write(pictures[0])
    reduced = palette.within(pictures[0], palette_error) if palette_error else None
    return min(whole, png.write(reduced.pixels), key=len) if reduced else whole
