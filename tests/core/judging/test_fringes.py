"""Colours that compression leaves in what is drawn in one."""

from unittest import TestCase

import numpy as np

from bexi.core.judging.fringes import without_fringes
from bexi.core.pixels.colour import WHITE, Colour

CREAM, BROWN = Colour(255, 248, 204), Colour(160, 98, 7)


class FringeTests(TestCase):
    def test_dashes_of_a_second_white_are_none_of_its_own_whichever_was_told_first(self):
        pixels = np.full((120, 120, 4), (*BROWN.channels, 255), dtype=np.uint8)
        pixels[20:100, 40:50, :3] = pixels[20:100, 70:80, :3] = WHITE.channels
        pixels[30:60, 44:46, :3] = pixels[50:80, 79, :3] = CREAM.channels
        mask = pixels[..., 2] > 100
        for told in ([WHITE, CREAM], [CREAM, WHITE]):
            self.assertEqual(without_fringes(pixels, mask, told, BROWN, 1), [WHITE], told)

    def test_an_area_of_a_second_white_stays(self):
        pixels = np.full((120, 120, 4), (*BROWN.channels, 255), dtype=np.uint8)
        pixels[20:100, 20:60, :3], pixels[20:100, 60:100, :3] = WHITE.channels, CREAM.channels
        told = [WHITE, CREAM]
        self.assertEqual(without_fringes(pixels, pixels[..., 2] > 100, told, BROWN, 1), told)
