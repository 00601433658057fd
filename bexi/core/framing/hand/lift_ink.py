"""An ink that is close to its ground set off from it, by as little as it takes, its hue kept."""

from collections.abc import Sequence

import numpy as np

from bexi.core.framing.hand.kinds import Kinds, Mask, flat_kinds_of
from bexi.core.pixels.colour import Colour, contrast
from bexi.core.pixels.light import Pixels
from bexi.core.pixels.oklab import at_lightness

_STANDS_OUT = 3.0
"""WCAG 2.2, success criterion 1.4.11."""
_STEPS = tuple(step / 100 for step in range(1, 61))
"""Of lightness in OKLab: the least is tried first."""


def set_off(pixels: Pixels, grounds: Sequence[Colour]) -> Pixels:
    """A drawing, shape (SIDE, SIDE, 4), each ink of which stands out by 3 : 1 from what lies around it.

    What is clear shows one of `grounds`. The very same drawing where every ink does, or where none can.
    """
    told = flat_kinds_of(pixels)
    if told is None:
        return pixels
    result = pixels
    for kind, ink in told.inks.items():
        around = _around(told, kind)
        better = _set_off(ink, grounds if around is None else [around])
        if better and better != ink:
            result = _recoloured(result, pixels, told.numbers == kind, ink, better, around)
    return result


def _around(told: Kinds, kind: int) -> Colour | None:
    """The colour that most of its border is shared with of those that are more ground; None for what is clear."""
    numbers = told.numbers
    beside = np.zeros(len(told.colours), dtype=np.int64)
    for one, other in ((numbers[1:], numbers[:-1]), (numbers[:, 1:], numbers[:, :-1])):
        beside += np.bincount(other[(one == kind) & (other < kind)], minlength=len(beside))
        beside += np.bincount(one[(other == kind) & (one < kind)], minlength=len(beside))
    return told.colours[int(beside.argmax())]


def _set_off(ink: Colour, grounds: Sequence[Colour]) -> Colour | None:
    """The nearest shade that stands out from all; the ink itself where it does, None where there is none."""
    if _stands_out(ink, grounds):
        return ink
    shades = (at_lightness(ink, sign * step) for step in _STEPS for sign in (-1, 1))
    return next((shade for shade in shades if shade and _stands_out(shade, grounds)), None)


def _stands_out(ink: Colour, grounds: Sequence[Colour]) -> bool:
    return all(contrast(ink, ground) >= _STANDS_OUT for ground in grounds)


def _recoloured(
    result: Pixels, pixels: Pixels, own: Mask, ink: Colour, better: Colour, around: Colour | None
) -> Pixels:
    """The ink's samples by the difference, those of its rim on another colour by as much as there is of it in them."""
    rim: Mask = own.copy()
    for axis in (0, 1):
        for step in (-1, 1):
            rim |= np.roll(own, step, axis)
    values, old = pixels[rim][:, :3].astype(np.float64), np.array(ink.channels, dtype=np.float64)
    share = np.ones(len(values))
    if around is not None:
        below = np.array(around.channels, dtype=np.float64)
        way = old - below
        share = np.clip(((values - below) * way).sum(axis=1) / max(1.0, float((way * way).sum())), 0, 1)
    changed = values + share[:, None] * (np.array(better.channels) - old)
    copy = result.copy()
    copy[rim, :3] = np.rint(np.clip(changed, 0, 255)).astype(np.uint8)
    copy[copy[..., 3] == 0] = 0
    return copy
