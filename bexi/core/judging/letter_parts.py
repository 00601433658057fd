"""What stands in a row of letters and is but a part of one: a hole, what an outline holds, an outline."""

from collections.abc import Sequence

import numpy as np

from bexi.core.artwork.ink import Box
from bexi.core.judging.letter_shapes import MOST_HOLES
from bexi.core.judging.regions import Region

_THIN, _FILLED = 0.15, 0.7
"""Of a letter's height: an outline's stroke is thinner, and what it holds is higher."""
_EIGHTH = 8
"""Of a letter's height, its rim may stand out."""
_LINE_FILLS = 0.6
"""Of its box, an outline covers less."""


def parts_of_letters(regions: Sequence[Region]) -> set[int]:
    """The labels of what stands in a row of letters but is a part of them.

    Of letters on a badge it is their holes, which have the badge's colour; of outlined letters what their outlines
    hold, or the outlines, where one is that of several.
    """
    left, top, right, bottom = np.array(
        [(region.box.left, region.box.top, region.box.right, region.box.bottom) for region in regions]
    ).T
    kind = np.array([region.kind for region in regions])
    holds = np.less.outer(left, left) & np.less.outer(top, top)
    holds &= np.greater.outer(right, right) & np.greater.outer(bottom, bottom)
    holds &= np.not_equal.outer(kind, kind)
    room = np.where(holds, ((right - left) * (bottom - top))[:, None], np.inf)
    nearest = room.argmin(axis=0)
    holes: dict[Region, list[int]] = {}
    fillings: dict[Region, list[int]] = {}
    for number, region in enumerate(regions):
        around = nearest[number]
        if region.kind and holds[around, number]:
            if (holds[:, around] & (kind == region.kind)).any():
                holes.setdefault(regions[around], []).append(region.label)
            elif is_outline_of(regions[around], region):
                fillings.setdefault(regions[around], []).append(region.label)
    found = {label for its in holes.values() if len(its) <= MOST_HOLES for label in its}
    if any(len(its) > MOST_HOLES for its in fillings.values()):
        return found | {outline.label for outline in fillings}
    return found | {label for its in fillings.values() for label in its}


def is_outline_of(outline: Region, filling: Region) -> bool:
    """Whether a thin line runs around a letter of another colour that lies in it."""
    is_thin = outline.kind > 0 and outline.fill < _LINE_FILLS and outline.stroke < _THIN * outline.box.height
    return is_thin and filling.box.height > _FILLED * outline.box.height


def is_rim_of(other: Region, letter: Region) -> bool:
    """Whether a part of another colour is a thin edge of a letter, all of it, as light and shade give it."""
    box, aside = letter.box, letter.box.height // _EIGHTH
    around = Box(box.left - aside, box.top - aside, box.right + aside, box.bottom + aside)
    is_thin = other.stroke < letter.stroke / 2 and other.area < letter.area
    return other.kind != letter.kind and is_thin and around.encloses(other.box)
