"""Of many alike bars as many as there is room for: each has a px of ink and a px of gap."""

from itertools import pairwise

import numpy as np
from scipy import ndimage

from bexi.core.artwork.ink import Box
from bexi.core.framing.hand.kinds import SIDE, SPECK, Mask, flat_kinds_of
from bexi.core.pixels.light import Pixels

_LEAST = 4
"""Fewer bars are no row that can be thinned out."""
_ALIKE = 0.2
"""Of a bar's length, width and distance to the next: so much may differ."""
_FULL = 0.9
"""Of its box: a bar fills it."""
_LONG = 2.0
"""Times its width: shorter is no bar."""
_CROWDED = 1.8
"""In px from bar to bar: what is further apart has room."""
_RIM = 2
"""In samples: so far around a bar its colour shines through."""
_KEPT = 3
"""With fewer they would not be a row any more."""


def thinned_out(pixels: Pixels, size: int) -> Pixels:
    """A drawing, shape (SIDE, SIDE, 4), of whose crowded rows of bars an icon of `size` px keeps what it can show.

    The very same drawing where no row is crowded.
    """
    told = flat_kinds_of(pixels)
    if told is None:
        return pixels
    for kind in told.inks:
        ink = told.numbers == kind
        pixels = _upright(pixels, ink, SIDE / size)
        turned = pixels.swapaxes(0, 1)
        thinned = _upright(turned, ink.T, SIDE / size)
        pixels = pixels if thinned is turned else thinned.swapaxes(0, 1)
    return pixels


def _upright(pixels: Pixels, ink: Mask, px: float) -> Pixels:
    """Of bars side by side."""
    labels, _ = ndimage.label(ink, structure=np.ones((3, 3)))
    areas = np.bincount(labels.ravel())
    boxes = [
        (Box(across.start, down.start, across.stop, down.stop), areas[number])
        for number, (down, across) in enumerate(ndimage.find_objects(labels), 1)
        if areas[number] >= SPECK
    ]
    bars = [box for box, area in boxes if area >= _FULL * box.width * box.height and box.height >= _LONG * box.width]
    bars.sort(key=lambda box: box.left)
    if len(bars) < _LEAST or not all(_are_alike(one, other) for one, other in pairwise(bars)):
        return pixels
    steps = [other.left - one.left for one, other in pairwise(bars)]
    if max(steps) - min(steps) > max(2, _ALIKE * max(steps)) or max(steps) > _CROWDED * px:
        return pixels
    left, right = bars[0].left, bars[-1].right
    count = min(len(bars), int((right - left + px) / (2 * px)))
    return pixels if count < _KEPT or count == len(bars) else _redrawn(pixels, bars, count)


def _are_alike(one: Box, other: Box) -> bool:
    return (
        abs(one.width - other.width) <= max(2, _ALIKE * one.width)
        and abs(one.top - other.top) + abs(one.bottom - other.bottom) <= _ALIKE * one.height
    )


def _redrawn(pixels: Pixels, bars: list[Box], count: int) -> Pixels:
    """So many bars from the first to the last, bars and gaps alike wide."""
    left, right, top = bars[0].left, bars[-1].right, min(bar.top for bar in bars)
    bottom, width = max(bar.bottom for bar in bars), (right - left) / (2 * count - 1)
    result = pixels.copy()
    gap = (bars[0].right + bars[1].left) // 2
    rows, columns = slice(max(0, top - _RIM), bottom + _RIM), slice(max(0, left - _RIM), right + _RIM)
    result[rows, columns] = pixels[rows, gap : gap + 1]
    for number in range(count):
        bar = bars[round(number * (len(bars) - 1) / (count - 1))]
        start, end = round(left + 2 * number * width), round(left + (2 * number + 1) * width)
        result[top:bottom, start:end] = pixels[top:bottom, (bar.left + bar.right) // 2][:, None]
    return result
