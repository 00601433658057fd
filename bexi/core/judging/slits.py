"""Closing straight cuts through a line of letters, as a stencil or a struck word has: both halves are one letter."""

from collections.abc import Sequence
from dataclasses import replace
from statistics import median

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.judging.drawing import Drawing
from bexi.core.judging.flat import MOST_REGIONS
from bexi.core.judging.letter_shapes import FEWEST, is_solid
from bexi.core.judging.regions import Region, around

Line = NDArray[np.bool_]

_WITHIN = 1
"""In px: soft edges move by that."""
_NARROW = 0.16
"""Of the letters' height: more room is between two lines of words."""
_MEET = 0.75
"""Of the edges above and below a cut, so much meets the other, as slanted as strokes may be."""
_WIDE = 1.15
"""Times as wide as high: halves of letters are, above or below the cut, and whole letters of two lines are not."""


def without_slits(drawing: Drawing) -> Drawing:
    """The same with the ink of letters going on through cuts, and without a line of another colour that lies in one."""
    if len(drawing.regions) > MOST_REGIONS:
        return drawing
    kinds = drawing.kinds.copy()
    for upper, lower in _halves(drawing.regions):
        box, kind = around([half.box for half in (*upper, *lower)]), upper[0].kind
        top = min(half.box.bottom for half in upper) - _WITHIN
        bottom = max(half.box.top for half in lower) + _WITHIN
        columns = slice(box.left, box.right)
        joined = _joined(kinds[top - 1, columns] == kind, kinds[bottom, columns] == kind, bottom - top)
        if joined.any():
            lines = [one.label for one in drawing.regions if top <= one.box.top and one.box.bottom <= bottom]
            kinds[np.isin(drawing.labels, lines)] = 0
            kinds[top:bottom, columns][:, joined] = kind
    return replace(drawing, kinds=kinds) if (kinds != drawing.kinds).any() else drawing


def _joined(above: Line, below: Line, apart: int) -> Line:
    """Where strokes go on from one edge of a cut to the other; nowhere, if they are no halves of the same letters."""
    wider = np.ones(2 * (apart // 2) + 1, dtype=bool)
    near_above, near_below = (ndimage.binary_dilation(edge, wider) for edge in (above, below))
    meeting = (above & near_below).sum() + (below & near_above).sum()
    if meeting < _MEET * (above.sum() + below.sum()):
        return np.zeros_like(above)
    straight = above & below
    runs, count = ndimage.label(near_above & near_below)
    slanted = np.bincount(runs[straight], minlength=count + 1) == 0
    slanted[0] = False
    joined: Line = straight | slanted[runs]
    return joined


def _halves(regions: Sequence[Region]) -> list[tuple[list[Region], list[Region]]]:
    """Regions of one colour that end on one line, and those that begin on one right below it, enough to be letters."""
    ink = [region for region in regions if region.kind]
    found = []
    for end in sorted({(region.kind, region.box.bottom) for region in ink}):
        kind, bottom = end
        upper = [one for one in ink if one.kind == kind and abs(one.box.bottom - bottom) <= _WITHIN]
        if len(upper) < FEWEST:
            continue
        high = max(one.box.height for one in upper)
        below = [one for one in ink if one.kind == kind and bottom < one.box.top <= bottom + _NARROW * 2 * high]
        for top in sorted({one.box.top for one in below}):
            lower = [one for one in below if abs(one.box.top - top) <= _WITHIN]
            if len(lower) >= FEWEST and _are_letters(upper, lower, top - bottom):
                found.append((upper, lower))
                break
    return found


def _are_letters(upper: Sequence[Region], lower: Sequence[Region], gap: int) -> bool:
    whole = around([half.box for half in (*upper, *lower)])
    are_wide = any(median(half.box.width / half.box.height for half in its) > _WIDE for its in (upper, lower))
    is_shaped = sum(not is_solid(half) for half in (*upper, *lower)) >= FEWEST
    return are_wide and is_shaped and gap <= _NARROW * whole.height
