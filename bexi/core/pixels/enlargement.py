"""Enlarging pictures of few colours: their stair steps become smooth edges, where a filter would give rings or blur."""

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.kernel import ONE, Axis, Weights
from bexi.core.pixels.laid import Codes, LaidPicture

_FEW = 32
"""Pictures with smoothed edges have more colours than that, and need no others."""
_REACH = 1.5
"""In pixels, of a quadratic B-spline."""


def colours_of(picture: LaidPicture, down: Axis, across: Axis) -> Codes | None:
    """The colours in a square, shape (n, 4), what lies around the picture first; None if they are many."""
    codes = np.ascontiguousarray(picture.codes(down.inside, across.inside))
    words = np.unique(codes.view(f"u{4 * codes.itemsize}"))  # sorting whole words is many times faster
    if len(words) > _FEW:
        return None
    return np.concatenate([picture.outside[None], words.view(codes.dtype).reshape(-1, 4)])


def enlarged(picture: LaidPicture, colours: Codes, down: Axis, across: Axis) -> NDArray[np.float64]:
    """Fine light of shape (size, size, 4): of the two colours that cover most around each sample, with narrow edges.

    How much a colour covers is its share of the pixels around, weighed by a quadratic B-spline.
    """
    rows, columns = _weights(down), _weights(across)
    codes = picture.codes(down.inside, across.inside)
    first, second = (np.zeros((down.size, down.size)) for _ in range(2))
    nearest, next_one = (np.zeros((down.size, down.size), dtype=np.intp) for _ in range(2))
    left_over = np.full_like(first, ONE * ONE)
    for number, colour in reversed(list(enumerate(colours))):  # what lies around takes what the others leave
        share = rows @ (codes == colour).all(axis=-1).astype(np.float64) @ columns.T if number else left_over
        left_over = left_over - share
        better, fair = share > first, share > second
        next_one = np.where(better, nearest, np.where(fair, number, next_one))
        second = np.where(better, first, np.where(fair, share, second))
        nearest, first = np.where(better, number, nearest), np.where(better, share, first)
    steep = max(1.0, down.size / down.side)
    part = np.minimum((1 + steep * (first - second) / (ONE * ONE)) / 2, 1)[..., None]
    light = picture.light_of(colours)
    mixed: NDArray[np.float64] = part * light[nearest] + (1 - part) * light[next_one]
    return mixed


def _weights(axis: Axis) -> Weights:
    """The weights of the samples inside: shape (size, samples), whole numbers that sum to ONE over the stretch."""
    away = np.abs(np.arange(axis.start, axis.start + axis.side) + 0.5 - axis.centres[:, None])
    values = np.where(away < 0.5, 0.75 - away * away, np.maximum(_REACH - away, 0) ** 2 / 2)
    weights: Weights = np.rint(values * (ONE / values.sum(axis=1, keepdims=True)))
    weights[np.arange(axis.size), values.argmax(axis=1)] += ONE - weights.sum(axis=1)
    return weights[:, axis.inside.start - axis.start : axis.inside.stop - axis.start]
