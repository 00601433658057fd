from dataclasses import replace
from unittest import TestCase

import numpy as np

from bexi.core.artwork.intake import take_in
from bexi.core.artwork.pictures import Bitmap
from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.artwork.vector import render
from bexi.core.framing.adapt import Shades, inside_safe_circle, shades_of
from bexi.core.framing.compose import compose, framing_for
from bexi.core.framing.drawn import drawn, drawn_in_one_colour, why_not_drawn
from bexi.core.framing.finish import Finish
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Own, Recipe
from bexi.core.pixels import palette
from bexi.core.pixels.colour import Colour
from bexi.server.demo.artwork import ferry_lockup

EMBLEM = Framing(Frame(27, 27, 566))


def painted(colour: tuple[int, ...], inside: tuple[int, ...], reach: int = 40) -> Bitmap:
    """A square of 100 px in one colour with a smaller one inside it."""
    pixels = np.zeros((100, 100, 4), dtype=np.uint8)
    pixels[:] = colour
    pixels[50 - reach : 50 + reach, 50 - reach : 50 + reach] = inside
    return Bitmap(pixels)


class MaskedTests(TestCase):
    def test_the_frame_is_drawn_out_until_the_farthest_ink_touches_the_circle(self):
        # W3C Web Application Manifest: radius 2/5 of the side; the corner of an 80 px square is 56.6 px away.
        framing = inside_safe_circle(painted((0, 0, 0, 0), (9, 9, 9, 255)), Framing(Frame(0, 0, 100)))
        self.assertAlmostEqual(framing.frame.side, np.hypot(40, 40) / 0.4, delta=2)
        self.assertAlmostEqual(framing.frame.x + framing.frame.side / 2, 50, delta=1)

    def test_a_small_mark_stays_where_it_is(self):
        framing = Framing(Frame(0, 0, 100))
        self.assertEqual(inside_safe_circle(painted((0, 0, 0, 0), (9, 9, 9, 255), 20), framing).frame, framing.frame)

    def test_the_ground_is_the_plates_the_framings_or_the_pictures_own(self):
        plain, solid = painted((0, 0, 0, 0), (9, 9, 9, 255)), painted((200, 100, 50, 255), (9, 9, 9, 255), 20)
        framing = Framing(Frame(0, 0, 100), home_ground=Colour(1, 2, 3))
        plate = Plate(PlateShape.DISC, Colour(7, 7, 7), margin=0)
        for picture, one, ground in (
            (plain, framing, Colour(1, 2, 3)),
            (solid, framing, Colour(200, 100, 50)),
            (solid, replace(framing, ground=Colour(4, 4, 4)), Colour(4, 4, 4)),
            (plain, replace(framing, plate=plate), Colour(7, 7, 7)),
        ):
            adapted = inside_safe_circle(picture, one)
            self.assertEqual((adapted.ground, adapted.plate.shape), (ground, PlateShape.NONE))

    def test_what_the_framing_cut_away_stays_away(self):
        beside = np.zeros((100, 260, 4), dtype=np.uint8)
        beside[5:95, 5:95] = (0, 0, 200, 255)  # the emblem
        beside[5:95, 110:255] = (200, 0, 0, 255)  # the word beside it
        svg = (
            b'<svg xmlns="http://www.w3.org/2000/svg" width="260" height="100">'
            b'<rect x="5" y="5" width="90" height="90" fill="#0000c8"/>'
            b'<rect x="110" y="5" width="145" height="90" fill="#c80000"/></svg>'
        )
        vector = take_in(svg)[1]
        side = round(100 * vector.width / 260)
        for picture, frame in ((Bitmap(beside), Frame(0, 0, 100)), (vector, Frame(0, 0, side))):
            recipe = Recipe.of(frame, None, Colour(255, 255, 255))
            framing = framing_for(picture, recipe, 192, Purpose.MASKED)
            self.assertGreater(framing.frame.side, frame.side)  # so far out that the word lies in it
            (icon,) = compose(picture, framing, Purpose.MASKED, [192])
            reds = (icon[..., 0].astype(int) - icon[..., 2]) > 20
            self.assertEqual(int(reds.sum()), 0)
            self.assertEqual(icon[96, 96].tolist(), [0, 0, 200, 255])

    def test_a_photograph_keeps_its_frame(self):
        busy = Bitmap(np.random.default_rng(0).integers(0, 256, (100, 100, 4), dtype=np.uint8))
        busy.pixels[..., 3] = 255
        self.assertEqual(inside_safe_circle(busy, Framing(Frame(0, 0, 100))).frame, Frame(0, 0, 100))

    def test_a_framing_of_its_own_is_taken_as_it_is(self):
        picture, own = painted((0, 0, 0, 0), (9, 9, 9, 255)), Framing(Frame(5, 5, 90))
        recipe = Recipe(Framing(Frame(0, 0, 100)), (Own(own, purpose=Purpose.MASKED),))
        self.assertIs(framing_for(picture, recipe, 512, Purpose.MASKED), own)
        self.assertEqual(compose(picture, own, Purpose.MASKED, [64])[0][..., 3].min(), 255)


