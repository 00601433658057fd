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
_AWAY = 3
"""In half px of the icon: so far apart are two px that are compared, so that one that both share does not count."""


def kept(drawing: Drawing, icon: Pixels, ground: Colour) -> float | None:
    """The share, 0 to 1, of the borders of all parts and holes that stand out in the icon on a ground.

    A border stands out where the icon's px on one side and those one and a half px away, on the other, differ by 3 : 1
    or by half of what the colours there differ by. Each region counts by the root of its area. None without borders.
    """
    stands, borders, areas = _told(drawing, icon, ground)
    seen = borders > 0
    if not seen.any():
        return None
    weights = np.sqrt(areas[seen])
    return float((weights * stands[seen] / borders[seen]).sum() / weights.sum())


def _told(drawing: Drawing, icon: Pixels, ground: Colour) -> tuple[NDArray[np.float64], ...]:
    """Of each region: how much of its border stands out, how much there is, its area."""
    size = icon.shape[0]
    coarse = drawing.coarse
    labels = coarse.labels
    shown = _luminance(over(icon, ground))
    colours = [colour or ground for colour in drawing.colours]
    true = np.array([colour.luminance for colour in colours], dtype=np.float32)[coarse.kinds]
    at = ((np.arange(coarse.side) + 0.5) * size / coarse.side).astype(np.intp)
    shown = shown[np.ix_(at, at)]
    away = -(-_AWAY * coarse.side // (2 * size))
    count = int(labels.max()) + 1
    stands, borders = np.zeros(count), np.zeros(count)
    for one, other in (
        (np.s_[:, away:], np.s_[:, :-away]),
        (np.s_[away:], np.s_[:-away]),
    ):
        first = _ratio(true[one], true[other])
        counted = (labels[one] != labels[other]) & (first >= _NOTHING)
        asked = np.minimum(_ENOUGH, 1 + (first[counted] - 1) / 2)
        good = _ratio(shown[one][counted], shown[other][counted]) >= asked
        for side in (labels[one][counted], labels[other][counted]):
            borders += np.bincount(side, minlength=count)
            stands += np.bincount(side, weights=good, minlength=count)
    return stands, borders, np.bincount(labels.ravel(), minlength=count).astype(np.float64)


def _ratio(one: NDArray[np.float32], other: NDArray[np.float32]) -> NDArray[np.float32]:
    ratio: NDArray[np.float32] = (np.maximum(one, other) + np.float32(0.05)) / (
        np.minimum(one, other) + np.float32(0.05)
    )
    return ratio


def _luminance(pixels: Pixels) -> NDArray[np.float32]:
    light = LINEAR[pixels[..., :3]]
    luminance: NDArray[np.float32] = light @ np.array([0.2126, 0.7152, 0.0722], dtype=np.float32)  # WCAG 2.2
    return luminance
