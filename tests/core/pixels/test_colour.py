from unittest import TestCase

from bexi.core.errors import FramingRefused
from bexi.core.pixels.colour import Colour, contrast, linear


class ContrastTests(TestCase):
    def test_published_ratios(self):
        # W3C WCAG 2.2, "contrast ratio"; the grey pairs are widely published examples, written from memory.
        white = Colour.parse("#ffffff")
        for text, ratio in (("#000000", 21.0), ("#767676", 4.54), ("#777777", 4.48), ("#949494", 3.03)):
            self.assertAlmostEqual(contrast(Colour.parse(text), white), ratio, delta=0.005)
            self.assertAlmostEqual(contrast(white, Colour.parse(text)), ratio, delta=0.005)

    def test_transfer_curve(self):
        # IEC 61966-2-1: linear below 0.04045, then a power of 2.4; 0.5 gives 0.2140 (from memory).
        self.assertAlmostEqual(linear(0.04045), 0.04045 / 12.92)
        self.assertAlmostEqual(linear(0.5), 0.21404, places=5)
        self.assertEqual(linear(1.0), 1.0)


class NotationTests(TestCase):
    def test_reads_both_hex_forms(self):
        self.assertEqual(Colour.parse("#1bC").channels, (0x11, 0xBB, 0xCC))
        self.assertEqual(str(Colour.parse("#16302A")), "#16302a")

    def test_refuses_anything_else(self):
        for text in ("16302a", "#16302", "red", "#gggggg", "#16302a\n", ""):
            with self.assertRaises(FramingRefused) as caught:
                Colour.parse(text)
            self.assertEqual(caught.exception.code, "unknown-colour")
