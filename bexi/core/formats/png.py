"""PNG files (W3C PNG, Third Edition), written as small as they get without loss."""

import io
import struct
import zlib
from collections.abc import Sequence

import numpy as np
import oxipng
from PIL import Image

from bexi.core.pixels.light import Pixels

_SMALL, _LARGE = 96 * 96, 256 * 256
_PLAIN, _FILTERS = [oxipng.RowFilter.NoOp], [oxipng.RowFilter.NoOp, oxipng.RowFilter.Entropy]
"""Drawn pictures are smallest without a filter, grainy ones with the other one [measured]."""
_FEW = 256
"""With so many colours a picture is stored as places in a palette, which no filter foretells."""


def write(pixels: Pixels, reduce: bool = True) -> bytes:
    """A PNG file of these pixels without metadata, in the smallest colour type that loses nothing.

    Without `reduce` it has 8 bits for each of red, green, blue and alpha, as ICO frames need them.
    """
    height, width = pixels.shape[:2]
    raw = oxipng.RawImage(pixels.tobytes(), width, height, color_type=oxipng.ColorType.rgba())
    flat = reduce and width * height > _SMALL and _has_few_colours(pixels)
    # The last step of the search costs large grainy pictures as much time as all else and saves them hardly anything.
    effort = 11 if width * height > _LARGE and not flat else 12
    return raw.create_optimized_png(
        level=2,
        filter=_PLAIN if flat else _FILTERS,
        deflate=oxipng.Deflaters.libdeflater(effort),
        # Which filter is better is tried out in full where that takes no time, else estimated [measured].
        fast_evaluation=width * height > _SMALL,
        bit_depth_reduction=reduce,
        color_type_reduction=reduce,
        palette_reduction=reduce,
        grayscale_reduction=reduce,
    )


def write_quickly(pixels: Pixels) -> bytes:
    """The same pixels for the screen, at once instead of small."""
    target = io.BytesIO()
    Image.fromarray(pixels).save(target, "PNG", compress_level=1)
    return target.getvalue()


def read(data: bytes) -> Pixels:
    """The pixels of a PNG file that was written here."""
    pixels: Pixels = np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"))
    return pixels


def is_whole(data: bytes, last_row_is_empty: bool) -> bool:
    """Whether a PNG file has its end, and a row of pixels for each of its height.

    The rows are only counted when the last one came out empty, as one that is missing does.
    """
    position, header, packed = len(_SIGNATURE), b"", []
    while position + 12 <= len(data):
        length, kind = int.from_bytes(data[position : position + 4]), data[position + 4 : position + 8]
        body = data[position + 8 : position + 8 + length]
        position += 12 + length
        if kind == b"IHDR":
            header = body
        elif kind == b"IDAT":
            packed.append(body)
        elif kind == b"IEND":
            return position <= len(data) and (not last_row_is_empty or _has_every_row(header, packed))
    return False


_SIGNATURE = b"\x89PNG\r\n\x1a\n"
_CHANNELS = {0: 1, 2: 3, 3: 1, 4: 2, 6: 4}
_ADAM7 = ((0, 8, 0, 8), (4, 8, 0, 8), (0, 4, 4, 8), (2, 4, 0, 4), (0, 2, 2, 4), (1, 2, 0, 2), (0, 1, 1, 2))
"""Of each pass the first column, the step between columns, the first row and the step between rows (§8.1)."""


def _has_every_row(header: bytes, packed: Sequence[bytes]) -> bool:
    width, height, depth, colour, *_, interlaced = struct.unpack(">IIBBBBB", header)
    bits = depth * _CHANNELS.get(colour, 1)
    passes = _ADAM7 if interlaced else ((0, 1, 0, 1),)
    expected = 0
    for left, across, top, down in passes:
        columns, rows = -(-(width - left) // across), -(-(height - top) // down)
        expected += rows * (1 + -(-columns * bits // 8)) if columns > 0 and rows > 0 else 0
    stream, found = zlib.decompressobj(), 0
    for piece in packed:
        while piece:
            found += len(stream.decompress(piece, _AT_ONCE))
            piece = stream.unconsumed_tail
    return found + len(stream.flush()) >= expected


_AT_ONCE = 1024 * 1024


def _has_few_colours(pixels: Pixels) -> bool:
    values = np.ascontiguousarray(pixels).view(np.uint32)
    if len(np.unique(values[::8, ::8])) > _FEW:  # most grainy pictures show it at once
        return False
    return len(np.unique(values)) <= _FEW
