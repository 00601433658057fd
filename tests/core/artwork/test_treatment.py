from unittest import TestCase

import numpy as np
from PIL import Image, ImageDraw

from bexi.core.artwork.ground import lift_ground
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.treatment import Treatment
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.oklab import distance_to, oklab
from tests.pictures import BLUE_DISC, encoded, plain_png


def drawn_mask(draw) -> np.ndarray:
    """True coverage of a shape, 0 to 1: drawn eight times larger and averaged."""
    large = Image.new("L", (8 * 160, 8 * 160))
    draw(ImageDraw.Draw(large))
    return np.asarray(large.resize((160, 160), Image.Resampling.BOX)).astype(np.float64) / 255


def disc_mask() -> np.ndarray:
    return drawn_mask(lambda pen: pen.ellipse((240, 240, 1040, 1040), fill=255))


def composite(alpha: np.ndarray, ink: tuple, ground: tuple, noise: float = 0) -> np.ndarray:
    mixed = alpha[..., None] * np.array(ink) + (1 - alpha[..., None]) * np.array(ground)
    mixed += np.random.default_rng(3).normal(0, noise, mixed.shape) if noise else 0
    pixels = np.full((*alpha.shape, 4), 255, dtype=np.uint8)
    pixels[..., :3] = np.rint(np.clip(mixed, 0, 255))
    return pixels


class LiftTests(TestCase):
    """Composites whose true alpha is known are taken apart again."""

    def test_alpha_of_a_disc_is_found_and_no_halo_stays(self):
        alpha = disc_mask()
        for ink, ground in (
            ((20, 60, 90), (255, 255, 255)),
            ((240, 220, 60), (10, 30, 20)),
            ((200, 30, 30), (180, 200, 220)),
        ):
            lifted = lift_ground(composite(alpha, ink, ground), 0.08)
            self.assertLess(np.abs(lifted[..., 3] / 255 - alpha).mean(), 0.002)
            self.assertLess(np.abs(lifted[..., 3] / 255 - alpha).max(), 0.05)
            seen = lifted[..., 3] > 8
            self.assertLessEqual(np.abs(lifted[seen][:, :3].astype(int) - ink).max(), 1)

    def test_compression_noise_is_withstood(self):
        alpha = disc_mask()
        lifted = lift_ground(composite(alpha, (20, 60, 90), (255, 255, 255), noise=2), 0.08)
        self.assertLess(np.abs(lifted[..., 3] / 255 - alpha).mean(), 0.01)
        self.assertEqual(lifted[:10, :, 3].max(), 0)

    def test_enclosed_ground_and_thin_lines_stay(self):
        ring = drawn_mask(lambda pen: pen.ellipse((240, 240, 1040, 1040), outline=255, width=24))
        lifted = lift_ground(composite(ring, (0, 0, 0), (255, 255, 255)), 0.08)
        self.assertEqual(lifted[80, 80, 3], 255)
        self.assertEqual(lifted[0, 0, 3], 0)
        outer = ring.copy()
        outer[40:120, 40:120] = 0
        self.assertGreater(lifted[80, 31:34, 3].max(), 200)

    def test_the_room_around_changes_nothing(self):
        ring = drawn_mask(lambda pen: pen.ellipse((8, 8, 1270, 1270), outline=255, width=200))  # to near the edges
        wide = np.pad(ring, 100)
        close, roomy = (lift_ground(composite(one, (30, 60, 90), (250, 250, 240)), 0.08) for one in (ring, wide))
        np.testing.assert_array_equal(roomy[100:-100, 100:-100], close)
        self.assertEqual(roomy[:90].max(), 0)

    def test_ground_inside_the_ink_is_lifted_when_that_is_wanted(self):
        ring = drawn_mask(lambda pen: pen.ellipse((240, 240, 1040, 1040), outline=255, width=200))
        lifted = lift_ground(composite(ring, (0, 0, 0), (255, 255, 255)), 0.08, inside=True)
        self.assertLess(np.abs(lifted[..., 3] / 255 - ring).max(), 0.05)

    def test_nothing_to_lift_changes_nothing(self):
        plain = composite(np.zeros((20, 20)), (0, 0, 0), (9, 9, 9))
        np.testing.assert_array_equal(lift_ground(plain, 0.08), plain)


class TreatmentTests(TestCase):
    def test_recolour_keeps_the_coverage(self):
        for data in (encoded(Image.fromarray(composite(disc_mask(), (9, 9, 9), (255, 255, 255))), "PNG"), BLUE_DISC):
            treatment = Treatment(lift=0.1 if data != BLUE_DISC else None)
            recoloured = Treatment(lift=treatment.lift, recolour=Colour(250, 10, 20))
            before, after = (take_in(data, treatment=one)[1] for one in (treatment, recoloured))
            if data == BLUE_DISC:
                self.assertEqual((after.recolour, before.recolour), (Colour(250, 10, 20), None))
                continue
            np.testing.assert_array_equal(before.pixels[..., 3], after.pixels[..., 3])
            self.assertTrue((after.pixels[after.pixels[..., 3] > 0][:, :3] == (250, 10, 20)).all())

    def test_frames_are_chosen(self):
        colours = ("#ff0000", "#00ff00", "#0000ff")
        frames = [Image.new("RGB", (8, 8), colour) for colour in colours]
        gif = encoded(frames[0], "GIF", save_all=True, append_images=frames[1:])
        for frame, channel in ((None, 0), (0, 0), (1, 1), (2, 2)):
            _, picture = take_in(gif, treatment=Treatment(frame=frame))
            self.assertEqual((picture.pixels[0, 0].argmax(), len(picture.frames)), (channel, 3))
        ico = encoded(Image.new("RGBA", (64, 64), "red"), "ICO", sizes=[(16, 16), (32, 32), (64, 64)])
        self.assertEqual(take_in(ico, treatment=Treatment(frame=0))[1].width, 16)
        with self.assertRaises(ArtworkRefused) as caught:
            take_in(gif, treatment=Treatment(frame=3))
        self.assertEqual(caught.exception.code, "no-such-frame")

    def test_survives_json(self):
        for treatment in (Treatment(), Treatment(2, 0.1, Colour(1, 2, 3))):
            self.assertEqual(Treatment.from_json(treatment.as_json()), treatment)

    def test_what_cannot_be_is_refused(self):
        with self.assertRaises(ArtworkRefused):
            Treatment(lift=0.9)
        for _ in range(2):  # what is kept from the first time is another picture, and equal
            with self.assertRaises(ArtworkRefused) as caught:
                take_in(BLUE_DISC, treatment=Treatment(lift=0.1))
            self.assertEqual(caught.exception.code, "no-ground-to-lift")
        self.assertEqual(take_in(plain_png(), treatment=Treatment())[1].width, 40)


class OklabTests(TestCase):
    def test_published_values(self):
        # Ottosson's definition: white is L 1, a 0, b 0; red is 0.628, 0.225, 0.126 (from memory).
        white, red = (np.array(colour, dtype=np.uint8) for colour in ((255, 255, 255), (255, 0, 0)))
        np.testing.assert_allclose(oklab(white), (1, 0, 0), atol=1e-3)
        np.testing.assert_allclose(oklab(red), (0.628, 0.225, 0.126), atol=1e-3)
        self.assertEqual(distance_to(red, red), 0)
