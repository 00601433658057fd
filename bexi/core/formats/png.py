"""PNG files (W3C PNG, Third Edition), written as small as they get without loss."""

import oxipng

from bexi.core.pixels.light import Pixels

MEDIA_TYPE = "image/png"

_SMALL, _LARGE = 96 * 96, 256 * 256
_FILTERS = [oxipng.RowFilter.NoOp, oxipng.RowFilter.BigEnt]
"""Drawn pictures are smallest without a filter, grainy ones with this one [measured]."""


def write(pixels: Pixels, reduce: bool = True) -> bytes:
    """A PNG file of these pixels without metadata, in the smallest colour type that loses nothing.

    Without `reduce` it has 8 bits for each of red, green, blue and alpha, as ICO frames need them.
    """
    height, width = pixels.shape[:2]
    raw = oxipng.RawImage(pixels.tobytes(), width, height, color_type=oxipng.ColorType.rgba())
    # The last step of the search costs large pictures as much time as all else and saves them hardly anything.
    effort = 11 if width * height > _LARGE else 12
    return raw.create_optimized_png(
        level=2,
        filter=_FILTERS,
        deflate=oxipng.Deflaters.libdeflater(effort),
        # Which filter is better is tried out in full where that takes no time, else estimated [measured].
        fast_evaluation=width * height > _SMALL,
        bit_depth_reduction=reduce,
        color_type_reduction=reduce,
        palette_reduction=reduce,
        grayscale_reduction=reduce,
    )
