"""Grouping the parts of an artwork as a person sees them: emblems, and words."""

from collections.abc import Sequence
from dataclasses import dataclass

from bexi.core.artwork.ink import Box
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.framing.cut import Cut
from bexi.core.judging.badges import carried, is_badge, is_square
from bexi.core.judging.cutting import cut_along, lie_alone
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.emblems import emblems_of
from bexi.core.judging.first_letter import FirstLetter, first_letter
from bexi.core.judging.flat import MOST_REGIONS
from bexi.core.judging.found import STRAY, Badge, Found
from bexi.core.judging.fringes import is_mixed
from bexi.core.judging.regions import lines_around
from bexi.core.judging.rows import Row
from bexi.core.judging.survey import Survey, whole_survey
from bexi.core.pixels.colour import Colour

_HALO, _SHADOW = 0.1, 0.02
"""Of the ink's area: a shadow or a glow that is seen as part of a mark, and the least beside a badge."""
_SEEN = 0.05
"""A colour of a smaller share of the ink is a trace."""
_ASIDE = 0.03
"""Of its height: a cut along a group's shape runs so far beside it."""
_AS_LARGE, _IN_BLOCK, _AS_WIDE_AS = 0.8, 0.5, 0.06
"""Of the largest line's height: a name may be several lines, which may be as wide as each other, but for so much."""


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


def groups_of(picture: Picture, leftwards: bool = False) -> Groups:
    """Tell an artwork's emblems from its words, which may run leftwards: that is nothing that their shapes tell."""
    survey = whole_survey(picture)
    drawing, rows = survey.drawing, survey.rows
    colours = tuple(colour for colour in drawing.colours[1:] if colour)
    if not drawing.separable or drawing.ink_box is None:
        return Groups((), (), colours, drawing.colours[0], drawing.separable, drawing.busy)
    busy = drawing.busy or len(drawing.regions) > MOST_REGIONS
    found = sorted(emblems_of(drawing, rows), key=lambda one: -one.area)
    whole = sum(one.area for one in found)
    badges = [is_badge(one, drawing) for one in found]
    emblems = tuple(
        _group(one, whole, survey, picture, carries)
        for one, carries in zip(found, badges, strict=True)
        if one.area >= STRAY * found[0].area
    )
    inner = carried(found[0], drawing) if badges == [True] else None
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


def _is_lined(found: Found, drawing: Drawing) -> bool:
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


def _group(found: Found, whole: int, survey: Survey, picture: Picture, carries: bool = False) -> Group:
    drawing, box = survey.drawing, _in_artwork(found.box, survey, picture)
    beneath = [found.carrier.label] if found.carrier else []
    # A shadow on paper cannot be lifted with that, and would shine on a dark tab.
    is_on_shadow = carries and drawing.halo > _SHADOW and drawing.colours[0] is not None and isinstance(picture, Bitmap)
    is_alone = not is_on_shadow and lie_alone(survey, found.labels, beneath)
    along = None if is_alone else cut_along(survey, found.labels, 0 if is_on_shadow else _ASIDE, beneath)
    fades = any(region.kind in drawing.fading for part in found.parts for region in part.regions)
    colours, is_tile = _colours_of(found, drawing), carries and is_square(found)
    return Group(box, found.area / whole, along or Cut.to(box), colours, found.on, fades, carries, is_tile)


def _reaches_all_corners(drawing: Drawing) -> bool:
    box = drawing.ink_box
    if box is None:
        return False
    return all(drawing.kinds[y, x] for y in (box.top, box.bottom - 1) for x in (box.left, box.right - 1))


def _colours_of(found: Found, drawing: Drawing) -> tuple[Colour, ...]:
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
