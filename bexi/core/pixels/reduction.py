"""Reducing a square of a picture to icons, in linear light with premultiplied alpha, exactly as if it were cut first.

An icon is the Lanczos reduction of what lies in the square and of nothing else, kept within the light that is there.
So that icons much smaller than the picture need not be made from all its pixels each time, its rows are halved to
levels first; near the ends of the square, where a level knows of what lies beyond, the pixels themselves are used.
"""

import os
from collections.abc import Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cached_property
from threading import Lock

import numpy as np
from numpy.typing import NDArray
from threadpoolctl import ThreadpoolController

from bexi.core.pixels.bounds import keep_bounded, parts_of
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.enlargement import colours_of, enlarged
from bexi.core.pixels.heap import share_heap
from bexi.core.pixels.kernel import ONE, Axis, Kernel, Level, Weights
from bexi.core.pixels.laid import FINE, WHOLE, LaidPicture
from bexi.core.pixels.levels import DEEPEST, GRID, Joined, Pyramid, Rows, Wanted, halved_across, take
from bexi.core.pixels.light import ALPHA, Light, Pixels

HEADROOM = 4
"""A level has at least so many cells for each px of the icon, so that it leaves no trace in it."""
_KEPT_ROWS = 256
"""Levels with at most so many rows are kept."""
_COLUMNS = 128
"""So many columns of the picture are reduced together; a multiple of every pitch [measured]."""
_OUTPUTS = 16
"""So many output rows are made by one product [measured]."""
_AHEAD = 1024
"""So many rows of pixels become light at once: threads work side by side on large parts only [measured]."""
_WORKERS = 1 if os.environ.get("BEXI_ONE_THREAD") == "1" else 2
"""Where other processes keep the cores busy, threads that wait for each other take longer than one [measured]."""
_products = ThreadpoolController()


@dataclass(frozen=True, eq=False)
class _Band:
    """A run of output rows and the rows they are made of: `weights` has shape (outputs, inputs)."""

    outputs: slice
    inputs: slice
    weights: Weights


