"""A picture as its flat colours, which is where everything is measured."""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.ink import Box
from bexi.core.judging.regions import Kinds, Region
from bexi.core.pixels.areas import Areas, areas_of
from bexi.core.pixels.colour import Colour, blended

_LIES_ON = 0.05
"""Of a colour's edges: with fewer at the ground it does but touch it, as letters do that a square cuts through."""
_CARRIES = 0.2
"""Of all ink: a plate has more, and what has less is a rim around what it holds."""


@dataclass(frozen=True, eq=False)
class Drawing:
    """Flat colours of a picture. `colours[kind]` is the colour of a kind; None for a clear ground.

    `separable` is false for photographs, whose areas are no flat colours; nothing that needs them is measured then.
    `busy` is one whose ground is of several colours, `shaded` one whose ground shades off from edge to edge.
    `opacities` are those of the kinds, 0 to 1; none for all opaque. `halo` is the area of shadows and glows, which are
    left out, as a share of the ink's; `fading` are the kinds whose colour is the mean of a fade.
    """

    kinds: Kinds
    colours: tuple[Colour | None, ...]
    separable: bool
    busy: bool = False
    opacities: tuple[float, ...] = ()
    halo: float = 0.0
    fading: frozenset[int] = frozenset()
    shaded: bool = False

    def seen_on(self, ground: Colour) -> list[Colour]:
        """The colour of each kind as it shows on a ground: what is translucent lets that through."""
        opacities = self.opacities or (1.0,) * len(self.colours)
        below = self.colours[0] or ground
        return [
            below if colour is None or number == 0 else blended(colour, opacity, below)
            for number, (colour, opacity) in enumerate(zip(self.colours, opacities, strict=True))
        ]

    @property
    def side(self) -> int:
        """Of a square drawing, in px."""
        return len(self.kinds)

    @cached_property
    def coarse(self) -> "Drawing":
        """The same with half of the px along each side."""
        return replace(self, kinds=self.kinds[::2, ::2])

    @cached_property
    def areas(self) -> Areas:
        """The connected areas of one kind."""
        return areas_of(self.kinds)

    @property
    def labels(self) -> NDArray[np.int32]:
        """The number of the region that each px belongs to, from 0."""
        return self.areas.labels

    @cached_property
    def borders(self) -> tuple[NDArray[np.int32], NDArray[np.int32]]:
        """The labels at both sides of each edge between px of two regions: first those at the left and above."""
        kinds, labels = self.kinds, self.labels
        across, down = kinds[:, 1:] != kinds[:, :-1], kinds[1:] != kinds[:-1]
        before = np.concatenate([labels[:, :-1][across], labels[:-1][down]])
        return before, np.concatenate([labels[:, 1:][across], labels[1:][down]])

    @cached_property
    def regions(self) -> tuple[Region, ...]:
        """All regions, in the order of their labels."""
        labels, areas = self.labels, self.areas
        first, last = (np.bincount(side, minlength=len(areas.sizes)) for side in self.borders)
        edge = set(np.unique(np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]])).tolist())
        kinds = self.kinds.ravel()[areas.firsts]
        found = zip(*(values.tolist() for values in (kinds, areas.sizes, areas.boxes, first + last)), strict=True)
        return tuple(
            Region(number, kind, size, Box(*box), number in edge, outline, labels)
            for number, (kind, size, box, outline) in enumerate(found)
        )

    @cached_property
    def ink_box(self) -> Box | None:
        """The box of all that is not ground."""
        rows, columns = np.flatnonzero(self.kinds.any(axis=1)), np.flatnonzero(self.kinds.any(axis=0))
        return Box(int(columns[0]), int(rows[0]), int(columns[-1]) + 1, int(rows[-1]) + 1) if len(rows) else None

    @cached_property
    def carrier(self) -> int | None:
        """The kind of a plate: the largest area of ink that lies on the ground and holds other colours, and no rim."""
        beside = self.beside
        on_ground = [kind for kind in range(1, len(beside)) if beside[kind, 0] > _LIES_ON * beside[kind].sum()]
        areas = np.bincount(self.kinds.ravel(), minlength=len(beside))
        held = [kind for kind in on_ground if any(beside[kind, other] for other in range(1, len(beside)))]
        largest = max(held, key=lambda kind: areas[kind], default=None)
        return largest if largest and areas[largest] >= _CARRIES * areas[1:].sum() else None

    @cached_property
    def beside(self) -> NDArray[np.int64]:
        """How many px of two kinds lie side by side: shape (kinds, kinds), the same across its diagonal."""
        count, kinds = len(self.colours), self.kinds.ravel()[self.areas.firsts].astype(np.intp)
        one, other = (kinds[side] for side in self.borders)
        pairs = np.bincount(one * count + other, minlength=count * count).reshape(count, count)
        beside: NDArray[np.int64] = pairs + pairs.T
        return beside
