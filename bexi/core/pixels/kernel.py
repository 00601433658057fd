"""The weights by which a row of samples becomes a shorter one: whole numbers, the same on every machine.

A weight is a whole number of 1/ONE. Products of such weights with whole light and their sums stay below 2^53, where
double precision is exact, so neither the order of adding nor the processor's arithmetic leaves a trace in an icon.
"""

import math
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

Weights = NDArray[np.float64]

LOBES = 3
ONE = float(2**26)
"""What the weights of one output sample sum to."""
HALVING = (1, 3, 3, 1)
"""Of 8, the weights of four samples in the one between them: the refinement of a quadratic B-spline, backwards."""


@dataclass(frozen=True)
class Axis:
    """`side` samples from `start` of a row of `count`, to become `size`; beyond the row there is nothing."""

    start: int
    side: int
    count: int
    size: int

    @property
    def inside(self) -> slice:
        """The samples that are in the row."""
        return slice(max(0, self.start), max(0, min(self.count, self.start + self.side)))

    @property
    def scale(self) -> float:
        """The width of the kernel's main lobe to either side, in samples."""
        return max(self.side / self.size, 1.0)

    @cached_property
    def centres(self) -> NDArray[np.float64]:
        """Where the output samples lie in the row."""
        return self.start + _centres(self.side, self.size)

    @property
    def main_lobes(self) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
        """For each output sample the first sample under its main lobe and one past the last, kept in the stretch."""
        first, past = _reach(self.side, self.size, 1)
        return first + self.start, past + self.start


def _centres(side: int, size: int) -> NDArray[np.float64]:
    centres: NDArray[np.float64] = (np.arange(size, dtype=np.float64) + 0.5) * (side / size)
    return centres


