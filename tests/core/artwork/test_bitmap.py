import gzip
import io
import struct
import timeit
import zlib
from unittest import TestCase

import imageio.v3 as imageio
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageCms, ImageOps

from bexi.core.artwork.detection import PictureFormat
from bexi.core.artwork.facts import measure
from bexi.core.artwork.intake import every_picture, take_in
from bexi.core.artwork.limits import Limits
from bexi.core.artwork.pictures import Bitmap
from bexi.core.errors import ArtworkRefused
from bexi.core.formats import ico, png
from bexi.core.livesite.icon_file import look_at
from tests.pictures import BLUE_DISC, encoded, noise, plain_png


def code_of(data: bytes, limits: Limits | None = None) -> str:
    try:
        take_in(data, limits or Limits())
    except ArtworkRefused as refusal:
        return refusal.code
    return "taken in"


class DecodingTests(TestCase):
    """Pictures written by Pillow, an independent encoder, are read as they were meant."""

    def test_lossless_formats_pixel_for_pixel(self):
        rgba = Image.fromarray(noise(31, 17))
        rgb = Image.fromarray(noise(31, 17)[..., :3])
        for image, kind, options in (
            (rgba, "PNG", {}),
            (rgba.convert("LA"), "PNG", {}),
            (rgb.convert("P"), "PNG", {"transparency": 3}),
            (rgb.convert("1"), "PNG", {}),
            (rgb, "BMP", {}),
            (rgba, "BMP", {}),
            (rgb.convert("P"), "GIF", {}),
            (rgba, "WEBP", {"lossless": True, "exact": True}),
            (rgba, "TIFF", {}),
            (rgb, "TIFF", {"compression": "tiff_lzw"}),
        ):
            data = encoded(image, kind, **options)
            picture_format, picture = take_in(data)
            self.assertEqual(picture_format.name, kind)
            meant = Image.open(io.BytesIO(data)).convert("RGBA")
            np.testing.assert_array_equal(picture.pixels, np.asarray(meant))

    def test_imageio_writes_what_is_read(self):
        # imageio's encoders are Pillow's, its array handling is its own.
        pixels = noise(20, 12)
        for kind in ("png", "bmp"):
            _, picture = take_in(imageio.imwrite("<bytes>", pixels, extension=f".{kind}"))
            np.testing.assert_array_equal(picture.pixels[..., :3], pixels[..., :3])
            # A 40-byte BMP header promises no alpha, so browsers and we read its fourth byte as nothing.
            self.assertEqual((picture.pixels[..., 3] == 255).all(), kind == "bmp")

    def test_sixteen_bits_keep_their_tones(self):
        ramp = np.linspace(0, 65535, 256).astype(np.uint16).reshape(16, 16)
        _, picture = take_in(encoded(Image.fromarray(ramp), "PNG"))
        self.assertLessEqual(np.abs(picture.pixels[..., 0].astype(int).ravel() - np.arange(256)).max(), 1)

    def test_interlaced_png(self):
        # Adam7 by hand: W3C PNG §8.2; one pixel needs one pass.
        header = struct.pack(">IIBBBBB", 1, 1, 8, 2, 0, 0, 1)
        chunks = ((b"IHDR", header), (b"IDAT", zlib.compress(b"\0\x11\x22\x33")), (b"IEND", b""))
        data = b"\x89PNG\r\n\x1a\n" + b"".join(
            struct.pack(">I", len(body)) + name + body + struct.pack(">I", zlib.crc32(name + body))
            for name, body in chunks
        )
        self.assertEqual(take_in(data)[1].pixels[0, 0].tolist(), [0x11, 0x22, 0x33, 255])

    def test_avif_svgz_and_pdf(self):
        avif = encoded(Image.new("RGB", (32, 24), "#3060c0"), "AVIF", quality=95)
        self.assertLess(np.abs(take_in(avif)[1].pixels[12, 12].astype(int) - (0x30, 0x60, 0xC0, 255)).max(), 6)
        self.assertTrue(take_in(gzip.compress(BLUE_DISC))[0].label == "SVGZ")
        page = take_in(encoded(Image.new("RGB", (300, 200), "#c03060"), "PDF"))[1]
        self.assertEqual(max(page.width, page.height), 2048)
        self.assertLess(np.abs(page.pixels[600, 1000].astype(int) - (0xC0, 0x30, 0x60, 255)).max(), 6)

    def test_all_eight_orientations(self):
        # Exif 2.3, tag 0x0112: each value says how the stored picture must be turned to stand upright.
        upright = Image.fromarray(np.kron(noise(4, 6)[..., :3], np.ones((16, 16, 1), dtype=np.uint8)))
        turn_back = {
            1: None,
            2: Image.Transpose.FLIP_LEFT_RIGHT,
            3: Image.Transpose.ROTATE_180,
            4: Image.Transpose.FLIP_TOP_BOTTOM,
            5: Image.Transpose.TRANSPOSE,
            6: Image.Transpose.ROTATE_90,
            7: Image.Transpose.TRANSVERSE,
            8: Image.Transpose.ROTATE_270,
        }
        for value, operation in turn_back.items():
            stored = upright.transpose(operation) if operation is not None else upright
            exif = Image.Exif()
            exif[0x0112] = value
            _, picture = take_in(encoded(stored, "JPEG", quality=95, subsampling=0, exif=exif))
            self.assertEqual((picture.width, picture.height), upright.size)
            difference = np.abs(picture.pixels[..., :3].astype(int) - np.asarray(upright).astype(int))
            self.assertLess(difference.mean(), 3, value)
            self.assertEqual(picture.turned, value != 1)

    def test_profile_is_converted_as_littlecms_does(self):
        # ICC.1: a profile whose red and blue colorants are exchanged makes of stored red a blue.
        srgb = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB"))
        exchanged = srgb.tobytes()
        for name, other in ((b"rXYZ", b"tmp!"), (b"bXYZ", b"rXYZ"), (b"tmp!", b"bXYZ")):
            exchanged = exchanged.replace(name, other)
        for mode in ("RGB", "RGBA"):
            image = Image.fromarray(noise(20, 20)).convert(mode)
            _, picture = take_in(encoded(image, "PNG", icc_profile=exchanged))
            profile = ImageCms.ImageCmsProfile(io.BytesIO(exchanged))
            meant = np.asarray(ImageCms.profileToProfile(image.convert("RGB"), profile, srgb))
            np.testing.assert_array_equal(picture.pixels[..., :3], meant)
            stored = np.asarray(image)
            self.assertLess(np.abs(picture.pixels[..., 0].astype(int) - stored[..., 2]).mean(), 3)
            np.testing.assert_array_equal(picture.pixels[..., 3], stored[..., 3] if mode == "RGBA" else 255)

    def test_an_unreadable_profile_is_left_aside(self):
        _, picture = take_in(encoded(Image.new("RGB", (4, 4), "#336699"), "PNG", icc_profile=b"nonsense"))
        self.assertEqual((picture.profile, picture.pixels[0, 0].tolist()), ("unreadable", [0x33, 0x66, 0x99, 255]))

    def test_a_grey_profile_and_cmyk_become_srgb(self):
        grey = take_in(encoded(Image.new("LA", (4, 4), (128, 200)), "PNG"))[1]
        self.assertEqual(grey.pixels[0, 0].tolist(), [128, 128, 128, 200])

    def test_cmyk_jpeg_becomes_rgb(self):
        image = Image.new("RGB", (24, 24), "#2060a0").convert("CMYK")
        _, picture = take_in(encoded(image, "JPEG", quality=95))
        self.assertLess(np.abs(picture.pixels[0, 0].astype(int) - (0x20, 0x60, 0xA0, 255)).max(), 6)

    def test_animation_gives_its_first_frame(self):
        frames = [Image.new("RGB", (9, 9), colour) for colour in ("#ff0000", "#00ff00")]
        _, picture = take_in(encoded(frames[0], "GIF", save_all=True, append_images=frames[1:]))
        self.assertTrue(picture.animated)
        self.assertEqual(picture.pixels[0, 0].tolist(), [255, 0, 0, 255])

    def test_ico_gives_its_largest_frame(self):
        picture_format, picture = take_in(encoded(Image.fromarray(noise(64, 64)), "ICO", sizes=[(16, 16), (64, 64)]))
        self.assertIs(picture_format, PictureFormat.ICO)
        self.assertEqual((picture.width, picture.height, picture.animated), (64, 64, False))


