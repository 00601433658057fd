"""A drawing whose edges were moved, reduced to an icon: each px is the mean of what comes to lie on it."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.light import Light, Pixels, to_pixels


def warped(light: Light, across: NDArray[np.float64], down: NDArray[np.float64]) -> Pixels:
    """The icon of a drawing, shape (samples, samples, 4), reduced in linear light.

    `across` and `down` are the weights of columns and rows: shape (size, samples).
    """
    rows = _along(light, down)
    return to_pixels(_along(rows.swapaxes(0, 1), across).swapaxes(0, 1))


def _along(light: NDArray[np.floating], weights: NDArray[np.float64]) -> NDArray[np.float64]:
    """Weighted sums of rows; by plain additions in order, which are the same on every processor."""
    sums = []
    for own in weights:
        counted = np.flatnonzero(own)
        some = slice(counted[0], counted[-1] + 1)
        sums.append((light[some] * own[some, None, None]).sum(axis=0))
    return np.stack(sums)


def weights(places: Sequence[float], px: Sequence[float], size: int, samples: int) -> NDArray[np.float64]:
    """How much each sample counts in each px of an icon, when what is at `places` comes to lie on `px`.

    Between those, and between them and the square's own sides, everything is stretched evenly. All in px.
    """
    inner = [(place, moved) for place, moved in zip(places, px, strict=True) if 0 < place < size]
    known, moved = zip((0.0, 0.0), *inner, (size, size), strict=True)
    borders = np.interp(np.linspace(0, size, samples + 1), known, moved)
    first = np.arange(size)[:, None]
    covered = np.minimum(borders[1:], first + 1) - np.maximum(borders[:-1], first)
    result: NDArray[np.float64] = np.clip(covered, 0, None)
    return result
