"""Grouping the parts of an artwork as a person sees them: emblems, and words."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from scipy import ndimage

from bexi.core.artwork.ink import Box
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.framing.cut import Cut
from bexi.core.judging.companions import is_letter_beyond, without_companions
from bexi.core.judging.cutting import cut_along, lie_alone
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.first_letter import FirstLetter, first_letter
from bexi.core.judging.flat import MOST_REGIONS
from bexi.core.judging.fringes import is_mixed
from bexi.core.judging.letter_parts import is_outline_of, is_rim_of
from bexi.core.judging.letter_shapes import base_of, has_two_counters, is_bar, is_solid
from bexi.core.judging.parts import Part, is_same_shape, near_each_other, parts_of, room_between
from bexi.core.judging.regions import LINE, Region, around, lines_around
from bexi.core.judging.rows import Row
from bexi.core.judging.survey import Survey, whole_survey
from bexi.core.pixels.colour import Colour

_SAME = 1.1
"""Times as wide, high and large: the halves of a wreath differ by no more."""
_STRAY = 0.02
"""A group with less of the ink than that beside the largest is a stray mark."""
_FULL, _LONG, _HAIRLINE = 0.9, 12, 60
"""A rule fills its box, as what carries a badge does its, and is so many times as long as it is wide; a broken hairline
is so much longer."""
_BARS, _BARS_APART = 1.4, 4
"""Bars of a drawing are as thick as each other but for so many times, and have so many times that between them."""
_STRIPES, _LEVEL = 3, 0.05
"""So many more bars that end where a rule does, within that share of its length, make stripes of all."""
_EDGE = 1
"""Px of it that may be but its soft edge."""
_DOT = 0.5
"""What is smaller than this share of a capital, among the letters, is a dot, whatever its colour."""
_FLAT = 4
"""What is so many times as wide as high is no mark by itself, where words are."""
_LOW, _LITTLE = 0.8, 0.08
"""Of a capital, and of the ink of its line: what is lower and less is an ornament."""
_HIGH, _ON_FOOT, _SPACE, _SPACES = 1.5, 0.2, 0.2, 2
"""In capitals' heights: an "&" is no higher, stands so near the line, and has room between these two beside it."""
_SLIM, _TALL = 2.5, 1.6
"""A stroke is so many times as high as wide, and at most so many times as high as the capitals of its line."""
_SHORT, _MOST_HELD = 2, 3
"""A badge that a word begins in is at most so many times as wide as high, and holds so many of its letters."""
_HALO, _SHADOW = 0.1, 0.02
"""Of the ink's area: a shadow or a glow that is seen as part of a mark, and the least beside a badge."""
_MOSTLY = 0.5
_SEEN = 0.05
"""A colour of a smaller share of the ink is a trace."""
_ASIDE = 0.03
"""Of its height: a cut along a group's shape runs so far beside it."""
_AS_LARGE, _IN_BLOCK, _AS_WIDE_AS = 0.8, 0.5, 0.06
"""Of the largest line's height: a name may be several lines, which may be as wide as each other, but for so much."""
_CARRIED, _DRAWN = 0.04, 0.015
"""Of a badge's area: less is an ornament, and less a speck."""
_SQUARE = 0.86
"""A square with round corners fills so much of its box, and more."""
_AS_WIDE, _UNLIKE = 1.1, 0.05
"""A disc is as wide as it is high, but for so much; less than this of its box is unlike a disc."""


@dataclass(frozen=True)
class Group:
    """Parts that belong together; `box` in artwork px, `share` of all emblems' ink, 0 to 1.

    `colours` are those of their ink, the largest first. `on` is the badge that they lie on, if they do. `cut` leaves
    out all else: it follows their shape where others lie in their box. `fades` tells of a colour that is none alone,
    `is_badge` of a shape that fills its box, or a disc, and carries something, `is_tile` of the first of these.
    """

    box: Box
    share: float
    cut: Cut
    colours: tuple[Colour, ...] = ()
    on: "Badge | None" = None
    fades: bool = False
    is_badge: bool = False
    is_tile: bool = False


