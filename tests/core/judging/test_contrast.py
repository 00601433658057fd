"""Contrast of the outline: the worked values of WCAG 2.2, written down from memory and confirmed by its own formula."""

from dataclasses import replace
from unittest import TestCase

import numpy as np

from bexi.core.artwork.pictures import Bitmap
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Framing
from bexi.core.judging.contrast import of_outline
from bexi.core.judging.judge import judge_at
from bexi.core.judging.marks import marks_of
from bexi.core.judging.measure import measure
from bexi.core.pixels.colour import WHITE, Colour


def squares(*colours: str, ground: str | None = None) -> Bitmap:
    """Squares of these colours within each other, from the outside, on a ground or on none."""
    pixels = np.zeros((200, 200, 4), dtype=np.uint8)
    if ground:
        pixels[:] = (*Colour.parse(ground).channels, 255)
    for number, colour in enumerate(colours):
        inset = 30 + 30 * number
        pixels[inset : 200 - inset, inset : 200 - inset] = (*Colour.parse(colour).channels, 255)
    return Bitmap(pixels)


WHOLE = Framing(Frame(0, 0, 200))


class OutlineTests(TestCase):
    def read(self, picture: Bitmap, ground: Colour = WHITE) -> dict[str, float]:
        return of_outline(measure(picture, WHOLE).drawing, {"light": ground})

    def test_worked_values(self):
        for colour, ratio in (("#000000", 21.0), ("#767676", 4.54), ("#777777", 4.48), ("#949494", 3.03)):
            with self.subTest(colour):
                self.assertAlmostEqual(self.read(squares(colour))["light"], ratio, places=2)

    def test_a_ground_of_its_own_counts_alone(self):
        self.assertEqual(self.read(squares("#ffffff", ground="#000000")), {"own": 21.0})

    def test_a_colour_of_single_px_is_no_plate(self):
        picture = squares("#204080", "#ffffff", "#c03030")
        kinds = measure(picture, WHOLE).drawing.kinds
        traces = np.zeros_like(kinds, dtype=bool)
        traces[1::2, 1::2] = kinds[1::2, 1::2] == 1
        drawing = replace(measure(picture, WHOLE).drawing, kinds=np.where((kinds == 1) & ~traces, 2, kinds))
        self.assertGreater(of_outline(drawing, {"light": WHITE})["light"], 1)

    def test_what_a_line_parts_is_no_plate(self):
        """An envelope: flap and body are the mark, however pale the seal on them is."""
        pixels = squares("#b91c1c").pixels.copy()
        pixels[90:150, 70:130] = (234, 88, 12, 255)
        self.assertAlmostEqual(self.read(Bitmap(pixels))["light"], 1.82, 1)
        pixels[64:72, 30:170] = 0
        self.assertGreater(self.read(Bitmap(pixels))["light"], 6)

    def test_what_vanishes_leaves_the_rest_to_be_seen(self):
        dark = Colour.parse("#2b3531")
        self.assertLess(self.read(squares("#123f59"), dark)["light"], 1.5)
        self.assertGreater(self.read(squares("#123f59", "#f4f0e4"), dark)["light"], 3)

    def test_a_counter_carries_nothing_of_the_letter_beside_its_own(self):
        """A black bar and a ring that holds white, as lifting a white ground leaves an "l" and an "o"."""
        pixels = np.zeros((200, 200, 4), dtype=np.uint8)
        for box, grey in (((10, 30, 70, 170), 16), ((90, 70, 190, 170), 16), ((110, 90, 170, 150), 255)):
            left, top, right, bottom = box
            pixels[top:bottom, left:right] = (grey, grey, grey, 255)
        ring = pixels.copy()
        ring[:, :80] = 0
        dark = Colour.parse("#2b3531")
        self.assertGreater(self.read(Bitmap(ring), dark)["light"], 3)
        self.assertLess(self.read(Bitmap(pixels), dark)["light"], 3)

    def test_nothing_at_all_is_lost(self):
        for size, judged in zip((16, 180), judge_at(squares(), WHOLE, [16, 180]), strict=True):
            self.assertEqual((judged.verdict, judged.because), ("lost", "visible"), size)

    def test_the_least_ground_decides_and_its_places_are_told(self):
        picture = squares("#1d2b33")
        (judged,) = judge_at(picture, WHOLE, [32])
        self.assertEqual((judged.verdict, judged.because), ("lost", "contrast"))
        self.assertGreater(judged.readings.contrast["light"], 7)
        marks = marks_of(measure(picture, WHOLE), 32, {"light": WHITE, "dark": Colour.parse("#2b3531")})
        self.assertEqual(len(marks.vanishing["light"]), 0)
        self.assertGreater(len(marks.vanishing["dark"]), 20)
