"""An ink that is close to its ground set off from it, by as little as it takes, its hue kept."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.translucent import is_translucent
from bexi.core.framing.hand.kinds import Kinds, flat_kinds_of
from bexi.core.pixels.around import highest_around
from bexi.core.pixels.colour import Colour, contrast
from bexi.core.pixels.light import ALPHA, Pixels
from bexi.core.pixels.oklab import at_lightness

_STANDS_OUT = 3.0
"""WCAG 2.2, success criterion 1.4.11."""
_STEPS = tuple(step / 100 for step in range(1, 61))
"""Of lightness in OKLab: the least is tried first."""


def set_off(pixels: Pixels, grounds: Sequence[Colour]) -> Pixels:
    """A drawing, shape (SIDE, SIDE, 4), each ink of which stands out by 3 : 1 from what lies around it.

    What is clear shows one of `grounds`. The very same drawing where every ink does, or where none can; and where inks
    are translucent, since what shows through them is no colour of theirs.
    """
    told = None if is_translucent(pixels) else flat_kinds_of(pixels)
    if told is None:
        return pixels
    result, colours = pixels, list(told.colours)
    for kind, ink in told.inks.items():  # what is more ground comes first, and the rest is seen on that
        below = _below(told, kind)
        around = colours[below]
        better = _set_off(ink, grounds if around is None else [around])
        if better and better != ink:
            result, colours[kind] = _recoloured(result, told.numbers, (kind, below), ink, better, around), better
    return result


def _below(told: Kinds, kind: int) -> int:
    """Which of those that are more ground most of its border is shared with."""
    numbers = told.numbers
    beside = np.zeros(len(told.colours), dtype=np.int64)
    for one, other in ((numbers[1:], numbers[:-1]), (numbers[:, 1:], numbers[:, :-1])):
        beside += np.bincount(other[(one == kind) & (other < kind)], minlength=len(beside))
        beside += np.bincount(one[(other == kind) & (one < kind)], minlength=len(beside))
    return int(beside.argmax())


def _set_off(ink: Colour, grounds: Sequence[Colour]) -> Colour | None:
    """The nearest shade that stands out from all; the ink itself where it does, None where there is none."""
    if _stands_out(ink, grounds):
        return ink
    shades = (at_lightness(ink, sign * step) for step in _STEPS for sign in (-1, 1))
    return next((shade for shade in shades if shade and _stands_out(shade, grounds)), None)


def _stands_out(ink: Colour, grounds: Sequence[Colour]) -> bool:
    return all(contrast(ink, ground) >= _STANDS_OUT for ground in grounds)


def _recoloured(
    drawing: Pixels,
    numbers: NDArray[np.uint8],
    kinds: tuple[int, int],
    ink: Colour,
    better: Colour,
    around: Colour | None,
) -> Pixels:
    """An ink's samples by the difference, those of its rim on what lies below by as much as there is of it in them.

    `kinds` are the numbers of the ink and of what lies below.
    """
    own, below = (numbers == kind for kind in kinds)
    changed = own | (below & highest_around(own, 3))
    values, old = drawing[changed, :ALPHA].astype(np.float64), np.array(ink.channels, dtype=np.float64)
    share = np.ones(len(values))
    if around is not None:
        ground = np.array(around.channels, dtype=np.float64)
        way = old - ground
        share = np.clip(((values - ground) * way).sum(axis=1) / max(1.0, float((way * way).sum())), 0, 1)
    values += share[:, None] * (np.array(better.channels) - old)
    result = drawing.copy()
    result[changed, :ALPHA] = np.rint(np.clip(values, 0, 255)).astype(np.uint8)
    result[result[..., ALPHA] == 0] = 0
    return result
