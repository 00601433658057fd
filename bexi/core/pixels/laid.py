"""A stored picture, laid on its ground where one is given, and its light in whole numbers, some of it at a time."""

from typing import Any

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray

from bexi.core.pixels.colour import Colour, linear
from bexi.core.pixels.light import ALPHA, Pixels, over, words_of

WHOLE = 65535.0
"""White, and full coverage, in whole light."""
FINE = WHOLE * 255
"""The same in fine light, in which half-clear pixels lose nothing by being multiplied by their alpha."""

_LINEAR = np.array([round(linear(value / 255) * WHOLE) for value in range(256)], dtype=np.uint16)
Codes = NDArray[np.unsignedinteger[Any]]
"""Light of pixels in numbers that can be compared, shape (..., 4): stored values of opaque ones, else whole light."""
_FINE_OF_STORED = _LINEAR.astype(np.float64) * 255


_ONE_ALPHA, _OPAQUE = np.uint32(1 << 24), np.uint32(255 << 24)
_TO_CHANNELS = np.uint64(0x0001_0001_0001_0001)
_FEW = 1 / 8
"""Of all pixels: so many half-clear ones are looked at by themselves [measured]."""
_PAIRS = np.stack([np.tile(_LINEAR, 256), np.repeat(_LINEAR, 256)], axis=-1).view(np.uint32)[:, 0]
"""Two channels looked up at once, which takes as long as one (little-endian)."""


class LaidPicture:
    """Stored pixels, shape (height, width, 4), on a ground as a browser lays them (in sRGB), or as they are."""

    def __init__(self, pixels: Pixels, ground: Colour | None) -> None:
        self._pixels = pixels
        self._ground = ground
        self._solid = bool(pixels[..., ALPHA].min(initial=255) == 255)
        self.height, self.width = pixels.shape[:2]
        self.opaque = self._solid or ground is not None
        self._outside = np.array([*ground.channels, 255] if ground else [0, 0, 0, 0], dtype=np.uint8)
        self.outside: Codes = self._outside if self.opaque else self._outside.astype(np.uint16)
        """The code of what lies around the picture."""

    def stored(self, rows: slice, columns: slice) -> Pixels:
        """Some of the pixels, laid on the ground if there is one."""
        return self._laid(np.ascontiguousarray(self._pixels[rows, columns]))

    def _laid(self, part: Pixels) -> Pixels:
        if self._ground is None or self._solid:
            return part
        words = words_of(part)
        laid = np.where(words >= _ONE_ALPHA, words, words_of(self._outside))
        half = _half_clear(words)
        laid.reshape(-1)[half] = words_of(over(part.reshape(-1, 4)[half], self._ground))
        return laid[..., None].view(np.uint8)

    def fine_light(self, rows: slice, columns: slice) -> NDArray[np.float64]:
        """Premultiplied linear light, 0 to FINE, of the pixels' channels in a row: shape (rows, 4 · columns)."""
        stored = self.stored(rows, columns)
        light = _fine_of_stored(stored) if self.opaque else _fine(words_of(stored))
        return light.reshape(len(stored), 4 * stored.shape[1])

    def whole_light(self, rows: slice, columns: slice) -> NDArray[np.uint16]:
        """The same, rounded to 0 to WHOLE."""
        light = self._whole(self.stored(rows, columns))
        return light.reshape(len(light), 4 * light.shape[1])

    def codes(self, rows: slice, columns: slice) -> Codes:
        """Premultiplied light of pixels to compare, shape (rows, columns, 4)."""
        return self._codes(self.stored(rows, columns))

    def codes_of_runs(self, rows: NDArray[np.int64], starts: NDArray[np.int64], length: int) -> Codes:
        """The same of many parts, in whose rows, shape (parts, rows), runs of `length` begin, shape (parts, runs).

        Shape (parts, rows, runs · length, 4).
        """
        runs = sliding_window_view(words_of(self._pixels), length, axis=1)[rows[:, :, None], starts[:, None]]
        return self._codes(self._laid(runs.reshape(*rows.shape, -1, 1).view(np.uint8)))

    def _codes(self, stored: Pixels) -> Codes:
        return stored if self.opaque else self._whole(stored)

    def _whole(self, stored: Pixels) -> NDArray[np.uint16]:
        words = words_of(stored)
        return _straight(words) if self.opaque else _premultiplied(words)

    def light_of(self, codes: Codes) -> NDArray[np.float64]:
        """Fine light of codes."""
        if self.opaque:
            return _fine_of_stored(codes)
        light: NDArray[np.float64] = codes.astype(np.float64) * (FINE / WHOLE)
        return light


def _straight(words: NDArray[np.uint32]) -> NDArray[np.uint16]:
    """Whole light of the channels, not multiplied by alpha, which is WHOLE everywhere: shape (..., 4)."""
    light = _looked_up(words)
    light[..., ALPHA] = 65535
    return light


def _premultiplied(words: NDArray[np.uint32]) -> NDArray[np.uint16]:
    """Whole light of the channels, multiplied by alpha and rounded."""
    half = _half_clear(words)
    if len(half) > _FEW * words.size:
        return _rounded_product(words)
    light = _looked_up(_without_half_clear(words))
    light.reshape(-1, 4)[half] = _rounded_product(words.reshape(-1)[half])
    return light


def _fine(words: NDArray[np.uint32]) -> NDArray[np.float64]:
    """Fine light of the channels, multiplied by alpha."""
    half = _half_clear(words)
    if len(half) > _FEW * words.size:
        return _product(words)
    light = _fine_of_stored(_without_half_clear(words)[..., None].view(np.uint8))
    light.reshape(-1, 4)[half] = _product(words.reshape(-1)[half])
    return light


def _rounded_product(words: NDArray[np.uint32]) -> NDArray[np.uint16]:
    """No product lies halfway, since 255 is odd."""
    product = np.multiply(_straight(words), _alphas(words), dtype=np.uint32)
    product += 127
    product //= 255
    return product.astype(np.uint16)


def _product(words: NDArray[np.uint32]) -> NDArray[np.float64]:
    return np.multiply(_straight(words), _alphas(words), dtype=np.float64)


def _fine_of_stored(stored: Pixels) -> NDArray[np.float64]:
    light: NDArray[np.float64] = np.take(_FINE_OF_STORED, stored, mode="clip")  # "clip" spares a buffer
    return light


def _half_clear(words: NDArray[np.uint32]) -> NDArray[np.intp]:
    """Which pixels, row after row, are neither opaque nor clear."""
    return np.flatnonzero(words - _ONE_ALPHA < _OPAQUE - _ONE_ALPHA)  # clear ones become the largest


def _without_half_clear(words: NDArray[np.uint32]) -> NDArray[np.uint32]:
    """Opaque pixels, and nothing elsewhere: then alpha is looked up as any channel."""
    return np.where(words >= _OPAQUE, words, np.uint32(0))


def _alphas(words: NDArray[np.uint32]) -> NDArray[np.uint16]:
    """Each pixel's alpha, once for each of its channels: shape (..., 4)."""
    return ((words >> 24) * _TO_CHANNELS)[..., None].view(np.uint16)


def _looked_up(words: NDArray[np.uint32]) -> NDArray[np.uint16]:
    """What _LINEAR has for each byte of pixels: shape (..., 4)."""
    return np.take(_PAIRS, words[..., None].view(np.uint16), mode="clip").view(np.uint16)
