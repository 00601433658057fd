"""Finding lettering: rows, straight or around a circle, of parts that are regular as letters are.

An emblem beside a word may be of its height and colour. It is told from the letters by what else it does not share
with them: it reaches beyond their lines, stands further off, is wider, of another stroke or another colour.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.ink import Box
from bexi.core.judging.brackets import Labels, without_brackets
from bexi.core.judging.letter_parts import parts_of_letters
from bexi.core.judging.regions import Region

_FEWEST = 3
_FEWEST_AROUND, _ONE_COLOUR = 6, 0.75
"""Letters around a circle, most of which are of one colour."""
_BESIDE = 0.7
"""Of all ink: a line on its side that has more of it is no line beside an emblem."""
_FEWEST_DOWN, _LIKE_DOWN, _LIKE_FILL = 4, 1.2, 0.05
"""Letters below each other, and how many times as high as the next one of them is; tiers fill their boxes alike."""
_HIGHER = 2.2
"""Letters of one row differ in height at most this many times."""
_APART = 0.8
"""Room between letters of a row, in heights of the lower one."""
_BRIDGED, _EVEN = 2.0, 0.06
"""More room than that between capitals, or where a symbol stands for a letter; they are then of one height."""
_ON_FOOT, _STANDING = 0.15, 0.6
"""So many of the letters of a line stand on it, within so much of their height; the others hang, or are raised."""
_LINE_FILLS = 0.6
"""A line that winds leaves much of its box free, which a badge with many letters does not."""
_OF_HAND = 0.8
"""Of a joined hand's height: what hangs below its line is a fifth of it, or none [common practice]."""
_HALF, _NEARLY_ALL = 0.4, 0.9
"""Or so many stand on the line, and with those that hang from one line below it so many in all."""
_SHAPED = 0.3
"""So many of the letters of a line are no bars, as an I and an l are."""
_WINDING, _WIDE, _LONG_PART = 1.5, 2.2, 1.7
"""A joined hand's outline is longer than its box's, and it is wide."""
_WINDING_ALONE, _WIDE_ALONE = 2.4, 1.8
"""The same of one that is all in one: no symbol winds so much [measured: words 2.5 and more, symbols 2.2 at most]."""
_SOLID = 0.85
"""A part that fills more of its box is a bar or a block."""
_ROUND, _PLAIN = 0.72, 1.05
"""So does a round one, as a head and shoulders are, of which its box's outline is about as long as its own."""
_STRAIGHT, _MOST_BARS = 1.48, 3
"""A straight stroke has at most so many times its mean width and its length; no word has more of them in a row."""
_OF_STROKES = 0.35
"""Of its shorter side: what is less wide is made of strokes."""
_SMALLEST = 5
"""In px of the drawing: what is lower has no shape that could be a letter's."""
_EIGHTH = 0.125
_ON_LINE, _LIKE_HEIGHT = 0.25, 1.5
"""Letters of several colours stand on one line, within so much of the lower one's height, and are of like height."""
_OVERLAP = -0.15
"""Of the narrower one's width: they stand apart, but for a little; what overlaps more is one shape in two colours."""
_BENEATH = 0.5
_INTO = 0.5, 0.25
"""Of the narrower one's width and the lower one's height."""
_INTO_WIDE = 1.5
"""Times the widest part: what is wider is a line below the word."""
_BIT = 0.12
"""Of the larger one's area: what compression leaves beside a letter is less."""
_STRANGE = 2
"""Ways of being unlike the letters that make a part of a line none of them."""
_MOST_PIECES, _OUTSIDE = 6, 1.3
"""Of an emblem that stand on the line of the letters beside it."""
_BEYOND = 0.1
_SPACE = 0.2
"""Of a letter's height: less room is within a word [common practice: a space is a quarter of the size]."""
_FURTHER, _WIDER, _TALLER, _OTHER_STROKE = 1.9, 1.4, 2.0, 1.45
"""Times the room between the letters, the widest of them, their height, and their stroke."""
_LARGEST_SHARE = 0.65
"""Of the drawing's longer side; what is higher is no row of letters."""


