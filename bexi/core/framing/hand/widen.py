"""Strokes under a px made a px wide, so that they do not turn grey."""

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.framing.hand.kinds import MOST_PARTS, SIDE, SPECK, Mask, flat_kinds_of
from bexi.core.pixels.light import ALPHA, Pixels

_LONG = 3.0
"""In halves of a px: what is thin over less is a corner, no stroke."""
_EVEN = 0.7
"""Of its usual width: a stroke is hardly anywhere thinner; a tip is."""
_HARDLY = 10
"""In % of its area."""
_GAP = 1.0
"""In px: a gap stays so wide, or as it is."""
_PARTS = (1 / 3, 2 / 3, 1.0)
"""Of what is missing: less of it where a gap leaves no room for all."""
_RIM, _ALONG = 2, 0.75
"""In samples: ground so near to a stroke lies along it; and how much of that must be free."""
_MOST = 90
"""In % of a drawing's strokes: what is missing at these is enough for all."""
_SPECK = 0.25
"""In square px: a hole that is smaller is no hole."""

_Depth = NDArray[np.float64]
"""Of each sample, in samples: how far what lies around is."""


def widened(pixels: Pixels, size: int) -> Pixels:
    """A drawing, shape (SIDE, SIDE, 4), whose strokes are at least a px of an icon of `size` px wide, gaps permitting.

    What is new has the colour of the stroke beside it. The very same drawing where no stroke is too thin.
    """
    told = flat_kinds_of(pixels)
    if told is None:
        return pixels
    px, result = SIDE / size, pixels
    for kind in reversed(told.inks):
        ink, ground = told.numbers == kind, told.numbers < kind
        depth = ndimage.distance_transform_edt(ink)
        thin = _strokes(ink, depth, px / 2)
        new = _beside(thin, depth, ground, px) if thin.any() else thin
        if new.any() and _holes(ground & ~new, px) >= _holes(ground, px):
            result = _painted(result, pixels, thin, thin | new)
    return result


def _strokes(ink: Mask, depth: _Depth, radius: float) -> Mask:
    """Where ink is narrower than twice `radius`, and long."""
    core = depth >= radius
    thin = ink & (ndimage.distance_transform_edt(~core) >= radius) if core.any() else ink
    pieces, count = ndimage.label(thin, structure=np.ones((3, 3)))
    areas = np.bincount(pieces.ravel(), minlength=count + 1)
    if np.count_nonzero(areas[1:] >= SPECK) > MOST_PARTS:
        return np.zeros_like(ink)
    found, widths = np.zeros_like(ink), _greatest(np.where(thin, depth, 0), radius)
    for number, where in enumerate(ndimage.find_objects(pieces), 1):
        if areas[number] < SPECK:
            continue
        own = pieces[where] == number
        thinnest, usual = np.percentile(widths[where][own], (_HARDLY, 50))
        if thinnest >= _EVEN * usual and own.sum() >= _LONG * radius * 2 * usual:
            found[where] |= own
    return found


def _beside(thin: Mask, depth: _Depth, ground: Mask, px: float) -> Mask:
    """The ground that thin strokes take in on each side, all along each or not at all, or it would get knobs."""
    missing = px / 2 - _greatest(np.where(thin, depth, 0), px / 2)
    away, nearest = ndimage.distance_transform_edt(~thin, return_indices=True)
    most = float(np.percentile(missing[thin], _MOST))
    grows = np.minimum(most, missing[nearest[0], nearest[1]])
    pieces, count = ndimage.label(thin, structure=np.ones((3, 3)))
    strokes, rim = pieces[nearest[0], nearest[1]], ground & (away <= _RIM)
    border = np.maximum(1, np.bincount(strokes[rim], minlength=count + 1))
    room, taken = ndimage.distance_transform_edt(ground), np.zeros_like(thin)
    for part in _PARTS:
        free = _as_wide(room, _GAP * px / 2 + part * most)
        along = np.bincount(strokes[rim & free], minlength=count + 1) >= _ALONG * border
        taken |= ground & free & along[strokes] & (away <= part * grows)
    return taken


def _as_wide(room: _Depth, radius: float) -> Mask:
    """The ground in which a disc has room."""
    core = room >= radius
    wide: Mask = ndimage.distance_transform_edt(~core) < radius if core.any() else core
    return wide


def _greatest(depth: _Depth, around: float) -> _Depth:
    greatest: _Depth = ndimage.maximum_filter(depth, size=2 * int(np.ceil(around)) + 1)
    return greatest


def _painted(before: Pixels, pixels: Pixels, thin: Mask, there: Mask) -> Pixels:
    """A stroke's own colour is that of its middle, where nothing shines through."""
    depth = ndimage.distance_transform_edt(thin)
    middle = thin & (depth >= np.minimum(2, _greatest(depth, 2)))
    rows, columns = ndimage.distance_transform_edt(~middle, return_distances=False, return_indices=True)
    result = before.copy()
    result[there] = pixels[rows[there], columns[there]]
    result[there, ALPHA] = pixels[thin, ALPHA].max()
    return result


def _holes(ground: Mask, px: float) -> int:
    pieces, count = ndimage.label(ground)
    return int((np.bincount(pieces.ravel(), minlength=count + 1)[1:] >= _SPECK * px**2).sum())
