"""Lines of writing that is not made of letters one by one, beside the rows of letters that were told already."""

from collections.abc import Iterable, Iterator, Sequence, Set
from itertools import pairwise

from bexi.core.artwork.ink import Box
from bexi.core.judging.characters import character_lines
from bexi.core.judging.glyphs import Glyph
from bexi.core.judging.joined import joined_lines
from bexi.core.judging.letter_shapes import are_letters
from bexi.core.judging.regions import Region, around, on_its_side
from bexi.core.judging.rows import Row

_AS_CAPITALS = 0.7
"""Characters and joined writing are read from 10 px on, where capitals are from 7 [common practice]."""
_ACCENTS = 0.07
"""Of a line's ink: dots and accents have less."""
_STOP = 0.3
"""Of a line's height: a stop is no wider, and reaches no higher."""
_ALONE = 0.9
"""Of all ink: with so much there is nothing beside them."""
_HIDES = 0.6
"""Of a line's width and height."""
_BEYOND = 2
"""So many letters beside what looks like characters tell that it is but letters in pieces."""
_WHOLE = 5
"""Letters of a line that is no piece of another."""
_PIECES = 4
"""So many unjoined letters joined writing may have that look like a row by themselves."""


def with_lines(rows: Sequence[Row], lines: Iterable[Row]) -> list[Row]:
    """The same with lines of characters and of joined writing, of which a row of letters may have told some parts."""
    for line in lines:
        shared = [row for row in rows if _share(row, line)]
        others = [row for row in rows if row not in shared]
        lies_behind = any(_lies_over(row.box, line.box) for row in others)
        if not (lies_behind or _are_lines_below_each_other(shared)) and all(_is_of_pieces(row, line) for row in shared):
            rows = [*others, line]
    return list(rows)


def other_writing(regions: Sequence[Region]) -> Iterator[Row]:
    """Lines of characters beside each other, and of joined writing."""
    ink = sum(region.area for region in regions if region.kind)
    for line in map(_in_characters, character_lines(regions)):
        # Two alone may be the halves of a symbol, and are as wide as one.
        if len(line.characters) > 2 or sum(part.area for part in line.parts) < _ALONE * ink:
            yield line
    for parts in joined_lines(regions):
        yield Row(parts, _AS_CAPITALS * around([part.box for part in parts]).height, is_joined=True)


def _in_characters(line: Sequence[Glyph], runs_down: bool = False) -> Row:
    parts = tuple(part for one in line for part in one.parts)
    box = around([part.box for part in parts])
    return Row(parts, _AS_CAPITALS * min(box.width, box.height), runs_down=runs_down, characters=tuple(line))


def downwards(regions: Sequence[Region]) -> Iterator[Row]:
    """Lines of characters below each other."""
    own = {region.label: region for region in regions}
    for line in character_lines([on_its_side(region) for region in regions]):
        yield _in_characters([Glyph(tuple(own[part.label] for part in one.parts)) for one in line], runs_down=True)


def _lies_over(box: Box, other: Box) -> bool:
    """Whether a box hides most of another, as letters do what is left of their shadow."""
    across = min(box.right, other.right) - max(box.left, other.left)
    down = min(box.bottom, other.bottom) - max(box.top, other.top)
    return across > _HIDES * other.width and down > _HIDES * other.height


def _share(row: Row, line: Row) -> bool:
    return not {part.label for part in row.parts}.isdisjoint(part.label for part in line.parts)


def _are_lines_below_each_other(rows: Sequence[Row]) -> bool:
    """Whether two whole lines of letters stand below each other, which what looks like characters runs together."""
    whole = sorted((row.box for row in rows if row.runs_across and len(row.parts) >= _WHOLE), key=lambda box: box.top)
    return any(upper.bottom <= lower.top for upper, lower in pairwise(whole))


def _is_of_pieces(row: Row, line: Row) -> bool:
    """Whether a row of letters is of a line's pieces.

    Of characters it has some and lacks others, which are no dots or accents, and does not go on beyond them. Of joined
    writing it has but a few, and lacks others or has an emblem, which is no other word.
    """
    its, own = ({part.label for part in one.parts} for one in (row, line))
    if line.is_joined:
        beyond = [part for part in row.parts if part.label not in own]
        has_emblem = bool(beyond) and not are_letters(beyond)
        return len(its & own) <= _PIECES and (has_emblem or _lacks_more(its, line.parts))
    return len(its - own) < _BEYOND and any(
        _lacks_more(its, one.parts) for one in line.characters if not its.isdisjoint(p.label for p in one.parts)
    )


def _lacks_more(its: Set[int], parts: Sequence[Region]) -> bool:
    """Whether some parts, of which others have these labels, have more than dots, accents and stops besides."""
    box = around([part.box for part in parts])
    left = [part for part in parts if part.label not in its]
    is_much = sum(part.area for part in left) > _ACCENTS * sum(part.area for part in parts)
    low = [part for part in left if part.box.bottom > (box.top + box.bottom) / 2]
    return is_much and any(max(part.box.width, box.bottom - part.box.top) > _STOP * box.height for part in low)
