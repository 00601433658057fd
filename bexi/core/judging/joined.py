"""Lines of joined writing, as that of Arabic and Devanagari: wide pieces of one stroke, with their dots and marks.

Its letters are not found one by one. An emblem beside it is compact, and further off, of another stroke or colour.
"""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from statistics import median

from bexi.core.judging.glyphs import Glyph, bands_of, room_beside
from bexi.core.judging.letter_shapes import is_like, is_mirrored, winding
from bexi.core.judging.regions import Region, around

_MARK = 3.4
"""Times as large as the strokes are wide: dots and marks are no larger."""
_LONG, _WINDS, _MORE, _ALONE = 1.45, 1.35, 0.5, 0.5
"""A joined piece is so many times as wide as high, and winds so much; more where no marks are with it, and so much more
where it is the only one [measured: of 700 symbols 3 are told as writing]."""
_WIDE, _OPEN = 1.5, 0.5
"""A line is so many times as wide as high, and covers less of its box."""
_COMPACT, _AS_HIGH, _TALLER = 1.75, 0.7, 1.4
"""An emblem is at most so many times as wide as high, or as high as wide; and so high, of the line's height; or it is
so many times as high as the line."""
_FURTHER, _ROOM = 1.4, 0.2
"""It stands so many times as far off as the pieces do from each other, and so much of their height."""


def joined_lines(regions: Sequence[Region]) -> Iterator[tuple[Region, ...]]:
    """The lines of joined writing among regions, each of one colour."""
    for columns in bands_of(regions):
        line = _without_emblem(columns)
        parts = tuple(part for column in line for part in column.parts)
        if _is_joined(parts):
            yield parts


def _without_emblem(columns: Sequence[Glyph]) -> Sequence[Glyph]:
    """Without the one that a line begins or ends with, if that is an emblem."""
    for emblem, rest in ((columns[0], columns[1:]), (columns[-1], columns[-2::-1])):
        if rest and _is_emblem(emblem, rest):
            return rest
    return columns


def _is_emblem(one: Glyph, rest: Sequence[Glyph]) -> bool:
    """Whether what stands at the end of a line, of which the nearest comes first, is no piece of it."""
    box, height = one.box, around([other.box for other in rest]).height
    is_compact = 1 / _COMPACT < box.width / box.height < _COMPACT and box.height > _AS_HIGH * height
    is_compact |= box.height > max(box.width, _TALLER * height)
    within = max((room_beside(before.box, after.box) for before, after in pairwise(rest)), default=0)
    is_off = room_beside(box, rest[0].box) > max(_FURTHER * within, _ROOM * height)
    is_unlike = not is_like(one.stroke, median(other.stroke for other in rest))
    return is_compact and (is_off or is_unlike)


def _is_joined(parts: Sequence[Region]) -> bool:
    """Whether parts are pieces of one stroke, some of them joined letters, and marks above and below these."""
    box = around([part.box for part in parts])
    longest = max(parts, key=lambda part: part.box.width)
    marks = [part for part in parts if _is_mark(part, longest.stroke)]
    pieces = [part for part in parts if part not in marks]
    are_one_hand = all(is_like(part.stroke, longest.stroke) for part in pieces)
    is_line = box.width > _WIDE * box.height and sum(part.area for part in parts) < _OPEN * box.width * box.height
    are_above = all(any(_overlap(mark, piece) for piece in pieces) for mark in marks)
    is_alone, is_long = len(pieces) == 1, longest.box.width > _LONG * longest.box.height
    winds = winding(longest) > _WINDS + (0 if marks else _MORE) + (_ALONE if is_alone else 0)
    is_writing = is_long and winds and not (is_alone and is_mirrored(longest))
    return are_one_hand and is_line and are_above and is_writing


def _is_mark(part: Region, stroke: float) -> bool:
    return part.stroke < stroke and max(part.box.width, part.box.height) < _MARK * stroke


def _overlap(mark: Region, piece: Region) -> bool:
    return mark.box.left < piece.box.right and piece.box.left < mark.box.right
