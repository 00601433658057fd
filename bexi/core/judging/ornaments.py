"""What stands around words and is no emblem: ornaments, corners, the halves of a wreath, a last short line."""

from collections.abc import Sequence

from bexi.core.artwork.ink import Box
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.found import Found
from bexi.core.judging.letter_shapes import base_of, has_two_counters, is_bar, is_solid
from bexi.core.judging.parts import is_same_shape, room_between
from bexi.core.judging.rows import Row
from bexi.core.judging.within_lines import HIGH, ON_FOOT

_AGAIN = 3
"""So many more shapes that are the same make a border."""
_SPACE, _SPACES = 0.2, 2
"""In capitals' heights: an "&" has room between these two beside it."""
_SAME = 1.1
"""Times as wide, high and large: the halves of a wreath differ by no more."""
_DOT = 0.5
"""What is smaller than this share of a capital, among the letters, is a dot, whatever its colour."""
_FLAT = 4
"""What is so many times as wide as high is no mark by itself, where words are."""
_LOW, _LITTLE = 0.8, 0.08
"""Of a capital, and of the ink of its line: what is lower and less is an ornament."""
_LOWER = 0.9
"""Of a capital: a line of small letters is no higher."""
_SLIM, _TALL = 2.5, 1.6
"""A stroke is so many times as high as wide, and at most so many times as high as the capitals of its line."""


def hold_between(one: Found, other: Found, row: Row) -> bool:
    """Whether two groups of one size and colour are a pair with words between: a wreath's halves, or corners around."""
    box, its = one.box, other.box
    sizes = ((one.area, other.area), (box.width, its.width), (box.height, its.height))
    of_one_size = all(max(pair) <= _SAME * min(pair) for pair in sizes)
    kinds, its_kinds = ({region.kind for part in group.parts for region in part.regions} for group in (one, other))
    first, last = sorted((box, its), key=lambda half: half.left)
    return of_one_size and kinds == its_kinds and (_is_wreath(first, last, row) or _are_corners(first, last, row))


def _is_wreath(first: Box, last: Box, row: Row) -> bool:
    """Whether two stand on one line at both sides of words, and are higher than these."""
    level = abs(first.top - last.top) < _DOT * row.height
    middle = (row.box.left + row.box.right) / 2
    are_higher = first.top < row.box.top and row.box.bottom < first.bottom
    return level and are_higher and first.right <= middle <= last.left


def _are_corners(first: Box, last: Box, row: Row) -> bool:
    """Whether one lies before and above words and the other as far behind and below them, or the other way round."""
    words, near = row.box, _DOT * row.height
    before, behind = words.left - first.left, last.right - words.right
    if min(before, behind) < 0 or abs(before - behind) > near:
        return False
    upper, lower = sorted((first, last), key=lambda box: box.top)
    above, below = words.top - upper.top, lower.bottom - words.bottom
    return upper.bottom <= lower.top and min(above, below) >= 0 and abs(above - below) <= 2 * near


def stands_for_and(found: Found, rows: Sequence[Row], drawing: Drawing) -> bool:
    """Whether a group is an "&" between two words of a line, no higher than their letters, of any colour."""
    its = found.box
    level = [row for row in rows if _stands_on_line(its, row)]
    before = [
        (its.left - one.box.right) / row.height for row in level for one in row.parts if one.box.right <= its.left
    ]
    after = [(one.box.left - its.right) / row.height for row in level for one in row.parts if its.right <= one.box.left]
    if not before or not after or not all(_SPACE <= room <= _SPACES for room in (min(before), min(after))):
        return False
    return len(found.labels) == 1 and has_two_counters(found.parts[0].regions[0], drawing.regions)


def _stands_on_line(box: Box, row: Row) -> bool:
    """Whether a box stands on a line of letters and is about as high as they are."""
    stands = row.circle is None and abs(box.bottom - base_of(row.parts)) <= ON_FOOT * row.height
    return stands and _LOW <= box.height / row.height <= HIGH


def is_ornament_of(found: Found, row: Row) -> bool:
    """Whether a group is dots among letters or on their line, or a small ornament, which a word is not known by."""
    side, letters = max(found.box.width, found.box.height), sum(part.area for part in row.parts)
    is_dot = side < _DOT * row.height and room_between(found.box, row.box) == 0
    is_low = found.box.height < _DOT * row.height and all(part.side < _DOT * row.height for part in found.parts)
    is_on_line = row.box.top <= found.box.top and found.box.bottom <= row.box.bottom + _DOT * row.height
    is_small = side < _LOW * row.height and found.area < _LITTLE * letters
    is_bit = is_dot or (is_low and is_on_line) or is_small or _is_stroke(found, row)
    return is_bit or _is_flourish(found.box, row) or _is_border(found)


def is_short_line(found: Found, row: Row) -> bool:
    """Whether a group is the last letters of a name, right below the line it begins with, flush with that.

    A symbol there is as high as the capitals, or higher.
    """
    box, near = found.box, ON_FOOT * row.height
    is_flush = abs(box.left - row.box.left) <= near or abs(box.right - row.box.right) <= near
    is_below = row.runs_across and 0 <= box.top - row.box.bottom <= row.height
    largest = max((region for part in found.parts for region in part.regions), key=lambda one: one.area)
    of_its_colour = largest.kind in {one.kind for one in row.parts}
    return is_flush and is_below and of_its_colour and _DOT < box.height / row.height <= _LOWER


def _is_border(found: Found) -> bool:
    """Whether a group is a row of one shape again and again, as five stars are."""
    first, *others = found.parts
    is_flat = found.box.width > _FLAT * found.box.height
    return len(others) >= _AGAIN and is_flat and all(is_same_shape(first, one) for one in others)


def _is_stroke(found: Found, row: Row) -> bool:
    """Whether a group is one of the strokes that end a line, of any colour: an exclamation mark, a bar."""
    is_narrow = _SLIM * found.box.width < found.box.height and found.box.height < _TALL * row.height
    is_plain = all(is_solid(region) or is_bar(region) for part in found.parts for region in part.regions)
    return row.circle is None and is_narrow and is_plain and room_between(found.box, row.box) < _DOT * row.height


def _is_flourish(box: Box, row: Row) -> bool:
    """Whether something flat runs along a line of letters, above or below, as a swoosh does."""
    is_flat = box.width > _FLAT * box.height and box.height < _LOW * row.height
    return row.circle is None and is_flat and 2 * box.width > row.box.width and room_between(box, row.box) < row.height
