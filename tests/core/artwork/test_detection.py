from unittest import TestCase

from bexi.core.artwork.detection import PictureFormat, detect, name_mismatch


class DetectionTests(TestCase):
    def test_patterns_of_the_standard(self):
        # WHATWG MIME Sniffing, "image type pattern matching algorithm" (written from memory).
        table = (
            (b"\x00\x00\x01\x00", PictureFormat.ICO),
            (b"\x00\x00\x02\x00", PictureFormat.ICO),
            (b"BM", PictureFormat.BMP),
            (b"GIF87a", PictureFormat.GIF),
            (b"GIF89a", PictureFormat.GIF),
            (b"RIFF\x12\x34\x56\x78WEBPVP", PictureFormat.WEBP),
            (b"\x89PNG\r\n\x1a\n", PictureFormat.PNG),
            (b"\xff\xd8\xff", PictureFormat.JPEG),
            (b"%PDF-", PictureFormat.PDF),
            (b"II*\x00", PictureFormat.TIFF),  # TIFF 6.0, §2
            (b"\x1f\x8b\x08", PictureFormat.SVGZ),  # RFC 1952, §2.3.1
            (b"\0\0\0\x20ftypavif", PictureFormat.AVIF),  # AV1 Image File Format, §6.2
        )
        for start, expected in table:
            self.assertIs(detect(start + b"\n rest"), expected)
            self.assertIsNone(detect(start[:-1] + bytes([start[-1] ^ 1])))

    def test_svg_behind_its_prolog(self):
        for data in (
            b"<svg/>",
            b'\xef\xbb\xbf<?xml version="1.0"?>\n<!-- made by hand -->\n<svg xmlns="x">',
            b'<!DOCTYPE svg PUBLIC "a" "b" [<!ENTITY x "y">]><svg >',
            b"<s:svg >",
        ):
            self.assertIs(detect(data), PictureFormat.SVG)

    def test_other_files_are_no_pictures(self):
        for data in (b"", b"<html><svg/></html>", b"PK\x03\x04", b"<svgfoo>", b"hello"):
            self.assertIsNone(detect(data))


class NameTests(TestCase):
    def test_a_renamed_jpeg_is_named_as_what_it_is(self):
        sentence = name_mismatch("favicon.ICO", PictureFormat.JPEG)
        self.assertIn("JPEG", sentence)
        self.assertIn(".ico", sentence)

    def test_right_and_unknown_endings_are_fine(self):
        self.assertIsNone(name_mismatch("a.jpeg", PictureFormat.JPEG))
        self.assertIsNone(name_mismatch("logo", PictureFormat.PNG))
        self.assertIsNone(name_mismatch("logo.draft", PictureFormat.PNG))
