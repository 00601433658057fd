"""Small icons by hand: what must be moved, what must stay, and what nothing may change."""

from dataclasses import replace
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.errors import FramingRefused
from bexi.core.framing.compose import compose, moves_in
from bexi.core.framing.finish import Finish
from bexi.core.framing.frame import Frame
from bexi.core.framing.hand.drawn import BY_HAND, drawing_of
from bexi.core.framing.hand.edges import Edge
from bexi.core.framing.hand.grid import on_grid
from bexi.core.framing.hand.warp import pieces_of, summed, warped
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.framing.reduce import reduced
from bexi.core.pixels.colour import WHITE, Colour
from bexi.core.pixels.light import Pixels, over, to_light, to_pixels

PX = 1024 // 16
"""Of the drawings here for each px of an icon of 16."""


def drawn(*bars: tuple[float, float, float, float], ink: str = "#204060") -> Picture:
    """Bars, each x, y, width and height in px of an icon of 16."""
    shapes = "".join(f'<path fill="{ink}" d="M{x} {y}h{wide}v{high}h{-wide}z"/>' for x, y, wide, high in bars)
    return within(shapes)


def within(shapes: str) -> Picture:
    """A drawing in units of an icon of 16 px."""
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="1024" height="1024" viewBox="0 0 16 16">{shapes}</svg>'
    return check(svg.encode(), DEFAULT_LIMITS)


def icon(picture: Picture, size: int = 16, **changes: object) -> Pixels:
    framing = Framing(Frame(0, 0, picture.width), by_hand=BY_HAND)
    return compose(picture, replace(framing, **changes), Purpose.TAB, [size])[0]


def plain(picture: Picture, size: int = 16, **changes: object) -> Pixels:
    return icon(picture, size, by_hand=(), **changes)


def grey(pixels: Pixels) -> float:
    """How much of the ink is neither full nor clear."""
    alpha = pixels[..., 3] / 255
    return float((4 * alpha * (1 - alpha)).sum() / alpha.sum())


