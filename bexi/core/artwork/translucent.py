"""Whether ink lets its ground through: its colours are then those that it has on white paper."""

import numpy as np

from bexi.core.pixels.around import highest_around, lowest_around
from bexi.core.pixels.light import ALPHA, Pixels

_EVEN = 3
"""Of 255: alpha that differs by no more from its neighbours' is an area's, not that of a soft edge or a fade."""
_FROM, _TO = 40, 235
"""Of 255: less is a trace, more is nearly opaque."""
_LEAST, _MOSTLY = 0.2, 0.5
"""Of the ink, what lies in such areas; and of these, what is translucent."""


def is_translucent(pixels: Pixels) -> bool:
    """Whether most of the ink of a drawing, shape (height, width, 4), is evenly translucent."""
    alpha = pixels[..., ALPHA]
    inked = alpha >= _FROM
    even = inked & (highest_around(alpha, 3) - lowest_around(alpha, 3) <= _EVEN)
    areas, shines = np.count_nonzero(even), np.count_nonzero(even & (alpha <= _TO))
    return bool(areas > _LEAST * np.count_nonzero(inked) and shines >= _MOSTLY * areas)
