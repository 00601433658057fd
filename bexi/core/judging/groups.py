"""Grouping the parts of an artwork as a person sees them: emblems, and words."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from scipy import ndimage

from bexi.core.artwork.ink import Box
from bexi.core.artwork.pictures import Picture
from bexi.core.judging.drawing import Drawing, Region, firsts_of
from bexi.core.judging.lettering import Row, around
from bexi.core.judging.survey import Survey, whole_survey
from bexi.core.pixels.colour import Colour

_NEAR = 0.3
"""Parts belong together when less than this share of the larger one's side lies between them."""
_ROW = 1.2
"""So do parts of like size and colour with less than so many of their sides between them."""
_STRAY = 0.02
"""A group with less of the ink than that beside the largest is a stray mark."""
_MOSTLY = 0.5
_PHOTOGRAPH = 400
"""No drawing for a site has so many areas of one colour."""
_MOST_PARTS = 60
"""The largest parts decide; a photograph has thousands."""


@dataclass(frozen=True)
class Group:
    """Parts that belong together; `box` in artwork px, `share` of all emblems' ink, 0 to 1.

    `on` is the colour that they lie on where that is part of the artwork: a badge's, for what is inside it.
    """

    box: Box
    share: float
    on: Colour | None = None


@dataclass(frozen=True)
class Groups:
    """What an artwork is made of: `emblems`, the largest first, and the boxes of the lines of `words`.

    `separable` is false where there are no areas to be told apart; `busy` is a ground of several colours, or a
    photograph. `colours` are those of the ink, `ground` that of a solid ground.
    """

    emblems: tuple[Group, ...]
    words: tuple[Box, ...]
    colours: tuple[Colour, ...]
    ground: Colour | None
    separable: bool = True
    busy: bool = False


@dataclass(frozen=True, eq=False)
class _Part:
    """Ink that hangs together, and the regions of one colour in it."""

    box: Box
    area: int
    regions: tuple[Region, ...]

    @property
    def side(self) -> int:
        return max(self.box.width, self.box.height)


@dataclass(frozen=True, eq=False)
class _Found:
    parts: tuple[_Part, ...]
    on: Colour | None = None

    @property
    def box(self) -> Box:
        return around([part.box for part in self.parts])

    @property
    def area(self) -> int:
        return sum(part.area for part in self.parts)


def groups_of(picture: Picture) -> Groups:
    """Tell an artwork's emblems from its words."""
    survey = whole_survey(picture)
    drawing, rows = survey.drawing, survey.rows
    colours = tuple(colour for colour in drawing.colours[1:] if colour)
    if not drawing.separable or drawing.ink_box is None:
        return Groups((), (), colours, drawing.colours[0], drawing.separable, drawing.busy)
    busy = drawing.busy or len(drawing.regions) > _PHOTOGRAPH
    found = sorted(_emblems(drawing, rows), key=lambda one: -one.area)
    whole = sum(one.area for one in found)
    emblems = tuple(
        Group(_in_artwork(one.box, survey, picture), one.area / whole, one.on)
        for one in found
        if one.area >= _STRAY * found[0].area
    )
    words = tuple(_in_artwork(row.box, survey, picture) for row in rows)
    return Groups(emblems, words, colours, drawing.colours[0], busy=busy)


def _in_artwork(box: Box, survey: Survey, picture: Picture) -> Box:
    its = survey.in_artwork(box)
    right, bottom = min(its.right, picture.width), min(its.bottom, picture.height)
    return Box(max(its.left, 0), max(its.top, 0), right, bottom)


def _emblems(drawing: Drawing, rows: Sequence[Row]) -> Iterator[_Found]:
    """The groups of parts that are no letters."""
    letters = {part.label for row in rows for part in row.parts}
    plain: list[_Part] = []
    enclosing: list[_Part] = []
    for part in _parts(drawing):
        lettered = sum(region.area for region in part.regions if region.label in letters)
        if lettered > _MOSTLY * part.area or any(_is_bit_of(part, row) for row in rows):
            continue
        if lettered:
            yield from _inside_badge(part, letters, drawing)
        elif any(_encloses(part.box, row.box) for row in rows):
            enclosing.append(part)
        else:
            plain.append(part)
    for parts in _near_each_other(plain or enclosing):
        yield _Found(parts)


