"""Resizing in linear light with premultiplied alpha, by a Lanczos filter as wide as the reduction asks."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Light, Pixels, colour_light, over, to_light

LOBES = 3
_BAND_ROWS = 64


def lanczos_weights(length: int, size: int) -> NDArray[np.float32]:
    """Weights of `length` source samples for each of `size` resampled ones: shape (size, length), rows sum to 1.

    The kernel widens with the reduction (a proper low-pass); at the ends its weights are scaled to sum to 1.
    Duchon, "Lanczos Filtering in One and Two Dimensions", 1979.
    """
    scale = max(length / size, 1.0)
    centres = (np.arange(size) + 0.5) * length / size
    taps = int(np.ceil(LOBES * scale)) * 2 + 1
    columns = np.floor(centres - LOBES * scale).astype(np.int64)[:, None] + np.arange(taps)
    offsets = (columns + 0.5 - centres[:, None]) / scale
    kernel = np.sinc(offsets) * np.sinc(offsets / LOBES)
    kernel[(np.abs(offsets) >= LOBES) | (columns < 0) | (columns >= length)] = 0
    kernel /= kernel.sum(axis=1, keepdims=True)
    weights = np.zeros((size, length), dtype=np.float32)
    rows, used = np.nonzero(kernel)
    weights[rows, columns[rows, used]] = kernel[rows, used]
    return weights


def resample(
    pixels: Pixels, left: int, top: int, side: int, sizes: Sequence[int], ground: Colour | None = None
) -> list[Light]:
    """The square `(left, top, side)` over a picture, resized to each of `sizes`: light of shape (size, size, 4).

    The picture is first laid on the ground, if one is given. The square may reach outside the picture; there it
    is ground, or clear. One pass over bands of rows serves all sizes, and never holds the whole picture as floats.
    """
    height, width = pixels.shape[:2]
    x0, x1 = max(left, 0), min(left + side, width)
    y0, y1 = max(top, 0), min(top + side, height)
    weights = [lanczos_weights(side, size) for size in sizes]
    flattened = [np.zeros((size, (x1 - x0) * 4), dtype=np.float32) for size in sizes]
    for start in range(y0, y1, _BAND_ROWS):
        stop = min(start + _BAND_ROWS, y1)
        stored = pixels[start:stop, x0:x1]
        band = to_light(over(stored, ground) if ground else stored).reshape(stop - start, -1)
        for weight, flat in zip(weights, flattened, strict=True):
            part = weight[:, start - top : stop - top]
            rows = np.flatnonzero(part.any(axis=1))
            if len(rows):
                touched = slice(rows[0], rows[-1] + 1)
                flat[touched] += part[touched] @ band
    return [
        _across(flat, weight[:, x0 - left : x1 - left], ground) for flat, weight in zip(flattened, weights, strict=True)
    ]


def _across(flat: NDArray[np.float32], weight: NDArray[np.float32], ground: Colour | None) -> Light:
    size, length = weight.shape
    light: Light = np.einsum("xi,yic->yxc", weight, flat.reshape(size, length, 4), optimize=True)
    if ground:  # the weights sum to 1: what the picture did not cover is ground
        light += (1 - light[..., 3:]) * colour_light(ground)
    return light