class _Icon:
    """One icon to be made: which level it is made from, with which weights."""

    def __init__(self, down: Axis, across: Axis) -> None:
        self.size = down.size
        self.down, self.across = Kernel(down), Kernel(across)
        self.level = _level_for(down)
        self.squares = min(DEEPEST, _halvings(down, HEADROOM // 2))
        self.halved_across = self.level.ends(across) is not None
        ends = self.level.ends(down) if self.level.number else None
        self.ends = [self._end(end) for end in ends or () if end.start < end.stop]

    @cached_property
    def bands(self) -> list[_Band]:
        """All its rows, from its level."""
        runs = [slice(first, min(first + _OUTPUTS, self.size)) for first in range(0, self.size, _OUTPUTS)]
        bands = [self._band(run) for run in runs]
        return [band for band in bands if band.inputs.start < band.inputs.stop]

    def _band(self, outputs: slice) -> _Band:
        samples = self.down.reading(outputs)
        if not self.level.number:
            return _Band(outputs, samples, self.down.direct(outputs, samples))
        pitch, all_cells = self.level.pitch, self.level.cells(self.down.axis)
        first = max(all_cells.start, samples.start // pitch - 3)
        cells = slice(first, max(first, min(all_cells.stop, -(-samples.stop // pitch) + 3)))
        return _Band(outputs, cells, self.down.on(self.level, outputs, cells) * (FINE / WHOLE))

    def _end(self, samples: slice) -> _Band:
        outputs = self.down.using(samples)
        return _Band(outputs, samples, self.down.left_to(self.level, outputs, samples))

    def from_level(
        self, cells: NDArray[np.float64], level: Rows, ends: Mapping[tuple[int, int], NDArray[np.float64]]
    ) -> NDArray[np.float64]:
        """The icon, as fine light times ONE of shape (size, size, 4), from its level halved both ways.

        With rows and columns reduced from the level, what is missing is what the level leaves to the ends of each
        column, reduced from there as from the pixels, and to the ends of each row of the level.
        """
        rows, columns = self.level.cells(self.down.axis), self.level.cells(self.across.axis)
        every = slice(0, self.size)
        down = self.down.on(self.level, every, rows) * (FINE / WHOLE)
        total = _fine_rows(down, cells[rows, columns]) @ self.across.on(self.level, every, columns).T
        for end in self.level.ends(self.across.axis) or ():
            if end.start < end.stop:
                outputs = self.across.using(end)
                light = level[rows, 4 * end.start : 4 * end.stop].astype(np.float64)
                total[:, :, outputs] += _fine_rows(down, light) @ self.across.left_to(self.level, outputs, end).T
        across = self.across.direct(every, self.across.axis.inside).T
        for band in self.ends:
            light = ends[band.inputs.start, band.inputs.stop]
            total[band.outputs] += _fine_rows(band.weights, light) @ across
        return total.swapaxes(1, 2)

    def part(self, rows: NDArray[np.float64], columns: slice) -> tuple[slice, NDArray[np.float64]]:
        """What reduced rows of some columns give to the icon: to which of its columns, shape (size, 4, columns)."""
        outputs = self.across.using(columns)
        channels = rows.reshape(self.size, -1, 4).swapaxes(1, 2).reshape(4 * self.size, -1)
        made = channels @ self.across.direct(outputs, columns).T
        return outputs, made.reshape(self.size, 4, -1)


def _fine_rows(weights: Weights, light: NDArray[np.float64]) -> NDArray[np.float64]:
    """Rows made of light whose rows are pixels side by side: whole fine light of shape (outputs, 4, columns)."""
    made = weights @ light.reshape(len(light), -1)
    made *= 1 / ONE
    return np.rint(made, out=made).reshape(len(weights), -1, 4).swapaxes(1, 2)


def _level_for(axis: Axis) -> Level:
    """The deepest level with HEADROOM that stands for more of the stretch than its ends."""
    deepest = min(DEEPEST, _halvings(axis, HEADROOM))
    return next((level for level in map(Level, range(deepest, 0, -1)) if level.ends(axis)), Level(0))


def _halvings(axis: Axis, headroom: int) -> int:
    """How often a stretch can be halved so that `headroom` times the output's samples are left."""
    return max(0, (axis.side // (headroom * axis.size)).bit_length() - 1)


@dataclass(frozen=True, eq=False)
class _Kept:
    """What a whole picture keeps for icons much smaller than itself: `halved` are levels halved both ways."""

    taken: Pyramid
    halved: Mapping[int, NDArray[np.float64]]


class Reduction:
    """A picture on a ground, if one is given, ready to be reduced; what it keeps is made once and never changes."""

    def __init__(self, pixels: Pixels, ground: Colour | None) -> None:
        self._picture = LaidPicture(pixels, ground)
        self._making = Lock()
        self._kept: _Kept | None = None
        share_heap()

    def square(self, left: int, top: int, side: int, sizes: Sequence[int]) -> list[Light]:
        """The square `(left, top, side)` of the picture at each of `sizes`: light of shape (size, size, 4).

        The square may reach outside the picture; there it is ground, or clear.
        """
        height, width = self._picture.height, self._picture.width
        icons = [_Icon(Axis(top, side, height, size), Axis(left, side, width, size)) for size in sizes]
        # One thread for each product: the work itself is spread over the workers.
        with _products.limit(limits=1, user_api="blas"), ThreadPoolExecutor(_WORKERS) as workers:
            made = {icon: light for icon in icons if (light := self._enlarged(icon)) is not None}
            kept = [icon for icon in icons if icon.halved_across and icon.level.number >= self._least_kept]
            others = [icon for icon in icons if icon not in made and icon not in kept]
            if others:
                made |= zip(others, self._in_stripes(others, workers), strict=True)
            if kept:
                made |= zip(kept, self._from_kept(kept, workers), strict=True)
            return [made[icon] for icon in icons]

    def _enlarged(self, icon: _Icon) -> Light | None:
        """An icon with more px than there are pixels, if it has few colours."""
        down, across = icon.down.axis, icon.across.axis
        colours = colours_of(self._picture, down, across) if down.size > down.side else None
        if colours is None:
            return None
        return (enlarged(self._picture, colours, down, across) / FINE).astype(np.float32)

    def _in_stripes(self, icons: Sequence[_Icon], workers: ThreadPoolExecutor) -> list[Light]:
        """Icons whose rows are reduced stripe by stripe, and then their columns."""
        picture = self._picture
        rows, columns = (_widened(axis.inside, axis.count) for axis in (icons[0].down.axis, icons[0].across.axis))
        wanted = Wanted({icon.level.number for icon in icons}, {icon.squares for icon in icons})
        whole = rows == slice(0, picture.height) and columns == slice(0, picture.width)
        keep = whole and self._kept is None and max(wanted.levels) > 0
        asked = self._wanted_to_keep.beside(wanted) if keep else wanted
        sums = {icon: np.zeros((icon.size, 4, icon.size)) for icon in icons}

        def reduce(stripe: slice) -> tuple[Pyramid, list[tuple[slice, NDArray[np.float64]]]]:
            taken = take(picture, rows, stripe, asked)
            sources = _Sources(picture, taken, rows.stop, stripe)
            parts = [icon.part(sources.rows_of(icon), stripe) for icon in icons]
            return taken.only(self._wanted_to_keep.levels if keep else ()), parts

        stripes, collected = _stripes(columns), Joined(columns)
        for stripe, (part_taken, parts) in zip(stripes, workers.map(reduce, stripes), strict=True):
            collected.put(stripe, part_taken)
            for total, (outputs, part) in zip(sums.values(), parts, strict=True):
                total[:, :, outputs] += part
        taken = collected.whole
        if keep:
            self._keep(workers, taken)
        return self._finished(icons, [sums[icon].swapaxes(1, 2) for icon in icons], taken, workers)

    def _from_kept(self, icons: Sequence[_Icon], workers: ThreadPoolExecutor) -> list[Light]:
        """Icons made of levels halved both ways, and of pixels near the ends of the square."""
        kept, inside = self._keep(workers), icons[0].across.axis.inside
        ends = {(end.inputs.start, end.inputs.stop): end.inputs for icon in icons for end in icon.ends}
        light = workers.map(lambda rows: self._picture.fine_light(rows, inside), ends.values())
        lights = dict(zip(ends, light, strict=True))

        def make(icon: _Icon) -> NDArray[np.float64]:
            number = icon.level.number
            return icon.from_level(kept.halved[number], kept.taken.levels[number], lights)

        return self._finished(icons, list(workers.map(make, icons)), kept.taken, workers)

    def _finished(
        self, icons: Sequence[_Icon], totals: Sequence[NDArray[np.float64]], taken: Pyramid, workers: ThreadPoolExecutor
    ) -> list[Light]:
        """The icons laid on what lies around the picture, and bounded."""
        picture, outside = self._picture, self._picture.light_of(self._picture.outside)

        def finish(icon: _Icon, total: NDArray[np.float64], rows: slice) -> Light:
            light = np.divide(total[rows], ONE, order="C")
            if outside.any():
                light += (1 - light[..., ALPHA:] / FINE) * outside  # the weights sum to 1
            keep_bounded(light, picture, taken.extremes.get(icon.squares), icon.down.axis, icon.across.axis, rows)
            light /= FINE
            return light.astype(np.float32)

        parts = [(icon, total, rows) for icon, total in zip(icons, totals, strict=True) for rows in parts_of(icon.size)]
        made: dict[_Icon, list[Light]] = {icon: [] for icon in icons}
        for (icon, _, _), light in zip(parts, workers.map(finish, *zip(*parts, strict=True)), strict=True):
            made[icon].append(light)
        return [np.concatenate(made[icon]) for icon in icons]

    @property
    def _least_kept(self) -> int:
        """The number of the first level that is small enough to be kept, at least 1."""
        return int(max(1, (-(-self._picture.height // _KEPT_ROWS) - 1).bit_length()))

    @property
    def _wanted_to_keep(self) -> Wanted:
        numbers = range(self._least_kept, DEEPEST + 1)
        return Wanted(numbers, [min(number + 1, DEEPEST) for number in numbers])

    def _keep(self, workers: ThreadPoolExecutor, taken: Pyramid | None = None) -> _Kept:
        """What stays of the whole picture: made once, whoever asks."""
        with self._making:
            if self._kept is None:
                wanted = self._wanted_to_keep
                taken = taken or self._taken_whole(workers, wanted)
                halved = {number: halved_across(taken.levels[number], number) for number in wanted.levels}
                self._kept = _Kept(taken, halved)
            return self._kept

    def _taken_whole(self, workers: ThreadPoolExecutor, wanted: Wanted) -> Pyramid:
        """What is wanted of the whole picture."""
        rows, columns = slice(0, self._picture.height), slice(0, self._picture.width)
        stripes, collected = _stripes(columns), Joined(columns)
        made = workers.map(lambda stripe: take(self._picture, rows, stripe, wanted), stripes)
        for stripe, part in zip(stripes, made, strict=True):
            collected.put(stripe, part)
        return collected.whole


class _Sources:
    """Light of some columns, for the rows of icons to be made of."""

    def __init__(self, picture: LaidPicture, taken: Pyramid, below: int, columns: slice) -> None:
        self._picture = picture
        self._taken = taken
        self._below = below
        self._columns = columns
        self._of_ends: dict[tuple[int, int], NDArray[np.float64]] = {}
        self._of_pixels = slice(0, 0), np.empty((0, 0))

    def rows_of(self, icon: _Icon) -> NDArray[np.float64]:
        """The rows of an icon before its columns are reduced: whole numbers of fine light."""
        rows = np.zeros((icon.size, 4 * (self._columns.stop - self._columns.start)))
        for band in icon.bands:
            rows[band.outputs] = band.weights @ self._of_level(icon.level, band.inputs)
        for end in icon.ends:
            rows[end.outputs] += end.weights @ self._of_end(end.inputs)
        rows *= 1 / ONE
        return np.rint(rows, out=rows)

    def _of_level(self, level: Level, inputs: slice) -> NDArray[np.float64]:
        if not level.number:
            return self._pixels(inputs)
        first = self._taken.first // level.pitch
        return self._taken.levels[level.number][inputs.start - first : inputs.stop - first].astype(np.float64)

    def _pixels(self, rows: slice) -> NDArray[np.float64]:
        """Light of pixels, and meanwhile of those below them, which the next rows of an icon are made of."""
        held, light = self._of_pixels
        if not held.start <= rows.start <= rows.stop <= held.stop:
            held = slice(rows.start, max(rows.stop, min(rows.start + _AHEAD, self._below)))
            light = self._picture.fine_light(held, self._columns)
            self._of_pixels = held, light
        return light[rows.start - held.start : rows.stop - held.start]

    def _of_end(self, rows: slice) -> NDArray[np.float64]:
        key = rows.start, rows.stop
        if key not in self._of_ends:
            self._of_ends[key] = self._picture.fine_light(rows, self._columns)
        return self._of_ends[key]


def _widened(inside: slice, count: int) -> slice:
    """A stretch of the row that begins and ends on the grid, or with the row."""
    return slice(inside.start // GRID * GRID, min(-(-inside.stop // GRID) * GRID, count))


def _stripes(columns: slice) -> list[slice]:
    starts = range(columns.start, columns.stop, _COLUMNS)
    return [slice(start, min(start + _COLUMNS, columns.stop)) for start in starts]
