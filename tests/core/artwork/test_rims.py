"""A line along an edge, as a picture has that was exported or cut out a px off, is no part of a logo."""

from unittest import TestCase

import numpy as np

from bexi.core.artwork.pictures import Bitmap
from bexi.core.artwork.rims import without_rim
from bexi.core.artwork.vector import render_whole
from bexi.core.judging.groups import groups_of
from tests.core.judging.brought.developed import DEVELOPED

WHITE, PALE, GREY, BLUE = (255, 255, 255, 255), (204, 204, 204, 255), (90, 90, 90, 255), (20, 60, 200, 255)


def on_white(height: int, width: int) -> np.ndarray:
    """A blue square on white."""
    pixels = np.full((height, width, 4), WHITE, dtype=np.uint8)
    pixels[height // 3 : -height // 3, width // 3 : -width // 3] = BLUE
    return pixels


class RimTests(TestCase):
    def test_a_line_along_any_edge_takes_the_colour_inside_of_it(self):
        plain = on_white(120, 200)
        edges = (slice(None), -1), (slice(None), 0), (0, slice(None)), (-1, slice(None))
        for edge in edges:
            lined = plain.copy()
            lined[edge] = GREY
            np.testing.assert_array_equal(without_rim(lined), plain)
        for depth in (1, 2, 3):
            framed = np.full_like(plain, GREY)
            framed[depth:-depth, depth:-depth] = plain[depth:-depth, depth:-depth]
            np.testing.assert_array_equal(without_rim(framed), plain)
            framed[depth, depth:-depth] = framed[-depth - 1, depth:-depth] = PALE  # its soft edge
            framed[depth:-depth, depth] = framed[depth:-depth, -depth - 1] = PALE
            np.testing.assert_array_equal(without_rim(framed), plain)

    def test_clear_or_translucent_lines_repeat_what_is_inside(self):
        plain = on_white(120, 200)
        for alpha in (0, 128):
            cut = plain.copy()
            cut[-1, :, 3] = alpha
            np.testing.assert_array_equal(without_rim(cut), plain)

    def test_a_line_whose_outermost_px_are_translucent(self):
        plain = on_white(120, 200)
        lined = np.full_like(plain, GREY)
        lined[3:-3, 3:-3] = plain[3:-3, 3:-3]
        lined[:, [0, -1], 3] = 191  # as an export leaves it whose width is no whole number of px
        np.testing.assert_array_equal(without_rim(lined), plain)

    def test_what_is_drawn_is_none(self):
        framed = on_white(60, 60)
        framed[[0, 1, 2, -1, -2, -3]] = framed[:, [0, 1, 2, -1, -2, -3]] = GREY  # a twentieth of its side
        tile = np.full((120, 120, 4), BLUE, dtype=np.uint8)
        bled = on_white(120, 200)
        bled[40:90, :30] = BLUE
        disc = np.zeros((120, 120, 4), dtype=np.uint8)
        disc[10:110, 10:110] = BLUE
        for pixels in (framed, tile, bled, disc, on_white(120, 200)):
            self.assertIs(without_rim(pixels), pixels)

    def test_an_emblem_and_its_word_are_told_apart_all_the_same(self):
        logo = next(one for one in DEVELOPED if one.name == "left, sans")
        drawn = render_whole(logo.picture, 900)
        flat = np.where(drawn[..., 3:] > 127, drawn, np.uint8(255))
        flat[:, -1] = flat[-1] = GREY
        groups = groups_of(Bitmap(flat.astype(np.uint8)))
        self.assertFalse(groups.busy)
        self.assertEqual((len(groups.emblems), len(groups.words)), (1, 1))
        self.assertIsNotNone(groups.first)
