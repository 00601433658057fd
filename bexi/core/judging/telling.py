"""The squares of a photograph that tell most: what stands out from its surroundings, and where most changes."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.vector import render_whole
from bexi.core.framing.frame import Frame
from bexi.core.pixels.light import Pixels
from bexi.core.pixels.oklab import oklab

_WIDE = (1.0, 0.85, 0.7, 0.55, 0.42)
"""Sides of squares tried, in the picture's shorter sides."""
_CLOSER = 0.6
"""The side of the closer one, in that of the wide one."""
_LOOKED_AT = 96
"""Px along the longer side."""
_SIDE_COUNTS = 0.8
"""Power of its side by which the sum over a square is divided: lower for larger squares."""
_RIM = 4
"""In px: what lies so near to the rim is mostly surroundings (common practice)."""
_ALIKE = 0.2
"""The share of the rim to which each px is compared: that which is most like it."""
_SAMPLES = 100


def telling_squares(picture: Picture) -> tuple[Frame, Frame]:
    """That which shows most of what the picture is about, and the most telling part of it."""
    small = _small(picture)
    about = _standing_out(small) + _changing(small)
    wide = _best(about, _WIDE)
    part = _best(about[wide.y : wide.y + wide.side, wide.x : wide.x + wide.side], (_CLOSER,))
    return _in(picture, wide, about), _in(picture, replace(part, x=wide.x + part.x, y=wide.y + part.y), about)


def _small(picture: Picture) -> Pixels:
    if not isinstance(picture, Bitmap):
        return render_whole(picture, _LOOKED_AT)
    step = max(1, max(picture.width, picture.height) // (4 * _LOOKED_AT))
    image = Image.fromarray(np.ascontiguousarray(picture.pixels[::step, ::step]))
    image.thumbnail((_LOOKED_AT, _LOOKED_AT), Image.Resampling.BOX)
    return np.asarray(image)


def _standing_out(small: Pixels) -> NDArray[np.float64]:
    """How far each px is from what it is most like of the rim, of the mean."""
    places = oklab(small[..., :3])
    rim = np.ones(small.shape[:2], dtype=bool)
    rim[_RIM:-_RIM, _RIM:-_RIM] = False
    beside = places[rim]
    beside = beside[:: -(-len(beside) // _SAMPLES)]
    away = np.linalg.norm(places[:, :, None] - beside, axis=-1)
    away.partition(nearest := int(_ALIKE * len(beside)), axis=-1)
    return _of_mean(away[..., : nearest + 1].mean(axis=-1, dtype=np.float64))


def _changing(small: Pixels) -> NDArray[np.float64]:
    """How much the light changes from px to px, of the mean."""
    light = np.asarray(Image.fromarray(small).convert("L"), dtype=np.float64)
    return _of_mean(np.abs(np.diff(light, axis=0, append=light[-1:])) + np.abs(np.diff(light, append=light[:, -1:])))


def _of_mean(values: NDArray[np.float64]) -> NDArray[np.float64]:
    share: NDArray[np.float64] = values / max(float(values.mean()), np.finfo(np.float64).tiny)
    return share


def _best(about: NDArray[np.float64], shares: tuple[float, ...]) -> Frame:
    """Of squares with such sides, in the shorter side, that which has most in it for its size."""
    sums = np.zeros((about.shape[0] + 1, about.shape[1] + 1))
    sums[1:, 1:] = about.cumsum(axis=0).cumsum(axis=1)
    found = []
    for share in shares:
        side = max(1, round(share * min(about.shape)))
        inside = sums[side:, side:] - sums[:-side, side:] - sums[side:, :-side] + sums[:-side, :-side]
        y, x = np.unravel_index(int(inside.argmax()), inside.shape)
        found.append((inside[y, x] / side**_SIDE_COUNTS, Frame(int(x), int(y), side)))
    return max(found, key=lambda one: one[0])[1]


def _in(picture: Picture, square: Frame, about: NDArray[np.float64]) -> Frame:
    """The same in px of the picture, and nowhere beyond it."""
    scale = max(picture.width, picture.height) / max(about.shape)
    side = min(max(1, round(square.side * scale)), picture.width, picture.height)
    x, y = round(square.x * scale), round(square.y * scale)
    return Frame(min(x, picture.width - side), min(y, picture.height - side), side)
