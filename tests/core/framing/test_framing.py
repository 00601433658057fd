import json
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from bexi.core.artwork.ink import Box
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.pictures import Bitmap
from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.errors import FramingRefused
from bexi.core.framing.compose import compose, plate_coverage
from bexi.core.framing.finish import Finish
from bexi.core.framing.frame import Frame, balanced, hug, largest_inside, whole_artwork
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Own, Recipe, parse_ground
from bexi.core.framing.reduce import enlargement, reduced
from bexi.core.pixels.colour import Colour
from tests.pictures import BLUE_DISC, noise_bitmap

SIDES = st.integers(1, 5000)


class FrameTests(TestCase):
    @given(SIDES, SIDES)
    def test_ready_frames_hold_or_fit_the_artwork(self, width, height):
        around, inside = whole_artwork(width, height), largest_inside(width, height)
        self.assertEqual((around.side, inside.side), (max(width, height), min(width, height)))
        self.assertTrue(around.x <= 0 and around.y <= 0)
        self.assertTrue(around.x + around.side >= width and around.y + around.side >= height)
        self.assertTrue(inside.x >= 0 and inside.y >= 0)
        self.assertTrue(inside.x + inside.side <= width and inside.y + inside.side <= height)

    def test_hug_is_centred_on_the_ink(self):
        self.assertEqual(hug(Box(10, 20, 50, 40)), Frame(10, 10, 40))

    def test_bad_frames_are_refused(self):
        for text, code in (
            ("0,0,0", "frame-without-area"),
            ("0,0,-4", "frame-without-area"),
            ("1,2", "unknown-frame"),
            ("a,b,c", "unknown-frame"),
            ("0,0,9999999", "frame-too-large"),
        ):
            with self.assertRaises(FramingRefused) as caught:
                Frame.parse(text)
            self.assertEqual(caught.exception.code, code)
        with self.assertRaises(FramingRefused):
            Frame(100, 0, 50).must_touch(100, 100)


class RecipeTests(TestCase):
    def recipe(self) -> Recipe:
        finish = Finish(2, 7, Colour(3, 2, 1), Colour(4, 5, 6))
        plate = Plate(PlateShape.DISC, Colour(7, 8, 9), margin=5)
        plated = Framing(Frame(1, 2, 30), plate=plate, artwork="17", finish=finish)
        main = Framing(Frame(-3, 4, 50), Colour(1, 2, 3), Colour(9, 9, 9))
        return Recipe(main, (Own(plated, largest=32), Own(main, purpose=Purpose.HOME)))

    def test_survives_json(self):
        for recipe in (self.recipe(), Recipe.of(Frame(0, 0, 1))):
            self.assertEqual(Recipe.from_json(json.loads(json.dumps(recipe.as_json()))), recipe)

    def test_the_first_own_framing_that_covers_an_icon_counts(self):
        recipe = self.recipe()
        small, home = (own.framing for own in recipe.own)
        for size, purpose, meant in (
            (16, Purpose.TAB, small),
            (32, Purpose.TAB, small),
            (180, Purpose.HOME, home),
            (16, Purpose.HOME, home),
        ):
            self.assertIs(recipe.own_for(size, purpose).framing, meant)
        for size, purpose in ((48, Purpose.TAB), (16, Purpose.MASKED), (192, Purpose.ONE_COLOUR)):
            self.assertIsNone(recipe.own_for(size, purpose))

    def test_opaque_icons_never_lie_on_a_clear_ground(self):
        self.assertIsNone(Framing(Frame(0, 0, 9)).ground_for(opaque=False))
        self.assertEqual(Framing(Frame(0, 0, 9)).ground_for(opaque=True), Colour(255, 255, 255))

    def test_unknown_data_is_refused(self):
        good = Recipe.of(Frame(0, 0, 9)).as_json()
        framings = (
            {"frame": {"x_px": 1, "y_px": 2}},
            {"frame": {"x_px": 1.5, "y_px": 2, "side_px": 3}},
            {"lift_tolerance": 2},
            {"ground": "stripes"},
            {"home_ground": "?"},
            {"plate": {"shape": "star"}},
            {"finish": 3},
        )
        bad_own = ({}, {"framing": 3}, {**self.recipe().as_json()["own"][0], "purpose": "shop"})
        for change in (
            {"version": 99},
            {"framing": 3},
            *({"framing": {**good["framing"], **one}} for one in framings),
            *({"own": [one]} for one in bad_own),
        ):
            with self.assertRaises(FramingRefused):
                Recipe.from_json({**good, **change})
        with self.assertRaises(FramingRefused) as caught:
            parse_ground("plaid")
        self.assertEqual(caught.exception.code, "unknown-ground")
        with self.assertRaises(FramingRefused):
            Own(Framing(Frame(0, 0, 9)), smallest=48, largest=16)


