"""ICO files: written, and read by a reader of our own, with frames of every kind.

Little-endian throughout. After a 6-byte header come 16-byte entries, then the frames. Source: Microsoft, "Icons"
(Win32) and BITMAPINFOHEADER; the frame that is a PNG file, of 32 bits: Windows Vista and later.
"""

import io
import struct
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import Enum

import numpy as np
from numpy.typing import NDArray

from bexi.core.errors import ArtworkRefused
from bexi.core.formats import png
from bexi.core.formats.sizes import LARGEST_FRAME
from bexi.core.pixels import palette
from bexi.core.pixels.light import Pixels

_HEADER = struct.Struct("<HHH")  # reserved 0, type 1, number of frames
_ENTRY = struct.Struct("<BBBBHHII")  # width, height, colours, 0, planes, bits, bytes, offset
_BITMAP = struct.Struct("<IiiHHIIiiII")  # BITMAPINFOHEADER
_PNG_SIGNATURE = b"\x89PNG\r\n\x1a\n"
_PALETTED = (1, 4, 8)
_CLEAR = np.zeros(4, dtype=np.uint8)


class FrameKind(Enum):
    """How a frame is stored: as a bitmap of so many bits for each pixel, or as a PNG file."""

    BITMAP_1 = 1
    BITMAP_4 = 4
    BITMAP_8 = 8
    BITMAP_24 = 24
    BITMAP_32 = 32
    PNG = 0


@dataclass(frozen=True, eq=False)
class IcoFrame:
    """One frame: pixels of shape (height, width, 4), and how it is stored."""

    pixels: Pixels
    kind: FrameKind

    @property
    def is_png(self) -> bool:
        """Whether the frame is a PNG file."""
        return self.kind is FrameKind.PNG


def write(pictures: Sequence[Pixels], kind_of: Callable[[Pixels], FrameKind] = lambda _: FrameKind.BITMAP_32) -> bytes:
    """An ICO file with one frame for each square picture of at most 256 px, in the given order.

    Raises ValueError for a kind that cannot hold its picture: up to 24 bits only know clear and opaque pixels.
    """
    kinds = [kind_of(pixels) for pixels in pictures]
    frames = [_frame(pixels, kind) for pixels, kind in zip(pictures, kinds, strict=True)]
    offset = _HEADER.size + _ENTRY.size * len(frames)
    entries = []
    for pixels, kind, frame in zip(pictures, kinds, frames, strict=True):
        side = pixels.shape[0] % LARGEST_FRAME  # 256 is written as 0
        colours = 2**kind.value % 256 if kind.value in _PALETTED else 0
        entries.append(_ENTRY.pack(side, side, colours, 0, 1, kind.value or 32, len(frame), offset))
        offset += len(frame)
    return _HEADER.pack(0, 1, len(frames)) + b"".join(entries) + b"".join(frames)


def smallest_bitmap(pixels: Pixels) -> FrameKind:
    """The kind of bitmap with the fewest bits that loses nothing of a picture."""
    if not np.isin(pixels[..., 3], (0, 255)).all():
        return FrameKind.BITMAP_32
    found = palette.exact(_hard(pixels))
    if found is None:
        return FrameKind.BITMAP_24
    bits = next(bits for bits in _PALETTED if len(found.colours) <= 2**bits)
    return FrameKind(bits)


def read(data: bytes) -> list[IcoFrame]:
    """The frames of an ICO file; raises ArtworkRefused when the file is not sound."""
    try:
        reserved, kind, count = _HEADER.unpack_from(data)
        if (reserved, kind) != (0, 1) or count == 0:
            raise ValueError("not an icon file")
        return [_read_frame(data, _HEADER.size + index * _ENTRY.size) for index in range(count)]
    except (struct.error, ValueError, OSError, IndexError) as error:
        raise ArtworkRefused("broken-picture", f"This ICO file is damaged: {error}. Make it again.") from error


def _frame(pixels: Pixels, kind: FrameKind) -> bytes:
    if kind is FrameKind.PNG:
        return png.write(pixels, reduce=False)
    bits, side = kind.value, pixels.shape[0]
    if bits < 32 and not np.isin(pixels[..., 3], (0, 255)).all():
        raise ValueError(f"a frame of {bits} bits cannot be half clear")
    colours, rows = _colours(_hard(pixels) if bits < 32 else pixels, bits)
    mask = _packed((pixels[::-1, :, 3] == 0).astype(np.uint8), 1)
    body = colours + rows + mask
    used = len(colours) // 4
    # The height is doubled: it counts the mask below the colours.
    return _BITMAP.pack(40, side, 2 * side, 1, bits, 0, len(rows) + len(mask), 0, 0, used, 0) + body


