"""Ink that hangs together, and which of it belongs together."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from scipy import ndimage

from bexi.core.artwork.ink import Box
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.regions import Region, around

_NEAR = 0.3
"""Parts belong together when less than this share of the larger one's side lies between them."""
_ROW, _LIKE = 1.2, 1.5
"""So do parts of like size and colour with less than so many of their sides between them."""
_SAME = 1.1
"""Times as wide, high and large: parts of one shape differ by no more."""
_MOST_PARTS = 300
"""The largest parts decide; a photograph has thousands."""


@dataclass(frozen=True, eq=False)
class Part:
    """Ink that hangs together, and the regions of one colour in it."""

    box: Box
    area: int
    regions: tuple[Region, ...]

    @property
    def side(self) -> int:
        """The longer side of its box, in px."""
        return max(self.box.width, self.box.height)


def parts_of(drawing: Drawing) -> list[Part]:
    """All ink of a drawing."""
    labels, _ = ndimage.label(drawing.kinds > 0, structure=np.ones((3, 3)))
    inside: dict[int, list[Region]] = {}
    firsts = drawing.areas.firsts
    for region in drawing.regions:
        if region.kind:
            inside.setdefault(int(labels.flat[firsts[region.label]]), []).append(region)
    return [
        Part(around([region.box for region in its]), sum(region.area for region in its), tuple(its))
        for its in inside.values()
    ]


def near_each_other(parts: Sequence[Part]) -> Iterator[tuple[Part, ...]]:
    """Groups of parts, joined in the order of the room between them."""
    parts = sorted(parts, key=lambda part: -part.area)[:_MOST_PARTS]
    groups = {part: [part] for part in parts}
    for one, other in _nearest_first(parts):
        its, beyond = groups[one], groups[other]
        if its is not beyond and _belong(one, other, its, beyond):
            its.extend(beyond)
            groups |= dict.fromkeys(beyond, its)
    yield from {id(its): tuple(its) for its in groups.values()}.values()


def _nearest_first(parts: Sequence[Part]) -> Iterator[tuple[Part, Part]]:
    """All pairs of parts, in the order of the room between them."""
    first, second = np.triu_indices(len(parts), 1)
    edges = np.array([(part.box.left, part.box.top, part.box.right, part.box.bottom) for part in parts]).reshape(-1, 4)
    (left, top, right, bottom), (its_left, its_top, its_right, its_bottom) = edges[first].T, edges[second].T
    across = np.maximum(np.maximum(left - its_right, its_left - right), 0)
    down = np.maximum(np.maximum(top - its_bottom, its_top - bottom), 0)
    for pair in np.argsort(across**2 + down**2, kind="stable"):
        yield parts[first[pair]], parts[second[pair]]


def _belong(one: Part, other: Part, its: Sequence[Part], beyond: Sequence[Part]) -> bool:
    room = room_between(one.box, other.box)
    boxes = [around([part.box for part in group]) for group in (its, beyond)]
    larger = max(max(box.width, box.height) for box in boxes)
    like_sides = max(one.side, other.side) <= _LIKE * min(one.side, other.side)
    alike = like_sides and (one.regions[0].kind == other.regions[0].kind or is_same_shape(one, other))
    return room <= _NEAR * larger or (alike and room <= _ROW * min(one.side, other.side))


def is_same_shape(one: Part, other: Part) -> bool:
    """Whether parts are as wide, as high and as large as each other, as dots in several colours are."""
    pairs = (one.box.width, other.box.width), (one.box.height, other.box.height), (one.area, other.area)
    return all(max(pair) <= _SAME * min(pair) for pair in pairs)


def room_between(one: Box, other: Box) -> float:
    """How far apart two boxes are, in px."""
    across = max(one.left - other.right, other.left - one.right, 0)
    down = max(one.top - other.bottom, other.top - one.bottom, 0)
    return float(np.hypot(across, down))
