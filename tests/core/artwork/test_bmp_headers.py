"""BMP files with each common header, built by hand from the documented layouts."""

import struct
from unittest import TestCase

from bexi.core.artwork.intake import take_in

WIDTH, HEIGHT = 3, 2
# Rows top to bottom, red green blue.
COLOURS = [[(255, 0, 0), (0, 255, 0), (0, 0, 255)], [(10, 20, 30), (40, 50, 60), (70, 80, 90)]]
MASKS = struct.pack("<IIII", 0x00FF0000, 0x0000FF00, 0x000000FF, 0xFF000000)


def bottom_up(colours: list, alpha: bool) -> bytes:
    """Rows from the lowest, BGR or BGRA, each padded to 32 bits."""
    rows = []
    for row in reversed(colours):
        data = b"".join(bytes((blue, green, red)) + (b"\x80" if alpha else b"") for red, green, blue in row)
        rows.append(data + b"\0" * (-len(data) % 4))
    return b"".join(rows)


def bmp(header: bytes, pixels: bytes, between: bytes = b"") -> bytes:
    """BITMAPFILEHEADER, header, what stands between, pixels."""
    offset = 14 + len(header) + len(between)
    return struct.pack("<2sIHHI", b"BM", offset + len(pixels), 0, 0, offset) + header + between + pixels


def info(size: int, bits: int, compression: int, rest: bytes = b"", height: int = HEIGHT) -> bytes:
    """BITMAPINFOHEADER and its longer successors: 40 bytes, then masks, colour space and the like."""
    head = struct.pack("<IiiHHIIiiII", size, WIDTH, height, 1, bits, compression, 0, 2835, 2835, 0, 0)
    return (head + rest).ljust(size, b"\0")


class BmpHeaderTests(TestCase):
    """Sizes and fields after Microsoft, "Bitmap Header Types" (from memory); Pillow reads them for us."""

    def read(self, data: bytes) -> list:
        return take_in(data)[1].pixels.tolist()

    def assert_colours(self, data: bytes, alpha: int = 255) -> None:
        self.assertEqual(self.read(data), [[[*colour, alpha] for colour in row] for row in COLOURS])

    def test_os2_core_header(self):
        core = struct.pack("<IHHHH", 12, WIDTH, HEIGHT, 1, 24)
        self.assert_colours(bmp(core, bottom_up(COLOURS, alpha=False)))

    def test_info_header(self):
        self.assert_colours(bmp(info(40, 24, 0), bottom_up(COLOURS, alpha=False)))

    def test_top_down(self):
        self.assert_colours(bmp(info(40, 24, 0, height=-HEIGHT), bottom_up(COLOURS[::-1], alpha=False)))

    def test_masks_of_the_second_to_fifth_version(self):
        for size, masks in ((52, MASKS[:12]), (56, MASKS), (108, MASKS), (124, MASKS)):
            alpha = 255 if size == 52 else 128
            self.assert_colours(bmp(info(size, 32, 3, masks), bottom_up(COLOURS, alpha=True)), alpha)

    def test_palette(self):
        table = b"".join(bytes((blue, green, red, 0)) for row in COLOURS for red, green, blue in row)
        header = struct.pack("<IiiHHIIiiII", 40, WIDTH, HEIGHT, 1, 8, 0, 0, 2835, 2835, 6, 6)
        self.assert_colours(bmp(header, b"\x03\x04\x05\0\x00\x01\x02\0", between=table))

    def test_five_bits_a_channel(self):
        row = b"".join(struct.pack("<H", value) for value in (0x7C00, 0x03E0, 0x001F)) + b"\0\0"
        pixels = self.read(bmp(info(40, 16, 0), row + row))
        self.assertEqual([pixel[:3].index(max(pixel[:3])) for pixel in pixels[0]], [0, 1, 2])
