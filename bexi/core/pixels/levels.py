"""What a picture's columns are reduced from: their rows halved again and again, and the extremes of their squares.

Everything is whole numbers, and lies on one grid that begins at the picture's first pixel, whatever is asked for.
"""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.bounds import Extremes, in_squares
from bexi.core.pixels.kernel import HALVING
from bexi.core.pixels.laid import Codes, LaidPicture

DEEPEST = 4
"""Beyond this level the ends of a stretch take longer than all else [measured]."""
GRID = 2**DEEPEST
"""Rows and columns are taken from multiples of so many pixels."""
_ROWS = 512
"""So many rows of pixels are looked at together, which then stay in the processor's cache [measured]."""

Rows = NDArray[np.unsignedinteger[Any]]
"""Whole light of a level: shape (cells, 4 · columns)."""


@dataclass(frozen=True)
class Wanted:
    """The numbers of the levels, and how often squares of one pixel were doubled; 0 is the pixels themselves."""

    levels: Collection[int]
    squares: Collection[int]

    def beside(self, other: "Wanted") -> "Wanted":
        """All that is wanted by either."""
        return Wanted({*self.levels, *other.levels}, {*self.squares, *other.squares})


@dataclass(frozen=True, eq=False)
class Pyramid:
    """Levels, by their number, and extremes, by their squares' doublings, of a picture from the row `first`."""

    first: int
    levels: Mapping[int, Rows]
    extremes: Mapping[int, Extremes]

    def only(self, numbers: Collection[int]) -> "Pyramid":
        """Without the other levels."""
        levels = {number: rows for number, rows in self.levels.items() if number in numbers}
        return Pyramid(self.first, levels, self.extremes)


def take(picture: LaidPicture, rows: slice, columns: slice, wanted: Wanted) -> Pyramid:
    """What is wanted of some columns but for the pixels themselves, made of these rows and nothing else."""
    deepest, finest = max(wanted.levels), min((doublings for doublings in wanted.squares if doublings), default=0)
    if not finest:  # a level has larger squares
        return Pyramid(rows.start, {}, {})
    halved: list[Rows] = []
    darkest: list[Codes] = []
    lightest: list[Codes] = []
    for top in range(rows.start, rows.stop, _ROWS):
        part = slice(top, min(top + _ROWS, rows.stop))
        codes = picture.codes(part, columns)
        if deepest:
            around = (slice(max(top - 1, 0), top), slice(part.stop, part.stop + 1))
            before, after = (picture.whole_light(row, columns) for row in around)
            light = picture.whole_light(part, columns) if picture.opaque else codes.reshape(len(codes), -1)
            halved.append(_halved(before, light, after))
        darkest.append(in_squares(np.minimum, codes, 2**finest))
        lightest.append(in_squares(np.maximum, codes, 2**finest))
    level = np.concatenate(halved) if halved else np.empty((0, 0), np.uint16)
    levels: dict[int, Rows] = {}
    for number in range(1, deepest + 1):
        if number > 1:
            level = _halved(level[:0], level, level[:0])
        if number in wanted.levels:
            levels[number] = level
    dark, bright = np.concatenate(darkest), np.concatenate(lightest)
    found: dict[int, Extremes] = {}
    for doublings in range(finest, max(wanted.squares) + 1):
        pitch = 2**doublings
        if doublings > finest:
            dark, bright = in_squares(np.minimum, dark, 2), in_squares(np.maximum, bright, 2)
        found[doublings] = Extremes(pitch, rows.start // pitch, columns.start // pitch, dark, bright)
    return Pyramid(rows.start, levels, found)


class Joined:
    """What is taken of `columns`, stripe after stripe, each put into its place as it comes."""

    def __init__(self, columns: slice) -> None:
        self._columns = columns
        self._whole: Pyramid | None = None

    def put(self, stripe: slice, taken: Pyramid) -> None:
        """Put in what was taken of some columns, which begin on the grid."""
        if self._whole is None:
            self._whole = self._room_for(taken)
        start = stripe.start - self._columns.start
        for number, rows in taken.levels.items():
            self._whole.levels[number][:, 4 * start :][:, : rows.shape[1]] = rows
        for doublings, part in taken.extremes.items():
            whole, first = self._whole.extremes[doublings], start // part.pitch
            for all_codes, codes in ((whole.darkest, part.darkest), (whole.lightest, part.lightest)):
                all_codes[:, first : first + codes.shape[1]] = codes

    @property
    def whole(self) -> Pyramid:
        """All of it, once every stripe is in its place."""
        assert self._whole is not None
        return self._whole

    def _room_for(self, first: Pyramid) -> Pyramid:
        width = self._columns.stop - self._columns.start
        levels: dict[int, Rows] = {
            number: np.empty((len(rows), 4 * width), rows.dtype) for number, rows in first.levels.items()
        }
        extremes = {doublings: self._room_of(part, width) for doublings, part in first.extremes.items()}
        return Pyramid(first.first, levels, extremes)

    def _room_of(self, part: Extremes, width: int) -> Extremes:
        shape = len(part.darkest), -(-width // part.pitch), 4
        column, kind = self._columns.start // part.pitch, part.darkest.dtype
        return replace(part, column=column, darkest=np.empty(shape, kind), lightest=np.empty(shape, kind))


def halved_across(rows: Rows, number: int) -> NDArray[np.float64]:
    """Rows of a level with their columns halved as often: whole light of shape (cells down, cells across, 4)."""
    columns: Rows = np.ascontiguousarray(rows.view(np.uint64).T).view(rows.dtype)  # four channels at a time
    for _ in range(number):
        columns = _halved(columns[:0], columns, columns[:0])
    return columns.reshape(len(columns), -1, 4).swapaxes(0, 1).astype(np.float64)


def _halved(before: Rows, rows: Rows, after: Rows) -> Rows:
    """Each two rows and one on either side, weighed by HALVING; rows that are not there count as nothing."""
    sums = rows[0::2].astype(np.uint32)
    sums[: len(rows) // 2] += rows[1::2]
    sums *= HALVING[1]
    if len(before):
        sums[0] += before[0]
    sums[1:] += rows[1:-1:2]
    inner = rows[2::2]
    sums[: len(inner)] += inner
    if len(after) and len(rows) % 2 == 0:
        sums[-1] += after[0]
    sums += sum(HALVING) // 2
    sums >>= 3
    return sums.astype(np.uint16)