def _reach(side: int, size: int, lobes: int) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """The samples whose centres are less than so many lobes from each output sample, kept within `side`."""
    middle, away = (2 * np.arange(size) + 1) * side - size, 2 * lobes * max(side, size)  # in halves of 1/size
    first = (middle - away) // (2 * size) + 1
    past = -(-(middle + away) // (2 * size))
    return np.maximum(first, 0), np.minimum(past, side)


@lru_cache(maxsize=128)  # while a frame is moved, its side stays
def _taps(side: int, size: int) -> tuple[NDArray[np.int64], Weights, NDArray[np.float64]]:
    """Of each output sample the first sample that has a weight, the weights from there, and what they summed to."""
    first, past = _reach(side, size, LOBES)
    samples = first[:, None] + np.arange(int((past - first).max()))
    values = lanczos((samples + 0.5 - _centres(side, size)[:, None]) / max(side / size, 1.0))
    values[samples >= past[:, None]] = 0
    sums = values.sum(axis=1)
    taps = np.rint(values * (ONE / sums[:, None]))
    taps[np.arange(size), np.abs(values).argmax(axis=1)] += ONE - taps.sum(axis=1)
    return first, taps, sums


class Kernel:
    """Lanczos weights over a stretch: the kernel widens with the reduction and is cut where the stretch ends.

    Duchon, "Lanczos Filtering in One and Two Dimensions", 1979.
    """

    def __init__(self, axis: Axis) -> None:
        self.axis = axis
        first, self._taps, self._sums = _taps(axis.side, axis.size)
        self._first = first + axis.start

    def direct(self, outputs: slice, samples: slice) -> Weights:
        """The weights of some samples in some outputs: shape (outputs, samples)."""
        width = self._taps.shape[1]
        wide = np.zeros((outputs.stop - outputs.start, samples.stop - samples.start + 2 * width))
        place = np.clip(self._first[outputs] - samples.start, -width, wide.shape[1] - 2 * width) + width
        np.put_along_axis(wide, place[:, None] + np.arange(width), self._taps[outputs], axis=1)
        return wide[:, width : wide.shape[1] - width]

    def using(self, samples: slice) -> slice:
        """The outputs in which some samples have a weight."""
        past = self._first + self._taps.shape[1]
        return slice(
            int(np.searchsorted(past, samples.start, "right")), int(np.searchsorted(self._first, samples.stop, "left"))
        )

    def reading(self, outputs: slice) -> slice:
        """The samples of the row that have a weight in some outputs."""
        inside, last = self.axis.inside, outputs.stop - 1
        first, past = int(self._first[outputs.start]), int(self._first[last]) + self._taps.shape[1]
        return slice(max(first, inside.start), max(min(past, inside.stop), max(first, inside.start)))

    def on(self, level: "Level", outputs: slice, cells: slice) -> Weights:
        """The weights of cells of a level in some outputs, so that the cells stand for the samples below them.

        Each cell is a smooth mean of samples; asking the kernel at the neighbouring cells, too, makes up for that.
        """
        positions = (np.arange(cells.start - 3, cells.stop + 3) + 0.5) * level.pitch
        values = lanczos((positions - self.axis.centres[outputs, None]) / self.axis.scale)
        sharper = sum(part * values[:, at : at + cells.stop - cells.start] for at, part in enumerate(level.sharpening))
        weights: Weights = np.rint(sharper * (level.pitch * ONE / self._sums[outputs, None]))
        kept = level.cells(self.axis)
        weights[:, : max(0, kept.start - cells.start)] = 0
        weights[:, max(0, kept.stop - cells.start) :] = 0
        return weights

    def left_to(self, level: "Level", outputs: slice, samples: slice) -> Weights:
        """What the weights on a level leave to samples near an end of the stretch."""
        pitch = level.pitch
        cells = slice(samples.start // pitch - 2, samples.stop // pitch + 3)
        told = self.on(level, outputs, cells) @ level.spread(cells, samples) / sum(HALVING) ** level.number
        weights: Weights = np.rint(self.direct(outputs, samples) - told)
        return weights


@dataclass(frozen=True)
class Level:
    """A row halved `number` times, weighed by HALVING. Cell m stands for the `pitch` samples from m · pitch."""

    number: int

    @property
    def pitch(self) -> int:
        """Samples for each cell."""
        return int(2**self.number)

    def cells(self, axis: Axis) -> slice:
        """The cells that are made of samples of the stretch alone; from past their end if there are none."""
        inside, more = axis.inside, self.pitch - 1
        return slice((inside.start + more + self.pitch - 1) // self.pitch, (inside.stop - more) // self.pitch)

    def ends(self, axis: Axis) -> tuple[slice, slice] | None:
        """The samples at both ends for which the cells do not stand in full; None when that is all of them."""
        cells, inside = self.cells(axis), axis.inside
        near, far = cells.start * self.pitch + self.pitch - 1, cells.stop * self.pitch - self.pitch + 1
        return (slice(inside.start, near), slice(far, inside.stop)) if near < far else None

    @cached_property
    def sharpening(self) -> tuple[float, ...]:
        """Seven symmetric weights that undo the smoothing of the cells up to its sixth order in frequency.

        From the cumulants of the binomial distributions that the halvings are (each counted in cells), the series of
        the inverse is exp(c2 w²/2 - c4 w⁴/24 + c6 w⁶/720), and w² = t + t²/12 + t³/90 with t = 4 sin²(w/2).
        """
        n = len(HALVING) - 1
        c2, c4, c6 = (
            part * sum(2.0 ** (order * (done - self.number)) for done in range(self.number))
            for order, part in ((2, n / 4), (4, -n / 8), (6, n / 4))
        )
        in_w = (c2 / 2, c2**2 / 8 - c4 / 24, c2**3 / 48 - c2 * c4 / 48 + c6 / 720)
        in_t = (in_w[0], in_w[1] + in_w[0] / 12, in_w[2] + in_w[1] / 6 + in_w[0] / 90)
        taps, power = np.array([0, 0, 0, 1.0, 0, 0, 0]), np.array([1.0])
        for part in in_t:
            power = np.convolve(power, (-1, 2, -1))
            taps += np.pad(part * power, (7 - len(power)) // 2)
        return tuple(map(float, taps))

    def spread(self, cells: slice, samples: slice) -> Weights:
        """The weight, in 8^-number, of each sample in each cell: shape (cells, samples)."""
        mask = np.array([1])
        for _ in range(self.number):
            fine = np.zeros(2 * len(mask) - 1, dtype=mask.dtype)
            fine[::2] = mask
            mask = np.convolve(fine, HALVING)
        first = np.arange(cells.start, cells.stop)[:, None] * self.pitch - (self.pitch - 1)
        place = np.arange(samples.start, samples.stop) - first
        covered = (place >= 0) & (place < len(mask))
        return np.where(covered, mask[np.where(covered, place, 0)], 0).astype(np.float64)


def lanczos(offsets: NDArray[np.float64]) -> NDArray[np.float64]:
    """The Lanczos kernel of three lobes; by additions and products alone, which every processor rounds alike."""
    values = np.zeros_like(offsets)
    inner = np.abs(offsets) < LOBES
    near = np.where(offsets[inner] == 0, 1.0, offsets[inner])
    values[inner] = LOBES * _sine_of_pi(near) * _sine_of_pi(near / LOBES) / (math.pi**2 * near * near)
    values[offsets == 0] = 1
    return values


def _sine_of_pi(turns: NDArray[np.float64]) -> NDArray[np.float64]:
    """sin(pi · turns), by its Taylor series around the nearest whole number."""
    nearest = np.rint(turns)
    rest = turns - nearest
    square = rest * rest
    series = np.zeros_like(rest)
    for order in range(21, 0, -2):
        series = series * square + (-1) ** (order // 2) * math.pi**order / math.factorial(order)
    series *= rest
    return np.where(nearest % 2 == 0, series, -series)