@dataclass(frozen=True)
class Row:
    """Parts that are letters of one line. `height` is that of a capital, in px of the drawing.

    `circle` is the middle and the radius of the circle that they stand around, in px, None for a straight line;
    `runs_down` tells of letters below each other, `on_its_side` of a line that is turned, whose letters are of no use.
    """

    parts: tuple[Region, ...]
    height: float
    circle: tuple[float, float, float] | None = None
    runs_down: bool = False
    on_its_side: bool = False

    def first(self, labels: Labels, leftwards: bool) -> Region:
        """The letter that a straight line begins with, within its brackets; at the right where it runs leftwards.

        `labels` are those of the drawing's regions, px by px.
        """
        if self.runs_down:
            return min(self.parts, key=lambda part: part.box.top)
        within = without_brackets(sorted(self.parts, key=lambda part: part.box.left), labels)
        return within[-1 if leftwards else 0]

    @property
    def box(self) -> Box:
        """Around all its letters."""
        return around(part.box for part in self.parts)


def around(boxes: Iterator[Box] | Sequence[Box]) -> Box:
    """The smallest box around some, of which there is at least one."""
    each = list(boxes)
    return Box(
        min(box.left for box in each),
        min(box.top for box in each),
        max(box.right for box in each),
        max(box.bottom for box in each),
    )


def rows_of(regions: Sequence[Region], longest: int) -> list[Row]:
    """The rows of letters among the regions of a drawing, `longest` px along its longer side; no region is in two."""
    within_letters = parts_of_letters(regions)
    regions = [region for region in regions if region.label not in within_letters]
    could_be = [
        region
        for region in regions
        if region.kind and _SMALLEST <= region.box.height <= _LARGEST_SHARE * longest and not region.at_edge
    ]
    could_be = _without_columns(could_be)
    rows = [Row(line, _capital(line)) for line in _lettered(could_be, regions)]
    rows = [row for row in rows if not any(_is_beside(row, other) for other in rows)]
    rows = rows or list(_columns(could_be)) or list(_on_their_side(could_be, regions))
    ring = _around_circle(could_be)
    if ring is None:
        return rows
    in_ring = {part.label for part in ring.parts}
    # A few letters at the top and at the foot of a circle stand on lines of their own, too.
    apart = [row for row in rows if not in_ring & {part.label for part in row.parts}]
    return [*apart, ring] if all(len(row.parts) < len(ring.parts) / 2 for row in rows) else rows


def _without_columns(regions: Sequence[Region]) -> list[Region]:
    """Without blocks that touch blocks of other colours beside them, as a temple's columns do, or a flag's stripes."""
    blocks = [region for region in regions if region.fill >= _SOLID]
    if len(blocks) < 2:
        return list(regions)
    left, top, right, bottom = np.array([_edges(block.box) for block in blocks]).T
    kind, high = np.array([block.kind for block in blocks]), bottom - top
    gap = np.maximum.outer(left, left) - np.minimum.outer(right, right)
    overlap = np.minimum.outer(bottom, bottom) - np.maximum.outer(top, top)
    touch = (np.abs(gap) <= 1) & (overlap > 0.5 * np.maximum.outer(high, high)) & np.not_equal.outer(kind, kind)
    columns = {block.label for block, touches in zip(blocks, touch.any(axis=1), strict=True) if touches}
    return [region for region in regions if region.label not in columns]


def _lettered(could_be: Sequence[Region], regions: Sequence[Region]) -> Iterator[tuple[Region, ...]]:
    """The lines whose parts are letters."""
    for line in _lines(could_be):
        parts = _without_strangers(_side_by_side(_without_shadows(line), regions))
        if parts and (_are_letters(parts) or _is_joined_hand(parts)):
            yield parts


def _on_their_side(could_be: Sequence[Region], regions: Sequence[Region]) -> Iterator[Row]:
    """Lines that run up or down beside an emblem, which has no little share of the ink."""
    turned = {region.label: replace(region, box=_turned(region.box)) for region in regions}
    ink = sum(region.area for region in regions if region.kind)
    for line in _lettered([turned[one.label] for one in could_be], list(turned.values())):
        labels = {part.label for part in line}
        parts = tuple(region for region in could_be if region.label in labels)
        if len(parts) > _FEWEST and sum(part.area for part in parts) < _BESIDE * ink:
            yield Row(parts, _capital(line), on_its_side=True)


def _turned(box: Box) -> Box:
    return Box(box.top, box.left, box.bottom, box.right)


