"""Strokes and gaps against bars and rings of known width, and against scikit-image's medial axis."""

from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw
from skimage.morphology import medial_axis

from bexi.core.judging.flat import told_apart
from bexi.core.judging.strokes import strokes_and_gaps
from bexi.core.judging.survey import SIDE

INK = (24, 40, 36, 255)
FINER = 4
TAB = 16
"""In px; readings are asked to be right to 0.1 px of a tab icon."""


def drawn(draw) -> np.ndarray:
    """SIDE px, drawn finer and averaged, so that edges are soft."""
    image = Image.new("RGBA", (SIDE * FINER, SIDE * FINER))
    draw(ImageDraw.Draw(image))
    return np.asarray(image.resize((SIDE, SIDE), Image.Resampling.BOX))


def thinnest(pixels: np.ndarray) -> tuple[float, float]:
    """The thinnest stroke and the narrowest gap, in px of a tab icon."""
    strokes, gaps = strokes_and_gaps(told_apart(pixels))
    return tuple((widths.thinnest or np.nan) * TAB / SIDE for widths in (strokes, gaps))


class KnownWidthsTests(TestCase):
    @settings(max_examples=25, deadline=None)
    @given(width=st.integers(8, 200), start=st.integers(100, 140))
    def test_bars_and_the_gaps_between_them(self, width: int, start: int):
        step = 420

        def bars(draw: ImageDraw.ImageDraw) -> None:
            for left in range(start, SIDE * FINER - step, step):
                draw.rectangle((left, 150, left + width - 1, SIDE * FINER - 150), fill=INK)

        stroke, gap = thinnest(drawn(bars))
        scale = TAB / SIDE / FINER
        self.assertAlmostEqual(stroke, width * scale, delta=0.1)
        self.assertAlmostEqual(gap, (step - width) * scale, delta=0.1)

    @settings(max_examples=12, deadline=None)
    @given(width=st.integers(8, 160), angle=st.integers(0, 90))
    def test_a_bar_at_any_angle_and_a_ring(self, width: int, angle: int):
        turn = np.radians(angle)
        along, across = np.array([np.cos(turn), np.sin(turn)]), np.array([-np.sin(turn), np.cos(turn)])
        corners = [(1024 + 800 * a * along + width / 2 * c * across) for a, c in ((1, 1), (1, -1), (-1, -1), (-1, 1))]
        bar, _ = thinnest(drawn(lambda draw: draw.polygon([tuple(corner) for corner in corners], fill=INK)))
        ring, _ = thinnest(drawn(lambda draw: draw.ellipse((300, 300, 1748, 1748), outline=INK, width=width)))
        for read in (bar, ring):
            self.assertAlmostEqual(read, width * TAB / SIDE / FINER, delta=0.1)

    def test_the_rim_of_a_striped_shield_is_no_gap_and_a_plate_between_bars_is(self):
        def striped(rim: int, between: tuple[int, ...]) -> float:
            def shield(draw: ImageDraw.ImageDraw) -> None:
                draw.rectangle((300, 300, 1748, 1748), fill=(14, 165, 233, 255))
                draw.rectangle((300 + rim, 300 + rim, 1748 - rim, 1748 - rim), fill=between)
                for left in range(300 + rim, 1700 - rim, 260):
                    draw.rectangle((left, 300 + rim, left + 129, 1748 - rim), fill=(3, 105, 161, 255))

            return thinnest(drawn(shield))[1]

        plate = (14, 165, 233, 255)
        self.assertTrue(np.isnan(striped(70, (255, 255, 255, 255))))
        self.assertAlmostEqual(striped(70, plate), 130 * TAB / SIDE / FINER, delta=0.3)

    def test_a_thin_ring_around_a_mark_counts_for_nothing(self):
        def bars(draw: ImageDraw.ImageDraw) -> None:
            for left in (760, 1040):
                draw.rectangle((left, 600, left + 159, 1448), fill=INK)

        def ringed(draw: ImageDraw.ImageDraw) -> None:
            draw.ellipse((200, 200, 1848, 1848), outline=INK, width=20)
            bars(draw)

        self.assertEqual(thinnest(drawn(ringed)), thinnest(drawn(bars)))

    def test_blobs_are_as_thick_as_they_are(self):
        disc, _ = thinnest(drawn(lambda draw: draw.ellipse((400, 400, 1600, 1600), fill=INK)))
        square, _ = thinnest(drawn(lambda draw: draw.rectangle((400, 400, 1599, 1599), fill=INK)))
        for read in (disc, square):
            self.assertAlmostEqual(read, 1200 * TAB / SIDE / FINER, delta=0.1)

    def test_lines_within_a_colour_are_strokes_too(self):
        def plate(draw: ImageDraw.ImageDraw) -> None:
            draw.rectangle((200, 200, 1848, 1848), fill=INK)
            for top in range(400, 1700, 300):
                draw.rectangle((400, top, 1648, top + 39), fill=(240, 180, 70, 255))

        stroke, gap = thinnest(drawn(plate))
        self.assertAlmostEqual(stroke, 40 * TAB / SIDE / FINER, delta=0.1)
        self.assertAlmostEqual(gap, 200 * TAB / SIDE / FINER, delta=0.1)  # beside the lines, to the plate's edge


class MedialAxisTests(TestCase):
    """scikit-image's medial_axis has branches into corners, which are no strokes; without corners both agree."""

    def test_median_widths_agree(self):
        shapes = {
            "ring": lambda draw: draw.ellipse((300, 300, 1748, 1748), outline=INK, width=90),
            "arc": lambda draw: draw.arc((300, 300, 1748, 1748), 20, 250, fill=INK, width=64),
            "bars": lambda draw: [draw.rectangle((left, 0, left + 79, 2047), fill=INK) for left in (400, 900, 1500)],
        }
        for name, shape in shapes.items():
            with self.subTest(name):
                pixels = drawn(shape)
                strokes, _ = strokes_and_gaps(told_apart(pixels))
                axis, distance = medial_axis(pixels[..., 3] > 127, return_distance=True)
                theirs = 2 * np.median(distance[axis]) - 0.5
                self.assertAlmostEqual(float(np.median(strokes.width)), theirs, delta=1)
