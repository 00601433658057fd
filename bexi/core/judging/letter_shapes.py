"""Whether parts are shaped as letters are: no bars, dots or pieces of a pattern."""

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.judging.regions import Region, around

FEWEST = 3
_ON_FOOT, _STANDING = 0.15, 0.6
"""So many of the letters of a line stand on it, within so much of their height; the others hang, or are raised."""
_HALF, _NEARLY_ALL = 0.4, 0.9
"""Or so many stand on the line, and with those that hang from one line below it so many in all."""
_SHAPED = 0.3
"""So many of the letters of a line are no bars, as an I and an l are."""
_LINE_FILLS = 0.6
"""A line that winds leaves much of its box free, which a badge with many letters does not."""
_WINDING, _WIDE, _LONG_PART = 1.5, 2.2, 1.7
"""A joined hand's outline is longer than its box's, and it is wide."""
_WINDING_ALONE, _WIDE_ALONE = 2.4, 1.8
"""The same of one that is all in one: no symbol winds so much [measured: words 2.5 and more, symbols 2.2 at most]."""
_LINE_WIDE, _NARROW = 1.5, 1.15
"""A line is so many times as wide as its letters are high; three narrow ones on one foot are so many times."""
SOLID = 0.85
"""A part that fills more of its box is a bar or a block."""
_ROUND, _PLAIN = 0.67, 1.05
"""So does a round one, as a head and shoulders are, of which its box's outline is about as long as its own."""
_STRAIGHT = 1.48
"""A straight stroke has at most so many times its mean width and its length."""
_OF_STROKES = 0.35
"""Of its shorter side: what is less wide is made of strokes."""
EIGHTH = 0.125
_HELD = 0.015
"""Of its box: less is but noise in a letter's hole."""
MOST_HOLES, _HOLE = 2, 0.01
"""A letter has no more, as a B; what has is a panel with words on it, or a symbol. Of its box, a hole has more."""
_SAME_SHAPE = 0.7
"""Of all that either covers, pieces of a pattern have more in common."""
_OTHER_STROKE = 1.45
"""Times as wide: a stroke that is none of the same letters."""

_OTHER_CAPITAL = 1.6
"""Of a hand that is told by its winding alone, the capital may have a heavier one."""


def are_letters(parts: Sequence[Region]) -> bool:
    """Whether parts in a row are unlike each other as letters are: no bars, dots or pieces of a pattern."""
    if len(parts) < FEWEST or all(map(is_bar, parts)):
        return False
    box = around([part.box for part in parts])
    widths, heights, areas = (
        np.array(values, dtype=float)
        for values in zip(*((part.box.width, part.box.height, part.area) for part in parts), strict=True)
    )
    fills = np.array([part.fill for part in parts])
    alike = all(map(are_alike, (widths, heights, fills), (2.0, 2.0, 0.0)))
    alike &= are_alike(areas, 2 * float(np.sqrt(areas.mean())))
    alike &= are_alike(np.array([part.outline for part in parts], dtype=float), 4.0)  # narrow capitals differ in that
    alike = alike and all(_have_one_shape(one, other) for one, other in pairwise(parts))  # and heavy ones of one pitch
    bottoms, high = np.array([part.box.bottom for part in parts]), float(np.median(heights))
    regular = not alike and are_shaped(parts) and _stand_on_lines(bottoms, _ON_FOOT * high)
    is_narrow = box.width < _LINE_WIDE * high
    return bool(regular and not (is_narrow and (box.width < _NARROW * high or np.ptp(bottoms) > _ON_FOOT / 2 * high)))


def are_shaped(parts: Sequence[Region]) -> bool:
    """Whether enough of some parts have strokes or holes, as most letters have, and dots have not."""
    return sum(not is_solid(part) for part in parts) >= max(2, _SHAPED * len(parts))


def _have_one_shape(one: Region, other: Region) -> bool:
    """Whether two parts have most in common when they are laid over each other, as they are or mirrored."""
    its = other.shape
    return max(in_common(one.shape, its), in_common(one.shape, its[:, ::-1])) >= _SAME_SHAPE


def is_mirrored(part: Region) -> bool:
    """Whether a part is the same when it is mirrored, as many emblems are, and no joined writing."""
    return in_common(part.shape, part.shape[:, ::-1]) >= _SAME_SHAPE


def in_common(one: NDArray[np.bool_], other: NDArray[np.bool_]) -> float:
    """The share that two shapes, laid over each other, have in common, of all that either covers."""
    height, width = (min(sides) for sides in zip(one.shape, other.shape, strict=True))
    a, b = one[:height, :width], other[:height, :width]
    return float((a & b).sum() / max((a | b).sum(), 1))