@dataclass(frozen=True)
class Badge:
    """What an emblem may lie on, beside words: a shape of one colour, a disc or squarer."""

    colour: Colour
    is_disc: bool


@dataclass(frozen=True)
class Groups:
    """What an artwork is made of: `emblems`, the largest first, and the boxes of the lines of `words`.

    `separable` is false where there are no areas to be told apart; `busy` is a ground of several colours, or a
    photograph. `colours` are those of the ink, `ground` that of a solid ground. `first` is the first letter of the
    largest words, where it can be cut out; `capital` is how high their capitals are, in artwork px. `ink`
    is the box of all ink; `is_full` says that it reaches into all corners, `has_halo` that a shadow or glow lies around
    it, `fades` that a colour of it does. `inner` is what a badge without words carries; `is_lined` says that a line
    runs around the one emblem; `paper` is what a banner lies on whose colour is the ground.
    """

    emblems: tuple[Group, ...]
    words: tuple[Box, ...]
    colours: tuple[Colour, ...]
    ground: Colour | None
    separable: bool = True
    busy: bool = False
    first: FirstLetter | None = None
    capital: float | None = None
    ink: Box | None = None
    is_full: bool = False
    has_halo: bool = False
    fades: bool = False
    inner: Group | None = None
    is_lined: bool = False
    paper: Colour | None = None


@dataclass(frozen=True, eq=False)
class _Found:
    parts: tuple[Part, ...]
    on: Badge | None = None
    carrier: Region | None = None

    @property
    def labels(self) -> list[int]:
        return [region.label for part in self.parts for region in part.regions]

    @property
    def box(self) -> Box:
        return around([part.box for part in self.parts])

    @property
    def area(self) -> int:
        return sum(part.area for part in self.parts)


def groups_of(picture: Picture, leftwards: bool = False) -> Groups:
    """Tell an artwork's emblems from its words, which may run leftwards: that is nothing that their shapes tell."""
    survey = whole_survey(picture)
    drawing, rows = survey.drawing, survey.rows
    colours = tuple(colour for colour in drawing.colours[1:] if colour)
    if not drawing.separable or drawing.ink_box is None:
        return Groups((), (), colours, drawing.colours[0], drawing.separable, drawing.busy)
    busy = drawing.busy or len(drawing.regions) > MOST_REGIONS
    found = sorted(_emblems(drawing, rows), key=lambda one: -one.area)
    whole = sum(one.area for one in found)
    badges = [_is_badge(one, drawing) for one in found]
    emblems = tuple(
        _group(one, whole, survey, picture, is_badge)
        for one, is_badge in zip(found, badges, strict=True)
        if one.area >= _STRAY * found[0].area
    )
    inner = _carried(found[0], drawing) if badges == [True] else None
    words = tuple(_in_artwork(row.box, survey, picture) for row in rows)
    lines = [row for row in rows if row.circle is None and not row.on_its_side]
    largest = max(lines, key=lambda row: row.height, default=None)
    large = [row for row in lines if _is_as_large(row, largest)] if largest else []
    first = first_letter(survey, _name_begins(large, leftwards), leftwards) if large else None
    capital = largest.height * survey.scale if largest else None
    ink = _in_artwork(drawing.ink_box, survey, picture)
    return Groups(
        emblems,
        words,
        colours,
        drawing.colours[0],
        True,
        busy,
        first,
        capital,
        ink,
        _reaches_all_corners(drawing),
        drawing.halo > _HALO,
        bool(drawing.fading),
        _group(inner, inner.area, survey, picture) if inner else None,
        len(emblems) == 1 and _is_lined(found[0], drawing),
        survey.paper,
    )


def _is_lined(found: _Found, drawing: Drawing) -> bool:
    """Whether a fine ring or frame line, which is none of its parts, runs around a group."""
    lines = (line for line in lines_around(drawing.regions) if line.label not in found.labels)
    return any(line.box.encloses(found.box) for line in lines)


