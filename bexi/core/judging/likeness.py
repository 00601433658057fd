"""How alike two icons look in a row of tabs."""

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels, over
from bexi.core.pixels.oklab import oklab

SIDE = 16
"""In px; icons are mixed up in tabs, where they have so many."""
_MID = Colour(0x7F, 0x7F, 0x7F)
_SHIFTS = (-1, 0, 1)


def distance(one: Pixels, other: Pixels) -> float:
    """Mean distance in OKLab, in hundredths, of two icons of SIDE px on a mid ground; the least of shifts by a px."""
    first, second = (oklab(over(icon, _MID)[..., :3]) for icon in (one, other))
    return min(_mean(first, np.roll(second, (down, across), axis=(0, 1))) for down in _SHIFTS for across in _SHIFTS)


def _mean(one: NDArray[np.float32], other: NDArray[np.float32]) -> float:
    """Of the middle, which a shift by one px leaves whole."""
    inside = np.s_[1:-1, 1:-1]
    return 100 * float(np.linalg.norm(one[inside] - other[inside], axis=-1).mean())


def most_alike(icon: Pixels, others: Mapping[str, Pixels]) -> tuple[str, float] | None:
    """The name of the icon most like this one, and its distance; None where there is no other."""
    distances = [(distance(icon, other), name) for name, other in others.items()]
    if not distances:
        return None
    least, name = min(distances)
    return name, least
