"""A checkerboard that was saved into a picture: found, lifted exactly, and not seen where there is none."""

import io
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageDraw

from bexi.core.artwork.checkerboard import checkerboard_in
from bexi.core.artwork.detection import PictureFormat
from bexi.core.artwork.facts import measure
from bexi.core.artwork.ground import lift_ground, on_paper
from bexi.core.artwork.ink import GroundKind
from bexi.core.artwork.notes import notes_on
from bexi.core.artwork.pictures import Bitmap
from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import propose
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.light import Pixels

GREYS = (255, 204), (255, 239), (191, 128), (153, 102), (84, 60)
INK = (30, 125, 215)


def board(side: int, field: int, greys: tuple[int, int], shift: int = 0) -> Image.Image:
    y, x = np.mgrid[:side, :side]
    fields = ((x + shift) // field + (y + shift // 2) // field) % 2
    return Image.fromarray(np.where(fields, greys[1], greys[0]).astype(np.uint8)).convert("RGB")


def mark(side: int) -> Image.Image:
    """A soft-edged disc with a hole, a white bar across it."""
    large = Image.new("RGBA", (4 * side, 4 * side))
    draw, unit = ImageDraw.Draw(large), 4 * side // 16
    draw.ellipse((2 * unit, 2 * unit, 14 * unit, 14 * unit), fill=(*INK, 255))
    draw.ellipse((6 * unit, 8 * unit, 10 * unit, 12 * unit), fill=(0, 0, 0, 0))
    draw.rectangle((4 * unit, 4 * unit, 12 * unit, 6 * unit), fill=(255, 255, 255, 255))
    return large.resize((side, side), Image.Resampling.BOX)


def saved(field: int, greys: tuple[int, int], shift: int = 0, side: int = 320) -> Pixels:
    ground = board(side, field, greys, shift).convert("RGBA")
    ground.alpha_composite(mark(side))
    return np.asarray(ground)


class FoundTests(TestCase):
    @settings(max_examples=25, deadline=None)
    @given(st.integers(6, 32), st.sampled_from(GREYS), st.integers(0, 40))
    def test_fields_of_any_size_greys_and_place(self, field: int, greys: tuple[int, int], shift: int):
        found = checkerboard_in(saved(field, greys, shift))
        self.assertEqual((found.light, found.dark), greys)
        np.testing.assert_array_equal(found.greys, np.asarray(board(320, field, greys, shift))[..., 0])

    def test_resized_and_compressed(self):
        for quality, side in ((60, 320), (85, 450), (92, 211)):
            target = io.BytesIO()
            image = Image.fromarray(saved(16, (255, 204))).convert("RGB").resize((side, side), Image.Resampling.BICUBIC)
            image.save(target, "JPEG", quality=quality)
            self.assertIsNotNone(checkerboard_in(np.asarray(Image.open(target).convert("RGBA"))), (quality, side))

    def test_no_game_board_flag_stripes_or_noise(self):
        y, x = np.mgrid[:320, :320]
        stripes = np.where(x // 16 % 2, 204, 255)
        noise = np.random.default_rng(3).choice([204, 255], (320, 320))
        uneven = np.where((x * x // 4000 + y * y // 4000) % 2, 204, 255)
        few = np.where((x // 110 + y // 110) % 2, 204, 255)
        for grey in (stripes, noise, uneven, few, np.full((320, 320), 255)):
            self.assertIsNone(checkerboard_in(np.dstack([*3 * [grey], np.full_like(grey, 255)]).astype(np.uint8)))
        for greys in ((255, 0), (255, 128)):
            self.assertIsNone(checkerboard_in(saved(40, greys)))
        clear = saved(16, (255, 204)).copy()
        clear[0, 0, 3] = 0
        self.assertIsNone(checkerboard_in(clear))


class LiftedTests(TestCase):
    def test_the_mark_is_what_it_was_before_it_was_laid_on_the_board(self):
        """Known from the picture itself: the mark before compositing. Its hole is clear again, its white bar stays."""
        own = np.asarray(mark(320)).astype(int)
        for field in (8, 12, 20):
            for greys in GREYS:
                lifted = lift_ground(saved(field, greys), 0.08, inside=True).astype(int)
                away = np.abs(lifted[..., 3] - own[..., 3])
                self.assertLess((away > 40).mean(), 0.004, (field, greys))
                solid = (own[..., 3] == 255) & (lifted[..., 3] == 255)
                self.assertLess((np.abs(lifted - own)[solid] > 8).any(axis=-1).mean(), 0.002, (field, greys))

    def test_inside_the_mark_it_stays_unless_that_is_asked_for(self):
        pixels = saved(12, (255, 204))
        around, everywhere = (lift_ground(pixels, 0.08, inside) for inside in (False, True))
        self.assertEqual((around[5, 5, 3], everywhere[5, 5, 3], everywhere[200, 160, 3]), (0, 0, 0))
        np.testing.assert_array_equal(around[195:205, 155:165], pixels[195:205, 155:165])

    def test_a_picture_without_one_is_the_very_same_on_paper(self):
        plain = Bitmap(np.full((64, 64, 4), 255, dtype=np.uint8))
        self.assertIs(on_paper(plain), plain)

    def test_facts_say_so_and_the_first_proposal_is_free_of_it(self):
        pixels = saved(16, (255, 204))
        facts = measure(b"", PictureFormat.PNG, Bitmap(pixels))
        self.assertIs(facts.ground, GroundKind.CHECKERED)
        self.assertAlmostEqual(facts.ink.left, 40, delta=2)
        self.assertIn("checkerboard", next(one.sentence for one in notes_on(facts) if one.fact == "ground"))
        picture = Bitmap(pixels)
        first = propose(Source(picture, groups_of(picture)))[0]
        icon = first.icons[1]
        self.assertEqual(icon[0, 0, 3], 0)
        colours = icon[icon[..., 3] > 250][:, :3].astype(int)
        self.assertGreater((np.abs(colours - INK).max(axis=1) < 12).mean(), 0.6)
