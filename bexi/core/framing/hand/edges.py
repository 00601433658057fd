"""Long straight edges of a drawing, along each axis: where ink begins or ends."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bexi.core.framing.hand.kinds import ACROSS, DIFFERENCE, SIDE, kinds_of
from bexi.core.pixels.light import Pixels

LONG = 1 / 8
"""Of the side: shorter edges are no stems."""
_WITHIN = 1 / 4
"""Of a px: an edge that leans or bends by less is straight; a ring's outermost arc is, too."""
_STANDS_OUT = 2.0
"""Times more edge at one place than around it; a hatching has as much everywhere."""
APART = 1 / 3
"""Of a px: edges of one kind that are nearer are one."""
_TEXTURE = 0.1
"""Of all samples: with more of them at a border, the picture is a photograph or a texture."""


@dataclass(frozen=True)
class Edge:
    """An edge at a place, both it and its length in px of the icon; `begins` where ink begins, going right or down."""

    place: float
    length: float
    begins: bool


@dataclass(frozen=True, eq=False)
class Outlines:
    """Where samples of edge lie along an axis, 0 to SIDE, and whether ink begins there; shape (n,), as the widths.

    `widths` are of the line each is a side of, in samples, infinite where what lies beyond is not the same on both.
    """

    places: NDArray[np.intp]
    begins: NDArray[np.bool_]
    widths: NDArray[np.float64]

    def edges(self, size: int) -> list[Edge]:
        """Those that matter to an icon of `size` px, in their order; a hairline's do not, or it would close."""
        thick = self.widths > APART * SIDE / size
        found = [*self._peaks(thick, size, begins=True), *self._peaks(thick, size, begins=False)]
        return sorted(
            found, key=lambda edge: (round(edge.place, 1), edge.begins)
        )  # at one place, ink ends before it begins

    def _peaks(self, chosen: NDArray[np.bool_], size: int, begins: bool) -> Iterator[Edge]:
        counts = np.bincount(self.places[chosen & (self.begins == begins)], minlength=SIDE + 1)
        return _peaks(counts.astype(np.float64), size, begins)


def outlines_of(pixels: Pixels) -> tuple[Outlines, Outlines] | None:
    """Those across and down of a drawing, shape (SIDE, SIDE, 4); None for a photograph or where there is no ink."""
    told = kinds_of(pixels)
    if told is None:
        return None
    kinds = told.numbers
    if (kinds[:, 1:] != kinds[:, :-1]).mean() > _TEXTURE:
        return None
    solid = pixels.astype(np.int16)
    return _along(kinds, solid), _along(kinds.T, solid.swapaxes(0, 1))


def _along(kinds: NDArray[np.uint8], solid: NDArray[np.int16]) -> Outlines:
    """Of the columns' borders."""
    left, right = kinds[:, :-1], kinds[:, 1:]
    rows, columns = np.divmod(np.flatnonzero(left != right), left.shape[1])  # a fifth of nonzero's time
    is_from, is_to = left[rows, columns], right[rows, columns]
    before, behind = np.maximum(columns - ACROSS, 0), np.minimum(columns + 1 + ACROSS, kinds.shape[1] - 1)
    sharp = np.abs(solid[rows, before] - solid[rows, behind]).max(axis=-1, initial=0) >= DIFFERENCE
    is_line = (rows[1:] == rows[:-1]) & (is_from[:-1] == is_to[1:]) & (is_from[:-1] < is_to[:-1])
    between, widths = np.where(is_line, np.diff(columns), np.inf), np.full(len(rows), np.inf)
    widths[:-1] = between
    widths[1:] = np.minimum(widths[1:], between)
    at_rim = np.count_nonzero(kinds[:, 0]), np.count_nonzero(kinds[:, -1])
    return Outlines(
        np.concatenate([columns[sharp] + 1, np.repeat((0, kinds.shape[1]), at_rim)]),
        np.concatenate([(is_from < is_to)[sharp], np.repeat((True, False), at_rim)]),
        np.concatenate([widths[sharp], np.full(sum(at_rim), np.inf)]),
    )


def _peaks(counts: NDArray[np.float64], size: int, begins: bool) -> Iterator[Edge]:
    """The places at which much of an edge lies together, the longest first."""
    px = SIDE / size
    near = max(1, round(_WITHIN * px / 2))
    sums = np.convolve(counts, np.ones(2 * near + 1), mode="same")
    around = np.convolve(counts, np.ones(2 * round(1.5 * px) + 1), mode="same") * ((2 * near + 1) / (3 * px))
    left = np.where(sums >= _STANDS_OUT * around, sums, 0)
    while (most := left.max()) >= LONG * SIDE:
        at = int(left.argmax())
        # Of a ring's outermost arc most lies at its very end; of a straight edge all of it within a sample.
        most_at = max(0, at - near) + int(counts[max(0, at - near) : at + near + 1].argmax())
        places = np.arange(max(0, most_at - 1), min(len(counts), most_at + 2))
        place = float((places * counts[places]).sum() / counts[places].sum())
        yield Edge(place / px, float(most) / px, begins)
        apart = round(APART * px)
        left[max(0, at - apart) : at + apart + 1] = 0
