"""The emblems of a drawing: groups of parts that are no letters, and nothing that goes with these."""

from collections.abc import Iterator, Sequence

from bexi.core.judging.badges import inside_badge, is_part_of
from bexi.core.judging.companions import without_companions
from bexi.core.judging.dividers import is_amid, is_rule
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.found import Found
from bexi.core.judging.letter_parts import is_outline_of
from bexi.core.judging.letter_shapes import is_like
from bexi.core.judging.ornaments import hold_between, is_ornament_of, is_short_line, stands_for_and
from bexi.core.judging.parts import Part, near_each_other, parts_of, room_between
from bexi.core.judging.regions import INSIDE, LINE
from bexi.core.judging.rows import Row
from bexi.core.judging.within_lines import drawn_beside, stands_within, whole_lines, without_ends

_SLENDER, _SPANNING = 0.25, 0.6
"""Of a ring's side."""
_MOSTLY, _SQUARISH = 0.5, 1.6
"""Of its ink, what is of a line of letters; so many times as long as wide at most, a badge may be an emblem."""


def emblems_of(drawing: Drawing, rows: Sequence[Row]) -> Iterator[Found]:
    """The groups of parts that are no letters."""
    letters = {part.label for row in rows for part in row.parts}
    plain: list[Part] = []
    enclosing: list[Part] = []
    parts = parts_of(drawing)
    tiles = [[part for part in parts if is_part_of(part, row)] for row in rows]
    drawn = drawn_beside(rows, [part for part in parts if not any(one.label in letters for one in part.regions)])
    first_tiles = [min(its, key=lambda part: (part.box.left, part.box.top)) for its in tiles if its]
    for part in parts:
        lettered = sum(region.area for region in part.regions if region.label in letters)
        if _is_outlined_letter(part, letters) or lettered > _MOSTLY * part.area or not (lettered or part in drawn):
            continue
        if any(part in its for its in tiles):
            plain += [part] if part in first_tiles else []
        elif lettered:
            inside = list(inside_badge(part, letters, drawing))
            yield from (one for one in inside if not any(is_short_line(one, row) for row in rows))
            plain += [part] if not inside and _is_beside_name(part, rows) else []
        elif is_rule((part,)) and not is_amid(part, drawn, rows):
            continue
        elif any(part.box.encloses(row.box) for row in rows):
            enclosing += [] if _is_thin(part) else [part]
        elif _is_line_around(part, parts):
            enclosing.append(part)
        else:
            plain.append(part)
    bits = [part for part in parts if part not in drawn and not any(one.label in letters for one in part.regions)]
    lines = whole_lines(rows)
    plain = [part for part in plain if not any(stands_within(part, line) for line in lines)] or plain
    for line in lines:
        plain = without_ends(plain, line, bits)
    together = (without_companions(near) for near in near_each_other(plain or enclosing))
    found = [Found(near) for near in together if not is_rule(near)]
    for one in found:
        is_half = any(hold_between(one, other, row) for other in found for row in rows)
        if not (is_half or stands_for_and(one, rows, drawing) or any(is_ornament_of(one, row) for row in rows)):
            yield one


def _is_beside_name(badge: Part, rows: Sequence[Row]) -> bool:
    """Whether a badge with nothing but letters on it, squarish as an emblem is, has larger ones beside it."""
    shorter, longer = sorted((badge.box.width, badge.box.height))
    on_it = [row.height for row in rows if badge.box.encloses(row.box)]
    beside = [row.height for row in rows if room_between(badge.box, row.box) > 0]
    return bool(on_it and beside and max(on_it) < max(beside) and longer < _SQUARISH * shorter)


def _is_outlined_letter(part: Part, letters: set[int]) -> bool:
    """Whether an outline and what it holds are one letter; either may have been told as that."""
    its = [region for region in part.regions if region.label in letters]
    outline = max(part.regions, key=lambda region: region.box.width * region.box.height)
    return len(its) == 1 and (its[0] is outline or is_outline_of(outline, its[0]))


def _is_line_around(part: Part, others: Sequence[Part]) -> bool:
    """Whether a part is a thin ring or frame line around others, and not the outline of one drawing with them."""
    inside = [other for other in others if other is not part and part.box.encloses(other.box)]
    if not _is_thin(part) or sum(other.area for other in inside) <= INSIDE * part.area:
        return False
    widest = max(inside, key=lambda other: other.area)
    if _spans(part, widest):
        return False
    line, inner = part.regions[0], widest.regions[0]
    return line.kind != inner.kind or not is_like(line.stroke, inner.stroke)


def _spans(ring: Part, inner: Part) -> bool:
    """Whether something slender reaches over most of a ring, as a needle, a hand or a spoke does: they are one."""
    slender, long = sorted((inner.box.width, inner.box.height))
    return slender < _SLENDER * ring.side and long > _SPANNING * ring.side


def _is_thin(part: Part) -> bool:
    return max(region.stroke for region in part.regions) < LINE * part.side