class RefusalTests(TestCase):
    def test_each_bad_input_has_its_code(self):
        png = encoded(Image.fromarray(noise(50, 50)), "PNG")
        self.assertEqual(code_of(b""), "empty-file")
        self.assertEqual(code_of(b"just some text"), "not-a-picture")
        self.assertEqual(code_of(png[: len(png) // 2]), "broken-picture")
        self.assertEqual(code_of(plain_png(101, 100), Limits(pixels=10_000)), "too-many-pixels")
        self.assertEqual(code_of(png, Limits(file_bytes=1000)), "file-too-large")
        self.assertEqual(code_of(b"%PDF-1.7 nothing"), "broken-picture")
        self.assertEqual(code_of(gzip.compress(b"words")), "not-a-picture")
        self.assertEqual(code_of(gzip.compress(BLUE_DISC)[:-9]), "not-a-picture")
        swelling = gzip.compress(BLUE_DISC + b" " * 5_000_000)
        self.assertEqual(code_of(swelling, Limits(file_bytes=1_000_000)), "file-too-large")

    def test_truncated_files_of_every_format(self):
        image = Image.fromarray(noise(40, 40)[..., :3])
        for kind in ("PNG", "JPEG", "GIF", "BMP", "WEBP"):
            data = encoded(image, kind)
            self.assertEqual(code_of(data[: len(data) * 2 // 3]), "broken-picture", kind)

    @given(
        st.sampled_from(["PNG", "JPEG", "GIF", "BMP", "WEBP", "ICO", "TIFF", "AVIF", "PDF"]),
        st.binary(max_size=200),
        st.integers(0, 120),
    )
    @settings(max_examples=120, deadline=None)
    def test_no_bytes_crash_the_intake(self, kind, junk, position):
        data = bytearray(encoded(Image.fromarray(noise(24, 24)).convert("RGB"), kind))
        data[position : position + len(junk)] = junk
        code_of(bytes(data), Limits(pixels=1_000_000))  # refused with a code or taken in, never another error

    @given(st.binary(max_size=400))
    @settings(max_examples=150, deadline=None)
    def test_no_bytes_at_all_crash_the_intake(self, data):
        code_of(data)


class TransposeReferenceTests(TestCase):
    def test_orientation_equals_pillows_own_reading(self):
        exif = Image.Exif()
        exif[0x0112] = 7
        data = encoded(Image.fromarray(noise(8, 5)[..., :3]), "PNG", exif=exif)
        meant = ImageOps.exif_transpose(Image.open(io.BytesIO(data))).convert("RGBA")
        np.testing.assert_array_equal(take_in(data)[1].pixels, np.asarray(meant))


class OddPictureTests(TestCase):
    def test_sixteen_bit_grey_keeps_its_greys_and_its_clear_one(self):
        grey = np.array([[0, 257 * 100, 65535]], dtype=np.uint16)
        profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        for options in ({}, {"icc_profile": profile}):
            data = encoded(Image.fromarray(grey), "PNG", **options)
            self.assertEqual(take_in(data)[1].pixels[0, :, 0].tolist(), [0, 100, 255], options)
        # W3C PNG, tRNS of colour type 0: one grey of two bytes that is clear. Put in by hand, behind IHDR.
        body = b"tRNS" + struct.pack(">H", 257 * 100)
        data = encoded(Image.fromarray(grey), "PNG")
        data = data[:33] + struct.pack(">I", 2) + body + struct.pack(">I", zlib.crc32(body)) + data[33:]
        self.assertEqual(take_in(data)[1].pixels[0, :, 3].tolist(), [255, 0, 255])

    def test_a_jpeg_with_a_second_picture_behind_it_is_not_animated(self):
        frames = [Image.fromarray(noise(16, 16, seed)[..., :3]) for seed in (1, 2)]
        picture = take_in(encoded(frames[0], "MPO", save_all=True, append_images=frames[1:]))[1]
        self.assertEqual((picture.animated, len(picture.frames)), (False, 1))

    def test_too_large_is_not_called_damaged(self):
        for side in (9_000, 30_000):
            data = encoded(Image.new("1", (side, side)), "PNG")
            self.assertEqual(code_of(data), "too-many-pixels", side)

    def test_big_tiff_and_bitmaps_without_a_file_header(self):
        rgb = Image.fromarray(noise(9, 7)[..., :3])
        bmp = encoded(rgb, "BMP")
        for data, kind in ((encoded(rgb, "TIFF", big_tiff=True), "TIFF"), (encoded(rgb, "DIB"), "BMP"), (bmp, "BMP")):
            picture_format, picture = take_in(data)
            self.assertEqual(picture_format.name, kind)
            np.testing.assert_array_equal(picture.pixels[..., :3], np.asarray(rgb))

    def test_longer_than_can_be_framed(self):
        self.assertEqual(code_of(encoded(Image.new("1", (120_000, 1)), "PNG")), "too-long")

    def test_large_and_blank_is_measured_in_no_more_than_four_decodings(self):
        blank = Bitmap(np.full((8_000, 8_000, 4), 255, dtype=np.uint8))
        data = encoded(Image.fromarray(blank.pixels), "PNG", compress_level=1)
        decoding, measuring = (
            min(timeit.repeat(work, number=1, repeat=2))
            for work in (lambda: Image.open(io.BytesIO(data)).load(), lambda: measure(data, PictureFormat.PNG, blank))
        )
        self.assertLess(measuring, 4 * decoding)  # it was ten


class EachPictureTests(TestCase):
    def test_every_frame_of_an_icon_the_smallest_first(self):
        data = ico.write([noise(32, 32), noise(16, 16)])
        self.assertEqual([picture.shape[0] for picture in every_picture(data)], [16, 32])

    def test_thousands_of_entries_on_one_picture_are_refused_unread(self):
        png = plain_png(255, 255)
        entry = struct.pack("<BBBBHHII", 255, 255, 0, 0, 1, 32, len(png), 6 + 16 * 2000)
        data = struct.pack("<HHH", 0, 1, 2000) + entry * 2000 + png
        with self.assertRaises(ArtworkRefused) as caught:
            list(every_picture(data))
        self.assertEqual(caught.exception.code, "too-many-frames")
        self.assertIn("2,000 pictures", look_at(data).problem)

    def test_damage_of_every_kind_is_one_refusal(self):
        apng = encoded(
            Image.fromarray(noise(9, 9)), "PNG", save_all=True, append_images=[Image.fromarray(noise(9, 9, 1))]
        )
        for data in (
            plain_png()[:60],
            plain_png().replace(b"IDAT", b"IDAX"),
            apng.replace(b"fcTL", b"fcTX"),
            struct.pack("<HHHBBBBHHII", 0, 1, 1, 9, 9, 0, 0, 1, 32, 99, 22) + b"II*\0" + bytes(95),
        ):
            try:
                list(every_picture(data))
            except ArtworkRefused as refusal:
                self.assertEqual(refusal.code, "broken-picture")
            look_at(data)


class CutShortTests(TestCase):
    """A PNG whose data end early (W3C PNG, Third Edition: IEND is the last chunk, and every row is there)."""

    def refused(self, data: bytes) -> None:
        with self.assertRaises(ArtworkRefused) as caught:
            take_in(data)
        self.assertEqual(caught.exception.code, "broken-picture")

    def test_cut_at_every_byte_it_is_damaged(self):
        whole = encoded(Image.fromarray(noise(12, 9)), "PNG")
        take_in(whole)
        for length in range(8, len(whole)):
            self.refused(whole[:length])
        take_in(whole + b"something behind it")

    def test_rows_that_are_missing_are_damage_and_empty_ones_are_not(self):
        for mode, colour, channels in (("RGBA", 6, 4), ("RGB", 2, 3), ("L", 0, 1)):
            for rows, is_whole in ((10, True), (9, False), (0, False)):
                body = zlib.compress((b"\0" + bytes(8 * channels)) * rows)
                header = struct.pack(">IIBBBBB", 8, 10, 8, colour, 0, 0, 0)
                data = b"\x89PNG\r\n\x1a\n" + b"".join(
                    struct.pack(">I", len(content)) + kind + content + struct.pack(">I", zlib.crc32(kind + content))
                    for kind, content in ((b"IHDR", header), (b"IDAT", body), (b"IEND", b""))
                )
                if is_whole:
                    self.assertEqual(take_in(data)[1].height, 10, mode)
                else:
                    self.refused(data)

    def test_interlaced_ones_are_counted_by_their_passes(self):
        # Of the seven passes (§8.1) a picture of 5 x 3 has six: columns and rows of each, worked out by hand.
        sizes = [(1, 1), (1, 1), (1, 1), (3, 1), (2, 2), (5, 1)]
        body = b"".join((b"\0" + bytes(columns * 4)) * rows for columns, rows in sizes)
        header = struct.pack(">IIBBBBB", 5, 3, 8, 6, 0, 0, 1)
        for packed, is_whole in ((body, True), (body[:-1], False)):
            self.assertEqual(png._has_every_row(header, [zlib.compress(packed)]), is_whole)