def _hard(pixels: Pixels) -> Pixels:
    """Clear pixels as opaque black: the mask alone says that they are clear."""
    hard = pixels.copy()
    hard[pixels[..., 3] == 0] = _CLEAR
    hard[..., 3] = 255
    return hard


def _colours(pixels: Pixels, bits: int) -> tuple[bytes, bytes]:
    """The palette, if there is one, and the rows, bottom-up in BGR order and padded to 32 bits."""
    if bits == 32:
        return b"", pixels[::-1, :, [2, 1, 0, 3]].tobytes()
    if bits == 24:
        rows = pixels[::-1, :, [2, 1, 0]].reshape(pixels.shape[0], -1)
        return b"", np.pad(rows, ((0, 0), (0, -rows.shape[1] % 4))).tobytes()
    found = palette.exact(pixels)
    if found is None or len(found.colours) > 2**bits:
        raise ValueError(f"a frame of {bits} bits holds {2**bits} colours")
    table = np.zeros((2**bits, 4), dtype=np.uint8)
    table[: len(found.colours), :3] = found.colours[:, 2::-1]
    return table.tobytes(), _packed(found.indices[::-1], bits)


def _packed(rows: NDArray[np.uint8], bits: int) -> bytes:
    """Rows of numbers of so many bits, each row padded to 32 bits."""
    split = np.unpackbits(rows[..., None], axis=-1)[..., 8 - bits :].reshape(len(rows), -1)
    return np.packbits(np.pad(split, ((0, 0), (0, -split.shape[1] % 32))), axis=1).tobytes()


def _unpacked(data: bytes, width: int, height: int, bits: int) -> NDArray[np.uint8]:
    stride = _stride(width, bits)
    rows = np.unpackbits(np.frombuffer(data, np.uint8, stride * height).reshape(height, stride), axis=1)
    split = rows[:, : width * bits].reshape(height, width, bits)
    return np.packbits(np.pad(split, ((0, 0), (0, 0), (8 - bits, 0))), axis=-1)[::-1, :, 0]


def _stride(width: int, bits: int) -> int:
    return (width * bits + 31) // 32 * 4


def _read_frame(data: bytes, entry: int) -> IcoFrame:
    width, height, _, _, _, _, length, offset = _ENTRY.unpack_from(data, entry)
    width, height = width or LARGEST_FRAME, height or LARGEST_FRAME
    body = data[offset : offset + length]
    if len(body) < length:
        raise ValueError("a frame lies beyond the end of the file")
    if body.startswith(_PNG_SIGNATURE):
        from PIL import Image  # on demand: writing does without

        image = Image.open(io.BytesIO(body), formats=["PNG"])
        if image.size != (width, height):
            raise ValueError("a frame's picture contradicts its directory entry")
        return IcoFrame(np.asarray(image.convert("RGBA"), dtype=np.uint8), FrameKind.PNG)
    header, real_width, double_height, _, bits, _, _, _, _, used, _ = _BITMAP.unpack_from(body)
    if (header, real_width, double_height) != (_BITMAP.size, width, 2 * height):
        raise ValueError("a frame's header contradicts its directory entry")
    kind = FrameKind(bits)
    return IcoFrame(_read_bitmap(body[_BITMAP.size :], width, height, kind.value, used), kind)


def _read_bitmap(body: bytes, width: int, height: int, bits: int, used: int) -> Pixels:
    table_bytes = 4 * (used or 2**bits) if bits in _PALETTED else 0
    rows, mask_start = body[table_bytes:], table_bytes + _stride(width, bits) * height
    pixels = np.empty((height, width, 4), dtype=np.uint8)
    if bits == 32:
        stored = np.frombuffer(rows, np.uint8, width * height * 4).reshape(height, width, 4)
        pixels[:] = stored[::-1, :, [2, 1, 0, 3]]
        if pixels[..., 3].any():
            return pixels
    elif bits == 24:
        stride = _stride(width, bits)
        stored = np.frombuffer(rows, np.uint8, stride * height).reshape(height, stride)[:, : 3 * width]
        pixels[..., :3] = stored.reshape(height, width, 3)[::-1, :, ::-1]
    else:
        table = np.frombuffer(body, np.uint8, table_bytes).reshape(-1, 4)
        pixels[..., :3] = table[_unpacked(rows, width, height, bits)][..., 2::-1]
    # Without an alpha channel, or with an empty one, the mask says what is clear.
    clear = _unpacked(body[mask_start:], width, height, 1) == 1
    pixels[..., 3] = np.where(clear, 0, 255)
    pixels[clear] = 0
    return pixels
