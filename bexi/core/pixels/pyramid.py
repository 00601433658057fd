"""A picture at halving sizes, so that small icons need not be made from all its pixels each time."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Light, Pixels, colour_light, over, to_light
from bexi.core.pixels.resample import Stretch, resize_columns, resize_rows

HEADROOM = 4
"""An icon is made from a level that is at least so many times larger, so that levels leave no trace in it."""


class Pyramid:
    """A picture laid on a ground, if one is given, in linear light at halving sizes.

    Level 0 is the picture itself, never held as floats; each further one is the Lanczos reduction of the one before
    to half its width and height, rounded up, and is made when it is first asked for.
    """

    def __init__(self, pixels: Pixels, ground: Colour | None) -> None:
        self._pixels = pixels
        self._ground = ground
        self._levels: list[NDArray[np.float32]] = []

    def square(self, left: int, top: int, side: int, sizes: Sequence[int]) -> list[Light]:
        """The square `(left, top, side)` of the picture at each of `sizes`: light of shape (size, size, 4).

        The square may reach outside the picture; there it is ground, or clear.
        """
        by_level: dict[int, list[int]] = {}
        for size in sizes:
            by_level.setdefault(_level_for(side, size), []).append(size)
        made: dict[int, Light] = {}
        for level, together in by_level.items():
            made |= zip(together, self._square(level, left, top, side, together), strict=True)
        return [made[size] for size in sizes]

    def _square(self, level: int, left: int, top: int, side: int, sizes: Sequence[int]) -> list[Light]:
        height, width = self._pixels.shape[:2]
        rows, columns = self._shape(level)
        across, down = columns / width, rows / height
        flat = resize_rows(
            lambda start, stop: self._rows(level, start, stop),
            [Stretch(top * down, side * down, rows, size) for size in sizes],
        )
        return [
            self._filled(resize_columns(one, Stretch(left * across, side * across, columns, size)), size)
            for one, size in zip(flat, sizes, strict=True)
        ]

    def _filled(self, flat: NDArray[np.float32], size: int) -> Light:
        light = flat.reshape(size, size, 4)
        if self._ground:  # the weights sum to 1: what the picture did not cover is ground
            light += (1 - light[..., 3:]) * colour_light(self._ground)
        return light

    def _shape(self, level: int) -> tuple[int, int]:
        height, width = self._pixels.shape[:2]
        return -(-height // 2**level), -(-width // 2**level)

    def _rows(self, level: int, start: int, stop: int) -> NDArray[np.float32]:
        if level:
            return self._level(level)[start:stop]
        stored = self._pixels[start:stop]
        return to_light(over(stored, self._ground) if self._ground else stored).reshape(stop - start, -1)

    def _level(self, level: int) -> NDArray[np.float32]:
        while len(self._levels) < level:
            above = len(self._levels)
            (rows, columns), (half_rows, half_columns) = self._shape(above), self._shape(above + 1)
            (flat,) = resize_rows(
                lambda start, stop, above=above: self._rows(above, start, stop),  # type: ignore[misc]
                [Stretch(0, rows, rows, half_rows)],
            )
            self._levels.append(resize_columns(flat, Stretch(0, columns, columns, half_columns)))
        return self._levels[level - 1]


def _level_for(side: int, size: int) -> int:
    """The smallest level that still has HEADROOM times the icon's px along the square."""
    return max(0, (side // (HEADROOM * size)).bit_length() - 1)
