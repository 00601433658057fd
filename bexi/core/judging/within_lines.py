"""What belongs to the lines of letters though it was not told as a letter: dots, accents, pieces, an "&"."""

from collections.abc import Sequence

import numpy as np

from bexi.core.artwork.ink import Box
from bexi.core.judging.companions import is_letter_beyond
from bexi.core.judging.letter_parts import is_rim_of
from bexi.core.judging.letter_shapes import base_of
from bexi.core.judging.parts import Part, near_each_other, room_between
from bexi.core.judging.regions import around
from bexi.core.judging.rows import Row

HIGH, ON_FOOT = 1.5, 0.25
"""In capitals' heights: what stands on a line of letters is no higher, and so near to its foot."""
_BIT = 8
"""Times as large: what is beside that is but a bit of it."""
_WORD, _NEARER = 1.2, 1.5
"""In capitals' heights, a word is no further off; and so many times as far off as what is no part of the line."""


def whole_lines(rows: Sequence[Row]) -> list[Row]:
    """The lines of letters, with the words of one colour that stand on one line together."""
    lines: list[Row] = []
    for row in rows:
        of_line = next((line for line in lines if _are_on_one_line(line, row)), None)
        if of_line is None:
            lines.append(row)
        else:
            lines[lines.index(of_line)] = Row((*of_line.parts, *row.parts), max(of_line.height, row.height))
    return lines


def _are_on_one_line(one: Row, other: Row) -> bool:
    if not (one.runs_across and other.runs_across):
        return False
    lower, higher = sorted((one.height, other.height))
    is_level = abs(base_of(one.parts) - base_of(other.parts)) <= ON_FOOT * lower
    of_one_colour = {part.kind for part in one.parts} == {part.kind for part in other.parts}
    return is_level and higher <= HIGH * lower and of_one_colour


def stands_within(part: Part, line: Row) -> bool:
    """Whether a part of the letters' colour, or a piece of one, stands between two of them, whatever it is there."""
    box, its, near, kinds = part.box, line.box, ON_FOOT * line.height, {one.kind for one in line.parts}
    is_between = line.runs_across and its.left <= box.left and box.right <= its.right
    is_level = its.top - near <= box.top and box.bottom <= its.bottom + near
    return is_between and is_level and any(region.kind in kinds for region in part.regions)


def without_ends(parts: Sequence[Part], line: Row, bits: Sequence[Part]) -> list[Part]:
    """The parts without those that go on with a line at its ends, beyond bits of it, where a larger one is left."""
    box, left, ends = line.box, [*parts, *bits], list[Part]()
    while following := [part for part in left if _follows(part, box, line, parts)]:
        left, ends = [part for part in left if part not in following], [*ends, *following]
        box = around([box, *(part.box for part in following)])
    if not ends:
        return list(parts)
    kept = [part for part in parts if part not in ends]
    groups = [around([part.box for part in near]) for near in near_each_other(kept)]
    largest = max((max(its.width, its.height) for its in groups), default=0)
    return kept if all(part.side < largest for part in parts if part in ends) else list(parts)


def _follows(part: Part, box: Box, line: Row, parts: Sequence[Part]) -> bool:
    """Whether a part of the letters' colour and size stands on their line, no further off than a word.

    A piece of something else of their colour is nearer to the rest of that.
    """
    room, its = room_between(part.box, box), part.box
    overlap = min(its.bottom, line.box.bottom) - max(its.top, line.box.top)
    is_level = overlap >= its.height / 2 and max(its.width, its.height) <= HIGH * line.height
    of_its_colour = part.regions[0].kind in {one.kind for one in line.parts}
    if not (line.runs_across and is_level and of_its_colour and room <= _WORD * line.height):
        return False
    kind = part.regions[0].kind
    own = (one for one in parts if one is not part and any(region.kind == kind for region in one.regions))
    larger = (one for one in own if _BIT * one.area > part.area)
    return all(room <= _NEARER * room_between(its, one.box) for one in larger)


def drawn_beside(rows: Sequence[Row], parts: Sequence[Part]) -> list[Part]:
    """Those of the parts that are no bits of lines of letters, and those that reach into the boxes of larger ones."""
    bits = [part for part in parts if any(_is_bit_of(part, row) or is_letter_beyond(part, row, parts) for row in rows)]
    alone = [part for part in parts if part not in bits]
    held = [part for part in parts if any(_reaches_into(part, one) for one in alone)]
    return [*alone, *(part for part in held if part not in alone)]


def _reaches_into(part: Part, larger: Part) -> bool:
    return larger.area > part.area and room_between(larger.box, part.box) == 0


def _is_bit_of(part: Part, row: Row) -> bool:
    """Whether a part is a dot, an accent or a stop of a line of letters, which a symbol of another colour is not.

    The edges that light and shade give them are so in any colour.
    """
    if any(all(is_rim_of(one, letter) for one in part.regions) for letter in row.parts):
        return True
    if part.side > 1.1 * row.height:
        return False
    if not {one.kind for one in part.regions} & {one.kind for one in row.parts}:
        return False
    x, y = (part.box.left + part.box.right) / 2, (part.box.top + part.box.bottom) / 2
    if row.circle:
        middle_x, middle_y, radius = row.circle
        return abs(float(np.hypot(x - middle_x, y - middle_y)) - radius) <= 0.9 * row.height
    near = 0.6 * row.height
    across = row.box.left - near <= x <= row.box.right + near
    return across and row.box.top - near <= y <= row.box.bottom + near
