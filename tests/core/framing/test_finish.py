from dataclasses import replace
from unittest import TestCase

import numpy as np

from bexi.core.errors import FramingRefused
from bexi.core.framing.compose import compose
from bexi.core.framing.cut_off import CORNER_RADIUS, SAFE_RADIUS, outside_circle, outside_rounded
from bexi.core.framing.finish import Finish, outlined, sharpened
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import over, to_light, to_pixels
from tests.pictures import noise, noise_bitmap


def disc(size: int, radius: float, colour: tuple = (20, 20, 20)) -> np.ndarray:
    """A disc with smooth edges, `radius` in px."""
    y, x = np.mgrid[:size, :size] + 0.5 - size / 2
    pixels = np.zeros((size, size, 4), dtype=np.uint8)
    pixels[..., :3] = colour
    pixels[..., 3] = np.rint(255 * np.clip(radius + 0.5 - np.hypot(x, y), 0, 1))
    pixels[pixels[..., 3] == 0] = 0
    return pixels


def rimmed(mark: np.ndarray, width: float, colour: Colour) -> np.ndarray:
    return outlined(mark, over(mark, colour), mark[..., 3], width)


class OutlineTests(TestCase):
    def test_width_against_the_analytic_area(self):
        for size, radius, width in ((16, 5, 1), (48, 15, 3), (180, 60, 9), (512, 150, 20)):
            alpha = rimmed(disc(size, radius), width, Colour(255, 255, 255))[..., 3] / 255
            self.assertAlmostEqual(alpha.sum() / (np.pi * (radius + width) ** 2), 1, delta=0.05)

    def test_the_mark_itself_stays(self):
        mark = disc(48, 15)
        with_rim = rimmed(mark, 3, Colour(255, 0, 0))
        full = mark[..., 3] == 255
        np.testing.assert_array_equal(with_rim[full], mark[full])
        self.assertEqual(with_rim[24, 24 - 17].tolist(), [255, 0, 0, 255])

    def test_an_empty_icon_gets_none(self):
        self.assertFalse(rimmed(np.zeros((16, 16, 4), dtype=np.uint8), 3, Colour(1, 2, 3)).any())


class SharpenTests(TestCase):
    def test_flat_parts_stay_and_edges_get_steeper(self):
        pixels = np.full((32, 32, 4), 255, dtype=np.uint8)
        pixels[:, :16, :3] = 90
        pixels[:, 16:, :3] = 170
        result = to_pixels(sharpened(to_light(pixels), 1.0)).astype(int)
        np.testing.assert_array_equal(result[:, :14], pixels[:, :14])
        self.assertGreater(result[5, 16, 0] - result[5, 15, 0], 80)

    def test_light_stays_within_its_alpha(self):
        light = sharpened(to_light(noise(40, 40)), 1.0)
        self.assertTrue((light >= 0).all() and (light[..., :3] <= light[..., 3:] + 1e-6).all())

    def test_only_small_icons_are_sharpened(self):
        picture = noise_bitmap(200, 200)
        plain, sharp = (Framing(Frame(0, 0, 200), finish=Finish(sharpen=step)) for step in (0, 2))
        for size, changed in ((16, True), (64, True), (96, False)):
            one, other = (compose(picture, framing, Purpose.TAB, [size])[0] for framing in (plain, sharp))
            self.assertEqual(bool((one != other).any()), changed, size)


class FinishTests(TestCase):
    def test_nothing_to_do_changes_nothing(self):
        pixels = noise(20, 20)
        self.assertIs(Finish().sharpened(pixels), pixels)

    def test_the_order_is_the_same_with_and_without_a_finish(self):
        picture = noise_bitmap(400, 400)  # half-clear everywhere, so the moment of laying it on its ground shows
        for ground in (None, Colour(200, 30, 90)):
            plain = Framing(Frame(0, 0, 400), ground=ground)
            sharp = replace(plain, finish=Finish(sharpen=4))
            (one,), (other,) = (compose(picture, framing, Purpose.TAB, [180]) for framing in (plain, sharp))
            np.testing.assert_array_equal(one, other)
            ringed = replace(plain, finish=Finish(outline=1, outline_colour=ground or Colour(0, 0, 0)))
            if ground:  # an outline in the ground's own colour is not seen
                (other,) = compose(picture, ringed, Purpose.TAB, [180])
                self.assertLessEqual(np.abs(one.astype(int) - other).max(), 1)

    def test_ink_in_one_colour_keeps_its_coverage(self):
        picture = noise_bitmap(120, 120)
        red = Framing(Frame(0, 0, 120), finish=Finish(recolour=Colour(255, 0, 0)))
        (one,), (other,) = (compose(picture, each, Purpose.TAB, [32]) for each in (Framing(Frame(0, 0, 120)), red))
        np.testing.assert_array_equal(one[..., 3], other[..., 3])
        self.assertEqual(set(map(tuple, other[other[..., 3] > 0][:, :3].tolist())), {(255, 0, 0)})

    def test_the_finished_icon_lies_on_its_ground(self):
        framing = Framing(Frame(-50, -50, 200), ground=Colour(0, 0, 255), finish=Finish(outline=5))
        icon = compose(noise_bitmap(100, 100), framing, Purpose.TAB, [64])[0]
        self.assertEqual((icon[..., 3].min(), icon[0, 0].tolist()), (255, [0, 0, 255, 255]))
        self.assertGreater(icon[32, 14, 0], 200)

    def test_bad_values_are_refused(self):
        for make in (lambda: Finish(sharpen=5), lambda: Finish(outline=-1), lambda: Finish(outline=16)):
            with self.assertRaises(FramingRefused):
                make()


class CutOffTests(TestCase):
    def test_safe_circle_of_the_manifest_specification(self):
        # W3C Web Application Manifest: the safe zone's radius is 2/5 of the smaller side: 204.8 px at 512.
        self.assertAlmostEqual(SAFE_RADIUS * 512, 204.8)
        self.assertEqual(outside_circle(disc(512, 204)), 0)
        full = np.full((512, 512, 4), 255, dtype=np.uint8)
        self.assertAlmostEqual(outside_circle(full), 1 - np.pi * 0.4**2, places=3)
        self.assertAlmostEqual(outside_circle(disc(512, 256)), 1 - 0.8**2, places=2)

    def test_rounded_corners(self):
        full = np.full((512, 512, 4), 255, dtype=np.uint8)
        self.assertAlmostEqual(outside_rounded(full), (4 - np.pi) * CORNER_RADIUS**2, places=3)
        self.assertEqual(outside_rounded(disc(512, 256)), 0)
        self.assertEqual(outside_rounded(np.zeros((16, 16, 4), dtype=np.uint8)), 0)
