"""A framing drawn large and told apart into its flat colours, which is where everything is measured."""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.artwork.ink import CLEAR_BELOW, NEAR_GROUND, Box, GroundKind, find_ink
from bexi.core.artwork.shapes import main_colours
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels
from bexi.core.pixels.oklab import oklab

_SPECK = 24
"""A region of fewer px is noise: at 16 px it covers less than a fortieth of one."""
_EDGE_SHARE = 0.05
"""Colours that make up so much of a busy picture's edge belong to its ground."""
_ALIKE = 0.13
_SEPARABLE = 0.8
"""So much of a picture must lie within that distance in OKLab of one of its main colours to be flat areas."""
_SOFT = 0.35
"""Where less of the difference of two colours lies at their border, they run into each other."""

Kinds = NDArray[np.uint8]
"""For each px, 0 for the ground, else the number of a colour; shape (height, width)."""


@dataclass(frozen=True, eq=False)
class Region:
    """A connected area of one kind. `area` in px; `box` in px of the drawing."""

    label: int
    kind: int
    area: int
    box: Box
    at_edge: bool

    @property
    def fill(self) -> float:
        """The share of its box that it covers, 0 to 1."""
        return self.area / (self.box.width * self.box.height)


@dataclass(frozen=True, eq=False)
class Drawing:
    """Flat colours of a picture. `colours[kind]` is the colour of a kind; None for a clear ground.

    `separable` is false for photographs, whose areas are no flat colours; nothing that needs them is measured then.
    `busy` is one whose ground is of several colours.
    """

    kinds: Kinds
    colours: tuple[Colour | None, ...]
    separable: bool
    busy: bool = False

    @property
    def side(self) -> int:
        """Of a square drawing, in px."""
        return len(self.kinds)

    @cached_property
    def coarse(self) -> "Drawing":
        """The same with half of the px along each side."""
        return Drawing(self.kinds[::2, ::2], self.colours, self.separable)

    @cached_property
    def labels(self) -> NDArray[np.int32]:
        """The number of the region that each px belongs to, from 0."""
        return _labels(self.kinds)

    @cached_property
    def regions(self) -> tuple[Region, ...]:
        """All regions, in the order of their labels."""
        labels, kinds = self.labels, self.kinds
        areas = np.bincount(labels.ravel())
        edge = set(np.unique(np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]])).tolist())
        found = ndimage.find_objects(labels + 1)
        return tuple(
            Region(number, int(kinds.flat[first]), int(area), Box(x.start, y.start, x.stop, y.stop), number in edge)
            for number, (area, first, (y, x)) in enumerate(zip(areas, firsts_of(labels), found, strict=True))
        )

    @cached_property
    def ink_box(self) -> Box | None:
        """The box of all that is not ground."""
        rows, columns = np.flatnonzero(self.kinds.any(axis=1)), np.flatnonzero(self.kinds.any(axis=0))
        return Box(int(columns[0]), int(rows[0]), int(columns[-1]) + 1, int(rows[-1]) + 1) if len(rows) else None

    @cached_property
    def carrier(self) -> int | None:
        """The kind of a plate: the largest area of ink that touches the ground and holds other colours."""
        beside = self.beside
        on_ground = [kind for kind in range(1, len(beside)) if beside[kind, 0]]
        areas = np.bincount(self.kinds.ravel(), minlength=len(beside))
        held = [kind for kind in on_ground if any(beside[kind, other] for other in range(1, len(beside)))]
        return max(held, key=lambda kind: areas[kind], default=None)

    @cached_property
    def beside(self) -> NDArray[np.int64]:
        """How many px of two kinds lie side by side: shape (kinds, kinds), the same across its diagonal."""
        count = len(self.colours)
        pairs = np.zeros((count, count), dtype=np.int64)
        for one, other in ((self.kinds[:, 1:], self.kinds[:, :-1]), (self.kinds[1:], self.kinds[:-1])):
            unlike = one != other
            joined = one[unlike].astype(np.int64) * count + other[unlike]
            pairs += np.bincount(joined, minlength=count * count).reshape(count, count)
        beside: NDArray[np.int64] = pairs + pairs.T
        return beside


