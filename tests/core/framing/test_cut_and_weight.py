from dataclasses import replace
from unittest import TestCase

import numpy as np

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.errors import FramingRefused
from bexi.core.framing.compose import compose, framing_for
from bexi.core.framing.cut import Cut, Point
from bexi.core.framing.drawn import drawn, why_not_drawn
from bexi.core.framing.finish import Finish, weighted
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe

TWO = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="600"><rect x="100" y="100" width="300" height="400" '
    'fill="#aa2211"/><rect x="450" y="250" width="500" height="100" fill="#1144cc"/></svg>'
)


class CutTests(TestCase):
    """What lies beyond the cut is not shown, though it lies in the frame."""

    def setUp(self):
        self.vector = check(TWO.encode(), DEFAULT_LIMITS)
        self.bitmap = Bitmap(render_whole(self.vector, 1200))
        self.framing = Framing(Frame(50, 50, 500), cut=Cut(90, 90, 410, 510))

    def blue(self, pixels: np.ndarray) -> int:
        return int(((pixels[..., 2] > pixels[..., 0]) & (pixels[..., 3] > 0)).sum())

    def test_pixels_and_shapes_alike(self):
        for picture in (self.vector, self.bitmap):
            with self.subTest(type(picture).__name__):
                for purpose in (Purpose.TAB, Purpose.MASKED):
                    framing = framing_for(picture, Recipe(self.framing), 64, purpose)
                    (icon,) = compose(picture, framing, purpose, [64])
                    self.assertEqual(self.blue(icon), 0)
                (icon,) = compose(picture, replace(self.framing, cut=None), Purpose.TAB, [64])
                self.assertGreater(self.blue(icon), 50)

    def test_the_svg_icon_is_cut_as_well(self):
        svg = check(drawn(self.vector, self.framing), DEFAULT_LIMITS)
        self.assertEqual(self.blue(render_whole(svg, 128)), 0)

    def test_a_shape_leaves_what_lies_beyond_it_in_its_box(self):
        triangle = Cut(100, 100, 400, 500, (Point(100, 100), Point(400, 100), Point(100, 500)))
        for picture in (self.vector, self.bitmap):
            with self.subTest(type(picture).__name__):
                framing = replace(self.framing, cut=triangle)
                (icon,) = compose(picture, framing, Purpose.TAB, [256])
                whole, half = 300 * 400, (icon[..., 3] / 255).sum() * (500 / 256) ** 2
                self.assertAlmostEqual(half / whole, 0.5, delta=0.01)
                (near,) = compose(picture, replace(framing, frame=Frame(110, 110, 80)), Purpose.TAB, [64])
                self.assertEqual(near[..., 3].min(), 255)
                masked = framing_for(picture, Recipe(framing), 64, Purpose.MASKED)
                self.assertEqual(masked.cut.outline, triangle.outline)
        self.assertEqual(Recipe.from_json(Recipe(framing).as_json()), Recipe(framing))

    def test_bad_cuts_are_refused(self):
        good = self.framing.as_json()
        corners = [{"x_px": 1, "y_px": 2}]
        for change in (
            {"right_px": 1},
            {"top_px": 900},
            {"left_px": "all"},
            {"outline": corners},
            {"outline": [*corners, 3, 4]},
            {"outline": corners * 300},
            {"outline": [{"x_px": 10**9, "y_px": 2}, *corners, *corners]},
            {"right_px": 10**9},
        ):
            with self.subTest(change), self.assertRaises(FramingRefused):
                Framing.from_json({**good, "cut": {**good["cut"], **change}})
        with self.assertRaises(FramingRefused):
            Framing.from_json({**good, "cut": "all"})
        with self.assertRaises(FramingRefused):
            compose(self.bitmap, replace(self.framing, cut=Cut(5000, 0, 6000, 10)), Purpose.TAB, [16])


class WeightTests(TestCase):
    """Strokes become so many % of the side wider or thinner, all around, in the colour of their ink."""

    def bar(self, width: int) -> np.ndarray:
        pixels = np.zeros((512, 512, 4), dtype=np.uint8)
        pixels[100:412, 256 - width // 2 : 256 + width // 2] = (170, 34, 17, 255)
        return pixels

    def test_widths(self):
        for weight, wider in ((4, 20.48), (-4, -20.48), (0, 0)):
            with self.subTest(weight):
                row = weighted(self.bar(60), weight)[256, :, 3] / 255
                self.assertAlmostEqual(float(row.sum()), 60 + wider, delta=1.1)

    def test_what_is_new_has_the_ink_s_colour_and_no_halo(self):
        grown = weighted(self.bar(60), 6)
        self.assertTrue((grown[grown[..., 3] > 0][:, :3] == (170, 34, 17)).all())

    def test_in_an_icon(self):
        picture, thin = Bitmap(self.bar(16)), Framing(Frame(0, 0, 512))
        heavy = replace(thin, finish=Finish(weight=8))
        (before,), (after,) = (compose(picture, one, Purpose.TAB, [16]) for one in (thin, heavy))
        self.assertGreater(int(after[..., 3].sum()), 2 * int(before[..., 3].sum()))
        vector = check(TWO.encode(), DEFAULT_LIMITS)
        self.assertIn("weight", why_not_drawn(vector, heavy))
        self.assertEqual(decoded_side(drawn(vector, thin)), 512)

    def test_bounds(self):
        for weight in (-9, 13):
            with self.assertRaises(FramingRefused):
                Finish(weight=weight)


def decoded_side(svg: bytes) -> int:
    return int(svg.split(b'viewBox="')[1].split(b'"')[0].split()[2])
