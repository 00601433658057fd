"""Photographs: pictures that are not made of areas which are flat or shade off evenly."""

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageFilter

from bexi.core.artwork.ink import GroundKind, find_ink
from bexi.core.artwork.rims import without_rim
from bexi.core.artwork.shapes import main_colours, nearest_of
from bexi.core.pixels.areas import areas_of
from bexi.core.pixels.around import highest_around, lowest_around
from bexi.core.pixels.light import Pixels

_LOOKED_AT = 256
"""Px along the longer side, which is enough, and evens out grain."""
_LEAST = 128
"""Px along the longer side: of fewer, edges are too much to tell."""
_SAME = 3
"""Of 255: px so near to a main colour are of it."""
_EVEN = 4
"""Of 255: px so near to the shade that fits their area best are a part of it."""
_FEWEST = 40
"""Px of an area whose shade is told."""
_DRAWN = 0.62
"""So much of a drawing is flat or even, whatever it went through; of photographs it is mostly below a half."""


def is_photograph(pixels: Pixels) -> bool:
    """Whether a picture is a photograph; one on a ground of its own is not, nor is one as small as an icon."""
    pixels = without_rim(pixels)
    if max(pixels.shape[:2]) < _LEAST or find_ink(pixels).ground is not GroundKind.BUSY:
        return False
    away, _ = _from_main_colours(pixels)
    return bool((away <= _SAME).mean() < _DRAWN) and _even_share(pixels) < _DRAWN


def _even_share(pixels: Pixels) -> float:
    """How much of the picture, without its grain, lies in areas that shade off evenly."""
    small = Image.fromarray(pixels).reduce(-(-max(pixels.shape[:2]) // _LOOKED_AT))
    calm = np.asarray(small.filter(ImageFilter.MedianFilter(3)))
    away, nearest = _from_main_colours(calm)
    even = away <= _SAME
    inside = np.flatnonzero(lowest_around(nearest, 3) == highest_around(nearest, 3))
    labels = areas_of(nearest).labels.ravel()[inside]
    order = np.argsort(labels, kind="stable")
    terms, shown = _terms(nearest.shape), calm[..., :3].reshape(-1, 3).astype(np.float64)
    for area in np.split(inside[order], np.flatnonzero(np.diff(labels[order])) + 1):
        if len(area) >= _FEWEST:
            shade, *_ = np.linalg.lstsq(terms[area], shown[area], rcond=None)
            even.ravel()[area] |= np.abs(shown[area] - terms[area] @ shade).max(axis=1) <= _EVEN
    return float(even.mean())


def _from_main_colours(pixels: Pixels) -> tuple[NDArray[np.int16], NDArray[np.uint8]]:
    """How far, in the channel that differs most, each px is from the nearest main colour, and which that is."""
    colours = [one.colour for one in main_colours(pixels, np.ones(pixels.shape[:2], dtype=bool))]
    nearest, _ = nearest_of(pixels, colours)
    places = np.array([colour.channels for colour in colours], dtype=np.int16)
    away: NDArray[np.int16] = np.abs(pixels[..., :3] - places[nearest]).max(axis=-1)
    return away, nearest


def _terms(shape: tuple[int, ...]) -> NDArray[np.float64]:
    """Those of a shade of the second degree at each px: shape (px, 6)."""
    y, x = (axis.ravel() / max(shape) - 0.5 for axis in np.indices(shape))
    return np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1)
