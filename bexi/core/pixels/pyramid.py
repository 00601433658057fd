"""A picture at halving sizes, so that small icons need not be made from all its pixels each time."""

from collections.abc import Sequence
from threading import Lock

import numpy as np

from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Light, Pixels, Planes, colour_light, over, planes
from bexi.core.pixels.resample import Stretch, resize

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
        self._levels: list[Planes] = []
        self._making = Lock()

    def square(self, left: int, top: int, side: int, sizes: Sequence[int]) -> list[Light]:
        """The square `(left, top, side)` of the picture at each of `sizes`: light of shape (size, size, 4).

        The square may reach outside the picture; there it is ground, or clear.
        """
        return [self._square(_level_for(side, size), left, top, side, size) for size in sizes]

    def _square(self, level: int, left: int, top: int, side: int, size: int) -> Light:
        height, width = self._pixels.shape[:2]
        rows, columns = self._shape(level)
        across, down = columns / width, rows / height
        self._make_levels(level)
        light = np.moveaxis(
            resize(
                lambda rows, columns: self._light(level, rows, columns),
                Stretch(top * down, side * down, rows, size),
                Stretch(left * across, side * across, columns, size),
            ),
            0,
            -1,
        )
        if self._ground:  # the weights sum to 1: what the picture did not cover is ground
            light += (1 - light[..., 3:]) * colour_light(self._ground)
        return light

    def _shape(self, level: int) -> tuple[int, int]:
        height, width = self._pixels.shape[:2]
        return -(-height // 2**level), -(-width // 2**level)

    def _light(self, level: int, rows: slice, columns: slice) -> Planes:
        if level:
            return self._levels[level - 1][:, rows, columns]
        stored = self._pixels[rows, columns]
        return planes(over(stored, self._ground) if self._ground else stored)

    def _make_levels(self, level: int) -> None:
        """Make what is missing up to a level: each once, whoever asks, and never changed after."""
        with self._making:
            while len(self._levels) < level:
                above = len(self._levels)
                (rows, columns), (half_rows, half_columns) = self._shape(above), self._shape(above + 1)
                made = resize(
                    lambda rows, columns, above=above: self._light(above, rows, columns),  # type: ignore[misc]
                    Stretch(0, rows, rows, half_rows),
                    Stretch(0, columns, columns, half_columns),
                )
                made.flags.writeable = False
                self._levels.append(made)


def _level_for(side: int, size: int) -> int:
    """The smallest level that still has HEADROOM times the icon's px along the square."""
    return max(0, (side // (HEADROOM * size)).bit_length() - 1)
