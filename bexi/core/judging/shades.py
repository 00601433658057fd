"""A ground that shades off evenly from edge to edge, as behind a headline, and the picture as if it were flat."""

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.artwork.ink import NEAR_GROUND
from bexi.core.artwork.rims import edge_of
from bexi.core.pixels.around import highest_around, lowest_around
from bexi.core.pixels.light import Pixels

_NEAR, _MOST = 8.0, 0.95
"""Of 255, in the channel that differs most: so near to the shade are so many px along the edge."""
_NOISE = 5.0
"""Of 255: the standard deviation of one colour is less."""
_GROUND = 0.4
"""Of the picture: the ground is no less."""
_SLOWLY, _MOST_UNLIKE = 10, 0.5
"""Of 255, over 3 px; and of an area of such px, so much has to be like the shade already."""
_ROUNDS, _OUTLIER = 3, 16.0
"""The shade is fitted again without what is so far from it: ink that reaches the edge."""


def shades_off(pixels: Pixels) -> bool:
    """Whether the edge is less even than the noise of compression leaves it."""
    return bool(edge_of(pixels)[:, :3].std(axis=0).max() > _NOISE)


def evened(pixels: Pixels) -> Pixels | None:
    """The same on one flat colour, the mean of the shade it lies on; None where its edge is no even shade.

    `pixels` are opaque, of shape (height, width, 4).
    """
    shown = pixels[..., :3].astype(np.float32)
    shade = _shade_beneath(shown)
    if shade is None:
        return None
    is_ground = _with_slow_changes(np.abs(shown - shade).max(axis=-1) <= NEAR_GROUND, pixels)
    if is_ground.mean() < _GROUND:
        return None
    flat = pixels.copy()
    flat[is_ground, :3] = np.rint(shade.reshape(-1, 3).mean(axis=0)).clip(0, 255)
    return flat


def _with_slow_changes(ground: NDArray[np.bool_], pixels: Pixels) -> NDArray[np.bool_]:
    """The ground and what it changes to slowly, as in the middle of a shade that is round."""
    channels = [np.ascontiguousarray(pixels[..., channel]) for channel in range(3)]
    slow = np.all([highest_around(one, 3) - lowest_around(one, 3) <= _SLOWLY for one in channels], axis=0)
    labels, count = ndimage.label(slow)
    of_ground = np.bincount(labels[ground & slow], minlength=count + 1) > _MOST_UNLIKE * np.bincount(labels.ravel())
    of_ground[0] = False
    return ground | of_ground[labels]


def _shade_beneath(shown: NDArray[np.float32]) -> NDArray[np.float32] | None:
    """The shade of the second degree along the edge, everywhere: shape (height, width, 3)."""
    y, x = (axis / max(shown.shape[:2]) - 0.5 for axis in np.indices(shown.shape[:2], dtype=np.float32))
    terms = np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1)
    edge, places = (np.concatenate([of[0], of[-1], of[:, 0], of[:, -1]]) for of in (shown, terms))
    kept = np.ones(len(edge), dtype=bool)
    for _ in range(_ROUNDS):
        fitted, *_ = np.linalg.lstsq(places[kept], edge[kept], rcond=None)
        away = np.abs(places @ fitted - edge).max(axis=1)
        kept = away <= _OUTLIER
        if kept.mean() < _MOST:
            return None
    shade: NDArray[np.float32] = (terms @ fitted).astype(np.float32)
    return shade if (away <= _NEAR).mean() >= _MOST else None
