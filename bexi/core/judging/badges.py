"""Shapes that carry something: what is a badge or a tile, and what lies on it beside words."""

from collections.abc import Iterator

import numpy as np
from scipy import ndimage

from bexi.core.judging.drawing import Drawing
from bexi.core.judging.found import STRAY, Badge, Found
from bexi.core.judging.parts import Part, near_each_other
from bexi.core.judging.regions import LINE
from bexi.core.judging.rows import Row

_ALL = 0.9
"""Of a badge's box: what its marks lie on is no less, or it is but one of its tones."""
_SHORT, _MOST_HELD = 2, 3
"""A badge that a word begins in is at most so many times as wide as high, and holds so many of its letters."""
_CARRIED, _DRAWN = 0.04, 0.015
"""Of a badge's area: less is an ornament, and less a speck."""
_SQUARE = 0.86
"""A square with round corners fills so much of its box, and more."""
_AS_WIDE, _UNLIKE = 1.1, 0.05
"""A disc is as wide as it is high, but for so much; less than this of its box is unlike a disc."""


def is_badge(found: Found, drawing: Drawing) -> bool:
    """Whether a group is one shape that fills its box, or a disc, and something is drawn on it."""
    ground = max(region.area for part in found.parts for region in part.regions)
    is_drawn_on = len(found.parts) == 1 and found.area - ground > _DRAWN * found.area
    return is_drawn_on and (is_square(found) or _is_disc(found.parts[0], drawing))


def is_square(found: Found) -> bool:
    """Whether a group fills its box, but for round corners perhaps."""
    return found.area > _SQUARE * found.box.width * found.box.height


def carried(badge: Found, drawing: Drawing) -> Found | None:
    """What a badge carries, on all of it."""
    (part,) = badge.parts
    inner = next(inside_badge(part, set(), drawing), None)
    is_much = inner is not None and inner.area > _CARRIED * part.area
    return inner if inner and is_much and _carries_all(badge, inner) else None


def _carries_all(badge: Found, inner: Found) -> bool:
    """Whether what the inner lies on is all of the badge, not one of its tones."""
    box = inner.carrier.box if inner.carrier else badge.box
    return box.width * box.height > _ALL * badge.box.width * badge.box.height


def _is_disc(part: Part, drawing: Drawing) -> bool:
    """Whether a part and what it holds is a disc, whatever little it lacks or has beside that."""
    box = part.box
    if not 1 / _AS_WIDE < box.width / box.height < _AS_WIDE:
        return False
    inside = np.isin(
        drawing.labels[box.top : box.bottom, box.left : box.right], [region.label for region in part.regions]
    )
    y, x = (np.linspace(-1, 1, side)[:, None] for side in inside.shape)
    unlike = ndimage.binary_fill_holes(inside) != (y**2 + x.T**2 <= 1)
    return bool(unlike.mean() < _UNLIKE)


def is_part_of(badge: Part, row: Row) -> bool:
    """Whether a badge holds a few letters, whole, of a line that goes on beside it, and is a mark by that."""
    on = {region.label for region in badge.regions}
    held = [part for part in row.parts if part.label in on]
    carrier = max(badge.regions, key=lambda one: one.area)
    are_whole = all(carrier.box.encloses(part.box) for part in held)
    is_few = row.circle is None and 0 < len(held) <= min(_MOST_HELD, len(row.parts) - 1)
    return is_few and are_whole and badge.box.width <= _SHORT * badge.box.height


def inside_badge(badge: Part, letters: set[int], drawing: Drawing) -> Iterator[Found]:
    """What a badge with lettering holds beside that, on the badge's own colour."""
    carrier = max((region for region in badge.regions if region.label not in letters), key=lambda one: one.area)
    held = [
        Part(region.box, region.area, (region,))
        for region in badge.regions
        if region.label not in letters and region is not carrier and carrier.box.encloses(region.box)
    ]
    texts = [region.box for region in badge.regions if region.label in letters]
    held = [part for part in held if not any(box.encloses(part.box) for box in texts)]  # holes of the letters
    held = [part for part in held if not texts or not all(part.box.encloses(box) for box in texts)]
    colour = drawing.colours[carrier.kind]
    beneath = (Badge(colour, _is_disc(badge, drawing)) if colour else None, carrier)
    is_line = carrier.stroke < LINE * max(carrier.box.width, carrier.box.height)  # that crosses the words
    for parts in near_each_other(held):
        found = Found(parts) if is_line else Found(parts, *beneath)
        if found.area >= STRAY * badge.area:
            yield found
