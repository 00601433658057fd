"""Between stored pixels (sRGB, straight alpha, 8 bit) and light (linear, premultiplied, float)."""

import math

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.colour import Colour, linear

Pixels = NDArray[np.uint8]
"""Shape (height, width, 4): sRGB red, green, blue and straight alpha, 0 to 255."""
Light = NDArray[np.float32]
"""Shape (height, width, 4): linear red, green, blue multiplied by alpha, then alpha; nominally 0 to 1."""

ALPHA = 3
"""The channel of that number."""
LINEAR = np.array([linear(value / 255) for value in range(256)], dtype=np.float32)
"""Linear light, 0 to 1, of each of the 256 stored values of a channel."""
_STEPS = 2**20
_FIRSTS = [math.ceil(linear((value - 0.5) / 255) * _STEPS) for value in range(1, 256)]
_NEAREST = np.repeat(np.arange(256, dtype=np.uint8), np.diff([0, *_FIRSTS, _STEPS + 1]))
"""The stored value nearest to linear light in so many steps: a table, since powers are rounded otherwise elsewhere."""


def words_of(pixels: Pixels) -> NDArray[np.uint32]:
    """Each pixel as one number, red its lowest byte: shape (height, width)."""
    return pixels.view("<u4")[..., 0]


def to_light(pixels: Pixels) -> Light:
    """Linear, premultiplied light of stored pixels."""
    alpha = pixels[..., ALPHA].astype(np.float32) / np.float32(255)
    light: Light = np.take(LINEAR, pixels, mode="clip")  # all channels at once: faster than three of four
    for channel in range(ALPHA):  # each by itself: faster than four at once, alpha spread over them
        light[..., channel] *= alpha
    light[..., ALPHA] = alpha
    return light


def to_pixels(light: NDArray[np.floating]) -> Pixels:
    """Stored pixels of light, each channel rounded to the nearest value; clear pixels become all zero."""
    alpha = np.clip(light[..., ALPHA], 0, 1)
    pixels: Pixels = np.empty(light.shape, dtype=np.uint8)
    for channel in range(ALPHA):  # each by itself: faster than three at once, alpha spread over them
        straight = np.divide(light[..., channel], alpha, out=np.zeros_like(alpha), where=alpha > 0)
        pixels[..., channel] = _stored(straight)
    pixels[..., ALPHA] = np.rint(alpha * 255)
    words_of(pixels)[pixels[..., ALPHA] == 0] = 0
    return pixels


def _stored(light: NDArray[np.floating]) -> NDArray[np.uint8]:
    """Stored values of linear light, each rounded to the nearest; what is beyond 0 and 1 becomes those."""
    steps = np.clip(light, 0, 1)
    steps *= _STEPS
    values: NDArray[np.uint8] = np.take(_NEAREST, np.rint(steps, out=steps).astype(np.int32), mode="clip")
    return values


def over(pixels: Pixels, ground: Colour) -> Pixels:
    """Opaque pixels: the picture laid on a ground as a browser lays it, in sRGB (CSS Compositing, source-over)."""
    alpha = pixels[..., ALPHA].astype(np.float32) / 255
    beside = 1 - alpha
    result = np.full_like(pixels, 255)
    for channel, below in enumerate(ground.channels):  # each by itself: many times faster than three at once
        result[..., channel] = np.rint(pixels[..., channel] * alpha + np.float32(below) * beside)
    return result


def recoloured(pixels: Pixels, colour: Colour) -> Pixels:
    """The same coverage in one colour."""
    words, ink = words_of(pixels), words_of(np.array([*colour.channels, 0], dtype=np.uint8))
    inked = np.where(words >= 1 << 24, words & (255 << 24) | ink, 0)
    return inked[..., None].view(np.uint8)
