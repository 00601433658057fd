import io
import json
import zlib
from unittest import TestCase

import numpy as np
from PIL import Image

from bexi.core.errors import ArtworkRefused
from bexi.core.formats import ico, png, raster, webmanifest
from tests.pictures import decoded, encoded, noise


class IcoTests(TestCase):
    def test_sizes_follow_from_the_format(self):
        # Microsoft, "Icons" (Win32): 6 + 16 n bytes, then 40 + 4 s² + s · ⌈s / 32⌉ · 4 for each bitmap frame.
        for sides, expected in (((16,), 1150), ((32,), 4286), ((16, 32, 48), 15086)):
            self.assertEqual(len(ico.write([noise(side, side) for side in sides])), expected)

    def test_entry_of_256_px_is_written_as_zero(self):
        data = ico.write([noise(256, 256)])
        self.assertEqual(data[6:8], b"\0\0")
        self.assertEqual(ico.read(data)[0].pixels.shape, (256, 256, 4))

    def test_pillow_decodes_every_frame(self):
        pictures = [noise(side, side) for side in (16, 32, 48)]
        image = Image.open(io.BytesIO(ico.write(pictures)))
        self.assertEqual(image.info["sizes"], {(16, 16), (32, 32), (48, 48)})
        for pixels in pictures:
            image.size = pixels.shape[:2]
            image.load()
            np.testing.assert_array_equal(np.asarray(image.convert("RGBA")), pixels)

    def test_reader_reads_what_pillow_wrote(self):
        source = Image.fromarray(noise(48, 48))
        for options, is_png in (({}, True), ({"bitmap_format": "bmp"}, False)):
            (frame,) = ico.read(encoded(source, "ICO", sizes=[(48, 48)], **options))
            self.assertIs(frame.is_png, is_png)
            np.testing.assert_array_equal(frame.pixels, np.asarray(source))

    def test_mask_marks_clear_pixels(self):
        pixels = noise(16, 16)
        pixels[..., 3] = 255
        pixels[0, 0, 3] = 0  # top left: last row of the bottom-up mask
        mask = ico.write([pixels])[6 + 16 + 40 + 16 * 16 * 4 :]
        self.assertEqual(mask, b"\0" * (15 * 4) + b"\x80\0\0\0")

    def test_every_kind_of_frame_is_read_back_by_us_and_by_pillow(self):
        for kind in ico.FrameKind:
            colours = noise(2 ** min(kind.value or 8, 8), 1, seed=kind.value)[0]
            colours[:, 3] = 255
            colours[0] = 0  # clear
            pixels = colours[np.random.default_rng(1).integers(0, len(colours), (33, 33))]
            data = ico.write([pixels], lambda _, kind=kind: kind)
            (frame,) = ico.read(data)
            self.assertIs(frame.kind, kind)
            np.testing.assert_array_equal(frame.pixels, pixels)
            np.testing.assert_array_equal(decoded(data), pixels, str(kind))

    def test_size_of_a_palette_frame_follows_from_the_format(self):
        # BITMAPINFOHEADER: 40 bytes, 4 for each colour, then rows of colours and of the mask padded to 32 bits.
        pixels = np.zeros((16, 16, 4), dtype=np.uint8)
        for bits, expected in ((1, 40 + 8 + 64 + 64), (4, 40 + 64 + 128 + 64), (8, 40 + 1024 + 256 + 64)):
            data = ico.write([pixels], lambda _, bits=bits: ico.FrameKind(bits))
            self.assertEqual(len(data), 6 + 16 + expected)

    def test_the_smallest_bitmap_loses_nothing(self):
        soft, full = noise(40, 40), noise(40, 40)
        full[..., 3] = 255
        two = np.zeros((16, 16, 4), dtype=np.uint8)
        two[4:] = (9, 8, 7, 255)
        for pixels, kind in ((soft, 32), (full, 24), (two, 1)):
            self.assertIs(ico.smallest_bitmap(pixels), ico.FrameKind(kind))
        with self.assertRaises(ValueError):
            ico.write([soft], lambda _: ico.FrameKind.BITMAP_8)
        with self.assertRaises(ValueError):
            ico.write([full], lambda _: ico.FrameKind.BITMAP_4)

    def test_unsound_files_are_refused(self):
        good = ico.write([noise(16, 16)])
        for data in (b"", good[:5], good[:30], good[:-1], b"\0\0\1\0\0\0", good[:6] + b"\x20" + good[7:]):
            with self.assertRaises(ArtworkRefused):
                ico.read(data)


