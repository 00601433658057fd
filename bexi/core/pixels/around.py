"""The highest and the lowest value around each px of a picture, by whole rows and columns at once."""

from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

Value = TypeVar("Value", np.uint8, np.bool_)


def highest_around(values: NDArray[Value], size: int) -> NDArray[Value]:
    """The highest value in a square of `size` px, an odd number, around each px; beyond the rim there is nothing."""
    low = values.dtype.type(0)
    return _along(np.ascontiguousarray(_along(values, size, low).T), size, low).T


def lowest_around(values: NDArray[Value], size: int) -> NDArray[Value]:
    """The lowest value in such a square."""
    return ~highest_around(~values, size)


def _along(values: NDArray[Value], size: int, low: Value) -> NDArray[Value]:
    """The highest of `size` rows around each: of two rows first, then of two such, until there are enough."""
    reach = size // 2
    highest = np.pad(values, ((reach, reach), (0, 0)), constant_values=low)
    covered = 1
    while 2 * covered <= size:
        highest = np.maximum(highest[:-covered], highest[covered:])
        covered *= 2
    left = size - covered
    return np.maximum(highest[: len(highest) - left], highest[left:]) if left else highest
