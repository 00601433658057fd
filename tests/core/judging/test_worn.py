"""Logos as they come out of mail and documents: what they are made of is seen all the same."""

from dataclasses import replace
from unittest import TestCase

import numpy as np
from PIL import Image

from bexi.core.artwork.pictures import Bitmap
from bexi.core.framing.frame import Frame
from bexi.core.framing.hand.drawn import BY_HAND
from bexi.core.framing.recipe import Framing
from bexi.core.judging.cut_out import with_cut_out_marks
from bexi.core.judging.flat import told_apart
from bexi.core.judging.groups import groups_of
from bexi.core.judging.hand_steps import with_steps
from bexi.core.judging.judge import judge_at
from bexi.core.judging.proposals import candidates, judged_in_turn
from bexi.core.judging.softness import softness_of
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import WHITE
from bexi.core.pixels.light import Pixels
from tests.core.judging.brought.developed import DEVELOPED
from tests.core.judging.brought.held_back import HELD_BACK
from tests.core.judging.brought.looking import what_is_wrong
from tests.core.judging.brought.strange import STRANGE
from tests.core.judging.brought.worn import WAYS, compressed, enlarged, on_paper

LOGOS = {logo.name: logo for logo in (*STRANGE, *DEVELOPED, *HELD_BACK)}
TRIED = ("left, sans", "words, capitals", "letter tiles", "emblem and word on a card", "heads and shoulders")
UNTOLD = {("emblem and word on a card", "on_paper")}
"""What is white on a card is not told from the paper, whose light changes."""


def _square(soft: float) -> Pixels:
    """A dark square on white whose edges run over so many px."""
    away = np.abs(np.arange(256) - 127.5) - 64
    across = np.clip(0.5 - away / max(soft, 0.01), 0, 1)
    light = np.rint(255 - 215 * np.outer(across, across)).astype(np.uint8)
    return np.dstack([light, light, light, np.full_like(light, 255)])


class WornTests(TestCase):
    def test_the_first_proposal_is_the_right_one(self):
        wrong = set()
        for name in TRIED:
            for way in WAYS:
                logo = replace(LOGOS[name], worn=way)
                source = Source(logo.picture, groups_of(logo.picture))
                judged = judged_in_turn(candidates(source), with_letters=False)
                first = next(one for one in judged if one and one.stands_first)
                said = what_is_wrong(logo, first)
                if said and not said.startswith("stands"):  # on its paper or without
                    wrong.add((name, way.__name__))
        self.assertEqual(wrong, UNTOLD)

    def test_a_thumbnail_gets_no_steps_of_a_hand_for_px_that_are_not_there(self):
        picture = Bitmap(np.asarray(Image.new("RGBA", (12, 12), "#e11d48")))
        framing = Framing(Frame(0, 0, 12), by_hand=BY_HAND)
        self.assertEqual(judge_at(picture, framing, [48])[0].says, "weak: artwork px 0.25")
        self.assertEqual(with_steps(picture, framing), framing)


class SoftnessTests(TestCase):
    def test_as_far_as_edges_run(self):
        told = [softness_of(_square(soft)) for soft in (0, 2, 4, 6, 8)]
        self.assertEqual(told[:2], [1, 1])
        self.assertEqual(told, sorted(told))
        self.assertGreaterEqual(min(told[2:]), 2)

    def test_a_picture_that_was_enlarged_and_one_that_was_compressed(self):
        logo = LOGOS["left, sans"]
        for way, is_soft in ((enlarged, True), (compressed, False), (on_paper, False)):
            picture = replace(logo, worn=way).picture
            assert isinstance(picture, Bitmap)
            self.assertEqual(softness_of(picture.pixels) > 1, is_soft, way.__name__)

    def test_what_has_no_edges_is_not_soft(self):
        fade = np.linspace(0, 255, 256).astype(np.uint8)
        for light in (np.tile(fade, (256, 1)), np.full((256, 256), 90, np.uint8), np.full((2, 3), 90, np.uint8)):
            self.assertEqual(softness_of(np.dstack([light, light, light, np.full_like(light, 255)])), 1)


class FringeTests(TestCase):
    def test_soft_edges_are_no_colours(self):
        for soft in (0, 2, 3):
            self.assertEqual(len(told_apart(_square(soft)).colours), 2, soft)

    def test_a_line_of_a_colour_between_two_others_stays(self):
        pixels = _square(0)
        pixels[20:26, 20:236, :3] = 150  # a grey rule between a dark square and white paper
        self.assertEqual(len(told_apart(pixels).colours), 3)


class CutOutTests(TestCase):
    def _drawn(self, holes: tuple[tuple[int, int, int, int], ...]):
        pixels = np.full((240, 400, 4), 255, np.uint8)
        pixels[40:200, 40:360, :3] = (20, 60, 160)
        for left, top, right, bottom in holes:
            pixels[top:bottom, left:right, :3] = 255
        return told_apart(pixels)

    def test_white_marks_on_a_badge_are_white_ink(self):
        drawing = self._drawn(((80, 80, 120, 160), (150, 80, 190, 160)))
        self.assertEqual(drawing.colours[2], WHITE)
        self.assertEqual(sum(region.kind == 2 for region in drawing.regions), 2)

    def test_what_is_inside_a_frame_line_or_a_letter_is_ground(self):
        self.assertEqual(len(self._drawn(((60, 60, 340, 180),)).colours), 2)

    def test_nothing_is_cut_out_of_what_has_no_holes(self):
        drawing = self._drawn(())
        self.assertIs(with_cut_out_marks(drawing), drawing)

    def test_pictures_that_are_white_throughout(self):
        self.assertEqual(told_apart(np.asarray(Image.new("RGBA", (90, 60), "#ffffff"))).ink_box, None)

    def test_letters_on_a_ring_are_cut_out_of_it_and_its_middle_is_not(self):
        pixels = np.full((300, 300, 4), 255, np.uint8)
        away = np.hypot(*(np.indices((300, 300)) - 149.5))
        pixels[(away < 140) & (away > 100), :3] = (20, 60, 160)
        for left, top in ((140, 20), (20, 140), (262, 140), (140, 262)):
            pixels[top : top + 18, left : left + 18, :3] = 255
        drawing = told_apart(pixels)
        self.assertEqual(sorted(region.area for region in drawing.regions if region.kind == 2), [18 * 18] * 4)
        self.assertEqual(drawing.kinds[150, 150], 0)
