"""How soft the edges of a picture are: one that was enlarged or blurred has less in it than its px say."""

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.around import highest_around, lowest_around
from bexi.core.pixels.light import Pixels

_WINDOW = 17
"""In px: edges that are softer than half of it are shadows and fades."""
_LEAST = 24
"""Of 255, over the window: less is no edge, nor what is less than half of the picture's range."""
_SHARPEST = 25
"""In %: a picture is as soft as this share of its edges, so that a shadow beside sharp ones does not count."""
_SHARP = 3.0
"""In px: an edge that falls between px takes two, and compression adds one."""
_FEWEST = 64
"""Px beside edges; with fewer nothing can be told."""
_ONE = 1.3
"""In px: over so many an edge runs that falls anywhere between two."""


def softness_of(pixels: Pixels) -> int:
    """How many times a picture can be reduced until its edges are as sharp as drawn ones: from 1 to 8."""
    plane = _telling(pixels)
    wide = _range_around(plane, _WINDOW)
    steep = highest_around(_range_around(plane, 3), _WINDOW)  # over two px
    edges = (wide >= max(_LEAST, int(np.ptp(plane)) // 2)) & (steep > 0)
    if edges.sum() < _FEWEST:
        return 1
    runs = float(np.percentile(2 * wide[edges].astype(np.float64) / steep[edges], _SHARPEST))
    return 1 if runs < _SHARP else min(round(runs / _ONE), _WINDOW // 2)


def _telling(pixels: Pixels) -> NDArray[np.uint8]:
    """The channel in which the picture differs most."""
    spreads = pixels[::4, ::4].std(axis=(0, 1))
    return np.ascontiguousarray(pixels[..., int(spreads.argmax())])


def _range_around(plane: NDArray[np.uint8], size: int) -> NDArray[np.uint8]:
    """Between the lowest and the highest value around each px."""
    reach = size // 2
    padded = np.pad(plane, reach, mode="edge")  # beyond the rim there is nothing that could be an edge
    inside = np.s_[reach : -reach or None, reach : -reach or None]
    return (highest_around(padded, size) - lowest_around(padded, size))[inside]