def is_solid(part: Region) -> bool:
    """Whether a part is a bar, a block or something round, without strokes or a hole."""
    is_plain = part.outline <= _PLAIN * 2 * (part.box.width + part.box.height)
    is_plain &= part.stroke > _OF_STROKES * min(part.box.width, part.box.height)
    return part.fill >= SOLID or (is_plain and part.fill > _ROUND)


def is_bar(part: Region) -> bool:
    """Whether a part is one stroke, straight or nearly so."""
    return part.area <= _STRAIGHT * part.stroke * float(np.hypot(part.box.width, part.box.height))


def has_two_counters(part: Region, regions: Sequence[Region]) -> bool:
    """Whether a part has two holes among the regions, one above the other, as a B, an 8 and most faces' "&" have."""
    holes = [one.box for one in regions if one.kind == 0 and not one.at_edge and part.box.encloses(one.box)]
    if len(holes) != 2:
        return False
    upper, lower = sorted(holes, key=lambda box: box.top)
    return upper.bottom <= lower.top and upper.left < lower.right and lower.left < upper.right


def holes_of(part: Region) -> int:
    """How many holes a part has, of more than a few px of its box."""
    free = np.pad(~part.shape, 1, constant_values=True)
    sizes = np.bincount(ndimage.label(free)[0][free])
    return int((sizes > _HOLE * part.box.width * part.box.height).sum()) - 1


def holds_ink(part: Region) -> bool:
    """Whether something else is drawn within a hole of a part, as within a ring or a frame."""
    box, free = part.box, np.pad(~part.shape, 1, constant_values=True)
    holes = ndimage.label(free)[0][1:-1, 1:-1]  # the first is what lies around it
    inside = np.stack([holes, part.labels[box.top : box.bottom, box.left : box.right]])[:, holes > 1]
    (numbers, _), sizes = np.unique(inside, axis=1, return_counts=True)
    largest = sum(int(sizes[numbers == number].max()) for number in np.unique(numbers))
    return bool(sizes.sum() - largest > _HELD * box.width * box.height)


def _stand_on_lines(bottoms: NDArray[np.int64], within: float) -> bool:
    """Whether most of some parts stand on one line; or nearly all on two, where many hang below it."""
    near = np.abs(np.subtract.outer(bottoms, bottoms)) <= within
    base = near[near.sum(axis=1).argmax()]
    others = near & ~base
    second = others[others.sum(axis=1).argmax()]
    return bool(base.mean() >= _STANDING or (base.mean() >= _HALF and (base | second).mean() >= _NEARLY_ALL))


def is_joined_hand(parts: Sequence[Region]) -> bool:
    """Whether some parts are a word whose letters run into each other, but for the first one perhaps."""
    box = around([part.box for part in parts])
    long = max(parts, key=lambda part: part.box.width)
    strokes = [part.stroke for part in parts]
    its = winding(long)
    if len(parts) == 1:
        winds, is_wide = its > _WINDING_ALONE, box.width > _WIDE_ALONE * box.height
        return winds and is_wide and long.fill < _LINE_FILLS and not is_mirrored(long)
    winds = its > _WINDING
    is_wide = box.width > _WIDE * box.height and long.box.width > _LONG_PART * long.box.height
    most = _OTHER_CAPITAL if its > _WINDING_ALONE else _OTHER_STROKE
    alike = max(strokes) < most * min(strokes) and not any(map(is_solid, parts))
    return 1 < len(parts) < FEWEST and winds and is_wide and alike


def winding(part: Region) -> float:
    """How many times as long as that of its box its outline is."""
    return part.outline / (2 * (part.box.width + part.box.height))


def are_alike(values: NDArray[np.float64], steps: float) -> bool:
    """Whether sizes differ by no more than an eighth, or than drawing them in px makes them differ."""
    return bool(np.ptp(values) <= max(EIGHTH * values.mean(), steps))


def is_like(stroke: float, other: float) -> bool:
    """Whether strokes may be those of letters of one line, by their widths."""
    return 1 / _OTHER_STROKE < stroke / other < _OTHER_STROKE


def middle_of(part: Region) -> float:
    """Its middle across, in px from the left."""
    return (part.box.left + part.box.right) / 2


def base_of(parts: Sequence[Region]) -> float:
    """Where the line runs that most of some parts stand on, in px from the top."""
    return float(np.median([part.box.bottom for part in parts]))
