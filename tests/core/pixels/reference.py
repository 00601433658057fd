"""Icons made the slow way, in double precision and independent of Bexi's code: cut first, then reduced directly."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[Any]


def linear(stored: Array) -> Array:
    """Linear light of stored values (IEC 61966-2-1)."""
    share = stored / 255
    light: Array = np.where(share <= 0.04045, share / 12.92, ((share + 0.055) / 1.055) ** 2.4)
    return light


def stored(light: Array) -> Array:
    """Stored pixels of premultiplied linear light."""
    alpha = np.clip(light[..., 3:], 0, 1)
    straight = np.divide(light[..., :3], alpha, out=np.zeros_like(light[..., :3]), where=alpha > 0).clip(0, 1)
    encoded = np.where(straight <= 0.0031308, 12.92 * straight, 1.055 * straight ** (1 / 2.4) - 0.055)
    pixels: Array = np.rint(np.concatenate([encoded, alpha], axis=-1) * 255).astype(int)
    return pixels


def cut(pixels: Array, left: int, top: int, side: int, ground: tuple[int, int, int] | None = None) -> Array:
    """The light in a square, clear or ground where the picture does not reach."""
    height, width = pixels.shape[:2]
    alpha = pixels[..., 3:] / 255
    if ground:
        laid = np.rint(pixels[..., :3] * alpha + np.array(ground) * (1 - alpha))
        alpha = np.ones_like(alpha)
    else:
        laid = pixels[..., :3]
    square = np.zeros((side, side, 4))
    if ground:
        square[...] = [*linear(np.array(ground)), 1]
    rows, columns = slice(max(top, 0), min(top + side, height)), slice(max(left, 0), min(left + side, width))
    part = np.concatenate([linear(laid[rows, columns]) * alpha[rows, columns], alpha[rows, columns]], axis=-1)
    square[rows.start - top : rows.stop - top, columns.start - left : columns.stop - left] = part
    return square


def reduced(light: Array, size: int, bound: bool = True) -> Array:
    """A square of light by a Lanczos filter (Duchon, 1979), kept within the light under its main lobe."""
    side = len(light)
    scale = max(side / size, 1)
    offsets = (np.arange(side) + 0.5 - (np.arange(size)[:, None] + 0.5) * side / size) / scale
    weights = np.where(np.abs(offsets) < 3, np.sinc(offsets) * np.sinc(offsets / 3), 0)
    weights /= weights.sum(axis=1, keepdims=True)
    result: Array = np.einsum("xi,yic->yxc", weights, np.tensordot(weights, light, 1), optimize=True)
    if not bound:
        return result
    under = [np.flatnonzero(row) for row in np.abs(offsets) < 1 - 1e-12]
    for best, limit in ((np.min, np.maximum), (np.max, np.minimum)):
        tall = np.stack([best(light[run[0] : run[-1] + 1], axis=0) for run in under])
        wide = np.stack([best(tall[:, run[0] : run[-1] + 1], axis=1) for run in under], axis=1)
        result = limit(result, wide)
    return result
