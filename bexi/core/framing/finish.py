"""What is done to an icon: one colour for its ink, sharpening, and an outline that lifts a mark off its ground."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bexi.core.errors import FramingRefused
from bexi.core.pixels.colour import WHITE, Colour
from bexi.core.pixels.light import Light, Pixels, to_light, to_pixels

SHARPEST = 4
THINNEST, HEAVIEST = -8, 12
LARGEST_SHARPENED = 64
"""Icons beyond so many px have enough pixels of their own."""
_FINE = 256
"""Distances are measured on at least so many px along the side."""


@dataclass(frozen=True)
class Finish:
    """Sharpening in steps of a quarter, 0 to 4, for icons up to 64 px; an outline `outline` % of the side wide.

    `recolour` is the one colour that all ink takes, None to leave it as it is. `weight` makes strokes so many % of the
    side wider, or thinner below 0, -8 to 12.
    """

    sharpen: int = 0
    outline: int = 0
    outline_colour: Colour = WHITE
    recolour: Colour | None = None
    weight: int = 0

    def __post_init__(self) -> None:
        if not THINNEST <= self.weight <= HEAVIEST:
            raise FramingRefused(
                "bad-finish", f"Make strokes {-THINNEST} % of the side thinner to {HEAVIEST} % wider, no more."
            )
        if not 0 <= self.sharpen <= SHARPEST or not 0 <= self.outline <= 15:
            raise FramingRefused(
                "bad-finish", f"Sharpen in steps of 0 to {SHARPEST}, and give an outline 0 to 15 % of the side."
            )

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        return {
            "sharpen_quarters": self.sharpen,
            "outline_percent": self.outline,
            "outline_colour": str(self.outline_colour),
            "recolour": str(self.recolour) if self.recolour else None,
            "weight_percent": self.weight,
        }

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> "Finish":
        """Read plain data; raises KeyError, TypeError or ValueError."""
        ink = Colour.parse(data["recolour"]) if data["recolour"] is not None else None
        outline, colour = int(data["outline_percent"]), Colour.parse(data["outline_colour"])
        return cls(int(data["sharpen_quarters"]), outline, colour, ink, int(data["weight_percent"]))

    def sharpened(self, pixels: Pixels) -> Pixels:
        """The icon sharpened; the very same pixels when there is nothing to do."""
        if not self.sharpen or pixels.shape[0] > LARGEST_SHARPENED:
            return pixels
        return to_pixels(sharpened(to_light(pixels), self.sharpen / 4))


def weighted(pixels: Pixels, weight: int) -> Pixels:
    """A square picture whose ink reaches further into the clear ground, or less far, by half of `weight` % of the side.

    What is new takes the colour of the ink next to it.
    """
    from scipy import ndimage

    ink = pixels[..., 3] > 127
    if not ink.any() or ink.all():
        return pixels
    grown, result = weight / 200 * len(pixels), pixels.copy()
    alpha = pixels[..., 3].astype(np.float64) / 255
    if grown < 0:
        left = np.clip(ndimage.distance_transform_edt(ink) + grown, 0, 1)
        result[..., 3] = np.rint(255 * np.minimum(alpha, left))
    else:
        distance, (rows, columns) = ndimage.distance_transform_edt(~ink, return_indices=True)
        reached = np.clip(grown + 1 - distance, 0, 1)
        result[..., :3] = np.where(ink[..., None], pixels[..., :3], pixels[rows, columns, :3])
        result[..., 3] = np.rint(255 * np.maximum(alpha, reached))
    result[result[..., 3] == 0] = 0
    return result


def sharpened(light: Light, amount: float) -> Light:
    """Light with its difference from a slightly blurred copy added `amount` times (unsharp masking)."""
    blurred = _blurred(_blurred(light).swapaxes(0, 1)).swapaxes(0, 1)
    result: Light = light + np.float32(amount) * (light - blurred)
    np.clip(result, 0, 1, out=result)
    result[..., :3] = np.minimum(result[..., :3], result[..., 3:])  # premultiplied light never exceeds its alpha
    return result


def _blurred(light: Light) -> Light:
    """Each row half of itself and a quarter of each neighbour."""
    around = np.concatenate([light[:1], light, light[-1:]])
    blurred: Light = (around[:-2] + 2 * around[1:-1] + around[2:]) / np.float32(4)
    return blurred


def outlined(pixels: Pixels, on_rim: Pixels, alpha: NDArray[np.uint8], width: float) -> Pixels:
    """An icon whose mark stands on a copy of its own shape, `width` px wider all around.

    `on_rim` is the same icon on a ground of the outline's colour, `alpha` the shape of the mark, 0 to 255.
    """
    rim = np.clip(width + 0.5 - _distance(alpha), 0, 1)[..., None].astype(np.float32)
    return to_pixels(rim * to_light(on_rim) + (1 - rim) * to_light(pixels))


def _distance(alpha: NDArray[np.uint8]) -> NDArray[np.float64]:
    """How far each pixel's centre lies from the shape, in px; the shape is where more than half is covered."""
    from scipy import ndimage

    size = alpha.shape[0]
    factor = max(1, _FINE // size)
    fine = ndimage.zoom(alpha.astype(np.float32), factor, order=1, mode="nearest", grid_mode=True) > 127
    if not fine.any():
        return np.full(alpha.shape, np.inf)
    distance = ndimage.distance_transform_edt(~fine) / factor
    averaged: NDArray[np.float64] = distance.reshape(size, factor, size, factor).mean(axis=(1, 3))
    return averaged