class MovedTests(TestCase):
    def test_stems_between_px_come_to_lie_on_them(self):
        picture = drawn((2.5, 2, 1, 12), (7.4, 2, 1, 12), (12.3, 2, 1, 12))
        self.assertGreater(grey(plain(picture)), 0.8)
        made = icon(picture)
        self.assertLess(grey(made), 0.1)
        self.assertEqual((made[8, :, 3] > 127).sum(), 3)
        self.assertEqual(moves_in(picture, Framing(Frame(0, 0, 1024)), 16).count, 6)

    def test_thin_strokes_become_a_px_and_no_gap_closes(self):
        made = icon(drawn((3.2, 2, 0.6, 12), (5.1, 2, 0.6, 12), (7.0, 2, 0.6, 12)))
        row = made[8, :, 3] > 127
        self.assertEqual(np.flatnonzero(np.diff(row.astype(int)) == 1).size, 3)
        self.assertEqual(int(row.sum()), 3)

    def test_a_hairline_does_not_close(self):
        rim = '<path fill="none" stroke="#e07010" stroke-width="0.2" d="M2.4 2.4h11.3v11.3h-11.3z"/>'
        for line in (drawn((4.55, 1, 0.2, 14), (11.4, 1, 0.2, 14)), within(rim)):
            made = icon(line)
            self.assertGreater(made[..., 3].sum(), 0.95 * plain(line)[..., 3].sum())

    def test_the_fringe_of_an_area_goes_to_the_grid_with_it(self):
        fringed = within(
            '<path fill="#802010" d="M1.7 1.7h12.6v12.6h-12.6z"/><path fill="#e07010" d="M2 2h12v12h-12z"/>'
        )
        self.assertLess(grey(icon(fringed)), 0.02)
        self.assertGreater(grey(plain(fringed)), 0.1)

    def test_a_px_and_a_half_becomes_two(self):
        """Nearer in proportion, as the eye takes a stroke's weight; common practice."""
        for place in (4.2, 4.5, 4.8):
            made = icon(drawn((place, 2, 1.48, 12)))
            self.assertEqual(int((made[8, :, 3] > 127).sum()), 2)

    def test_of_two_ways_as_near_the_larger_is_taken(self):
        made = icon(drawn((2.5, 2.5, 11, 11)))
        self.assertEqual(np.count_nonzero(made[..., 3] == 255), 144)

    def test_like_stems_stay_alike(self):
        made = icon(drawn((1.3, 2, 1.5, 12), (5.6, 2, 1.45, 12), (10.2, 2, 1.55, 12)))
        row = np.concatenate([[0], (made[8, :, 3] > 127).astype(int), [0]])
        widths = np.flatnonzero(np.diff(row) == -1) - np.flatnonzero(np.diff(row) == 1)
        self.assertEqual(len(set(widths.tolist())), 1)

    @settings(max_examples=25, deadline=None)
    @given(st.floats(1.6, 2.4), st.floats(0.7, 1.6), st.floats(0, 1))
    def test_symmetric_marks_stay_symmetric(self, left, width, top):
        bars = [(left, top, width, 14), (16 - left - width, top, width, 14), (left, 7, 16 - 2 * left, width)]
        made = icon(drawn(*bars)).astype(int)
        self.assertLessEqual(np.abs(made - made[:, ::-1]).max(), 2)

    def test_the_middle_one_of_three_bars_is_as_crisp_as_the_others(self):
        made = icon(drawn((2, 3.5, 12, 1), (2, 7.5, 12, 1), (2, 11.5, 12, 1)))
        self.assertEqual(np.flatnonzero(made[:, 8, 3] == 255).size, 3)
        self.assertEqual(np.count_nonzero(made[:, 8, 3]), 3)

    def test_a_lone_stem_between_two_px_comes_to_lie_on_one(self):
        made = icon(drawn((7.5, 2, 1, 12)))
        self.assertEqual((made[8, :, 3] == 255).sum(), 1)
        self.assertEqual(np.count_nonzero(made[8, :, 3]), 1)

    def test_a_bitmap_as_a_vector(self):
        picture = drawn((2.3, 2.3, 1, 11), (8.3, 2.3, 1, 11), (2.3, 2.3, 7, 1))
        pixels = Bitmap(render_whole(picture, 1024))
        self.assertLess(np.abs(icon(pixels).astype(int) - icon(picture)).mean(), 2)

    def test_a_ring_stays_round(self):
        svg = (
            '<svg xmlns="http://www.w3.org/2000/svg" width="1024" height="1024" viewBox="0 0 16 16">'
            '<circle cx="7.8" cy="8.2" r="6.2" fill="none" stroke="#204060" stroke-width="1.2"/></svg>'
        )
        ink = icon(check(svg.encode(), DEFAULT_LIMITS))[..., 3] > 127
        rows, columns = np.flatnonzero(ink.any(axis=1)), np.flatnonzero(ink.any(axis=0))
        self.assertEqual(np.ptp(rows), np.ptp(columns))

    @settings(max_examples=25, deadline=None)
    @given(st.floats(-0.5, 0.5))
    def test_whatever_fraction_of_a_px_it_lies_at_the_icon_is_as_crisp(self, shift):
        made = icon(drawn((3 + shift, 3, 1, 10), (11 + shift, 3, 1, 10), (3 + shift, 3, 9, 1)))
        self.assertLess(grey(made), 0.4)


