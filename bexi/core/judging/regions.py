"""Connected areas of one colour; none so thin or small that it is but the fringe of another."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.artwork.ink import Box

_SPECK = 24
"""A region of fewer px is noise: at 16 px it covers less than a fortieth of one."""

Kinds = NDArray[np.uint8]
"""For each px, 0 for the ground, else the number of a colour; shape (height, width)."""


@dataclass(frozen=True, eq=False)
class Region:
    """A connected area of one kind. `area` in px; `box` in px of the drawing; `outline` is the length of its edges."""

    label: int
    kind: int
    area: int
    box: Box
    at_edge: bool
    outline: int

    @property
    def stroke(self) -> float:
        """About how wide its strokes are, in px: a bar's width, a disc's radius."""
        return 2 * self.area / max(self.outline, 1)

    @property
    def fill(self) -> float:
        """The share of its box that it covers, 0 to 1."""
        return self.area / (self.box.width * self.box.height)


def labels_of(kinds: Kinds) -> NDArray[np.int32]:
    """Numbers of connected areas of one kind: px are joined by the bonds between them, all kinds at once."""
    high, wide = kinds.shape
    bonds = np.zeros((2 * high - 1, 2 * wide - 1), dtype=bool)
    bonds[::2, ::2] = True
    bonds[1::2, ::2] = kinds[1:] == kinds[:-1]
    bonds[::2, 1::2] = kinds[:, 1:] == kinds[:, :-1]
    labels, _ = ndimage.label(bonds)
    return labels[::2, ::2].astype(np.int32) - 1


def firsts_of(labels: NDArray[np.int32]) -> NDArray[np.intp]:
    """Where, in the flattened picture, the first px of each label is."""
    firsts = np.empty(int(labels.max()) + 1, dtype=np.intp)
    firsts[labels.ravel()[::-1]] = np.arange(labels.size)[::-1]  # the last one put down stays
    return firsts


def outlines_of(labels: NDArray[np.int32]) -> NDArray[np.int64]:
    """How long the edges of each label are, in px."""
    count = int(labels.max()) + 1
    lengths = np.zeros(count, dtype=np.int64)
    for one, other in ((labels[:, 1:], labels[:, :-1]), (labels[1:], labels[:-1])):
        unlike = one != other
        for side in (one, other):
            lengths += np.bincount(side[unlike], minlength=count)
    return lengths


def without_slivers(kinds: Kinds, reach: int) -> Kinds:
    """Ink whose soft edges, which take a colour between two others, went to either of them.

    A line too thin to have an inside lies within one colour, and stays.
    """
    size = 2 * reach + 1
    inner = ndimage.minimum_filter(kinds, size=size) == ndimage.maximum_filter(kinds, size=size)
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
    above: Kinds = ndimage.maximum_filter(np.where(counted, kinds, 0), size=size)
    below: Kinds = ndimage.minimum_filter(np.where(counted, kinds, 255), size=size)
    return above, below


def without_specks(kinds: Kinds) -> Kinds:
    """Kinds whose regions of a few px went to what lies around them; twice, for specks may lie beside each other."""
    for _ in range(2):
        labels = labels_of(kinds)
        areas = np.bincount(labels.ravel())
        if areas.min() >= _SPECK:
            break
        # The px before the first of a region, row by row, is of its surroundings.
        around = kinds.ravel()[np.maximum(firsts_of(labels) - 1, 0)]
        kinds = np.where(areas[labels] < _SPECK, around[labels], kinds)
    return kinds
