from threading import Barrier, Thread
from unittest import TestCase
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import over, to_light, to_pixels
from bexi.core.pixels.pyramid import Pyramid
from bexi.core.pixels.resample import Stretch, lanczos_bands
from tests.pictures import noise


def light_of(pixels: np.ndarray, left: int, top: int, side: int, size: int, ground: Colour | None = None) -> np.ndarray:
    return Pyramid(pixels, ground).square(left, top, side, [size])[0]


def resized(pixels: np.ndarray, size: int) -> np.ndarray:
    return to_pixels(light_of(pixels, 0, 0, max(pixels.shape[:2]), size))


def direct(pixels: np.ndarray, left: int, top: int, side: int, size: int) -> np.ndarray:
    """The same square by a direct Lanczos reduction of all its pixels, in double precision and linear light."""
    light = to_light(pixels).astype(np.float64)

    def weights(start: int, count: int) -> np.ndarray:
        scale = max(side / size, 1)
        centres = start + (np.arange(size) + 0.5) * side / size
        samples = np.arange(min(start, 0), max(start + side, count))
        offsets = (samples + 0.5 - centres[:, None]) / scale
        kernel = np.sinc(offsets) * np.sinc(offsets / 3)
        kernel[(np.abs(offsets) >= 3) | (samples < start) | (samples >= start + side)] = 0
        kernel /= kernel.sum(axis=1, keepdims=True)
        return kernel[:, (samples >= 0) & (samples < count)]

    height, width = pixels.shape[:2]
    tall = np.tensordot(weights(top, height), light, 1)
    return to_pixels(np.einsum("xi,yic->yxc", weights(left, width), tall, optimize=True).astype(np.float32))


class LevelTests(TestCase):
    """Icons made from a level of the pyramid are those made from all pixels: mean 0.25, largest 3 of 255."""

    def test_accuracy_against_a_direct_reduction(self):
        grain = noise(601, 703)
        grain[..., 3] = 255
        y, x = np.mgrid[0:601, 0:703] / 100
        smooth = np.stack([128 + 120 * np.sin(x), 128 + 120 * np.cos(y), 40 * x, np.full_like(x, 255)], axis=-1)
        shapes = np.zeros((601, 703, 4), dtype=np.uint8)
        shapes[((x - 3) ** 2 + (y - 3) ** 2 < 7) & (np.sin(9 * x) > 0)] = (200, 30, 60, 255)
        for pixels in (grain, smooth.astype(np.uint8), shapes):
            for square in ((0, 0, 601), (-51, -3, 703), (37, 51, 401), (-300, -300, 1300)):
                for size in (16, 32, 48):
                    ours = to_pixels(light_of(pixels, *square, size)).astype(int)
                    difference = np.abs(ours - direct(pixels, *square, size))
                    opaque = difference[ours[..., 3] == 255]
                    self.assertLessEqual(difference[..., 3].max(), 4, (square, size))
                    self.assertLessEqual(opaque.mean() if opaque.size else 0, 0.25, (square, size))
                    self.assertLessEqual(opaque.max(initial=0), 3, (square, size))

    def test_level_zero_is_used_while_there_is_no_headroom(self):
        pixels = noise(120, 120)
        pyramid = Pyramid(pixels, None)
        pyramid.square(0, 0, 120, [16, 32])
        self.assertEqual(pyramid._levels, [])
        pyramid.square(0, 0, 120, [15])
        self.assertEqual(len(pyramid._levels), 1)


class SharedLevelTests(TestCase):
    def test_several_that_ask_at_once_get_what_one_alone_gets(self):
        pixels = noise(700, 600)
        alone = Pyramid(pixels, None).square(0, 0, 600, [8, 16, 32])
        for _ in range(5):
            shared, barrier, given = Pyramid(pixels, None), Barrier(4), []

            def ask(shared: Pyramid = shared, barrier: Barrier = barrier, given: list = given) -> None:
                barrier.wait()
                given.append(shared.square(0, 0, 600, [8, 16, 32]))

            threads = [Thread(target=ask) for _ in range(4)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
            for icons in given:
                for icon, meant in zip(icons, alone, strict=True):
                    np.testing.assert_array_equal(icon, meant)


class AgainstPillowTests(TestCase):
    def test_equals_pillow_on_float_planes(self):
        # Pillow's resize of 32-bit float planes is the reference for the filter itself.
        for side, size in ((120, 16), (300, 48), (97, 32), (64, 180), (50, 50)):
            pixels = noise(side, side, seed=side)
            ours = light_of(pixels, 0, 0, side, size)
            light = to_light(pixels)
            for channel in range(4):
                plane = Image.fromarray(light[..., channel])
                theirs = np.asarray(plane.resize((size, size), Image.Resampling.LANCZOS))
                np.testing.assert_allclose(ours[..., channel], theirs, atol=2e-5)

    def test_all_sizes_of_one_pass_equal_single_passes(self):
        pixels = noise(200, 130)
        together = Pyramid(pixels, None).square(-20, 10, 180, [16, 32, 180])
        for light, size in zip(together, (16, 32, 180), strict=True):
            np.testing.assert_allclose(light, light_of(pixels, -20, 10, 180, size), atol=1e-6)


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
        out = to_pixels(light_of(pixels, 0, -15, 60, 60, ground))
        self.assertEqual(out[..., 3].min(), 255)
        np.testing.assert_array_equal(out[15:45], over(pixels, ground))
        self.assertTrue((out[:15, :, :3] == ground.channels).all())


class WeightTests(TestCase):
    @given(st.integers(1, 500), st.integers(1, 200))
    @settings(max_examples=60, deadline=None)
    def test_rows_sum_to_one(self, length, size):
        for band in lanczos_bands(Stretch(0, length, length, size), 32):
            np.testing.assert_allclose(band.weights.sum(axis=1), 1, atol=1e-5)

    @given(st.floats(-90, 90), st.floats(1, 300), st.integers(1, 200), st.integers(1, 64))
    @settings(max_examples=80, deadline=None)
    def test_stretches_anywhere_stay_inside_the_row(self, start, length, count, size):
        stretch = Stretch(start, length, count, size)
        for band in lanczos_bands(stretch, 16):
            self.assertLessEqual(band.outputs.stop, size)
            self.assertTrue(stretch.inside.start <= band.inputs.start < band.inputs.stop <= stretch.inside.stop)
            self.assertEqual(
                band.weights.shape, (band.outputs.stop - band.outputs.start, band.inputs.stop - band.inputs.start)
            )
            self.assertTrue(np.isfinite(band.weights).all())

    def test_any_number_of_workers_gives_the_same_light(self):
        pixels = noise(400, 300)
        results = []
        for workers in (1, 2, 5):
            with patch("bexi.core.pixels.resample._WORKERS", workers):
                results.append(light_of(pixels, -20, -70, 440, 48).tobytes())
        self.assertEqual(len(set(results)), 1)
