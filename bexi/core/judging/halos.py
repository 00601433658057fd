"""How strongly each px is ink, and where a shadow or a glow fades out, which is neither ink nor gap."""

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.pixels.around import highest_around, lowest_around
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels

_WEAK, _SLOWLY, _FADING = 168, 24, 7.0
"""Of 255: a halo is weaker than the first, changes by no more than the second over 3 px, and spreads by the third."""

_FAINT, _MUCH_FAINT = 0.5, 0.12
"""Of a halo, so much is fainter than half of its mean."""


def strength_of(pixels: Pixels, ground: Colour | None) -> NDArray[np.uint8]:
    """How far each px is from being ground, 0 to 255."""
    if ground is None:
        return pixels[..., 3]
    away = np.abs(pixels[..., :3].astype(np.int16) - np.array(ground.channels, dtype=np.int16))
    strength: NDArray[np.uint8] = away.max(axis=-1).astype(np.uint8)
    return strength


def halos_in(strength: NDArray[np.uint8], reach: int) -> NDArray[np.bool_]:
    """Where a shadow or a glow fades out, in a picture enlarged `reach` times: weak, changing slowly and throughout.

    Translucent ink is weak, too, but even; pale ink that shades off ends at an edge, before it is as weak as a fading
    shadow becomes; the fringe of antialiasing changes within a px or two.
    """
    range_ = highest_around(strength, 2 * reach + 1) - lowest_around(strength, 2 * reach + 1)
    weak = (strength > 0) & (strength < _WEAK) & (range_ <= _SLOWLY)
    labels, count = ndimage.label(weak)
    if not count:
        return weak
    at, values = labels[weak], strength[weak].astype(np.float64)
    areas = np.maximum(np.bincount(at), 1)
    mean, square = (np.bincount(at, weights) / areas for weights in (values, values * values))
    spread = np.sqrt(np.maximum(square - mean**2, 0))
    faint = np.bincount(at[values < _FAINT * mean[at]], minlength=count + 1) / areas
    halos: NDArray[np.bool_] = np.zeros_like(weak)
    halos[weak] = ((spread >= _FADING) & (faint >= _MUCH_FAINT))[at]
    return halos
