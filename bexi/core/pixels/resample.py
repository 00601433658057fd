"""Resizing in linear light with premultiplied alpha, by a Lanczos filter as wide as the reduction asks."""

import math
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from threadpoolctl import threadpool_limits

from bexi.core.pixels.light import Planes

LOBES = 3
_ROWS, _COLUMNS = 32, 64
"""How many resampled rows and columns make a band [measured]."""
_TILE = 8
"""So many bands of columns are made from the same light, which then stays in the processor's cache [measured]."""
_WORKERS = 2
"""Bands are made apart from each other, so that any number of workers gives the same result."""

Rows = Callable[[slice, slice], Planes]
"""Gives some rows and columns of a picture as light in planes."""


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


@dataclass(frozen=True, eq=False)
class Band:
    """A run of resampled samples and the samples they are made of: `weights` has shape (outputs, inputs)."""

    outputs: slice
    inputs: slice
    weights: NDArray[np.float32]


def lanczos_bands(stretch: Stretch, length: int) -> list[Band]:
    """The weights of a resized stretch, in bands of `length` samples; those that nothing reaches are left out.

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
    runs = (slice(start, min(start + length, stretch.size)) for start in range(0, stretch.size, length))
    return [_band(run, columns[run], kernel[run]) for run in runs if kernel[run].any()]


def _band(run: slice, columns: NDArray[np.int64], kernel: NDArray[np.float64]) -> Band:
    rows, used = np.nonzero(kernel)
    reached = columns[rows, used]
    first, last = int(reached.min()), int(reached.max()) + 1
    weights = np.zeros((len(kernel), last - first), dtype=np.float32)
    weights[rows, reached - first] = kernel[rows, used]
    return Band(run, slice(first, last), weights)


def resize(rows: Rows, down: Stretch, across: Stretch) -> Planes:
    """A stretch of a picture resized: planes of shape (4, down.size, across.size)."""
    result = np.zeros((4, down.size, across.size), dtype=np.float32)
    columns = lanczos_bands(across, _COLUMNS)
    tiles = [columns[start : start + _TILE] for start in range(0, len(columns), _TILE)]

    def fill(band: Band) -> None:
        for tile in tiles:
            first = min(column.inputs.start for column in tile)
            light = rows(band.inputs, slice(first, max(column.inputs.stop for column in tile)))
            flat = (band.weights @ light).reshape(-1, light.shape[2])
            for column in tile:
                span = slice(column.inputs.start - first, column.inputs.stop - first)
                made = flat[:, span] @ column.weights.T
                result[:, band.outputs, column.outputs] = made.reshape(4, -1, made.shape[1])

    # One thread for each product: the bands themselves are spread over the workers.
    with threadpool_limits(1, "blas"), ThreadPoolExecutor(_WORKERS) as workers:
        list(workers.map(fill, lanczos_bands(down, _ROWS)))
    return result
