"""Lines of characters that each fill a square, as those of East Asia do, whose pieces are no letters by themselves.

The squares stand at one pitch, which an emblem beside them does not keep: it is larger, stands off, or is of other
strokes.
"""

from collections.abc import Iterator, Sequence
from itertools import groupby, pairwise

import numpy as np
from numpy.typing import NDArray

from bexi.core.judging.glyphs import Glyph, bands_of, room_beside
from bexi.core.judging.letter_shapes import are_alike, is_like, is_solid
from bexi.core.judging.regions import Region

_FEWEST, _PAIR = 2, (1.45, 3, 0.14)
"""Characters; two wind so much, are of so many pieces in all, and their strokes of less of their height, or they may be
parts of a drawing."""
_PITCHES = np.arange(0.94, 1.42, 0.02)
"""From one character to the next, in heights of a line."""
_PLACES = 24
"""So many places within a pitch are tried for where the first square begins."""
_CROSSED = 2
"""Of what stands in a line, so much may lie across the edges of squares: an emblem, in one piece or two."""
_OVER = 0.05
"""Of the height: a character reaches no further over the edge of its square."""
_NARROWEST, _LOWEST = 0.3, 0.25
"""Of the height: no character is narrower, or lower, and no half of them narrower or lower than twice that."""
_STROKES, _WINDS = 0.2, 1.6
"""Of the height, a stroke is thinner; and all outlines in a square are so many times as long as that of their box."""
_DOTTED, _ROUND = 0.5, 1.3
"""Of all ink: so much in dots, so many times as long as wide at most, is a pattern's."""
_LARGER, _FURTHER = 1.12, 0.2
"""Times as high as the others, and of their height more room: what ends a line so is no character of it."""


def character_lines(regions: Sequence[Region]) -> Iterator[tuple[Glyph, ...]]:
    """The lines of characters among regions, each of one colour."""
    for columns in bands_of(regions):
        line = _in_squares(columns) if len(columns) >= _FEWEST else ()
        if len(line) >= _FEWEST and _are_characters(line):
            yield line


def _in_squares(columns: Sequence[Glyph]) -> tuple[Glyph, ...]:
    """The longest run of squares of one pitch whose edges cross no column; of equal ones that with the best centred."""
    left, right, high = np.array([(one.box.left, one.box.right, one.box.height) for one in columns]).T
    by_height = np.argsort(high)
    reached = np.cumsum((right - left)[by_height])
    height = float(high[by_height][np.searchsorted(reached, reached[-1] / 2)])
    pitches = np.repeat(_PITCHES * height, _PLACES)
    places = pitches * np.tile(np.arange(_PLACES) / _PLACES, len(_PITCHES))
    begins, ends = (
        ((edge - places[:, None]) // pitches[:, None]).astype(int)
        for edge in (left + _OVER * height, right - _OVER * height)
    )
    best: tuple[int, float, tuple[Glyph, ...]] = (0, 0.0, ())
    for tried in np.flatnonzero((begins != ends).sum(axis=1) <= _CROSSED):
        run = _longest_run(begins[tried], ends[tried])
        if len(run) >= max(_FEWEST, best[0]):
            inside = [(one, at) for one, at in zip(columns, begins[tried].tolist(), strict=True) if at in run]
            line = tuple(
                Glyph(tuple(part for one, _ in its for part in one.parts))
                for _, its in groupby(inside, key=lambda pair: pair[1])
            )
            middles = np.array([one.box.left + one.box.right for one in line]) / 2
            aside = float(np.abs(middles - places[tried] - (np.array(run) + 0.5) * pitches[tried]).mean())
            best = max(best, (len(line), -aside, line), key=lambda one: one[:2])
    return _without_emblem(best[2])


def _longest_run(first: NDArray[np.int_], last: NDArray[np.int_]) -> range:
    """The numbers of squares that follow each other, none empty and none crossed by what begins or ends beyond it.

    `first` and `last` are the numbers of the squares in which each column begins and ends.
    """
    beyond = first != last
    crossed = {*first[beyond].tolist(), *last[beyond].tolist()}
    good = sorted({*first.tolist()} - crossed)
    runs = [[number for _, number in its] for _, its in groupby(enumerate(good), key=lambda pair: pair[1] - pair[0])]
    longest = max(runs, key=len, default=[])
    return range(longest[0], longest[-1] + 1) if longest else range(0)


def _without_emblem(line: tuple[Glyph, ...]) -> tuple[Glyph, ...]:
    """Without what stands at an end and is none of the characters."""
    while len(line) > 1 and _is_strange(line[0], line[1:]):
        line = line[1:]
    while len(line) > 1 and _is_strange(line[-1], line[-2::-1]):
        line = line[:-1]
    return line


def _is_strange(one: Glyph, others: Sequence[Glyph]) -> bool:
    """Whether something is unlike the other characters, of which the nearest is the first."""
    box, height = one.box, max(other.box.height for other in others)
    rooms = [room_beside(before.box, after.box) for before, after in pairwise(others)]
    is_off = room_beside(box, others[0].box) > max([*rooms, 0]) + _FURTHER * height
    is_unlike = not is_like(one.stroke, float(np.median([other.stroke for other in others])))
    return box.height > _LARGER * height or is_off or is_unlike


def _are_characters(line: Sequence[Glyph]) -> bool:
    """Whether what stands in squares is drawn of thin strokes, and as unlike each other as characters are."""
    boxes = [one.box for one in line]
    height = max(box.height for box in boxes)
    widths, heights, areas, windings = (
        np.array(values, dtype=float)
        for values in zip(
            *((one.box.width, one.box.height, sum(part.area for part in one.parts), _winding(one)) for one in line),
            strict=True,
        )
    )
    are_filled = min(widths) >= _NARROWEST * height and min(heights) >= _LOWEST * height
    are_filled &= bool(np.median(widths) >= 2 * _NARROWEST * height and np.median(heights) >= 2 * _LOWEST * height)
    are_drawn = np.median([one.stroke for one in line]) <= _STROKES * height and np.median(windings) >= _WINDS
    pieces = np.array([len(one.parts) for one in line], dtype=float)
    alike = all(map(are_alike, (widths, areas, windings, pieces), (2.0, 2.0, 0.1, 0.0)))
    winds, most, thin = _PAIR
    is_pair = min(windings) >= winds and pieces.sum() >= most and max(one.stroke for one in line) <= thin * height
    of_dots = sum(part.area for one in line for part in one.parts if _is_dot(part)) >= _DOTTED * areas.sum()
    return bool(are_filled and are_drawn and (len(line) > 2 or is_pair) and not (alike or of_dots))


def _is_dot(part: Region) -> bool:
    shorter, longer = sorted((part.box.width, part.box.height))
    return is_solid(part) and longer <= _ROUND * shorter


def _winding(one: Glyph) -> float:
    return sum(part.outline for part in one.parts) / (2 * (one.box.width + one.box.height))