def _columns(regions: Sequence[Region]) -> Iterator[Row]:
    """Letters below each other: of one colour and like height, their middles on one upright line."""
    left = sorted(regions, key=lambda region: region.box.top)
    while left:
        column = left[:1]
        for region in left[1:]:
            if _stands_below(region, column[-1]):
                column.append(region)
        left = [region for region in left if region not in column]
        fills, widths, windings = (
            np.array(values)
            for values in zip(*((one.fill, one.box.width, _winding(one)) for one in column), strict=True)
        )
        alike = (_are_alike(fills, _LIKE_FILL) and _are_alike(windings, _LIKE_FILL)) or _are_alike(widths, 2.0)
        if len(column) >= _FEWEST_DOWN and not alike and _are_shaped(column):
            yield Row(tuple(column), float(np.median([region.box.height for region in column])), runs_down=True)


def _stands_below(region: Region, above: Region) -> bool:
    box, other = region.box, above.box
    lower, higher = sorted((box.height, other.height))
    aside = abs(box.left + box.right - other.left - other.right) / 2
    return (
        region.kind == above.kind
        and higher <= _LIKE_DOWN * lower
        and aside <= _ON_LINE * lower
        and _is_like(region.stroke, above.stroke)
        and 0 < box.top - other.bottom <= _APART * lower
    )


def _is_beside(row: Row, longer: Row) -> bool:
    """Whether a row is an emblem of a few parts beside a longer one, on whose line it does not stand."""
    box, other = row.box, longer.box
    overlap = min(box.bottom, other.bottom) - max(box.top, other.top)
    is_apart = box.left >= other.right or other.left >= box.right
    is_beside = is_apart and overlap > 0.5 * min(box.height, other.height)
    stands_off = abs(_base(row.parts) - _base(longer.parts)) > _BEYOND * longer.height
    return len(row.parts) <= min(_FEWEST, len(longer.parts) - 1) and is_beside and stands_off


def _base(parts: Sequence[Region]) -> float:
    return float(np.median([part.box.bottom for part in parts]))


def _lines(regions: Sequence[Region]) -> Iterator[tuple[Region, ...]]:
    """Groups of regions that stand beside each other on one line."""
    if not regions:
        return
    joined = list(range(len(regions)))
    left, top, right, bottom = np.array([_edges(region.box) for region in regions]).T
    high, wide = bottom - top, right - left
    kind = np.array([region.kind for region in regions])
    lower, higher = np.minimum.outer(high, high), np.maximum.outer(high, high)
    overlap = np.minimum.outer(bottom, bottom) - np.maximum.outer(top, top)
    gap = np.maximum.outer(left, left) - np.minimum.outer(right, right)
    one_kind = kind[:, None] == kind
    # Of two colours: on one line, or, where one of them hangs below it, as high.
    on_one_line = np.minimum(*(np.abs(np.subtract.outer(edge, edge)) for edge in (top, bottom))) <= _ON_LINE * lower
    one_height = (np.abs(np.subtract.outer(bottom, bottom)) <= _EVEN * lower) & (higher <= (1 + _EVEN) * lower)
    beside = (
        (one_kind | (on_one_line & (higher <= _LIKE_HEIGHT * lower)))
        & (overlap >= 0.5 * lower)
        & (higher <= _HIGHER * lower)
        & (gap <= np.where(one_kind & one_height, _BRIDGED, _APART) * lower)
        & (gap > np.where(one_kind, -0.5, _OVERLAP) * np.minimum.outer(wide, wide))
        & (np.maximum.outer(wide, wide) <= 3 * higher)
    )
    for one, other in zip(*np.nonzero(beside), strict=True):
        first, second = joined[one], joined[other]
        if first != second:
            joined = [first if group == second else group for group in joined]
    for group in dict.fromkeys(joined):
        yield tuple(region for region, its in zip(regions, joined, strict=True) if its == group)


def _without_shadows(line: tuple[Region, ...]) -> tuple[Region, ...]:
    """The letters of a line without what lies beneath each of them in another colour, moved a little."""
    for kind in sorted({part.kind for part in line}):
        own = tuple(part for part in line if part.kind == kind)
        others = [part for part in line if part.kind != kind]
        lie_beneath = len(others) >= _FEWEST and all(
            any(_lies_beneath(other, part) for part in own) for other in others
        )
        if lie_beneath and _are_letters(own):
            return own
    return line


