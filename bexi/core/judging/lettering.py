"""Finding lettering: rows, straight or around a circle, of parts that are regular as letters are.

An emblem beside a word may be of its height and colour. It is told from the letters by what else it does not share
with them: it reaches beyond their lines, stands further off, is wider, of another stroke or another colour.
"""

from collections.abc import Iterable, Iterator, Sequence

import numpy as np

from bexi.core.artwork.ink import Box
from bexi.core.judging.hands import OF_HAND, with_hands
from bexi.core.judging.letter_parts import parts_of_letters
from bexi.core.judging.letter_shapes import (
    EIGHTH,
    FEWEST,
    SOLID,
    are_alike,
    are_letters,
    are_shaped,
    base_of,
    is_joined_hand,
    is_like,
    middle_of,
    winding,
)
from bexi.core.judging.other_writing import downwards, other_writing, with_lines
from bexi.core.judging.regions import Region, around, on_its_side
from bexi.core.judging.rows import Row
from bexi.core.judging.strangers import BEYOND, without_strangers

_FEWEST_AROUND, _ONE_COLOUR = 6, 0.75
"""Letters around a circle, most of which are of one colour."""
_TOLD = 0.85
"""Of the ink of characters: letters on their side that are so much of it are no pieces of these."""
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
_SMALLEST = 5
"""In px of the drawing: what is lower has no shape that could be a letter's."""
_ON_LINE, _LIKE_HEIGHT = 0.25, 1.5
"""Letters of several colours stand on one line, within so much of the lower one's height, and are of like height."""
_OVERLAP = -0.15
"""Of the narrower one's width: they stand apart, but for a little; what overlaps more is one shape in two colours."""
_BENEATH = 0.5
_INTO = 0.5, 0.25
"""Of the narrower one's width and the lower one's height."""
_ASIDE = 0.4
"""Of the narrower one's width: letters of which one reaches below the other have their middles further apart."""
_INTO_WIDE = 1.5
"""Times the widest part: what is wider is a line below the word."""
_BIT = 0.12
"""Of the larger one's area: what compression leaves beside a letter is less."""
_LARGEST_SHARE = 0.65
"""Of the drawing's longer side; what is higher is no row of letters."""


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
    lines = list(_lines(could_be))
    rows = [Row(line, _capital(line)) for line in _lettered(lines, regions)]
    rows = [row for row in rows if not any(_is_beside(row, other) for other in rows)]
    rows = with_lines(rows, other_writing(regions))
    rows = with_hands(rows, lines, regions)
    told = {part.label for row in rows for part in row.parts}
    turned = list(_on_their_side([one for one in could_be if one.label not in told], regions))
    if rows:
        rows += [row for row in turned if row.height < max(other.height for other in rows)]
    rows = rows or list(_columns(could_be)) or _most_told(turned, list(downwards(regions)))
    ring = _around_circle(could_be)
    if ring is None:
        return rows
    in_ring = {part.label for part in ring.parts}
    # A few letters at the top and at the foot of a circle stand on lines of their own, too.
    apart = [row for row in rows if not in_ring & {part.label for part in row.parts}]
    return [*apart, ring] if all(len(row.parts) < len(ring.parts) / 2 for row in rows) else rows


def _without_columns(regions: Sequence[Region]) -> list[Region]:
    """Without blocks that touch blocks of other colours beside them, as a temple's columns do, or a flag's stripes."""
    blocks = [region for region in regions if region.fill >= SOLID]
    if len(blocks) < 2:
        return list(regions)
    left, top, right, bottom = np.array([_edges(block.box) for block in blocks]).T
    kind, high = np.array([block.kind for block in blocks]), bottom - top
    gap = np.maximum.outer(left, left) - np.minimum.outer(right, right)
    overlap = np.minimum.outer(bottom, bottom) - np.maximum.outer(top, top)
    touch = (np.abs(gap) <= 1) & (overlap > 0.5 * np.maximum.outer(high, high)) & np.not_equal.outer(kind, kind)
    columns = {block.label for block, touches in zip(blocks, touch.any(axis=1), strict=True) if touches}
    return [region for region in regions if region.label not in columns]


