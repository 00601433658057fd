"""Resizing in linear light with premultiplied alpha, by a Lanczos filter as wide as the reduction asks."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

LOBES = 3
_BAND_ROWS = 64

Rows = Callable[[int, int], NDArray[np.float32]]
"""Gives rows `start` to `stop` of a picture as linear, premultiplied light, flattened to shape (rows, columns × 4)."""


@dataclass(frozen=True)
class Stretch:
    """A stretch of samples to be resized to `size`: `length` samples from `start`, of a row of `count`.

    Start and length need not be whole; the stretch may reach beyond the row, where nothing is.
    """

    start: float
    length: float
    count: int
    size: int

    @property
    def inside(self) -> slice:
        """The samples of the row that lie in the stretch, wholly or in part."""
        edges = math.floor(self.start), math.ceil(self.start + self.length)
        return slice(*(max(0, min(self.count, edge)) for edge in edges))


def lanczos_weights(stretch: Stretch) -> NDArray[np.float32]:
    """Weights of the samples inside a stretch for each resampled one: shape (size, samples inside).

    The kernel widens with the reduction (a proper low-pass). Weights over the whole stretch sum to 1, so those of
    samples inside sum to less where the stretch reaches beyond the row.
    Duchon, "Lanczos Filtering in One and Two Dimensions", 1979.
    """
    scale = max(stretch.length / stretch.size, 1.0)
    centres = stretch.start + (np.arange(stretch.size) + 0.5) * stretch.length / stretch.size
    taps = int(np.ceil(LOBES * scale)) * 2 + 1
    columns = np.floor(centres - LOBES * scale).astype(np.int64)[:, None] + np.arange(taps)
    offsets = (columns + 0.5 - centres[:, None]) / scale
    kernel = np.sinc(offsets) * np.sinc(offsets / LOBES)
    kernel[np.abs(offsets) >= LOBES] = 0
    # A sample that the stretch takes in part counts in part.
    end = stretch.start + stretch.length
    kernel *= np.clip(np.minimum(columns + 1, end) - np.maximum(columns, stretch.start), 0, 1)
    kernel /= kernel.sum(axis=1, keepdims=True)
    inside = stretch.inside
    kernel[(columns < inside.start) | (columns >= inside.stop)] = 0
    weights = np.zeros((stretch.size, inside.stop - inside.start), dtype=np.float32)
    rows, used = np.nonzero(kernel)
    weights[rows, columns[rows, used] - inside.start] = kernel[rows, used]
    return weights


def resize_rows(rows: Rows, stretches: Sequence[Stretch]) -> list[NDArray[np.float32]]:
    """Resize the rows of a picture to each stretch in one pass over bands: arrays of shape (size, columns × 4)."""
    weights = [lanczos_weights(stretch) for stretch in stretches]
    first = min(stretch.inside.start for stretch in stretches)
    last = max(stretch.inside.stop for stretch in stretches)
    results: list[NDArray[np.float32]] = []
    for start in range(first, last, _BAND_ROWS):
        stop = min(start + _BAND_ROWS, last)
        band = rows(start, stop)
        if not results:
            results = [np.zeros((stretch.size, band.shape[1]), dtype=np.float32) for stretch in stretches]
        for stretch, weight, result in zip(stretches, weights, results, strict=True):
            _add(result, weight, band, start - stretch.inside.start)
    return results


def _add(result: NDArray[np.float32], weight: NDArray[np.float32], band: NDArray[np.float32], offset: int) -> None:
    """Add what a band gives, whose first row is number `offset` of the weighted ones; few results are touched."""
    low, high = max(offset, 0), min(offset + len(band), weight.shape[1])
    part = weight[:, low:high]
    touched = np.flatnonzero(part.any(axis=1))
    if len(touched):
        span = slice(touched[0], touched[-1] + 1)
        result[span] += part[span] @ band[low - offset : high - offset]


def turned(flat: NDArray[np.float32]) -> NDArray[np.float32]:
    """Rows of pixels as columns: (rows, columns × 4) to (columns, rows × 4)."""
    rows = flat.shape[0]
    return np.ascontiguousarray(flat.reshape(rows, -1, 4).transpose(1, 0, 2)).reshape(-1, rows * 4)


def resize_columns(flat: NDArray[np.float32], stretch: Stretch) -> NDArray[np.float32]:
    """Resize the columns of one flattened picture: shape (rows, size × 4)."""
    across = turned(flat)
    (result,) = resize_rows(lambda start, stop: across[start:stop], [stretch])
    return turned(result)
