"""The square of a photograph that tells most."""

import numpy as np
from PIL import Image

from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.framing.frame import Frame, largest_inside

_SQUARES = (1.0, 0.7, 0.5, 0.35)
"""Sides of squares tried, in the picture's shorter sides."""
_LOOKED_AT = 160


def telling_square(picture: Picture) -> Frame:
    """The square of a photograph in which most happens: the most difference between neighbours for its area."""
    if not isinstance(picture, Bitmap):
        return largest_inside(picture.width, picture.height)
    step = max(1, max(picture.width, picture.height) // (2 * _LOOKED_AT))
    image = Image.fromarray(np.ascontiguousarray(picture.pixels[::step, ::step])).convert("L")
    image.thumbnail((_LOOKED_AT, _LOOKED_AT), Image.Resampling.BOX)
    grey = np.asarray(image, dtype=np.float64)
    scale = max(picture.width, picture.height) / max(grey.shape)
    happens = np.zeros((grey.shape[0] + 1, grey.shape[1] + 1))
    change = np.abs(np.diff(grey, axis=0, append=grey[-1:])) + np.abs(np.diff(grey, axis=1, append=grey[:, -1:]))
    happens[1:, 1:] = change.cumsum(axis=0).cumsum(axis=1)
    best, frame = -1.0, largest_inside(picture.width, picture.height)
    for share in _SQUARES:
        side = max(1, round(share * min(grey.shape)))
        sums = happens[side:, side:] - happens[:-side, side:] - happens[side:, :-side] + happens[:-side, :-side]
        y, x = np.unravel_index(int(sums.argmax()), sums.shape)
        if sums[y, x] / side**1.4 > best:
            best = sums[y, x] / side**1.4
            frame = Frame(round(x * scale), round(y * scale), max(1, round(side * scale)))
    return frame