def _lettered(lines: Iterable[tuple[Region, ...]], regions: Sequence[Region]) -> Iterator[tuple[Region, ...]]:
    """The letters of those lines that have some."""
    for line in lines:
        parts = without_strangers(_side_by_side(_without_shadows(_without_badges(line)), regions))
        if parts and (are_letters(parts) or is_joined_hand(parts)):
            yield parts


def _most_told(letters: list[Row], characters: list[Row]) -> list[Row]:
    """Lines that run down, as those letters on their side or as characters, of which the first are but pieces."""
    told, whole = (sum(part.area for row in rows for part in row.parts) for rows in (letters, characters))
    return letters if told >= _TOLD * whole else characters


def _on_their_side(could_be: Sequence[Region], regions: Sequence[Region]) -> Iterator[Row]:
    """Lines that run up or down beside an emblem, which has no little share of the ink."""
    upright = {region.label: on_its_side(region) for region in regions}
    ink = sum(region.area for region in regions if region.kind)
    for line in _lettered(_lines([upright[one.label] for one in could_be]), list(upright.values())):
        labels = {part.label for part in line}
        parts = tuple(region for region in could_be if region.label in labels)
        if len(parts) > FEWEST and sum(part.area for part in parts) < _BESIDE * ink:
            yield Row(parts, _capital(line), on_its_side=True)


def _columns(regions: Sequence[Region]) -> Iterator[Row]:
    """Letters below each other: of one colour and like height, their middles on one upright line."""
    left = sorted(regions, key=lambda region: region.box.top)
    while left:
        column = left[:1]
        for region in left[1:]:
            if _stands_below(region, column[-1]):
                column.append(region)
        left = [region for region in left if region not in column]
        fills, widths, heights, windings = (
            np.array(values)
            for values in zip(*((one.fill, one.box.width, one.box.height, winding(one)) for one in column), strict=True)
        )
        wind_alike = are_alike(windings, _LIKE_FILL)
        alike = wind_alike and are_alike(fills, _LIKE_FILL)
        # What is as wide as each other is no letter, or one on its side, but for capitals of one height.
        alike |= are_alike(widths, 2.0) and (wind_alike or np.ptp(heights) > _EVEN * heights.mean())
        if len(column) >= _FEWEST_DOWN and not alike and are_shaped(column):
            yield Row(tuple(column), float(np.median([region.box.height for region in column])), runs_down=True)


def _stands_below(region: Region, above: Region) -> bool:
    box, other = region.box, above.box
    lower, higher = sorted((box.height, other.height))
    aside = abs(box.left + box.right - other.left - other.right) / 2
    return (
        region.kind == above.kind
        and higher <= _LIKE_DOWN * lower
        and aside <= _ON_LINE * lower
        and is_like(region.stroke, above.stroke)
        and 0 < box.top - other.bottom <= _APART * lower
    )


def _is_beside(row: Row, longer: Row) -> bool:
    """Whether a row is an emblem of a few parts beside a longer one, on whose line it does not stand."""
    box, other = row.box, longer.box
    overlap = min(box.bottom, other.bottom) - max(box.top, other.top)
    is_apart = box.left >= other.right or other.left >= box.right
    is_beside = is_apart and overlap > 0.5 * min(box.height, other.height)
    stands_off = abs(base_of(row.parts) - base_of(longer.parts)) > BEYOND * longer.height
    return len(row.parts) <= min(FEWEST, len(longer.parts) - 1) and is_beside and stands_off


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


def _without_badges(line: tuple[Region, ...]) -> tuple[Region, ...]:
    """The letters of a line without what several of them, in another colour, lie on."""

    def carries(part: Region) -> bool:
        held = (one for one in line if one.kind != part.kind and part.box.encloses(one.box))
        return sum(1 for _ in held) > 1

    return tuple(part for part in line if not carries(part))


