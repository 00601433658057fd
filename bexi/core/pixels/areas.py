"""Connected areas of px of one kind."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray


@dataclass(frozen=True, eq=False)
class Areas:
    """Connected areas of one kind, numbered from 0 in the order of their first px.

    `labels` has the number of each px, `firsts` where, in the flattened picture, the first px of each lies, `boxes`
    left, top, right and bottom of each: shape (areas, 4), `sizes` how many px each has.
    """

    labels: NDArray[np.int32]
    sizes: NDArray[np.intp]
    firsts: NDArray[np.intp]
    boxes: NDArray[np.intp]


def areas_of(kinds: NDArray[np.uint8], corners: bool = False) -> Areas:
    """The areas of all kinds at once, out of runs of px in a row that are of one kind.

    Those of one kind that touch in a corner alone are one area where `corners` count.
    """
    wide = kinds.shape[1]
    begins = np.ones(kinds.shape, dtype=bool)
    begins[:, 1:] = kinds[:, 1:] != kinds[:, :-1]
    starts = np.flatnonzero(begins)
    ends = np.append(starts[1:], kinds.size)
    runs = np.repeat(np.arange(len(starts), dtype=np.int32), ends - starts).reshape(kinds.shape)
    meet = (kinds[1:] == kinds[:-1]) & (begins[1:] | begins[:-1])  # once for each two runs
    ones, others = [runs[:-1][meet]], [runs[1:][meet]]
    if corners:  # that of runs which meet along a row as well is known already
        above, below = kinds[:-1], kinds[1:]
        right = (above[:, :-1] == below[:, 1:]) & begins[1:, 1:]
        left = (above[:, 1:] == below[:, :-1]) & begins[:-1, 1:]
        ones += [runs[:-1, :-1][right], runs[:-1, 1:][left]]
        others += [runs[1:, 1:][right], runs[1:, :-1][left]]
    roots = _joined(len(starts), np.concatenate(ones), np.concatenate(others))
    firsts = np.flatnonzero(roots == np.arange(len(roots)))
    numbers = np.searchsorted(firsts, roots).astype(np.int32)
    left_top, right_bottom = np.full((len(firsts), 2), kinds.size), np.zeros((len(firsts), 2), dtype=np.intp)
    rows = starts // wide
    np.minimum.at(left_top, numbers, np.stack([starts - rows * wide, rows], axis=-1))
    np.maximum.at(right_bottom, numbers, np.stack([ends - rows * wide, rows + 1], axis=-1))
    sizes = np.bincount(numbers, weights=ends - starts).astype(np.intp)  # whole numbers that a float64 holds
    return Areas(numbers[runs], sizes, starts[firsts], np.concatenate([left_top, right_bottom], axis=1))


def _joined(count: int, ones: NDArray[np.int32], others: NDArray[np.int32]) -> NDArray[np.int32]:
    """For each of `count` runs the first of those it hangs together with, when each of `ones` meets one of `others`."""
    roots = np.arange(count, dtype=np.int32)
    while len(ones):
        np.minimum.at(roots, np.maximum(ones, others), np.minimum(ones, others))
        while ((above := roots[roots]) != roots).any():
            roots = above
        ones, others = roots[ones], roots[others]
        apart = ones != others
        ones, others = ones[apart], others[apart]
    return roots
