"""Lines of a hand some of whose letters run into each other, so that they are no row, beside an emblem."""

from collections.abc import Iterable, Iterator, Sequence

from bexi.core.judging.regions import Region, around
from bexi.core.judging.rows import Row

OF_HAND = 0.8
"""Of a hand's height, a capital's: what hangs below its line is a fifth of it, or none [common practice]."""
_WINDS, _WIDE, _WINDS_MORE = 2.4, 1.5, 2.8
"""All outlines of a hand are so many times as long as that of its box, and it is so many times as wide as high, or
winds more and is wide at all."""
_THIN, _OPEN, _ONE_PEN = 0.1, 0.38, 1.5
"""Of its height, its strokes are thinner; of its box, it covers less; its strokes differ at most so many times."""
_PIECE = 0.12
"""Of the largest one's area: what is smaller is a dot, whose stroke tells nothing."""
_TOLD = 0.85
"""Of a hand's ink: a row that has more of it lacks no letter."""
_LOWER = 0.6
"""Of a hand's height: a tagline is no higher."""
_MUCH, _HIGH = 0.4, 0.6
"""Of a hand's ink and of its height, an emblem beside it has more."""


def with_hands(rows: Sequence[Row], lines: Iterable[tuple[Region, ...]], regions: Sequence[Region]) -> list[Row]:
    """The rows, with a line that is a hand's, of which they have no more than a part."""
    hands = [Row(line, OF_HAND * around([part.box for part in line]).height, is_joined=True) for line in _hands(lines)]
    for hand in hands:
        own = {part.label for part in hand.parts}
        others = [row for row in rows if own.isdisjoint(part.label for part in row.parts)]
        pieces = [part for row in rows if row not in others for part in row.parts]
        ink, told = (sum(part.area for part in parts) for parts in (hand.parts, pieces))
        is_whole = told < _TOLD * ink and all(part.label in own for part in pieces)
        is_name = all(row.height < _LOWER * hand.box.height for row in others)
        if is_whole and is_name and _has_emblem_beside(hand, others, regions):
            return [*others, hand]
    return list(rows)


def _hands(lines: Iterable[tuple[Region, ...]]) -> Iterator[tuple[Region, ...]]:
    """Lines that are drawn as a hand writes: long, thin and open, with one pen."""
    for line in lines:
        box, largest = around([part.box for part in line]), max(part.area for part in line)
        pieces = [part for part in line if part.area > _PIECE * largest]
        strokes = [part.stroke for part in pieces]
        winds = sum(part.outline for part in line) / (2 * (box.width + box.height))
        is_wide = box.width > (1 if winds > _WINDS_MORE else _WIDE) * box.height
        is_open = sum(part.area for part in line) < _OPEN * box.width * box.height
        with_one_pen = max(strokes) < _ONE_PEN * min(strokes) and max(strokes) < _THIN * box.height
        of_one_colour = len({part.kind for part in line}) == 1
        if winds > _WINDS and is_wide and is_open and with_one_pen and of_one_colour:
            yield line


def _has_emblem_beside(hand: Row, rows: Sequence[Row], regions: Sequence[Region]) -> bool:
    """Whether something else is drawn that is no letter, beside or above a hand."""
    told = {part.label for row in (hand, *rows) for part in row.parts}
    others = [one for one in regions if one.kind and one.label not in told and not one.box.meets(hand.box)]
    if not others:
        return False
    ink = sum(one.area for one in hand.parts)
    is_high = around([one.box for one in others]).height > _HIGH * hand.box.height
    return is_high and sum(one.area for one in others) > _MUCH * ink
