"""Connected areas of one colour; none so thin or small that it is but the fringe of another."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.artwork.ink import Box
from bexi.core.pixels.areas import areas_of
from bexi.core.pixels.around import highest_around, lowest_around

_SPECK = 24
"""A region of fewer px is noise: at 16 px it covers less than a fortieth of one."""

LINE = 0.03
"""A ring whose stroke is a smaller share of its side is a line around the mark, and not of it,"""
INSIDE = 0.2
"""if what lies in it has so much of its area."""

Kinds = NDArray[np.uint8]
"""For each px, 0 for the ground, else the number of a colour; shape (height, width)."""
Labels = NDArray[np.int32]
"""The number of each px's region, shape (height, width)."""


@dataclass(frozen=True, eq=False)
class Region:
    """A connected area of one kind. `area` in px; `box` in px of the drawing; `outline` is the length of its edges.

    `labels` are those of all regions of the drawing, px by px.
    """

    label: int
    kind: int
    area: int
    box: Box
    at_edge: bool
    outline: int
    labels: Labels = field(repr=False)

    @property
    def shape(self) -> NDArray[np.bool_]:
        """Which px of its box are its own: shape (height, width)."""
        box = self.box
        own: NDArray[np.bool_] = self.labels[box.top : box.bottom, box.left : box.right] == self.label
        return own

    @property
    def stroke(self) -> float:
        """About how wide its strokes are, in px: a bar's width, a disc's radius."""
        return 2 * self.area / max(self.outline, 1)

    @property
    def fill(self) -> float:
        """The share of its box that it covers, 0 to 1."""
        return self.area / (self.box.width * self.box.height)


def without_slivers(kinds: Kinds, reach: int) -> Kinds:
    """Ink whose soft edges, which take a colour between two others, went to either of them.

    A line too thin to have an inside lies within one colour, and stays.
    """
    size = 2 * reach + 1
    inner = lowest_around(kinds, size) == highest_around(kinds, size)
    above, below = _around(kinds, inner, 2 * size + 1)
    thin = ~inner & (above != kinds) & (below != kinds)
    # Between two insides: to the one with the higher number, as good as the other, but never to the ground.
    known = np.where(thin & (above != below) & (kinds > 0), above, kinds).astype(np.uint8)
    left = thin & (above == below) & (kinds > 0)
    labels, count = ndimage.label(left, structure=np.ones((3, 3)))
    if not count:
        return known
    above, below = _around(known, ~left, 3)
    numbers = np.arange(1, count + 1)
    highest = ndimage.maximum(above, labels, numbers)
    between = highest != ndimage.minimum(np.where(below == 255, 254, below), labels, numbers)
    result: Kinds = np.where(
        np.concatenate([[False], between])[labels], np.concatenate([[0], highest]).astype(np.uint8)[labels], known
    )
    return result


def _around(kinds: Kinds, counted: NDArray[np.bool_], size: int) -> tuple[Kinds, Kinds]:
    """The highest and the lowest kind among the counted px around each; 0 and 255 where there is none."""
    above = highest_around(np.where(counted, kinds, np.uint8(0)), size)
    below = lowest_around(np.where(counted, kinds, np.uint8(255)), size)
    return above, below


def without_specks(kinds: Kinds) -> Kinds:
    """Kinds whose regions of a few px went to what lies around them; twice, for specks may lie beside each other."""
    for _ in range(2):
        areas = areas_of(kinds)
        if areas.sizes.min() >= _SPECK:
            break
        # The px before the first of a region, row by row, is of its surroundings.
        around = kinds.ravel()[np.maximum(areas.firsts - 1, 0)]
        kinds = np.where(areas.sizes < _SPECK, around, kinds.ravel()[areas.firsts])[areas.labels]
    return kinds


def lines_around(regions: Sequence[Region]) -> list[Region]:
    """Thin rings and frame lines around what else is drawn in the same or another ink."""
    ink = [region for region in regions if region.kind]
    return [
        one
        for one in ink
        if one.stroke < LINE * max(one.box.width, one.box.height)
        and any(one.box.encloses(other.box) for other in ink if other is not one and other.area > INSIDE * one.area)
    ]


def on_its_side(region: Region) -> Region:
    """The same with across for down, as lines on their side are looked at."""
    box = region.box
    return replace(region, box=Box(box.top, box.left, box.bottom, box.right), labels=region.labels.T)


def around(boxes: Iterator[Box] | Sequence[Box]) -> Box:
    """The smallest box around some, of which there is at least one."""
    each = list(boxes)
    return Box(
        min(box.left for box in each),
        min(box.top for box in each),
        max(box.right for box in each),
        max(box.bottom for box in each),
    )