def _is_as_large(row: Row, largest: Row) -> bool:
    """Whether a line is about as high as the largest, or lower and as wide, as in a block of words."""
    is_of_block = abs(row.box.width - largest.box.width) < _AS_WIDE_AS * largest.box.width
    return row.height > (_IN_BLOCK if is_of_block else _AS_LARGE) * largest.height


def _name_begins(lines: Sequence[Row], leftwards: bool) -> Row:
    """Where a name of several lines, or of several words beside each other, begins."""
    highest = min((row.box for row in lines), key=lambda box: box.top + box.bottom)
    level = (row for row in lines if row.box.top < (highest.top + highest.bottom) / 2 < row.box.bottom)
    return min(level, key=lambda row: -row.box.right if leftwards else row.box.left)


def _group(found: _Found, whole: int, survey: Survey, picture: Picture, is_badge: bool = False) -> Group:
    drawing, box = survey.drawing, _in_artwork(found.box, survey, picture)
    beneath = [found.carrier.label] if found.carrier else []
    # A shadow on paper cannot be lifted with that, and would shine on a dark tab.
    is_on_shadow = (
        is_badge and drawing.halo > _SHADOW and drawing.colours[0] is not None and isinstance(picture, Bitmap)
    )
    is_alone = not is_on_shadow and lie_alone(survey, found.labels, beneath)
    along = None if is_alone else cut_along(survey, found.labels, 0 if is_on_shadow else _ASIDE, beneath)
    fades = any(region.kind in drawing.fading for part in found.parts for region in part.regions)
    colours, is_tile = _colours_of(found, drawing), is_badge and _is_square(found)
    return Group(box, found.area / whole, along or Cut.to(box), colours, found.on, fades, is_badge, is_tile)


def _carried(badge: _Found, drawing: Drawing) -> _Found | None:
    """What a badge carries, on all of it."""
    (part,) = badge.parts
    inner = next(_inside_badge(part, set(), drawing), None)
    is_much = inner is not None and inner.area > _CARRIED * part.area
    return inner if inner and is_much and _carries_all(badge, inner) else None


def _is_badge(found: _Found, drawing: Drawing) -> bool:
    """Whether a group is one shape that fills its box, or a disc, and something is drawn on it."""
    ground = max(region.area for part in found.parts for region in part.regions)
    is_drawn_on = len(found.parts) == 1 and found.area - ground > _DRAWN * found.area
    return is_drawn_on and (_is_square(found) or _is_disc(found.parts[0], drawing))


def _is_square(found: _Found) -> bool:
    """Whether a group fills its box, but for round corners perhaps."""
    return found.area > _SQUARE * found.box.width * found.box.height


def _carries_all(badge: _Found, inner: _Found) -> bool:
    """Whether what the inner lies on is all of the badge, not one of its tones."""
    box = inner.carrier.box if inner.carrier else badge.box
    return box.width * box.height > _FULL * badge.box.width * badge.box.height


def _is_disc(part: Part, drawing: Drawing) -> bool:
    """Whether a part and what it holds is a disc, whatever little it lacks or has beside that."""
    box = part.box
    if not 1 / _AS_WIDE < box.width / box.height < _AS_WIDE:
        return False
    inside = np.isin(
        drawing.labels[box.top : box.bottom, box.left : box.right], [region.label for region in part.regions]
    )
    y, x = (np.linspace(-1, 1, side)[:, None] for side in inside.shape)
    unlike = ndimage.binary_fill_holes(inside) != (y**2 + x.T**2 <= 1)
    return bool(unlike.mean() < _UNLIKE)


def _reaches_all_corners(drawing: Drawing) -> bool:
    box = drawing.ink_box
    if box is None:
        return False
    return all(drawing.kinds[y, x] for y in (box.top, box.bottom - 1) for x in (box.left, box.right - 1))


