from unittest import TestCase

import numpy as np

from bexi.core.pixels import palette
from tests.pictures import noise


class PaletteTests(TestCase):
    def ramp(self) -> np.ndarray:
        grey = np.tile(np.arange(256, dtype=np.uint8), (64, 1))
        return np.dstack([grey, grey, grey, np.full_like(grey, 255)])

    def test_few_colours_stay_exactly_as_they_are(self):
        pixels = noise(16, 16)
        np.testing.assert_array_equal(palette.paletted(pixels, 256).pixels, pixels)
        self.assertIsNone(palette.exact(noise(40, 40)))

    def test_dithering_keeps_the_mean_of_every_area(self):
        # What dithering is for: eyes average, so each 8 × 8 tile must have the mean it had [common practice].
        ramp = self.ramp()
        reduced = palette.paletted(ramp, 16)
        self.assertLessEqual(len(reduced.colours), 16)
        tiles = [one[..., 0].reshape(8, 8, 32, 8).mean(axis=(1, 3)) for one in (ramp, reduced.pixels)]
        inside = (tiles[0] > 16) & (tiles[0] < 239)  # beyond the outermost colours nothing can be mixed
        self.assertLess(np.abs(tiles[0] - tiles[1])[inside].max(), 2.5)

    def test_the_fewest_colours_within_an_error(self):
        ramp = self.ramp()
        last = 0
        for most_error in (0.5, 2, 5):
            found = palette.within(ramp, most_error)
            self.assertLessEqual(palette.error(found.pixels, ramp), most_error)
            last = last or len(found.colours)
            self.assertLessEqual(len(found.colours), last)
        self.assertIsNone(palette.within(noise(64, 64), 0.1))

    def test_clear_pixels_stay_clear(self):
        pixels = noise(64, 64)
        pixels[:20, :, :] = 0
        reduced = palette.paletted(pixels, 64).pixels
        self.assertLess(reduced[:20, :, 3].mean(), 12)
