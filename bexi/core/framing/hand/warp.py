"""A drawing whose edges were moved, reduced to an icon: each px is the mean of what comes to lie on it."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.light import Light, Pixels, to_pixels

_STEPS = 255 * 2.0**32
"""Of light: what differs by less is the sums' own rounding, which must not tell how half a step is rounded."""


@dataclass(frozen=True, eq=False)
class Pieces:
    """One axis of a drawing in pieces, each of which is stretched evenly and lies within one px of the icon.

    `ends` are the places, in samples, between which they lie; `stretched` the px that a sample of each becomes;
    `firsts` the number of each px's first piece.
    """

    ends: NDArray[np.float64]
    stretched: NDArray[np.float64]
    firsts: NDArray[np.intp]


def summed(light: Light) -> NDArray[np.float64]:
    """Sums of all rows above each border of rows: shape (rows, columns, 4) in, (rows + 1, columns, 4) out."""
    sums = np.empty((light.shape[0] + 1, *light.shape[1:]))
    sums[0] = 0
    for above, row, below in zip(sums, light, sums[1:], strict=False):  # a fifth of cumsum's time along rows
        np.add(above, row, out=below)
    return sums


def warped(sums: NDArray[np.float64], across: Pieces, down: Pieces) -> Pixels:
    """The icon of a drawing, told by the sums of its light, shape (samples + 1, samples, 4)."""
    rows = _means(sums, down)
    columns = np.zeros((len(rows), rows.shape[1] + 1, rows.shape[2]))
    np.cumsum(rows, axis=1, out=columns[:, 1:])
    light = _means(columns.swapaxes(0, 1), across).swapaxes(0, 1)
    return to_pixels(np.rint(light * _STEPS) / _STEPS)


def _means(sums: NDArray[np.float64], pieces: Pieces) -> NDArray[np.float64]:
    """What lies on each px, by plain sums in order, which are the same on every processor; nothing stays nothing."""
    whole = np.minimum(pieces.ends.astype(np.intp), len(sums) - 2)
    at_ends, rows = sums[whole], sums[whole + 1]
    rows -= at_ends
    rows *= (pieces.ends - whole)[:, None, None]
    at_ends += rows
    made = np.diff(at_ends, axis=0)
    made *= pieces.stretched[:, None, None]
    means = made[pieces.firsts]
    for px, (first, past) in enumerate(pairwise([*pieces.firsts.tolist(), len(made)])):
        for piece in made[first + 1 : past]:
            means[px] += piece
    return means


def pieces_of(places: Sequence[float], px: Sequence[float], size: int, samples: int) -> Pieces:
    """An axis when what is at `places` comes to lie on `px`.

    Between those, and between them and the square's own sides, everything is stretched evenly. All in px.
    """
    inner = [(place, moved) for place, moved in zip(places, px, strict=True) if 0 < place < size]
    known, moved = (np.array(one) for one in zip((0.0, 0.0), *inner, (size, size), strict=True))
    borders = np.arange(samples + 1)
    lie_on = np.interp(borders * (size / samples), known, moved)
    knots = known * (samples / size)
    ends = np.unique(np.concatenate([np.floor(knots), np.ceil(knots), np.interp(np.arange(size), lie_on, borders)]))
    ends = ends[ends <= samples]
    on_px = np.interp(ends, borders, lie_on)
    middles = (on_px[1:] + on_px[:-1]) / 2
    return Pieces(ends, np.diff(on_px) / np.diff(ends), np.searchsorted(middles, np.arange(size)))