def _lies_beneath(shadow: Region, letter: Region) -> bool:
    """Whether most of a part's box, which is no larger, lies in that of a letter that hides most of it."""
    box, its = shadow.box, letter.box
    across = min(box.right, its.right) - max(box.left, its.left)
    down = min(box.bottom, its.bottom) - max(box.top, its.top)
    overlaps = across > _BENEATH * box.width and down > _BENEATH * box.height
    return overlaps and shadow.area < letter.area and box.height <= (1 + _EIGHTH) * its.height


def _side_by_side(line: Sequence[Region], regions: Sequence[Region]) -> tuple[Region, ...]:
    """Without parts that reach far into each other's boxes, and what touches these: a drawing's, no letters.

    They may reach into those of other `regions` of their colour, which are no larger and yet not of the line.
    """
    its, kinds = around([part.box for part in line]), {part.kind for part in line}
    wide, high = (max(getattr(part.box, side) for part in line) for side in ("width", "height"))
    others = [one for one in regions if one.kind in kinds and one not in line and _meet(one.box, its)]
    every = [*line, *(one for one in others if one.box.width <= _INTO_WIDE * wide and one.box.height < high)]
    left, top, right, bottom = np.array([_edges(part.box) for part in every]).T
    across = np.minimum.outer(right, right) - np.maximum.outer(left, left)
    down = np.minimum.outer(bottom, bottom) - np.maximum.outer(top, top)
    narrower, lower = (np.minimum.outer(sides, sides) for sides in (right - left, bottom - top))
    area, kind = (np.array(values) for values in zip(*((part.area, part.kind) for part in every), strict=True))
    counts = np.minimum.outer(area, area) > _BIT * np.maximum.outer(area, area)
    in_line = np.arange(len(every)) < len(line)
    counts &= np.logical_and.outer(in_line, in_line) | (kind[:, None] == kind)
    far = (across > _INTO[0] * narrower) & (down > _INTO[1] * lower) & counts & ~np.eye(len(every), dtype=bool)
    drawn = far.any(axis=1)
    drawn |= ((across > 0) & (down > 0))[:, drawn].any(axis=1)
    return tuple(part for part, is_drawn in zip(line, drawn[: len(line)], strict=True) if not is_drawn)


def _meet(one: Box, other: Box) -> bool:
    return one.left < other.right and other.left < one.right and one.top < other.bottom and other.top < one.bottom


def _without_strangers(line: tuple[Region, ...]) -> tuple[Region, ...]:
    """The parts of a line that are letters: emblems at its ends, or in the place of a letter, are left out."""
    parts = _beside_divider(sorted(line, key=lambda part: part.box.left))
    parts = parts[_strange_together(parts) :]
    parts = parts[: len(parts) - _strange_together(parts[::-1])]
    while len(parts) > _FEWEST and _strangeness(parts, 0) >= _STRANGE:
        parts = parts[1:]
    while len(parts) > _FEWEST and _strangeness(parts, len(parts) - 1) >= _STRANGE:
        parts = parts[:-1]
    inner = range(1, len(parts) - 1)
    strange = {number for number in inner if _is_coloured_apart(parts, number) and _strangeness(parts, number) > 1}
    return tuple(part for number, part in enumerate(parts) if number not in strange)


def _beside_divider(parts: Sequence[Region]) -> Sequence[Region]:
    """What stands beside an upright bar that reaches beyond all others: on the side with most of them, or the right."""
    for number, bar in enumerate(parts):
        others = [part.box for part in parts if part is not bar]
        reaches = all(bar.box.top < box.top and box.bottom < bar.box.bottom for box in others)
        if others and reaches and _is_solid(bar):
            return max(parts[number + 1 :], parts[:number], key=len)
    return parts


def _strange_together(parts: Sequence[Region]) -> int:
    """How many parts that a line begins with are pieces of an emblem: further off, and unlike the letters.

    They are of other colours and strokes, or all are bars. Where one of them reaches beyond both of the letters' lines
    they are so if they are either further off or of other colours.
    """
    for count in range(2, min(_MOST_PIECES, len(parts) - _FEWEST) + 1):
        pieces, rest = parts[:count], parts[count:]
        base, top = _base(rest), min(part.box.top for part in rest)
        between = [_gap(before, after) for before, after in pairwise(rest)]
        within = max(_gap(before, after) for before, after in pairwise(pieces))
        least = max(_FURTHER * float(np.median(between)), _SPACE * (base - top), _OUTSIDE * within)
        apart = _gap(pieces[-1], rest[0]) > least
        stroke, kinds = float(np.median([part.stroke for part in rest])), {part.kind for part in rest}
        coloured = all(part.kind not in kinds for part in pieces)
        unlike = coloured and not any(_is_like(part.stroke, stroke) for part in pieces)
        beyond = _BEYOND * (base - top)
        reaches = any(part.box.top < top - beyond and part.box.bottom > base + beyond for part in pieces)
        are_bars = len(pieces) > _MOST_BARS and all(map(_is_bar, pieces))
        if (apart and (unlike or are_bars)) or (reaches and (apart or coloured)):
            return count
    return 0