def _without_shadows(line: tuple[Region, ...]) -> tuple[Region, ...]:
    """The letters of a line without what lies beneath each of them in another colour, moved a little."""
    for kind in sorted({part.kind for part in line}):
        own = tuple(part for part in line if part.kind == kind)
        others = [part for part in line if part.kind != kind]
        lie_beneath = len(others) >= FEWEST and all(any(_lies_beneath(other, part) for part in own) for other in others)
        if lie_beneath and are_letters(own):
            return own
    return line


def _lies_beneath(shadow: Region, letter: Region) -> bool:
    """Whether most of a part's box, which is no larger, lies in that of a letter that hides most of it."""
    box, its = shadow.box, letter.box
    across = min(box.right, its.right) - max(box.left, its.left)
    down = min(box.bottom, its.bottom) - max(box.top, its.top)
    overlaps = across > _BENEATH * box.width and down > _BENEATH * box.height
    return overlaps and shadow.area < letter.area and box.height <= (1 + EIGHTH) * its.height


def _side_by_side(line: Sequence[Region], regions: Sequence[Region]) -> tuple[Region, ...]:
    """Without parts that reach far into each other's boxes, and what touches these: a drawing's, no letters.

    They may reach into those of other `regions` of their colour, which are no larger and yet not of the line.
    """
    its, kinds = around([part.box for part in line]), {part.kind for part in line}
    wide, high = (max(getattr(part.box, side) for part in line) for side in ("width", "height"))
    others = [one for one in regions if one.kind in kinds and one not in line and one.box.meets(its)]
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
    for one, other in zip(*np.nonzero(np.triu(far)), strict=True):
        far[one, other] = far[other, one] = not _are_beside(every[one], every[other])
    drawn = far.any(axis=1)
    drawn |= ((across > 0) & (down > 0))[:, drawn].any(axis=1)
    return tuple(part for part, is_drawn in zip(line, drawn[: len(line)], strict=True) if not is_drawn)


def _are_beside(one: Region, other: Region) -> bool:
    """Whether the ink of one part is before that of another all the way down, but for a tail below or above that."""
    first, second = sorted((one, other), key=middle_of)
    if middle_of(second) - middle_of(first) < _ASIDE * min(one.box.width, other.box.width):
        return False
    top, bottom = max(first.box.top, second.box.top), min(first.box.bottom, second.box.bottom)
    before, after = (part.shape[top - part.box.top : bottom - part.box.top] for part in (first, second))
    both = before.any(axis=1) & after.any(axis=1)
    ends, begins = first.box.right - before[:, ::-1].argmax(axis=1), second.box.left + after.argmax(axis=1)
    return bool(both.sum() > _INTO[1] * (bottom - top) and (ends <= begins)[both].all())


def _edges(box: Box) -> tuple[int, int, int, int]:
    return box.left, box.top, box.right, box.bottom


def _capital(parts: Sequence[Region]) -> float:
    """From the line that most parts stand on to the top of the highest."""
    if len(parts) == 1:
        return OF_HAND * parts[0].box.height
    return base_of(parts) - min(part.box.top for part in parts)


def _around_circle(regions: Sequence[Region]) -> Row | None:
    """The letters of a text that runs around a circle: of like size, their middles on one circle."""
    shaped = [region for region in regions if region.fill < SOLID]
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
    are_unlike = not are_alike(areas, 2 * float(np.sqrt(areas.mean())))
    are_letters = are_unlike and of_one_colour and are_shaped(alike)
    runs_around = np.abs(off).max() <= 0.6 * typical and radius >= 1.8 * typical and widest <= 1.5 * np.pi
    if not (are_letters and runs_around):
        return None
    return Row(tuple(alike), 0.9 * typical, (x, y, radius))


def _circle(points: np.ndarray) -> tuple[float, float, float]:
    """Middle and radius of the circle nearest to some points (least squares on its equation)."""
    of_unknowns = np.column_stack([2 * points, np.ones(len(points))])
    (x, y, rest), *_ = np.linalg.lstsq(of_unknowns, (points**2).sum(axis=1), rcond=None)
    return float(x), float(y), float(np.sqrt(max(rest + x * x + y * y, 0)))