class PngTests(TestCase):
    def test_signature_and_end(self):
        # W3C PNG, Third Edition: signature, and an empty IEND chunk whose CRC is AE 42 60 82.
        data = png.write(noise(20, 20))
        self.assertEqual(data[:8], bytes.fromhex("89504E470D0A1A0A"))
        self.assertEqual(data[-12:], bytes.fromhex("0000000049454E44AE426082"))
        self.assertEqual(zlib.crc32(b"IEND"), 0xAE426082)

    def test_lossless_in_the_smallest_colour_type(self):
        opaque = np.full((20, 20, 4), 255, dtype=np.uint8)
        for pixels in (noise(20, 20), opaque):
            np.testing.assert_array_equal(decoded(png.write(pixels)), pixels)
        self.assertLess(len(png.write(opaque)), 100)

    def test_no_metadata(self):
        data = png.write(noise(20, 20))
        for chunk in (b"tEXt", b"tIME", b"pHYs", b"eXIf", b"iCCP"):
            self.assertNotIn(chunk, data)


class RasterTests(TestCase):
    def test_pillow_reads_what_upload_fields_get(self):
        pixels = noise(40, 30)
        pixels[..., 3] = np.where(pixels[..., 3] > 99, 255, 0)
        for data, kind in (
            (raster.write_gif(pixels), "GIF"),
            (raster.write_jpeg(pixels, 90), "JPEG"),
            (raster.write_bmp(pixels), "BMP"),
        ):
            image = Image.open(io.BytesIO(data))
            self.assertEqual((image.format, image.size), (kind, (40, 30)))
        gif = decoded(raster.write_gif(pixels))
        np.testing.assert_array_equal(gif[..., 3], pixels[..., 3])
        few = np.repeat(np.repeat(pixels[:4, :4], 5, axis=0), 5, axis=1)
        few[few[..., 3] == 0] = 0
        np.testing.assert_array_equal(decoded(raster.write_gif(few)), few)
        few[..., 3] = 255
        np.testing.assert_array_equal(decoded(raster.write_bmp(few)), few)


class ManifestTests(TestCase):
    icons = [webmanifest.ManifestIcon("/icon-192.png", 192, "image/png")]

    def test_new(self):
        # W3C Web Application Manifest: `sizes` is WxH, `purpose` one of the registered words.
        manifest = json.loads(webmanifest.new("Ferry “two”", self.icons))
        self.assertEqual(manifest["name"], "Ferry “two”")
        self.assertEqual(
            manifest["icons"], [{"src": "/icon-192.png", "sizes": "192x192", "type": "image/png", "purpose": "any"}]
        )

    def test_merge_keeps_every_byte_that_is_not_about_icons(self):
        for existing, before, after in (
            (b'{"a": "#123", "icons": [{"src": "x"}], "n": 1.50}', b'{"a": "#123", "icons": ', b', "n": 1.50}'),
            (
                b'\xef\xbb\xbf{ "a":"\\ud800", "icons":null,"n":1e999}',
                b'\xef\xbb\xbf{ "a":"\\ud800", "icons":',
                b',"n":1e999}',
            ),
            (b'{"icons": [], "x": {"icons": 1}, "icons": {}}', b'{"icons": ', b"}"),
            (b'{"name": "Crew"}', b"{", b'"name": "Crew"}'),
            (b"{ }", b"{", b" }"),
        ):
            merged = webmanifest.merged(existing, {"icons": [self.icons[0].member()]})
            self.assertTrue(merged.startswith(before) and merged.endswith(after), merged)
            members = json.loads(merged.decode("utf-8-sig"))
            self.assertEqual(members["icons"][0]["src"], "/icon-192.png")
            kept = {**json.loads(existing.decode("utf-8-sig")), "icons": members["icons"]}
            self.assertEqual(list(members.items())[-1:] and members, kept)

    def test_merge_of_several_members_keeps_the_others_and_their_order(self):
        existing = b'{"name": "Crew", "display": "browser", "icons": []}'
        merged = webmanifest.merged(existing, {"short_name": "C", "display": "fullscreen", "icons": [1]})
        self.assertEqual(
            list(json.loads(merged).items()),
            [("short_name", "C"), ("name", "Crew"), ("display", "fullscreen"), ("icons", [1])],
        )

    def test_what_is_no_manifest_has_nothing_to_keep(self):
        deep = b'{"a":' + b"[" * 100_000 + b"]" * 100_000 + b"}"
        for existing in (b"not json", b"[1]", b"\xff\xfe", b'{"a": NaN}', b'{"a": -Infinity}', deep, b"", b'"a"'):
            self.assertIsNone(webmanifest.merged(existing, {"icons": []}), existing[:20])
            self.assertIsNone(webmanifest.read(existing))

    def test_half_a_surrogate_pair_is_written_as_an_escape(self):
        self.assertIn(b"\\ud800", webmanifest.merged(b"{}", {"icons": [{"src": "\ud800"}]}))
