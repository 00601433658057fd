"""How much of the mark stands out in an icon's own px, which is what it is told by.

The measure is the energy of a signal in noise: the squares of how far each px's colour is, in OKLab, from what lies
around the mark there, summed. Told in px, as many as would stand out fully, black on white. Of all that was tried it
predicts best whether a mark is found again among hundreds through noise, at any size and on any ground [measured].
"""

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from scipy import ndimage

from bexi.core.judging.contrast import ways_to_see
from bexi.core.judging.drawing import Drawing
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels, over
from bexi.core.pixels.oklab import oklab

_LARGEST = 64
"""Icons of more px are looked at in so many."""
_PURE = 0.95
"""A px of which so much lies around the mark is a measure of what lies there."""


def visible(drawing: Drawing, icon: Pixels, grounds: Mapping[str, Colour]) -> float:
    """In px of the icon, on the ground on which least stands out."""
    arounds = [_around(drawing, outside, min(len(icon), _LARGEST)) for outside in ways_to_see(drawing)]
    on = [drawing.colours[0]] if drawing.colours[0] else list(grounds.values())
    shown = (_colours(icon, ground) for ground in on)
    return min(max(_energy(colours, around) for around in arounds) for colours in shown) * _scale(icon)


def _scale(icon: Pixels) -> float:
    return max(1.0, len(icon) / _LARGEST) ** 2


def _around(drawing: Drawing, outside: frozenset[int], size: int) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """For each px the row and column of the nearest that lies around the mark, all but a trace of it.

    Where there is none, it is one of which most does.
    """
    lies = np.isin(np.arange(256), list(outside))[drawing.kinds]
    if not lies.any():  # a flag, a checker: all of it is the mark, seen by what is not its largest area
        lies = drawing.kinds == np.bincount(drawing.kinds.ravel()).argmax()
    drawn = Image.fromarray(lies.astype(np.uint8) * 255)
    share = np.asarray(drawn.resize((size, size), Image.Resampling.BOX)) / 255
    pure = share >= min(_PURE, float(share.max()))
    rows, columns = ndimage.distance_transform_edt(~pure, return_distances=False, return_indices=True)
    return rows, columns


def _colours(icon: Pixels, ground: Colour) -> NDArray[np.float32]:
    laid = over(icon, ground)
    if len(icon) > _LARGEST:
        laid = np.asarray(Image.fromarray(laid).resize((_LARGEST, _LARGEST), Image.Resampling.BOX))
    return oklab(laid[..., :3])


def _energy(colours: NDArray[np.float32], around: tuple[NDArray[np.intp], NDArray[np.intp]]) -> float:
    return float(((colours - colours[around]) ** 2).sum())
