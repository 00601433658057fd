"""How much of the parts and holes of a drawing still stands out in the few pixels of an icon."""

import numpy as np
from numpy.typing import NDArray

from bexi.core.judging.drawing import Drawing
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import LINEAR, Pixels, over

_ENOUGH = 3.0
"""Graphics that stand out so much are told apart (WCAG 2.2, success criterion 1.4.11)."""
_NOTHING = 1.1
"""Colours so alike are one to the eye already in the drawing."""


def kept(drawing: Drawing, icon: Pixels, ground: Colour) -> float | None:
    """The share, 0 to 1, of all parts and holes that stands out in the icon on a ground.

    A px of the drawing stands out where the icon's px there differs from the colour around its part by 3 : 1, or by
    half of what the part itself differs by. Each part counts by the root of its area. None where nothing is to be seen.
    """
    coarse = drawing.coarse
    colours = np.array([colour.luminance for colour in coarse.seen_on(ground)], dtype=np.float32)
    kinds, areas, at_edge = _of_regions(coarse)
    around, borders = _around(coarse, kinds)
    first = _ratio(colours[kinds], colours[around])
    seen = (first >= _NOTHING) & (borders > 0) & ~(at_edge & (kinds == 0))
    if not seen.any():
        return None
    asked = np.minimum(_ENOUGH, 1 + (first - 1) / 2)
    at = ((np.arange(coarse.side) + 0.5) * len(icon) / coarse.side).astype(np.intp)
    shown = _luminance(over(icon, ground))[np.ix_(at, at)]
    stands = _ratio(shown, colours[around][coarse.labels]) >= asked[coarse.labels]
    shares = np.bincount(coarse.labels.ravel(), weights=stands.ravel(), minlength=len(areas)) / areas
    weights = np.sqrt(areas[seen])
    return float((weights * shares[seen]).sum() / weights.sum())


def _of_regions(drawing: Drawing) -> tuple[NDArray[np.intp], NDArray[np.float64], NDArray[np.bool_]]:
    """Kind and area of each region, and whether it reaches the drawing's edge."""
    regions = drawing.regions
    return (
        np.array([region.kind for region in regions]),
        np.array([region.area for region in regions], dtype=np.float64),
        np.array([region.at_edge for region in regions]),
    )


def _around(drawing: Drawing, kinds: NDArray[np.intp]) -> tuple[NDArray[np.intp], NDArray[np.int64]]:
    """For each region the kind that most of its border is shared with, and the length of that border in px."""
    count = len(drawing.colours)
    beside = np.zeros(len(kinds) * count, dtype=np.int64)
    one, other = drawing.borders
    for here, there in ((one, other), (other, one)):
        beside += np.bincount(here.astype(np.intp) * count + kinds[there], minlength=len(beside))
    shared = beside.reshape(len(kinds), count)
    return shared.argmax(axis=1), shared.max(axis=1)


def _ratio(one: NDArray[np.floating], other: NDArray[np.floating]) -> NDArray[np.floating]:
    """Contrast of luminances (WCAG 2.2, "contrast ratio")."""
    ratio: NDArray[np.floating] = (np.maximum(one, other) + 0.05) / (np.minimum(one, other) + 0.05)
    return ratio


def _luminance(pixels: Pixels) -> NDArray[np.floating]:
    red, green, blue = (LINEAR[pixels[..., channel]] for channel in range(3))
    luminance: NDArray[np.floating] = 0.2126 * red + 0.7152 * green + 0.0722 * blue  # WCAG 2.2, "relative luminance"
    return luminance