def _colours_of(found: _Found, drawing: Drawing) -> tuple[Colour, ...]:
    """The colours of its ink that are more than the fringe between the main one and the ground, the largest first."""
    areas: dict[int, int] = {}
    for part in found.parts:
        for region in part.regions:
            areas[region.kind] = areas.get(region.kind, 0) + region.area
    kinds = sorted(areas, key=lambda kind: -areas[kind])
    own = [colour for kind in kinds if (colour := drawing.colours[kind]) is not None]
    ground = drawing.colours[0]
    shades = [] if ground is None else [other for other in own[1:] if is_mixed(other, own[0], ground)]
    large = [
        own[0],
        *(colour for kind, colour in zip(kinds[1:], own[1:], strict=False) if areas[kind] > _SEEN * found.area),
    ]
    return tuple(colour for colour in large if colour not in shades)


def _in_artwork(box: Box, survey: Survey, picture: Picture) -> Box:
    its = survey.in_artwork(box)
    right, bottom = min(its.right, picture.width), min(its.bottom, picture.height)
    return Box(max(its.left, 0), max(its.top, 0), right, bottom)


def _emblems(drawing: Drawing, rows: Sequence[Row]) -> Iterator[_Found]:
    """The groups of parts that are no letters."""
    letters = {part.label for row in rows for part in row.parts}
    plain: list[Part] = []
    enclosing: list[Part] = []
    parts = parts_of(drawing)
    tiles = [[part for part in parts if _is_part_of(part, row)] for row in rows]
    lines = _whole_lines(rows)
    drawn = _drawn_beside(lines, [part for part in parts if not any(one.label in letters for one in part.regions)])
    first_tiles = [min(its, key=lambda part: (part.box.left, part.box.top)) for its in tiles if its]
    for part in parts:
        lettered = sum(region.area for region in part.regions if region.label in letters)
        if _is_outlined_letter(part, letters) or lettered > _MOSTLY * part.area or not (lettered or part in drawn):
            continue
        if any(part in its for its in tiles):
            plain += [part] if part in first_tiles else []
        elif lettered:
            inside = _inside_badge(part, letters, drawing)
            yield from (one for one in inside if not any(_is_short_line(one, row) for row in rows))
        elif _is_rule((part,)) and not _is_amid(part, drawn):
            continue
        elif any(part.box.encloses(row.box) for row in rows):
            enclosing += [] if _is_thin(part) else [part]
        elif _is_line_around(part, parts):
            enclosing.append(part)
        else:
            plain.append(part)
    plain = [part for part in plain if not any(_stands_within(part, line) for line in lines)] or plain
    together = (without_companions(near) for near in near_each_other(plain or enclosing))
    found = [_Found(near) for near in together if not _is_rule(near)]
    for one in found:
        is_half = any(_hold_between(one, other, row) for other in found for row in rows)
        if not (is_half or _stands_for_and(one, rows, drawing) or any(_is_ornament_of(one, row) for row in rows)):
            yield one


def _is_outlined_letter(part: Part, letters: set[int]) -> bool:
    """Whether an outline and what it holds are one letter; either may have been told as that."""
    its = [region for region in part.regions if region.label in letters]
    outline = max(part.regions, key=lambda region: region.box.width * region.box.height)
    return len(its) == 1 and (its[0] is outline or is_outline_of(outline, its[0]))


def _hold_between(one: _Found, other: _Found, row: Row) -> bool:
    """Whether two groups of one size are a pair with words between: the halves of a wreath, or corners around."""
    box, its = one.box, other.box
    sizes = ((one.area, other.area), (box.width, its.width), (box.height, its.height))
    of_one_size = all(max(pair) <= _SAME * min(pair) for pair in sizes)
    first, last = sorted((box, its), key=lambda half: half.left)
    return of_one_size and (_is_wreath(first, last, row) or _are_corners(first, last, row))


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


def _whole_lines(rows: Sequence[Row]) -> list[Row]:
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
    if one.circle or other.circle or one.runs_down or other.runs_down or one.on_its_side or other.on_its_side:
        return False
    lower, higher = sorted((one.height, other.height))
    is_level = abs(base_of(one.parts) - base_of(other.parts)) <= _ON_FOOT * lower
    of_one_colour = {part.kind for part in one.parts} == {part.kind for part in other.parts}
    return is_level and higher <= _HIGH * lower and of_one_colour


