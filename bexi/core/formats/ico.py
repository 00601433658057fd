"""ICO files: written, and read by a reader of our own.

Little-endian throughout. After a 6-byte header come 16-byte entries, then the frames. Source: Microsoft, "Icons"
(Win32) and BITMAPINFOHEADER; the frame that is a PNG file: Windows Vista and later.
"""

import io
import struct
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from PIL import Image

from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.light import Pixels

MEDIA_TYPE = "image/vnd.microsoft.icon"  # IANA

_HEADER = struct.Struct("<HHH")  # reserved 0, type 1, number of frames
_ENTRY = struct.Struct("<BBBBHHII")  # width, height, colours, 0, planes, bits, bytes, offset
_BITMAP = struct.Struct("<IiiHHIIiiII")  # BITMAPINFOHEADER
_PNG_SIGNATURE = b"\x89PNG\r\n\x1a\n"


@dataclass(frozen=True, eq=False)
class IcoFrame:
    """One frame as read: pixels of shape (height, width, 4), bits per pixel, and whether it is stored as PNG."""

    pixels: Pixels
    bits: int
    is_png: bool


def write(pictures: Sequence[Pixels]) -> bytes:
    """An ICO file with one 32-bit bitmap frame for each square picture of at most 256 px, in the given order."""
    frames = [_bitmap_frame(pixels) for pixels in pictures]
    offset = _HEADER.size + _ENTRY.size * len(frames)
    entries = []
    for pixels, frame in zip(pictures, frames, strict=True):
        side = pixels.shape[0] % 256  # 256 is written as 0
        entries.append(_ENTRY.pack(side, side, 0, 0, 1, 32, len(frame), offset))
        offset += len(frame)
    return _HEADER.pack(0, 1, len(frames)) + b"".join(entries) + b"".join(frames)


def read(data: bytes) -> list[IcoFrame]:
    """The frames of an ICO file, 32-bit bitmaps and PNG; raises ArtworkRefused when the file is not sound."""
    try:
        reserved, kind, count = _HEADER.unpack_from(data)
        if (reserved, kind) != (0, 1) or count == 0:
            raise ValueError("not an icon file")
        return [_read_frame(data, _HEADER.size + index * _ENTRY.size) for index in range(count)]
    except (struct.error, ValueError, OSError) as error:
        raise ArtworkRefused("broken-picture", f"This ICO file is not sound: {error}. Build it anew.") from error


def _bitmap_frame(pixels: Pixels) -> bytes:
    side = pixels.shape[0]
    mask = np.zeros((side, (side + 31) // 32 * 32), dtype=np.uint8)  # rows padded to 32 bits
    mask[:, :side] = pixels[::-1, :, 3] == 0
    colours = pixels[::-1, :, [2, 1, 0, 3]].tobytes()  # bottom-up, BGRA
    bits = np.packbits(mask, axis=1).tobytes()
    # The height is doubled: it counts the mask below the colours.
    return _BITMAP.pack(40, side, 2 * side, 1, 32, 0, len(colours) + len(bits), 0, 0, 0, 0) + colours + bits


def _read_frame(data: bytes, entry: int) -> IcoFrame:
    width, height, _, _, _, bits, length, offset = _ENTRY.unpack_from(data, entry)
    width, height = width or 256, height or 256
    body = data[offset : offset + length]
    if len(body) < length:
        raise ValueError("a frame lies beyond the end of the file")
    if body.startswith(_PNG_SIGNATURE):
        image = Image.open(io.BytesIO(body), formats=["PNG"])
        return IcoFrame(np.asarray(image.convert("RGBA"), dtype=np.uint8), bits, is_png=True)
    _, real_width, double_height, _, real_bits, *_ = _BITMAP.unpack_from(body)
    if (real_width, double_height, real_bits) != (width, 2 * height, 32):
        raise ValueError("a frame's header contradicts its directory entry")
    colours = np.frombuffer(body, np.uint8, width * height * 4, _BITMAP.size).reshape(height, width, 4)
    return IcoFrame(colours[::-1, :, [2, 1, 0, 3]], real_bits, is_png=False)