def told_apart(pixels: Pixels, repeated: int = 1) -> Drawing:
    """The flat colours of a picture, each px of which was repeated so many times."""
    reach = repeated
    ink = find_ink(pixels)
    if ink.ground is GroundKind.BUSY:
        return _told_apart_on_busy(pixels, reach)
    strength = _strength(pixels, ink.ground_colour)
    least = CLEAR_BELOW if ink.ground is GroundKind.CLEAR else NEAR_GROUND
    around = ndimage.maximum_filter(strength, size=2 * reach + 3)
    mask = strength >= np.maximum(around // 2, least)
    colours = [one.colour for one in main_colours(pixels, mask)]
    if ink.ground_colour is not None:
        nearest, _ = _nearest(pixels, [ink.ground_colour, *colours])
        # Ringing of a compressed picture is weak, and nearer to the ground than to any colour of the ink.
        mask &= (strength >= 2 * NEAR_GROUND) | (nearest > 0)
    return _drawing(pixels, mask, colours, ink.ground_colour, reach)


def _strength(pixels: Pixels, ground: Colour | None) -> NDArray[np.uint8]:
    """How far each px is from being ground, 0 to 255."""
    if ground is None:
        return pixels[..., 3]
    away = np.abs(pixels[..., :3].astype(np.int16) - np.array(ground.channels, dtype=np.int16))
    strength: NDArray[np.uint8] = away.max(axis=-1).astype(np.uint8)
    return strength


def _told_apart_on_busy(pixels: Pixels, reach: int) -> Drawing:
    """A ground of several colours: those at the edge."""
    whole = np.ones(pixels.shape[:2], dtype=bool)
    colours = [one.colour for one in main_colours(pixels, whole)]
    nearest, _ = _nearest(pixels, colours)
    edge = np.concatenate([nearest[0], nearest[-1], nearest[:, 0], nearest[:, -1]])
    shares = np.bincount(edge, minlength=len(colours)) / len(edge)
    mask = (shares < _EDGE_SHARE)[nearest]
    mask = ndimage.median_filter(mask.astype(np.uint8), size=5).astype(bool)
    if not mask.any():
        return Drawing(np.ones(pixels.shape[:2], dtype=np.uint8), (None, colours[0]), separable=False, busy=True)
    inks = [one.colour for one in main_colours(pixels, mask)]
    return replace(_drawing(pixels, mask, inks, colours[int(shares.argmax())], reach), busy=True)


def _drawing(
    pixels: Pixels, mask: NDArray[np.bool_], colours: list[Colour], ground: Colour | None, reach: int
) -> Drawing:
    if not colours or not mask.any():
        return Drawing(np.zeros(pixels.shape[:2], dtype=np.uint8), (ground,), separable=True)
    nearest, distance = _nearest(pixels, colours)
    kinds = np.where(mask, nearest + 1, 0).astype(np.uint8)
    if len(colours) > 1:
        kinds = _without_slivers(kinds, reach)
    separable = bool((distance[mask] <= _ALIKE).mean() >= _SEPARABLE)
    kinds, kept = _joined(pixels, kinds, colours, reach)
    return Drawing(_without_specks(kinds), (ground, *kept), separable)


def _nearest(pixels: Pixels, colours: list[Colour]) -> tuple[NDArray[np.uint8], NDArray[np.float32]]:
    """Number of, and OKLab distance to, the nearest of some colours, looked up in steps of 8."""
    steps = np.arange(4, 256, 8, dtype=np.uint8)
    grid = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1).reshape(-1, 3)
    known = oklab(np.array([colour.channels for colour in colours], dtype=np.uint8))
    distances = np.linalg.norm(oklab(grid)[:, None] - known, axis=-1)
    coarse = pixels[..., :3] >> 3
    cell = (coarse[..., 0].astype(np.intp) << 10) | (coarse[..., 1].astype(np.intp) << 5) | coarse[..., 2]
    return distances.argmin(axis=1).astype(np.uint8)[cell], distances.min(axis=1).astype(np.float32)[cell]


def _without_slivers(kinds: Kinds, reach: int) -> Kinds:
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


def _joined(pixels: Pixels, kinds: Kinds, colours: list[Colour], reach: int) -> tuple[Kinds, list[Colour]]:
    """Colours that run into each other joined into one, as the steps of a gradient are."""
    step = reach + 2
    join = list(range(len(colours) + 1))
    one, other = kinds[:, :-step], kinds[:, step:]
    for number in range(1, len(join)):
        for beyond in range(number + 1, len(join)):
            rows, columns = np.nonzero(((one == number) & (other == beyond)) | ((one == beyond) & (other == number)))
            if len(rows) < 2 * step:
                continue
            here, there = pixels[rows, columns, :3].astype(np.int16), pixels[rows, columns + step, :3]
            across = np.median(np.abs(here - there).max(axis=-1))
            whole = max(
                abs(a - b) for a, b in zip(colours[number - 1].channels, colours[beyond - 1].channels, strict=True)
            )
            if across < _SOFT * whole:
                join[beyond] = join[number]
    kept = sorted(set(join))
    renumbered = np.array([kept.index(target) for target in join], dtype=np.uint8)
    return renumbered[kinds], [colours[number - 1] for number in kept[1:]]


def _labels(kinds: Kinds) -> NDArray[np.int32]:
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


def _without_specks(kinds: Kinds) -> Kinds:
    """Kinds whose regions of a few px went to what lies around them; twice, for specks may lie beside each other."""
    for _ in range(2):
        labels = _labels(kinds)
        areas = np.bincount(labels.ravel())
        if areas.min() >= _SPECK:
            break
        # The px before the first of a region, row by row, is of its surroundings.
        around = kinds.ravel()[np.maximum(firsts_of(labels) - 1, 0)]
        kinds = np.where(areas[labels] < _SPECK, around[labels], kinds)
    return kinds
