"""How much of an icon's ink a home screen's mask would cut off."""

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.light import Pixels

SAFE_RADIUS = 2 / 5
"""Of the smaller side (W3C Web Application Manifest, "Icon masks and safe zone")."""
CORNER_RADIUS = 0.225
"""Of the side: how far home screens round corners [common practice]."""


def outside_circle(ink: Pixels) -> float:
    """The share of the ink, 0 to 1, outside the safe circle of a maskable icon."""
    y, x = _from_centre(ink.shape[0])
    return _share(ink, x**2 + y**2 > SAFE_RADIUS**2)


def outside_rounded(ink: Pixels) -> float:
    """The share of the ink, 0 to 1, in corners that a home screen rounds off."""
    y, x = (np.maximum(np.abs(axis) - (0.5 - CORNER_RADIUS), 0) for axis in _from_centre(ink.shape[0]))
    return _share(ink, x**2 + y**2 > CORNER_RADIUS**2)


def _from_centre(size: int) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Distances of pixel centres from the middle, in sides: down, shape (size, 1), and across, shape (size,)."""
    centres = (np.arange(size) + 0.5) / size - 0.5
    return centres[:, None], centres


def _share(ink: Pixels, outside: NDArray[np.bool_]) -> float:
    alpha = ink[..., 3].astype(np.float64)
    return float(alpha[outside].sum() / alpha.sum()) if alpha.any() else 0.0