class PlateTests(TestCase):
    """Masks cover their analytic area, and the artwork is cut to them."""

    def test_area(self):
        for size in (16, 48, 180):
            free = size * 0.8  # a margin of 10 % on either side
            for shape, area in (
                (PlateShape.SQUARE, free**2),
                (PlateShape.ROUNDED, free**2 * (1 - (4 - np.pi) * 0.25**2)),
                (PlateShape.DISC, np.pi * (free / 2) ** 2),
            ):
                coverage = plate_coverage(Plate(shape, radius=25, margin=10), size) / 255
                self.assertAlmostEqual(coverage.sum() / area, 1, delta=0.6 / size)

    def test_artwork_is_cut_to_the_plate_and_lies_on_its_colour(self):
        picture = noise_bitmap(64, 64)
        picture.pixels[..., 3] = 255
        framing = Framing(Frame(-64, -64, 192), plate=Plate(PlateShape.DISC, Colour(200, 10, 30), margin=0))
        icon = compose(picture, framing, Purpose.TAB, [96])[0]
        self.assertEqual((icon[0, 0].tolist(), icon[48, 2].tolist()), ([0, 0, 0, 0], [200, 10, 30, 255]))
        self.assertGreater(icon[40:56, 40:56, :3].std(), 5)

    def test_opaque_icons_are_opaque_around_the_plate(self):
        picture = noise_bitmap(64, 64)
        framing = Framing(Frame(0, 0, 64), home_ground=Colour(1, 2, 3), plate=Plate(PlateShape.DISC))
        icon = compose(picture, framing, Purpose.HOME, [180])[0]
        self.assertEqual((icon[..., 3].min(), icon[0, 0].tolist()), (255, [1, 2, 3, 255]))


class ReadyFrameTests(TestCase):
    @given(st.integers(0, 300), st.integers(0, 300), st.integers(1, 400), st.integers(1, 400), st.integers(0, 40))
    def test_hug_holds_the_ink_with_its_margin(self, left, top, width, height, margin):
        ink = Box(left, top, left + width, top + height)
        frame = hug(ink, margin)
        self.assertTrue(frame.x <= ink.left and frame.x + frame.side >= ink.right - 1)
        self.assertAlmostEqual(frame.side * (1 - 2 * margin / 100), max(width, height), delta=1)

    @given(st.integers(0, 100), st.integers(0, 100))
    def test_balanced_is_centred_on_the_weight_and_holds_the_ink(self, x, y):
        ink = Box(0, 0, 100, 100)
        frame = balanced(ink, (x, y))
        self.assertEqual((frame.x + frame.side // 2, frame.y + frame.side // 2), (x, y))
        self.assertTrue(frame.x <= 0 and frame.y <= 0 and frame.x + frame.side >= 100 and frame.y + frame.side >= 100)


class ReduceTests(TestCase):
    def test_a_frame_cuts_exactly_its_pixels(self):
        picture = noise_bitmap(40, 30)
        picture.pixels[..., 3] = 255
        np.testing.assert_array_equal(reduced(picture, Frame(5, 6, 20), None, [20])[0], picture.pixels[6:26, 5:25])

    def test_margin_is_clear_and_nothing_is_distorted(self):
        disc = np.zeros((100, 200, 4), dtype=np.uint8)
        y, x = np.mgrid[:100, :200]
        disc[(x - 99.5) ** 2 + (y - 49.5) ** 2 <= 40**2] = (200, 0, 0, 255)
        icon = reduced(Bitmap(disc), whole_artwork(200, 100), None, [100])[0]
        ys, xs = np.nonzero(icon[..., 3] > 127)
        self.assertEqual(np.ptp(xs), np.ptp(ys))
        self.assertFalse(icon[:24].any() or icon[76:].any())

    def test_every_size_comes_from_the_artwork(self):
        picture = noise_bitmap(256, 256)
        alone = reduced(picture, Frame(0, 0, 256), None, [16])[0]
        np.testing.assert_array_equal(reduced(picture, Frame(0, 0, 256), None, [64, 16])[1], alone)

    def test_vector_on_a_ground_is_opaque(self):
        _, picture = take_in(BLUE_DISC)
        icon = reduced(picture, whole_artwork(picture.width, picture.height), Colour(250, 240, 230), [32])[0]
        self.assertEqual(icon[..., 3].min(), 255)
        self.assertEqual(icon[0, 0].tolist(), [250, 240, 230, 255])

    def test_enlargement(self):
        self.assertEqual(enlargement(noise_bitmap(10, 10), Frame(0, 0, 10), 25), 2.5)
        self.assertIsNone(enlargement(take_in(BLUE_DISC)[1], Frame(0, 0, 10), 25))
