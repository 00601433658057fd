"""The darkest and the lightest light under the main lobe of each output sample, beyond which no icon goes.

Lanczos weights overshoot beside edges, which shows as dark and light rings. Light is bounded by what is there.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.kernel import Axis
from bexi.core.pixels.laid import FINE, Codes, LaidPicture

_ROWS = 64
"""So many rows of an icon are bounded together, which takes a fraction of the memory."""
_FRINGE = 2**18
"""So many pixels of fringes are looked at together, at most."""
_UNSEEN = FINE / 8192
"""Half of the smallest step that stored values can tell."""


@dataclass(frozen=True, eq=False)
class Extremes:
    """The darkest and the lightest codes in squares of `pitch` pixels, from the square (`row`, `column`)."""

    pitch: int
    row: int
    column: int
    darkest: Codes
    lightest: Codes


def in_squares(best: np.ufunc, codes: Codes, pitch: int) -> Codes:
    """The best code, darkest or lightest, in each square of `pitch`; what is left over at an end is a square, too."""
    height, width = codes.shape[:2]
    if height % pitch or width % pitch:
        codes = np.pad(codes, ((0, -height % pitch), (0, -width % pitch), (0, 0)), "edge")
    tall: Codes = codes[::pitch]
    for row in range(1, pitch):
        tall = best(tall, codes[row::pitch])
    squares: Codes = tall[:, ::pitch]
    for column in range(1, pitch):
        squares = best(squares, tall[:, column::pitch])
    return squares


@dataclass(frozen=True, eq=False)
class _Lobes:
    """For each output sample of an axis the samples under its main lobe, and whether some of them are in no row."""

    axis: Axis
    first: NDArray[np.int64]
    past: NDArray[np.int64]
    beyond: NDArray[np.bool_]

    @classmethod
    def of(cls, axis: Axis) -> "_Lobes":
        first, past = axis.main_lobes
        inside = axis.inside
        beyond = (first < inside.start) | (past > inside.stop)
        return cls(axis, np.clip(first, inside.start, inside.stop), np.clip(past, inside.start, inside.stop), beyond)

    def part(self, outputs: slice) -> "_Lobes":
        """Those of some output samples."""
        return _Lobes(self.axis, self.first[outputs], self.past[outputs], self.beyond[outputs])

    def squares(self, pitch: int, origin: int, touched: bool) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
        """The first, and one past the last, of the squares that lie in the lobes, or of those that touch them."""
        down, up = self.past // pitch, -(-self.past // pitch)
        past = up if touched else np.where(self.past == self.axis.count, up, down)
        first = self.first // pitch if touched else -(-self.first // pitch)
        return first - origin, np.where(self.first < self.past, past, first) - origin

    def fringe(self, outputs: NDArray[np.int64], pitch: int, length: int) -> tuple[NDArray[np.int64], ...]:
        """Where runs of `length` samples begin under the lobes of some outputs, which all are at least as long.

        Those that cover a lobe, and those that cover what of it lies before and after all squares that lie in it:
        shape (outputs, runs) each.
        """
        first, past = self.first[outputs], self.past[outputs]
        near = np.minimum(-(-first // pitch) * pitch, past)
        parts = (first, past), (first, near), (np.maximum(past // pitch * pitch, near), past)
        return tuple(_runs(start, end, length, first) for start, end in parts)


def _runs(start: NDArray[np.int64], end: NDArray[np.int64], length: int, least: NDArray[np.int64]) -> NDArray[np.int64]:
    """Where runs begin that cover all from `start` to `end`, as many for each, none before `least` or past its end."""
    count = max(1, -(-int((end - start).max()) // length))
    starts = start[:, None] + length * np.arange(count)
    kept: NDArray[np.int64] = np.maximum(np.minimum(starts, end[:, None] - length), least[:, None])
    return kept


def parts_of(size: int) -> list[slice]:
    """The rows of an icon that are bounded together."""
    return [slice(first, min(first + _ROWS, size)) for first in range(0, size, _ROWS)]


def keep_bounded(
    light: NDArray[np.float64], picture: LaidPicture, known: Extremes | None, down: Axis, across: Axis, part: slice
) -> None:
    """Keep fine light of some rows of an icon, shape (rows, size, 4), within that under each sample's main lobe.

    Most samples are settled by the squares of `known` that lie wholly in their lobe, or by all that touch it; the
    pixels themselves are looked at for the few that are not, and for all where no squares are known.
    """
    lobes = _Lobes.of(down).part(part), _Lobes.of(across)
    known = known or _pixels_under(lobes, picture)
    given = light.copy()
    for best, squares, outruns in ((np.minimum, known.darkest, np.less), (np.maximum, known.lightest, np.greater)):
        sure, *widest = _around(best, squares, known, picture, lobes)
        limit = picture.light_of(sure)
        for wider in widest:
            unsure = (sure != wider) & outruns(given, limit) & (np.abs(given - limit) > _UNSEEN)
            for points in _some_at_a_time(np.argwhere(unsure.any(axis=-1)), known.pitch, lobes):
                place = points[:, 0], points[:, 1]
                found = _best_in_fringe(best, picture, known.pitch, lobes, place)
                limit[place] = picture.light_of(best(sure[place], found))
        (np.maximum if best is np.minimum else np.minimum)(light, limit, out=light)


def _pixels_under(lobes: tuple[_Lobes, _Lobes], picture: LaidPicture) -> Extremes:
    rows, columns = (slice(int(one.first.min()), int(one.past.max())) for one in lobes)
    codes = picture.codes(rows, columns)
    return Extremes(1, rows.start, columns.start, codes, codes)


def _some_at_a_time(points: NDArray[np.int64], pitch: int, lobes: tuple[_Lobes, _Lobes]) -> Iterator[NDArray[np.int64]]:
    """Output samples, as many as have few enough pixels in their fringes together."""
    widest = max(int((one.past - one.first).max()) for one in lobes)
    some = max(1, _FRINGE // (widest * min(pitch, widest) or 1))
    return (points[first : first + some] for first in range(0, len(points), some))


def _best_in_fringe(
    best: np.ufunc,
    picture: LaidPicture,
    pitch: int,
    lobes: tuple[_Lobes, _Lobes],
    place: tuple[NDArray[np.int64], NDArray[np.int64]],
) -> Codes:
    """The best code, shape (outputs, 4), of the pixels under some lobes that no square which lies in them holds."""
    length = max(1, min(pitch, int((lobes[1].past - lobes[1].first)[place[1]].min())))
    rows, *row_ends = lobes[0].fringe(place[0], pitch, 1)
    runs, *run_ends = lobes[1].fringe(place[1], pitch, length)
    parts = *((end, runs) for end in row_ends), *((rows, end) for end in run_ends)
    # First of whole rows, which lie side by side, then along them: a fraction of the time of both at once.
    in_rows = (best.reduce(picture.codes_of_runs(down, across, length), axis=1) for down, across in parts)
    codes: Codes = best.reduce([best.reduce(row, axis=1) for row in in_rows])
    return codes


def _around(
    best: np.ufunc, squares: Codes, known: Extremes, picture: LaidPicture, lobes: tuple[_Lobes, _Lobes]
) -> list[Codes]:
    """The best code under each lobe, of the squares that lie in it and of all that touch it, if these are others."""
    ways = (False, True) if known.pitch > 1 else (False,)
    down, across = (
        [one.squares(known.pitch, origin, touched) for touched in ways]
        for one, origin in zip(lobes, (known.row, known.column), strict=True)
    )
    beyond = (lobes[0].beyond[:, None] | lobes[1].beyond)[..., None]
    found = [
        _best_of(best, tall, [runs], axis=1)[0]
        for tall, runs in zip(_best_of(best, squares, down, axis=0), across, strict=True)
    ]
    return [np.where(beyond, best(one, picture.outside), one) for one in found] if beyond.any() else found


def _best_of(
    best: np.ufunc, codes: Codes, all_runs: Sequence[tuple[NDArray[np.int64], NDArray[np.int64]]], axis: int
) -> list[Codes]:
    """The best of runs along an axis, by runs whose lengths double; of an empty one it is what any code betters."""
    shape = list(codes.shape)
    shape[axis] = len(all_runs[0][0])
    worst = np.iinfo(codes.dtype).max if best is np.minimum else 0
    results: list[Codes] = [np.full(shape, worst, codes.dtype) for _ in all_runs]
    start = min(int(first.min()) for first, _ in all_runs)
    end = max(int(past.max()) for _, past in all_runs)
    codes = codes[start:end] if axis == 0 else codes[:, start:end]
    longest = max(int((past - first).max()) for first, past in all_runs)
    reach = 1
    while True:
        for number, (first, past) in enumerate(all_runs):
            (chosen,) = np.nonzero((past - first >= reach) & (past - first < 2 * reach))
            if len(chosen):
                from_start, to_end = (np.take(codes, at[chosen] - start, axis) for at in (first, past - reach))
                found = best(from_start, to_end)
                if len(chosen) == len(first):  # as nearly always: they are of like length
                    results[number] = found
                else:
                    results[number][(chosen,) if axis == 0 else (slice(None), chosen)] = found
        if 2 * reach > longest:
            return results
        codes = best(codes[:-reach], codes[reach:]) if axis == 0 else best(codes[:, :-reach], codes[:, reach:])
        reach *= 2