def _parts(drawing: Drawing) -> list[_Part]:
    labels, _ = ndimage.label(drawing.kinds > 0, structure=np.ones((3, 3)))
    inside: dict[int, list[Region]] = {}
    firsts = firsts_of(drawing.labels)
    for region in drawing.regions:
        if region.kind:
            inside.setdefault(int(labels.flat[firsts[region.label]]), []).append(region)
    return [
        _Part(around([region.box for region in its]), sum(region.area for region in its), tuple(its))
        for its in inside.values()
    ]


def _inside_badge(badge: _Part, letters: set[int], drawing: Drawing) -> Iterator[_Found]:
    """What a badge with lettering holds beside that, on the badge's own colour."""
    carrier = max((region for region in badge.regions if region.label not in letters), key=lambda one: one.area)
    held = [
        _Part(region.box, region.area, (region,))
        for region in badge.regions
        if region.label not in letters and region is not carrier and not _encloses(region.box, carrier.box)
    ]
    texts = [region.box for region in badge.regions if region.label in letters]
    held = [part for part in held if not all(_encloses(part.box, box) for box in texts)]
    for parts in _near_each_other(held):
        found = _Found(parts, drawing.colours[carrier.kind])
        if found.area >= _STRAY * badge.area:
            yield found


def _is_bit_of(part: _Part, row: Row) -> bool:
    """Whether a part is a dot, an accent or a stop of a line of letters."""
    if part.side > 1.1 * row.height:
        return False
    x, y = (part.box.left + part.box.right) / 2, (part.box.top + part.box.bottom) / 2
    if row.circle:
        middle_x, middle_y, radius = row.circle
        return abs(float(np.hypot(x - middle_x, y - middle_y)) - radius) <= 0.9 * row.height
    near = 0.6 * row.height
    across = row.box.left - near <= x <= row.box.right + near
    return across and row.box.top - near <= y <= row.box.bottom + near


def _encloses(outer: Box, inner: Box) -> bool:
    return (
        outer.left <= inner.left
        and outer.top <= inner.top
        and outer.right >= inner.right
        and outer.bottom >= inner.bottom
    )


def _near_each_other(parts: Sequence[_Part]) -> Iterator[tuple[_Part, ...]]:
    """Groups of parts, joined in the order of the room between them."""
    parts = sorted(parts, key=lambda part: -part.area)[:_MOST_PARTS]
    groups = [[part] for part in parts]
    pairs = sorted(combinations(parts, 2), key=lambda pair: _room(pair[0].box, pair[1].box))
    for one, other in pairs:
        its = next(group for group in groups if one in group)
        beyond = next(group for group in groups if other in group)
        if its is not beyond and _belong(one, other, its, beyond):
            groups.remove(beyond)
            its.extend(beyond)
    yield from (tuple(group) for group in groups)


def _belong(one: _Part, other: _Part, its: Sequence[_Part], beyond: Sequence[_Part]) -> bool:
    room = _room(one.box, other.box)
    larger = max(_Found(tuple(group)).box.width for group in (its, beyond))
    larger = max(larger, *(_Found(tuple(group)).box.height for group in (its, beyond)))
    like_sides = max(one.side, other.side) <= 1.5 * min(one.side, other.side)
    alike = like_sides and one.regions[0].kind == other.regions[0].kind
    return room <= _NEAR * larger or (alike and room <= _ROW * min(one.side, other.side))


def _room(one: Box, other: Box) -> float:
    across = max(one.left - other.right, other.left - one.right, 0)
    down = max(one.top - other.bottom, other.top - one.bottom, 0)
    return float(np.hypot(across, down))