class UnchangedTests(TestCase):
    def assert_unchanged(self, picture: Picture, size: int = 16) -> None:
        np.testing.assert_array_equal(icon(picture, size), plain(picture, size))

    def test_what_lies_on_the_grid_does_not_change_by_a_byte(self):
        for size in BY_HAND:
            unit = 16 / size
            self.assert_unchanged(drawn((2 * unit, unit, 3 * unit, 12 * unit), (7 * unit, unit, unit, 12 * unit)), size)

    def test_photographs_slanted_lines_and_blank_pictures(self):
        grain = np.random.default_rng(5).integers(0, 256, (400, 400, 4), dtype=np.uint8)
        grain[..., 3] = 255
        self.assert_unchanged(Bitmap(grain))
        slanted = '<path stroke="#b00" stroke-width="60" d="M100 900L900 120"/>'
        svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="1024" height="1024">{slanted}</svg>'
        self.assert_unchanged(check(svg.encode(), DEFAULT_LIMITS))
        self.assert_unchanged(Bitmap(np.zeros((200, 200, 4), dtype=np.uint8)))
        self.assert_unchanged(Bitmap(np.full((1, 1, 4), 255, dtype=np.uint8)))
        self.assert_unchanged(Bitmap(np.full((20, 20, 4), 90, dtype=np.uint8)))

    def test_larger_icons_and_other_purposes(self):
        picture = drawn((2.5, 2, 1, 12), (7.4, 2, 1, 12))
        self.assert_unchanged(picture, 64)
        for purpose in (Purpose.HOME, Purpose.MASKED, Purpose.ONE_COLOUR):
            by_hand = Framing(Frame(0, 0, 1024), by_hand=BY_HAND)
            one, other = (
                compose(picture, framing, purpose, [32])[0] for framing in (by_hand, replace(by_hand, by_hand=()))
            )
            np.testing.assert_array_equal(one, other)

    def test_sizes_are_chosen_one_by_one(self):
        picture = drawn((2.4, 2, 1, 12))
        np.testing.assert_array_equal(icon(picture, 32, by_hand=(16,)), plain(picture, 32))
        with self.assertRaises(FramingRefused):
            Framing(Frame(0, 0, 10), by_hand=(64,))
        framing = Framing(Frame(0, 0, 10), by_hand=(16, 48))
        self.assertEqual(Framing.from_json(framing.as_json()), framing)
        self.assertEqual(Recipe(framing).plain.framing.by_hand, ())

    def test_a_picture_as_large_as_a_drawing_is_the_drawing(self):
        grain = np.random.default_rng(3).integers(0, 256, (384, 384, 4), dtype=np.uint8)
        np.testing.assert_array_equal(drawing_of(Bitmap(grain), Frame(0, 0, 384)), grain)
        self.assertFalse((drawing_of(Bitmap(grain), Frame(1, 0, 384)) == grain).all())

    def test_a_drawing_of_that_size_is_laid_on_its_ground_as_it_would_be_reduced(self):
        grain = np.random.default_rng(3).integers(0, 256, (384, 384, 4), dtype=np.uint8)
        whole = Frame(0, 0, 384)
        for ground in (WHITE, Colour(10, 200, 77)):
            (as_reduced,) = reduced(Bitmap(grain), whole, ground, [384])
            np.testing.assert_array_equal(over(drawing_of(Bitmap(grain), whole), ground), as_reduced)

    def test_one_ink_to_the_edges_and_stripes_along_an_axis(self):
        """Along an axis of which nothing begins or ends."""
        for shapes in ("", '<path fill="#c03030" d="M0 4.375h16v3h-16z"/>'):
            made = icon(within(f'<path fill="#204060" d="M0 0h16v16h-16z"/>{shapes}'))
            self.assertEqual(made[..., 3].min(), 255)
            self.assertEqual(len(np.unique(made.reshape(-1, 4), axis=0)), 2 if shapes else 1)

    def test_what_is_translucent_is_laid_on_its_ground_as_browsers_do(self):
        """In sRGB (CSS Compositing and Blending 1, source-over), as a plain icon is."""
        soft = within('<path fill="#204060" fill-opacity="0.3" d="M2.4 2h3v12h-3z"/><path d="M8.4 2h3v12h-3z"/>')
        for ground in (WHITE, Colour(10, 200, 77)):
            made = icon(soft, ground=ground)[8]
            seen = over(icon(soft)[8:9], ground)[0]
            np.testing.assert_array_equal(made[[3, 4, 9, 13]], seen[[3, 4, 9, 13]])


class TogetherTests(TestCase):
    """With what else is done to an icon."""

    def test_an_opaque_ground_stays_opaque_to_the_edge(self):
        picture = drawn((0.4, 0.4, 15.2, 3), (0.4, 12, 15.2, 3.6))
        made = icon(picture, ground=WHITE)
        self.assertEqual(made[..., 3].min(), 255)

    def test_plate_outline_sharpening_and_one_colour(self):
        picture = drawn((3.5, 3, 1, 10), (10.5, 3, 1, 10))
        plate = Plate(PlateShape.ROUNDED, Colour(250, 230, 20), 22, 0)
        finish = Finish(sharpen=2, outline=5, recolour=Colour(10, 10, 10))
        made = icon(picture, plate=plate, finish=finish)
        self.assertEqual(made.shape, (16, 16, 4))
        dark = (made[8, :, :3].max(axis=-1) < 60).sum()
        self.assertEqual(dark, 2)