class OneColourTests(TestCase):
    def test_a_colour_that_stands_out_is_cut_out_of_the_main_one(self):
        icon = painted((0, 0, 0, 0), (20, 40, 90, 255)).pixels.copy()
        icon[40:60, 40:60] = (250, 240, 200, 255)
        shape = shades_of(icon).applied_to(icon)[..., 3]
        self.assertEqual((shape[15, 15], shape[50, 50], shape[2, 2]), (255, 0, 0))

    def test_colours_too_alike_stay_one_shape(self):
        icon = painted((0, 0, 0, 0), (20, 40, 90, 255)).pixels.copy()
        icon[40:60, 40:60] = (30, 60, 110, 255)
        self.assertEqual(shades_of(icon).hollow, None)
        np.testing.assert_array_equal(shades_of(icon).applied_to(icon)[..., 3], icon[..., 3])

    def test_ink_on_a_solid_ground_becomes_the_shape(self):
        icon = painted((255, 255, 255, 255), (10, 10, 10, 255), 20).pixels
        shape = shades_of(icon).applied_to(icon)[..., 3]
        self.assertEqual((shape[50, 50], shape[5, 5]), (255, 0))

    def test_nothing_stays_nothing(self):
        self.assertFalse(Shades(0.0).applied_to(np.zeros((4, 4, 4), dtype=np.uint8)).any())


class DrawnTests(TestCase):
    """SVG icons look as the same framing composed of pixels does."""

    def test_every_framing_as_svg(self):
        picture = take_in(ferry_lockup())[1]
        plate = Plate(PlateShape.ROUNDED, Colour(0xFF, 0xCC, 0), 20, 4)
        for framing in (
            EMBLEM,
            replace(EMBLEM, ground=Colour(200, 255, 200)),
            replace(EMBLEM, plate=plate),
            replace(EMBLEM, plate=plate, finish=Finish(recolour=Colour(200, 0, 0))),
        ):
            for purpose, data in (
                (Purpose.TAB, drawn(picture, framing, Colour(255, 255, 255))),
                (Purpose.ONE_COLOUR, drawn_in_one_colour(picture, framing)),
            ):
                vector = take_in(data)[1]
                (meant,) = compose(picture, framing, purpose, [128])
                self.assertLess(palette.error(render(vector, 0, 0, vector.width, 128), meant), 0.6, purpose)

    def test_why_there_is_none(self):
        vector = take_in(ferry_lockup())[1]
        self.assertIsNone(why_not_drawn(vector, EMBLEM))
        self.assertIn("made of pixels", why_not_drawn(painted((0,) * 4, (9,) * 4), EMBLEM))
        self.assertIn("outline", why_not_drawn(vector, replace(EMBLEM, finish=Finish(outline=5))))