def _stands_within(part: Part, line: Row) -> bool:
    """Whether a part of the letters' colour, or a piece of one, stands between two of them, whatever it is there."""
    box, its, near, kinds = part.box, line.box, _ON_FOOT * line.height, {one.kind for one in line.parts}
    is_between = line.circle is None and its.left <= box.left and box.right <= its.right
    is_level = its.top - near <= box.top and box.bottom <= its.bottom + near
    return is_between and is_level and all(region.kind in kinds for region in part.regions)


def _stands_for_and(found: _Found, rows: Sequence[Row], drawing: Drawing) -> bool:
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
    stands = row.circle is None and abs(box.bottom - base_of(row.parts)) <= _ON_FOOT * row.height
    return stands and _LOW <= box.height / row.height <= _HIGH


def _is_part_of(badge: Part, row: Row) -> bool:
    """Whether a badge holds a few letters, whole, of a line that goes on beside it, and is a mark by that."""
    on = {region.label for region in badge.regions}
    held = [part for part in row.parts if part.label in on]
    carrier = max(badge.regions, key=lambda one: one.area)
    are_whole = all(carrier.box.encloses(part.box) for part in held)
    is_few = row.circle is None and 0 < len(held) <= min(_MOST_HELD, len(row.parts) - 1)
    return is_few and are_whole and badge.box.width <= _SHORT * badge.box.height


def _is_line_around(part: Part, others: Sequence[Part]) -> bool:
    """Whether a part is a thin ring or frame line around others."""
    return _is_thin(part) and any(
        other.area > _STRAY * part.area and part.box.encloses(other.box) for other in others if other is not part
    )


def _is_thin(part: Part) -> bool:
    return max(region.stroke for region in part.regions) < LINE * part.side


def _inside_badge(badge: Part, letters: set[int], drawing: Drawing) -> Iterator[_Found]:
    """What a badge with lettering holds beside that, on the badge's own colour."""
    carrier = max((region for region in badge.regions if region.label not in letters), key=lambda one: one.area)
    held = [
        Part(region.box, region.area, (region,))
        for region in badge.regions
        if region.label not in letters and region is not carrier and carrier.box.encloses(region.box)
    ]
    texts = [region.box for region in badge.regions if region.label in letters]
    held = [part for part in held if not any(box.encloses(part.box) for box in texts)]  # holes of the letters
    held = [part for part in held if not texts or not all(part.box.encloses(box) for box in texts)]
    colour = drawing.colours[carrier.kind]
    beneath = (Badge(colour, _is_disc(badge, drawing)) if colour else None, carrier)
    is_line = carrier.stroke < LINE * max(carrier.box.width, carrier.box.height)  # that crosses the words
    for parts in near_each_other(held):
        found = _Found(parts) if is_line else _Found(parts, *beneath)
        if found.area >= _STRAY * badge.area:
            yield found


def _is_amid(rule: Part, others: Sequence[Part]) -> bool:
    """Whether a rule has parts of a drawing on both of its sides, nearer than it is long, or is one of some bars."""
    box = rule.box
    if any(_is_bar_beside(one, rule) for one in others) or sum(_runs_along(one, rule) for one in others) >= _STRIPES:
        return True
    near = [one.box for one in others if one is not rule and room_between(one.box, box) < rule.side]
    if box.width > box.height:
        return any(one.bottom <= box.top for one in near) and any(one.top >= box.bottom for one in near)
    return any(one.right <= box.left for one in near) and any(one.left >= box.right for one in near)


