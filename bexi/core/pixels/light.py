"""Between stored pixels (sRGB, straight alpha, 8 bit) and light (linear, premultiplied, float)."""

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.colour import Colour, linear

Pixels = NDArray[np.uint8]
"""Shape (height, width, 4): sRGB red, green, blue and straight alpha, 0 to 255."""
Light = NDArray[np.float32]
"""Shape (height, width, 4): linear red, green, blue multiplied by alpha, then alpha; nominally 0 to 1."""

Planes = NDArray[np.float32]
"""Light with its channels apart: shape (4, height, width), which is how large pictures are resized fastest."""

LINEAR = np.array([linear(value / 255) for value in range(256)], dtype=np.float32)
"""Linear light, 0 to 1, of each of the 256 stored values of a channel."""
_SHARE = np.arange(256, dtype=np.float32) / np.float32(255)


def planes(pixels: Pixels) -> Planes:
    """Linear, premultiplied light of stored pixels, its channels apart."""
    light: Planes = np.empty((4, *pixels.shape[:-1]), dtype=np.float32)
    for channel in range(3):
        np.take(LINEAR, pixels[..., channel], out=light[channel], mode="clip")  # "clip" spares a buffer
    np.take(_SHARE, pixels[..., 3], out=light[3], mode="clip")
    if pixels[..., 3].min(initial=255) < 255:
        light[:3] *= light[3]
    return light


def to_light(pixels: Pixels) -> Light:
    """Linear, premultiplied light of stored pixels."""
    light: Light = np.moveaxis(planes(pixels), 0, -1)
    return light


def to_pixels(light: Light) -> Pixels:
    """Stored pixels of light, each channel rounded to the nearest value; clear pixels become all zero."""
    alpha = np.clip(light[..., 3:], 0, 1)
    straight = np.divide(light[..., :3], alpha, out=np.zeros_like(light[..., :3]), where=alpha > 0)
    straight = np.clip(straight, 0, 1)
    encoded = np.where(straight <= 0.0031308, 12.92 * straight, 1.055 * straight ** (1 / 2.4) - 0.055)
    pixels: Pixels = np.rint(np.concatenate([encoded, alpha], axis=-1) * 255).astype(np.uint8)
    pixels[pixels[..., 3] == 0] = 0
    return pixels


def colour_light(colour: Colour) -> Light:
    """The light of an opaque colour, shape (4,)."""
    light: Light = planes(np.array([[*colour.channels, 255]], dtype=np.uint8))[:, 0]
    return light


def over(pixels: Pixels, ground: Colour) -> Pixels:
    """Opaque pixels: the picture laid on a ground as a browser lays it, in sRGB (CSS Compositing, source-over)."""
    alpha = pixels[..., 3:].astype(np.float32) / 255
    mixed = pixels[..., :3] * alpha + np.array(ground.channels, dtype=np.float32) * (1 - alpha)
    result = np.full_like(pixels, 255)
    result[..., :3] = np.rint(mixed)
    return result


def recoloured(pixels: Pixels, colour: Colour) -> Pixels:
    """The same coverage in one colour."""
    result = pixels.copy()
    result[..., :3] = colour.channels
    result[result[..., 3] == 0] = 0
    return result