class GridTests(TestCase):
    def test_no_room_means_they_stay(self):
        crowded = [Edge(0.1 + 0.4 * number, 5, begins=number % 2 == 0) for number in range(12)]
        (px, _) = on_grid(crowded, [], 2)
        self.assertEqual(px, tuple(edge.place for edge in crowded))

    def test_halves_that_have_no_room_stay(self):
        half = [Edge(0.1 + 0.4 * number, 5, begins=number % 2 == 0) for number in range(7)]
        mirrored = [*half, *(Edge(6 - one.place, 5, not one.begins) for one in reversed(half))]
        (px, _) = on_grid(mirrored, [], 16)
        self.assertEqual(len(px), len(mirrored))

    def test_nothing_moves_by_more_than_a_px_and_the_order_is_kept(self):
        grain = np.random.default_rng(4)
        for _ in range(300):
            places = np.sort(grain.uniform(0, 16, grain.integers(1, 14)))
            edges = [Edge(float(place), 4.0, begins=bool(grain.integers(2))) for place in places]
            px, _ = on_grid(edges, [], 16)
            self.assertEqual(list(px), sorted(px))
            self.assertLessEqual(max(abs(a - b.place) for a, b in zip(px, edges, strict=True)), 1)


MOVES = (
    ((), ()),
    ((2.4, 3.6, 9.9), (2, 4, 10)),
    ((0.0, 7.5, 16.0), (0, 7, 16)),
    ((5.1, 5.3), (5, 5)),
    ((0.3, 8.0, 15.9), (1, 8, 16)),
)


class WarpTests(TestCase):
    def setUp(self):
        self.grain = np.random.default_rng(2).integers(0, 256, (576, 576, 4), dtype=np.uint8)

    def warped(self, pixels, across=((), ()), down=((), ())):
        both = (pieces_of(*moves, 16, len(pixels)) for moves in (across, down))
        return warped(summed(to_light(pixels)), *both)

    def test_each_px_is_covered_whole(self):
        for places, px in MOVES:
            pieces = pieces_of(places, px, 16, 576)
            covered = np.add.reduceat(np.diff(pieces.ends) * pieces.stretched, pieces.firsts)
            np.testing.assert_allclose(covered, 1, atol=1e-9)

    def test_without_moves_it_is_the_mean(self):
        alpha = self.grain[..., 3].reshape(16, 36, 16, 36).mean(axis=(1, 3))
        np.testing.assert_allclose(self.warped(self.grain)[..., 3], alpha, atol=0.51)

    def test_it_is_what_lies_on_each_px_sample_by_sample(self):
        light = to_light(self.grain).astype(np.float64)
        for across in MOVES:
            for down in MOVES:
                rows, columns = (overlaps(*moves, 16, 576) for moves in (down, across))
                expected = to_pixels(np.einsum("ay,yxc,bx->abc", rows, light, columns, optimize=True))
                apart = np.abs(self.warped(self.grain, across, down).astype(int) - expected)
                self.assertLessEqual(apart.max(), 1)
                self.assertLess((apart > 0).mean(), 0.001)

    def test_what_is_half_covered_is_rounded_up_and_nothing_stays_nothing(self):
        half = np.zeros((384, 384, 4), dtype=np.uint8)
        half[:12] = 255
        made = self.warped(half, across=((3.3, 9.7), (3, 10)))
        self.assertEqual(set(made[0, :, 3].tolist()), {128})
        self.assertFalse(made[1:].any())


def overlaps(places, px, size, samples):
    """How much of each sample lies on each px, when what is at `places` comes to lie on `px`: the definition."""
    inner = [(place, moved) for place, moved in zip(places, px, strict=True) if 0 < place < size]
    known, moved = zip((0.0, 0.0), *inner, (size, size), strict=True)
    borders = np.interp(np.linspace(0, size, samples + 1), known, moved)
    first = np.arange(size)[:, None]
    return np.clip(np.minimum(borders[1:], first + 1) - np.maximum(borders[:-1], first), 0, None)