def _is_like(stroke: float, other: float) -> bool:
    return 1 / _OTHER_STROKE < stroke / other < _OTHER_STROKE


def _strangeness(parts: Sequence[Region], number: int) -> int:
    """In how many ways a part is unlike the others of its line, which stand from left to right."""
    part, others = parts[number], [*parts[:number], *parts[number + 1 :]]
    tops, bottoms = (np.array([getattr(one.box, edge) for one in others]) for edge in ("top", "bottom"))
    base, top = float(np.median(bottoms)), float(tops.min())
    beyond = _BEYOND * (base - top)
    above, below = top - part.box.top > beyond, part.box.bottom - base > beyond
    hangs = float(np.abs(bottoms - part.box.bottom).min()) > beyond
    gaps = [max(0, after.box.left - before.box.right) for before, after in pairwise(others)]
    apart = min(_gap(part, parts[neighbour]) for neighbour in (number - 1, number + 1) if 0 <= neighbour < len(parts))
    strokes = np.array([one.stroke for one in others])
    return sum(
        (
            (above and below) or hangs,
            part.box.height > _TALLER * (base - top),
            apart > max(_FURTHER * float(np.median(gaps)), _SPACE * (base - top)),
            part.box.width > _WIDER * max(part.box.height, *(one.box.width for one in others)),
            not _is_like(part.stroke, float(np.median(strokes))),
            _is_coloured_apart(parts, number),
        )
    )


def _gap(one: Region, other: Region) -> int:
    return max(one.box.left - other.box.right, other.box.left - one.box.right, 0)


def _is_coloured_apart(parts: Sequence[Region], number: int) -> bool:
    """Whether the others are of one colour, and this part is of another."""
    others = {part.kind for index, part in enumerate(parts) if index != number}
    return len(others) == 1 and parts[number].kind not in others


def _edges(box: Box) -> tuple[int, int, int, int]:
    return box.left, box.top, box.right, box.bottom


def _are_letters(parts: Sequence[Region]) -> bool:
    """Whether parts in a row are unlike each other as letters are: no bars, dots or pieces of a pattern."""
    if len(parts) < _FEWEST or all(map(_is_bar, parts)):
        return False
    box = around([part.box for part in parts])
    widths, heights, areas = (
        np.array(values, dtype=float)
        for values in zip(*((part.box.width, part.box.height, part.area) for part in parts), strict=True)
    )
    fills = np.array([part.fill for part in parts])
    alike = all(map(_are_alike, (widths, heights, fills), (2.0, 2.0, 0.0)))
    alike &= _are_alike(areas, 2 * float(np.sqrt(areas.mean())))
    alike &= _are_alike(np.array([part.outline for part in parts], dtype=float), 4.0)  # narrow capitals differ in that
    stand = _stand_on_lines(np.array([part.box.bottom for part in parts]), _ON_FOOT * float(np.median(heights)))
    regular = not alike and _are_shaped(parts) and stand
    return bool(regular and box.width >= 1.5 * np.median(heights))


def _are_shaped(parts: Sequence[Region]) -> bool:
    """Whether enough of some parts have strokes or holes, as most letters have, and dots have not."""
    return sum(not _is_solid(part) for part in parts) >= max(2, _SHAPED * len(parts))


def _is_solid(part: Region) -> bool:
    """Whether a part is a bar, a block or something round, without strokes or a hole."""
    is_plain = part.outline <= _PLAIN * 2 * (part.box.width + part.box.height)
    is_plain &= part.stroke > _OF_STROKES * min(part.box.width, part.box.height)
    return part.fill >= _SOLID or (is_plain and part.fill > _ROUND)


def _is_bar(part: Region) -> bool:
    """Whether a part is one stroke, straight or nearly so."""
    return part.area <= _STRAIGHT * part.stroke * float(np.hypot(part.box.width, part.box.height))


