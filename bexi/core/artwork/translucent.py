"""Whether ink lets its ground through: its colours are then those that it has on white paper."""

import numpy as np

from bexi.core.pixels.around import highest_around, lowest_around
from bexi.core.pixels.light import ALPHA, Pixels

_EVEN = 3
"""Of 255: alpha that differs by no more from its neighbours' is an area's, not that of a soft edge or a fade."""
_FROM, _TO = 40, 235
"""Of 255: less is a trace, more is nearly opaque."""
_MOSTLY = 0.5


def is_translucent(pixels: Pixels) -> bool:
    """Whether most of the ink of a drawing, shape (height, width, 4), is evenly translucent."""
    alpha = pixels[..., ALPHA]
    if alpha.min() == 255:
        return False
    even = highest_around(alpha, 3) - lowest_around(alpha, 3) <= _EVEN
    inked = alpha[even & (alpha >= _FROM)]
    return bool(inked.size and np.count_nonzero(inked <= _TO) >= _MOSTLY * inked.size)