def _runs_along(one: Part, rule: Part) -> bool:
    """Whether another bar, however thick, runs along a rule from end to end, nearer than it is long."""
    its, box = one.box, rule.box
    ends = [(its.left, box.left), (its.right, box.right)]
    if box.height > box.width:
        ends = [(its.top, box.top), (its.bottom, box.bottom)]
    are_level = all(abs(end - other) <= _LEVEL * rule.side for end, other in ends)
    is_near = room_between(its, box) < rule.side
    return one is not rule and are_level and is_near and all(is_solid(region) for region in one.regions)


def _is_bar_beside(one: Part, rule: Part) -> bool:
    """Whether a part is a bar along a rule, as thick and near to it, and yet too short for one."""
    same_way = (one.box.width > one.box.height) == (rule.box.width > rule.box.height)
    thick, its = (min(part.box.width, part.box.height) for part in (one, rule))
    is_bar = one.area > _FULL * one.box.width * one.box.height and max(thick, its) <= _BARS * min(thick, its)
    return same_way and is_bar and not _is_rule((one,)) and room_between(one.box, rule.box) <= _BARS_APART * thick


def _drawn_beside(rows: Sequence[Row], parts: Sequence[Part]) -> list[Part]:
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


def _is_ornament_of(found: _Found, row: Row) -> bool:
    """Whether a group is dots among letters or on their line, or a small ornament, which a word is not known by."""
    side, letters = max(found.box.width, found.box.height), sum(part.area for part in row.parts)
    is_dot = side < _DOT * row.height and room_between(found.box, row.box) == 0
    is_low = found.box.height < _DOT * row.height and all(part.side < _DOT * row.height for part in found.parts)
    is_on_line = row.box.top <= found.box.top and found.box.bottom <= row.box.bottom + _DOT * row.height
    is_small = side < _LOW * row.height and found.area < _LITTLE * letters
    is_bit = is_dot or (is_low and is_on_line) or is_small or _is_stroke(found, row)
    return is_bit or _is_flourish(found.box, row) or _is_border(found) or _is_short_line(found, row)


def _is_short_line(found: _Found, row: Row) -> bool:
    """Whether a group is the last letters of a name, right below the line it begins with, flush with that."""
    box, near = found.box, _ON_FOOT * row.height
    is_flush = abs(box.left - row.box.left) <= near or abs(box.right - row.box.right) <= near
    is_below = 0 <= box.top - row.box.bottom <= row.height
    largest = max((region for part in found.parts for region in part.regions), key=lambda one: one.area)
    of_its_colour = largest.kind in {one.kind for one in row.parts}
    return is_flush and is_below and of_its_colour and _DOT < box.height / row.height <= _HIGH


def _is_border(found: _Found) -> bool:
    """Whether a group is a row of one shape again and again, as five stars are."""
    first, *others = found.parts
    is_flat = found.box.width > _FLAT * found.box.height
    return len(others) >= _STRIPES and is_flat and all(is_same_shape(first, one) for one in others)


def _is_stroke(found: _Found, row: Row) -> bool:
    """Whether a group is one of the strokes that end a line, of any colour: an exclamation mark, a bar."""
    is_narrow = _SLIM * found.box.width < found.box.height and found.box.height < _TALL * row.height
    is_plain = all(is_solid(region) or is_bar(region) for part in found.parts for region in part.regions)
    return row.circle is None and is_narrow and is_plain and room_between(found.box, row.box) < _DOT * row.height


def _is_flourish(box: Box, row: Row) -> bool:
    """Whether something flat runs along a line of letters, above or below, as a swoosh does."""
    is_flat = box.width > _FLAT * box.height and box.height < _LOW * row.height
    return row.circle is None and is_flat and 2 * box.width > row.box.width and room_between(box, row.box) < row.height


def _is_rule(parts: Sequence[Part]) -> bool:
    """Whether parts are a line that divides, as between a name and a tagline, or a stripe of several colours."""
    box = _Found(tuple(parts)).box
    shorter, longer = sorted((box.width, box.height))
    area = sum(region.area for part in parts for region in part.regions)
    is_full = area > _FULL * longer * max(1, shorter - _EDGE)
    return longer > (_LONG if is_full else _HAIRLINE) * shorter