def _stand_on_lines(bottoms: NDArray[np.int64], within: float) -> bool:
    """Whether most of some parts stand on one line; or nearly all on two, where many hang below it."""
    near = np.abs(np.subtract.outer(bottoms, bottoms)) <= within
    base = near[near.sum(axis=1).argmax()]
    others = near & ~base
    second = others[others.sum(axis=1).argmax()]
    return bool(base.mean() >= _STANDING or (base.mean() >= _HALF and (base | second).mean() >= _NEARLY_ALL))


def _is_joined_hand(parts: Sequence[Region]) -> bool:
    """Whether some parts are a word whose letters run into each other, but for the first one perhaps."""
    box = around([part.box for part in parts])
    long = max(parts, key=lambda part: part.box.width)
    strokes = [part.stroke for part in parts]
    winding = _winding(long)
    if len(parts) == 1:
        return winding > _WINDING_ALONE and box.width > _WIDE_ALONE * box.height and long.fill < _LINE_FILLS
    winds = winding > _WINDING
    is_wide = box.width > _WIDE * box.height and long.box.width > _LONG_PART * long.box.height
    return 1 < len(parts) < _FEWEST and winds and is_wide and max(strokes) < _OTHER_STROKE * min(strokes)


def _winding(part: Region) -> float:
    """How many times as long as that of its box its outline is."""
    return part.outline / (2 * (part.box.width + part.box.height))


def _are_alike(values: NDArray[np.float64], steps: float) -> bool:
    """Whether sizes differ by no more than an eighth, or than drawing them in px makes them differ."""
    return bool(np.ptp(values) <= max(_EIGHTH * values.mean(), steps))


def _capital(parts: Sequence[Region]) -> float:
    """From the line that most parts stand on to the top of the highest."""
    if len(parts) == 1:
        return _OF_HAND * parts[0].box.height
    return _base(parts) - min(part.box.top for part in parts)


def _around_circle(regions: Sequence[Region]) -> Row | None:
    """The letters of a text that runs around a circle: of like size, their middles on one circle."""
    shaped = [region for region in regions if region.fill < _SOLID]
    if len(shaped) < _FEWEST_AROUND:
        return None
    sizes = np.array([max(region.box.width, region.box.height) for region in shaped], dtype=float)
    typical = float(np.median(sizes))
    alike = [region for region, size in zip(shaped, sizes, strict=True) if typical / 2 <= size <= 1.8 * typical]
    middles = np.array([((r.box.left + r.box.right) / 2, (r.box.top + r.box.bottom) / 2) for r in alike])
    if len(alike) < _FEWEST_AROUND:
        return None
    for _ in range(3):
        x, y, radius = _circle(middles)
        off = np.abs(np.hypot(middles[:, 0] - x, middles[:, 1] - y) - radius)
        near = off <= max(0.5 * typical, 2 * float(np.median(off)))
        if near.all():
            break
        middles, alike = middles[near], [region for region, is_near in zip(alike, near, strict=True) if is_near]
        if len(alike) < _FEWEST_AROUND:
            return None
    areas = np.array([region.area for region in alike], dtype=float)
    turned = np.sort(np.arctan2(middles[:, 1] - y, middles[:, 0] - x))
    widest = max(float(np.diff(turned).max()), float(turned[0] + 2 * np.pi - turned[-1]))
    of_one_colour = np.bincount([region.kind for region in alike]).max() >= _ONE_COLOUR * len(alike)
    are_unlike = not _are_alike(areas, 2 * float(np.sqrt(areas.mean())))
    are_letters = are_unlike and of_one_colour and _are_shaped(alike)
    runs_around = np.abs(off).max() <= 0.6 * typical and radius >= 1.8 * typical and widest <= 1.5 * np.pi
    if not (are_letters and runs_around):
        return None
    return Row(tuple(alike), 0.9 * typical, (x, y, radius))


def _circle(points: np.ndarray) -> tuple[float, float, float]:
    """Middle and radius of the circle nearest to some points (least squares on its equation)."""
    of_unknowns = np.column_stack([2 * points, np.ones(len(points))])
    (x, y, rest), *_ = np.linalg.lstsq(of_unknowns, (points**2).sum(axis=1), rcond=None)
    return float(x), float(y), float(np.sqrt(max(rest + x * x + y * y, 0)))
