"""Colours that are but the fringe between two others, as px at a soft border have."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.shapes import nearest_of
from bexi.core.pixels.around import highest_around, lowest_around
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels
from bexi.core.pixels.oklab import oklab

_INSIDE = 0.1
"""Of its px: a line of three px has more that lie in it alone."""
_BESIDE = 0.6
"""So many of its px lie beside the colour that it fringes."""
_OFF_THE_WAY = 20
"""Of 255, in each channel."""
_LIKE = 0.1
"""In OKLab: as far as compression strays beside an edge; a line no further off is not seen as one."""


def is_mixed(colour: Colour, one: Colour, other: Colour) -> bool:
    """Whether a colour lies between two others, as the px at the border of two areas do."""
    start, end, between = (np.array(its.channels, dtype=float) for its in (one, other, colour))
    way = end - start
    at = float((between - start) @ way) / max(float(way @ way), 1.0)
    return 0.02 < at < 0.98 and float(np.abs(start + at * way - between).max()) < _OFF_THE_WAY


def without_fringes(
    pixels: Pixels, mask: NDArray[np.bool_], colours: Sequence[Colour], ground: Colour | None, reach: int
) -> list[Colour]:
    """Those of a picture's colours that are areas; it was enlarged `reach` times."""
    if len(colours) < 2:
        return list(colours)
    size = 2 * reach + 1
    kinds = np.where(mask, nearest_of(pixels, colours)[0] + 1, 0).astype(np.uint8)
    inner = lowest_around(kinds, size) == highest_around(kinds, size)
    kept: list[Colour] = []
    areas = np.bincount(kinds.ravel(), minlength=len(colours) + 1)
    for number in sorted(range(1, len(colours) + 1), key=lambda number: -areas[number]):
        colour, own = colours[number - 1], kinds == number
        is_thin = own.any() and (inner & own).sum() < _INSIDE * own.sum()
        others = kept if ground is None else [*kept, ground]
        fringed = (
            one
            for one in kept
            if is_thin and (_are_like(colour, one) or any(is_mixed(colour, one, other) for other in others))
        )
        if not any(_lie_beside(own, kinds == colours.index(one) + 1, 2 * size + 1) for one in fringed):
            kept.append(colour)
    return [colour for colour in colours if colour in kept]


def _are_like(colour: Colour, other: Colour) -> bool:
    places = oklab(np.array([colour.channels, other.channels], dtype=np.uint8))
    return float(np.linalg.norm(places[0] - places[1])) < _LIKE


def _lie_beside(own: NDArray[np.bool_], other: NDArray[np.bool_], size: int) -> bool:
    return bool(highest_around(other, size)[own].mean() > _BESIDE)
