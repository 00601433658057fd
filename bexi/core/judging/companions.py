"""What stands beside an emblem and is none of it: a letter, the sign of a registered mark, figures at both sides."""

from collections.abc import Sequence
from statistics import median

from bexi.core.artwork.ink import Box
from bexi.core.judging.dividers import is_rule
from bexi.core.judging.letter_shapes import base_of, is_like, is_solid
from bexi.core.judging.parts import Part
from bexi.core.judging.regions import around
from bexi.core.judging.rows import Row
from bexi.core.judging.strangers import BEYOND

_SIGN, _CORNER = 0.22, 0.2
"""Of the emblem's longer side: a sign is smaller, and stands so near to its right edge, and to its top or its foot."""
_LETTER, _WIDEST = (0.55, 1.6), 4
"""Of a capital's height: no letter is lower or higher; and what stands for one is not so wide."""
_LEVEL = 0.15
"""Of their height: figures at both sides stand on one line, and reach up to one."""
_FEWEST, _LOWER = 2, 1.3
"""So many stand at either side of an emblem that is so many times as high."""


def is_letter_beyond(part: Part, row: Row, parts: Sequence[Part]) -> bool:
    """Whether a part is a letter of a line beyond a symbol, one of `parts`, which stands in a letter's place."""
    letter, box = part.regions[0], part.box
    stroke = median(one.stroke for one in row.parts)
    is_of_line = letter.kind in {one.kind for one in row.parts} and is_like(letter.stroke, stroke)
    stands = row.circle is None and abs(box.bottom - base_of(row.parts)) < BEYOND * row.height
    is_high = _LETTER[0] < box.height / row.height < _LETTER[1]
    if len(part.regions) > 1 or is_solid(letter) or not (is_of_line and stands and is_high):
        return False
    first, second = sorted((box, row.box), key=lambda one: one.left)
    others = (one.box for one in parts if one is not part and not is_rule((one,)))
    between = (one for one in others if first.right <= one.left and one.right <= second.left)
    is_near = second.left - first.right < _WIDEST * row.height
    return is_near and any(one.top < box.bottom and box.top < one.bottom for one in between)


def without_companions(parts: tuple[Part, ...]) -> tuple[Part, ...]:
    """The parts of an emblem alone."""
    return _without_sign(_without_figures(parts))


def _without_sign(parts: tuple[Part, ...]) -> tuple[Part, ...]:
    """Without a ring and the letter in it, or two letters, in the corner where a mark has the sign of its register."""
    largest = max(part.side for part in parts)
    small = [part for part in parts if part.side < _SIGN * largest]
    others = [part for part in parts if part not in small]
    mark = around([part.box for part in others])
    side = max(mark.width, mark.height)
    signs = [part for part in small if _is_in_corner(part.box, mark, _CORNER * side)]
    return tuple(part for part in parts if part not in signs) if _are_sign(signs, _SIGN * side) else parts


def _are_sign(signs: Sequence[Part], most: float) -> bool:
    """Whether parts are a ring and its letter, or two letters, no wider than `most` together."""
    if len(signs) != 2 or all(is_solid(region) for part in signs for region in part.regions):
        return False
    one, other = (part.box for part in signs)
    return one.encloses(other) or (_are_level(one, other) and around([one, other]).width < most)


def _is_in_corner(box: Box, mark: Box, near: float) -> bool:
    """Whether a box is at the right of a mark, as high up as that begins, or as far down as it ends."""
    at_right = (box.left + box.right) / 2 > mark.right - near / 2
    return at_right and (box.top < mark.top + near or box.bottom > mark.bottom - near)


def _without_figures(parts: tuple[Part, ...]) -> tuple[Part, ...]:
    """Without a year in halves, or "since" and a year, told by parts of one height on one line."""
    first = min(parts, key=lambda part: part.box.left)
    level = [part for part in parts if _are_level(part.box, first.box)]
    others = [part for part in parts if part not in level]
    if not others or all(is_solid(region) for part in level for region in part.regions):
        return parts
    emblem = around([part.box for part in others])
    before = sum(part.box.right <= emblem.left for part in level)
    after = sum(part.box.left >= emblem.right for part in level)
    are_beside = before + after == len(level) and min(before, after) >= _FEWEST
    return tuple(others) if are_beside and emblem.height >= _LOWER * first.box.height else parts


def _are_level(one: Box, other: Box) -> bool:
    within = _LEVEL * max(one.height, other.height)
    return abs(one.top - other.top) <= within and abs(one.bottom - other.bottom) <= within
