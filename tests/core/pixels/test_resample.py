from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import over, to_light, to_pixels
from bexi.core.pixels.resample import lanczos_weights, resample
from tests.pictures import noise


def resized(pixels: np.ndarray, size: int, **options: object) -> np.ndarray:
    return to_pixels(resample(pixels, 0, 0, max(pixels.shape[:2]), [size], **options)[0])


class AgainstPillowTests(TestCase):
    def test_equals_pillow_on_float_planes(self):
        # Pillow's resize of 32-bit float planes is the reference for the filter itself.
        for side, size in ((300, 16), (300, 48), (97, 32), (64, 180), (50, 50)):
            pixels = noise(side, side, seed=side)
            ours = resample(pixels, 0, 0, side, [size])[0]
            light = to_light(pixels)
            for channel in range(4):
                plane = Image.fromarray(light[..., channel])
                theirs = np.asarray(plane.resize((size, size), Image.Resampling.LANCZOS))
                np.testing.assert_allclose(ours[..., channel], theirs, atol=2e-5)

    def test_all_sizes_of_one_pass_equal_single_passes(self):
        pixels = noise(200, 130)
        together = resample(pixels, -20, 10, 180, [16, 32, 180])
        for light, size in zip(together, (16, 32, 180), strict=True):
            np.testing.assert_array_equal(light, resample(pixels, -20, 10, 180, [size])[0])


class LightTests(TestCase):
    def test_checkerboard_averages_to_188(self):
        # IEC 61966-2-1: half the light of white is stored as 188, not 128.
        board = np.indices((64, 64)).sum(axis=0) % 2 * 255
        pixels = np.stack([board, board, board, np.full_like(board, 255)], axis=-1).astype(np.uint8)
        small = resized(pixels, 4)
        self.assertEqual(np.unique(small[1:-1, 1:-1, :3]).tolist(), [188])
        self.assertTrue(np.isin(small[..., :3], (187, 188, 189)).all())

    def test_clear_neighbour_gives_no_fringe(self):
        # Porter and Duff, "Compositing Digital Images", 1984: colour counts by its coverage.
        pixels = np.zeros((40, 40, 4), dtype=np.uint8)
        pixels[:, :20] = (255, 0, 0, 255)
        pixels[:, 20:] = (0, 255, 0, 0)
        small = resized(pixels, 7)
        self.assertEqual(small[..., 1].max(), 0)
        self.assertTrue((small[small[..., 3] > 0][:, 0] == 255).all())

    def test_stored_pixels_survive_the_way_to_light_and_back(self):
        pixels = noise(256, 64)
        back = to_pixels(to_light(pixels))
        seen = pixels[..., 3] > 0
        np.testing.assert_array_equal(back[seen], pixels[seen])
        self.assertFalse(back[~seen].any())

    def test_same_size_is_pixel_exact(self):
        pixels = noise(48, 48)
        pixels[..., 3] = 255
        np.testing.assert_array_equal(resized(pixels, 48), pixels)

    def test_ground_fills_what_the_picture_leaves_free(self):
        pixels = noise(60, 30)
        ground = Colour(10, 20, 30)
        out = to_pixels(resample(pixels, 0, -15, 60, [60], ground)[0])
        self.assertEqual(out[..., 3].min(), 255)
        np.testing.assert_array_equal(out[15:45], over(pixels, ground))
        self.assertTrue((out[:15, :, :3] == ground.channels).all())


class WeightTests(TestCase):
    @given(st.integers(1, 500), st.integers(1, 200))
    @settings(max_examples=60, deadline=None)
    def test_rows_sum_to_one(self, length, size):
        np.testing.assert_allclose(lanczos_weights(length, size).sum(axis=1), 1, atol=1e-5)
