"""OKLab, a perceptual colour space in which equal distances look about equally far (B. Ottosson, 2020)."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.colour import Colour, stored
from bexi.core.pixels.light import LINEAR

# Matrices as published with the definition; written down from memory and checked in the tests by white and primaries.
_TO_CONES = np.array(
    [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ],
    dtype=np.float32,
)
_TO_LAB = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ],
    dtype=np.float32,
)
_FROM_LAB = np.linalg.inv(_TO_LAB.astype(np.float64)).round(10).tolist()
_FROM_CONES = np.linalg.inv(_TO_CONES.astype(np.float64)).round(10).tolist()
_LESS = tuple(1 - step / 50 for step in range(51))
"""Shares of a colour's chroma, until sRGB has it."""
_ROUNDED = 1e-4


def oklab(colours: NDArray[np.uint8]) -> NDArray[np.float32]:
    """Lightness (0 to 1), a and b of sRGB colours; shape (..., 3) in and out."""
    return _times(_TO_LAB, _cube_root(_times(_TO_CONES, LINEAR[colours])))


def _cube_root(values: NDArray[np.float32]) -> NDArray[np.float32]:
    """By Newton's method, in operations that every processor rounds alike; values of at least 0."""
    fraction, exponent = np.frexp(values)
    thirds = -(-exponent // 3)
    rest = np.ldexp(fraction, exponent - 3 * thirds)  # 1/8 to 1
    root = np.float32(0.42) + np.float32(0.6) * rest
    for _ in range(4):
        root = (2 * root + rest / (root * root)) / np.float32(3)
    result: NDArray[np.float32] = np.where(values > 0, np.ldexp(root, thirds), 0)
    return result


def _times(matrix: NDArray[np.float32], vectors: NDArray[np.float32]) -> NDArray[np.float32]:
    """The product for each vector, in an order of its own: that of a matrix product depends on the processor."""
    product: NDArray[np.float32] = (matrix * vectors[..., None, :]).sum(axis=-1)
    return product


def distance_to(colours: NDArray[np.uint8], one: NDArray[np.uint8]) -> NDArray[np.float32]:
    """Distance in OKLab of each colour, shape (..., 3), to one colour, shape (3,): shape (...)."""
    distance: NDArray[np.float32] = np.linalg.norm(oklab(colours) - oklab(one), axis=-1)
    return distance


def chroma_of(colour: Colour) -> float:
    """How far a colour is from the grey of its lightness, 0 to about 0.32."""
    _, a, b = oklab(np.array(colour.channels, dtype=np.uint8))
    return float(np.hypot(a, b))


def at_lightness(colour: Colour, change: float) -> Colour | None:
    """The colour with more lightness (0 to 1), or less, and its hue, with less chroma where sRGB has not so much.

    None where there is no such lightness.
    """
    lightness, a, b = (float(part) for part in oklab(np.array(colour.channels, dtype=np.uint8)))
    if not 0 <= lightness + change <= 1:
        return None
    for chroma in _LESS:
        light = [_light(row, (lightness + change, chroma * a, chroma * b)) for row in _FROM_CONES]
        if all(-_ROUNDED <= part <= 1 + _ROUNDED for part in light):
            return Colour(*(round(255 * stored(min(max(part, 0.0), 1.0))) for part in light))
    return None


def _light(row: Sequence[float], lab: tuple[float, float, float]) -> float:
    """One channel of linear sRGB."""
    cones = [sum(part * value for part, value in zip(line, lab, strict=True)) ** 3 for line in _FROM_LAB]
    light: float = sum(part * cone for part, cone in zip(row, cones, strict=True))
    return light
