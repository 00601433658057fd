"""PNG files (W3C PNG, Third Edition), written as small as they get without loss."""

import io

import numpy as np
import oxipng
from PIL import Image

from bexi.core.pixels.light import Pixels

_SMALL, _LARGE = 96 * 96, 256 * 256
_PLAIN, _FILTERS = [oxipng.RowFilter.NoOp], [oxipng.RowFilter.NoOp, oxipng.RowFilter.Entropy]
"""Drawn pictures are smallest without a filter, grainy ones with the other one [measured]."""
_FEW = 256
"""With so many colours a picture is stored as places in a palette, which no filter foretells."""


def write(pixels: Pixels, reduce: bool = True) -> bytes:
    """A PNG file of these pixels without metadata, in the smallest colour type that loses nothing.

    Without `reduce` it has 8 bits for each of red, green, blue and alpha, as ICO frames need them.
    """
    height, width = pixels.shape[:2]
    raw = oxipng.RawImage(pixels.tobytes(), width, height, color_type=oxipng.ColorType.rgba())
    flat = reduce and width * height > _SMALL and _has_few_colours(pixels)
    # The last step of the search costs large grainy pictures as much time as all else and saves them hardly anything.
    effort = 11 if width * height > _LARGE and not flat else 12
    return raw.create_optimized_png(
        level=2,
        filter=_PLAIN if flat else _FILTERS,
        deflate=oxipng.Deflaters.libdeflater(effort),
        # Which filter is better is tried out in full where that takes no time, else estimated [measured].
        fast_evaluation=width * height > _SMALL,
        bit_depth_reduction=reduce,
        color_type_reduction=reduce,
        palette_reduction=reduce,
        grayscale_reduction=reduce,
    )


def write_quickly(pixels: Pixels) -> bytes:
    """The same pixels for the screen, at once instead of small."""
    target = io.BytesIO()
    Image.fromarray(pixels).save(target, "PNG", compress_level=1)
    return target.getvalue()


def read(data: bytes) -> Pixels:
    """The pixels of a PNG file that was written here."""
    pixels: Pixels = np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"))
    return pixels


def _has_few_colours(pixels: Pixels) -> bool:
    values = np.ascontiguousarray(pixels).view(np.uint32)
    if len(np.unique(values[::8, ::8])) > _FEW:  # most grainy pictures show it at once
        return False
    return len(np.unique(values)) <= _FEW
