"""Enlarging pictures of few colours: their stair steps become smooth edges, where a filter would give rings or blur."""

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.kernel import ONE, Axis
from bexi.core.pixels.laid import Codes, LaidPicture

_FEW = 32
"""Pictures with smoothed edges have more colours than that, and need no others."""
_REACH, _TAPS = 1.5, 3
"""In pixels, of a quadratic B-spline; so many lie within it."""
_RANKS = 2 * _FEW
"""More than there are numbers of colours: what a share counts in a rank."""
_TOGETHER = 1 << 15
"""So many samples are mixed at once, which bounds what memory they take."""


def colours_of(picture: LaidPicture, down: Axis, across: Axis) -> Codes | None:
    """The colours in a square, shape (n, 4), what lies around the picture first; None if they are many."""
    words = np.unique(_words(picture.codes(down.inside, across.inside)))
    if len(words) > _FEW:
        return None
    return np.concatenate([picture.outside[None], words.view(picture.outside.dtype).reshape(-1, 4)])


def enlarged(picture: LaidPicture, colours: Codes, down: Axis, across: Axis) -> NDArray[np.float64]:
    """Fine light of shape (size, size, 4): of the two colours that cover most around each sample, with narrow edges.

    How much a colour covers is its share of the pixels around, weighed by a quadratic B-spline.
    """
    numbers = _numbers(picture, colours, down, across)
    rows, columns = _Taps.of(down), _Taps.of(across)
    highest = _along(_along(numbers, rows, np.maximum).T, columns, np.maximum).T
    mixed = highest != _along(_along(numbers, rows, np.minimum).T, columns, np.minimum).T
    light = picture.light_of(colours)
    made: NDArray[np.float64] = light[highest]
    steep = max(1.0, down.size / down.side)
    y, x = np.nonzero(mixed)
    for some in range(0, len(y), _TOGETHER):
        at = y[some : some + _TOGETHER], x[some : some + _TOGETHER]
        made[at] = _of_two(numbers, light, rows.only(at[0]), columns.only(at[1]), steep)
    return made


def _words(codes: Codes) -> NDArray[np.unsignedinteger[Any]]:
    """Each code as one number, which is compared and sorted many times faster."""
    return np.ascontiguousarray(codes).view(f"u{4 * codes.itemsize}")[..., 0]


def _numbers(picture: LaidPicture, colours: Codes, down: Axis, across: Axis) -> NDArray[np.uint8]:
    """The number of the colour of each pixel in the square, 0 beside the picture."""
    numbers = np.zeros((down.side, across.side), dtype=np.uint8)
    words = _words(picture.codes(down.inside, across.inside))
    inside = tuple(slice(axis.inside.start - axis.start, axis.inside.stop - axis.start) for axis in (down, across))
    numbers[inside] = np.searchsorted(_words(colours[1:]), words) + 1
    return numbers


@dataclass(frozen=True, eq=False)
class _Taps:
    """The pixels of a stretch that each sample is made of, and how much of each: both of shape (samples, taps)."""

    places: NDArray[np.intp]
    weights: NDArray[np.int64]

    @classmethod
    def of(cls, axis: Axis) -> "_Taps":
        """Those of an axis; the weights are whole numbers that sum to ONE."""
        away = np.abs(np.arange(axis.start, axis.start + axis.side) + 0.5 - axis.centres[:, None])
        values = np.where(away < 0.5, 0.75 - away * away, np.maximum(_REACH - away, 0) ** 2 / 2)
        weights = np.rint(values * (ONE / values.sum(axis=1, keepdims=True))).astype(np.int64)
        weights[np.arange(axis.size), values.argmax(axis=1)] += int(ONE) - weights.sum(axis=1)
        taps = min(_TAPS, axis.side)
        places = np.minimum((weights != 0).argmax(axis=1), axis.side - taps)[:, None] + np.arange(taps)
        return cls(places, np.take_along_axis(weights, places, axis=1))

    def only(self, samples: NDArray[np.intp]) -> "_Taps":
        """Those of some samples."""
        return _Taps(self.places[samples], self.weights[samples])


def _along(numbers: NDArray[np.uint8], taps: _Taps, most: np.ufunc) -> NDArray[np.uint8]:
    """The highest or the lowest of the rows that each sample is made of."""
    found: NDArray[np.uint8] = most.reduce([numbers[places] for places in taps.places.T])
    return found


def _of_two(
    numbers: NDArray[np.uint8], light: NDArray[np.float64], rows: _Taps, columns: _Taps, steep: float
) -> NDArray[np.float64]:
    """The light of some samples, shape (samples, 4), whose colours are `numbers`; of two that cover as much the one
    with the higher number goes first."""
    count = len(rows.places)
    around = numbers[rows.places[:, :, None], columns.places[:, None, :]].reshape(count, -1).T
    weights = (rows.weights[:, :, None] * columns.weights[:, None, :]).reshape(count, -1).T
    shares = np.stack([np.where(around == one, weights, 0).sum(axis=0) for one in around])
    ranks = shares * _RANKS + around
    first = ranks.max(axis=0)
    second = np.where(ranks == first, 0, ranks).max(axis=0)
    lead = (first // _RANKS - second // _RANKS).astype(np.float64)
    part = np.minimum((1 + steep * lead / (ONE * ONE)) / 2, 1)[:, None]
    mixed: NDArray[np.float64] = part * light[first % _RANKS] + (1 - part) * light[second % _RANKS]
    return mixed
