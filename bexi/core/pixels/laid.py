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
        alpha = part[..., ALPHA]
        laid: Pixels = np.where(alpha > 0, words_of(part), words_of(self._outside))[..., None].view(np.uint8)
        half = np.nonzero((alpha > 0) & (alpha < 255))
        laid[half] = over(part[half], self._ground)
        return laid

    def fine_light(self, rows: slice, columns: slice) -> NDArray[np.float64]:
        """Premultiplied linear light, 0 to FINE, of the pixels' channels in a row: shape (rows, 4 · columns)."""
        stored = self.stored(rows, columns)
        light = _straight(stored).astype(np.float64)
        light *= stored[..., ALPHA:]
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
        return _straight(stored) if self.opaque else _premultiplied(stored)

    def light_of(self, codes: Codes) -> NDArray[np.float64]:
        """Fine light of codes."""
        if self.opaque:
            fine: NDArray[np.float64] = np.take(_FINE_OF_STORED, codes, mode="clip")
            fine[..., ALPHA] = codes[..., ALPHA] * WHOLE
            return fine
        light: NDArray[np.float64] = codes.astype(np.float64) * (FINE / WHOLE)
        return light


def _straight(stored: Pixels) -> NDArray[np.uint16]:
    """Whole light of the channels, not multiplied by alpha, which is WHOLE everywhere."""
    light = _looked_up(words_of(np.ascontiguousarray(stored)))
    light[..., ALPHA] = 65535
    return light


def _premultiplied(stored: Pixels) -> NDArray[np.uint16]:
    """Whole light of the channels, multiplied by alpha and rounded; no product lies halfway, since 255 is odd."""
    words = words_of(np.ascontiguousarray(stored))
    if not np.any(words - _ONE_ALPHA < _OPAQUE - _ONE_ALPHA):  # none is half clear: clear ones become the largest
        return _looked_up(np.where(words >= _OPAQUE, words, 0))  # where alpha is 255 it is WHOLE, too
    light = _straight(stored)
    spread = ((words >> 24) * _TO_CHANNELS).view(np.uint16).reshape(light.shape)
    product = np.multiply(light, spread, dtype=np.uint32)
    product += 127
    product //= 255
    return product.astype(np.uint16)


def _looked_up(words: NDArray[np.uint32]) -> NDArray[np.uint16]:
    """What _LINEAR has for each byte of pixels."""
    light = np.take(_PAIRS, words[..., None].view(np.uint16), mode="clip")  # "clip" spares a buffer
    return light.view(np.uint16)
