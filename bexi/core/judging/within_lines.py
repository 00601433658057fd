"""What belongs to the lines of letters though it was not told as a letter: dots, accents, pieces, an "&"."""

from collections.abc import Sequence

import numpy as np

from bexi.core.judging.companions import is_letter_beyond
from bexi.core.judging.letter_parts import is_rim_of
from bexi.core.judging.letter_shapes import base_of
from bexi.core.judging.parts import Part, room_between
from bexi.core.judging.rows import Row

HIGH, ON_FOOT = 1.5, 0.2
"""In capitals' heights: what stands on a line of letters is no higher, and so near to its foot."""


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
