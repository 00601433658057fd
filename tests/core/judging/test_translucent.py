"""Inks that let their ground through: they are drawn for white, and no plate or hand may change what they mix to."""

from unittest import TestCase

import numpy as np

from bexi.core.artwork.intake import take_in
from bexi.core.artwork.pictures import Bitmap, Vector
from bexi.core.artwork.translucent import is_translucent
from bexi.core.artwork.vector import render_whole
from bexi.core.framing.hand.steps import HandStep
from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import propose
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import WHITE
from tests.core.artwork.test_vector import svg
from tests.core.judging.logos import disc, words

BOX = 'viewBox="0 0 200 200" width="200" height="200"'
TWO = '<circle cx="75" cy="100" r="60" fill="#0a7cff"/><circle cx="125" cy="100" r="60" fill="#ff3d6e"/>'
THREE = (
    '<circle cx="100" cy="70" r="55" fill="#00a0e0"/><circle cx="70" cy="125" r="55" fill="#e0007a"/>'
    '<circle cx="130" cy="125" r="55" fill="#ffd000"/>'
)
SQUARES = (
    '<rect x="20" y="20" width="110" height="110" fill="#2e7d32"/>'
    '<rect x="70" y="70" width="110" height="110" fill="#1565c0"/>'
)
LINES = "".join(f'<path d="M10 {y}h180" stroke="#1565c0"/>' for y in range(20, 200, 12))


class TranslucentTests(TestCase):
    def test_areas_are_told_from_soft_edges_and_fades(self):
        fade = '<linearGradient id="g"><stop/><stop offset="1" stop-opacity="0"/></linearGradient>'
        fading = f'{fade}<rect width="200" height="200" fill="url(#g)"/>'
        for content, opacity, told in ((TWO, 0.7, True), (THREE, 0.5, True), (TWO, 1, False), (LINES, 1, False)):
            self.assertEqual(is_translucent(drawn(content, opacity)), told, (content, opacity))
        self.assertFalse(is_translucent(drawn(fading, 1)))
        self.assertFalse(is_translucent(np.full((9, 9, 4), 255, np.uint8)))
        self.assertFalse(is_translucent(np.zeros((9, 9, 4), np.uint8)))

    def test_they_stand_free_or_on_white_in_their_own_colours(self):
        for content in (TWO, THREE, SQUARES):
            picture = vector(translucent(content, 0.6))
            for source in (picture, Bitmap(render_whole(picture, 512))):
                for one in propose(Source(source, groups_of(source))):
                    self.assertEqual(one.framing.plate.colour, WHITE, one.kind)
                    self.assertIsNone(one.framing.finish.recolour)
                    self.assertNotIn(HandStep.SET_OFF, [step.step for step in one.framing.steps])

    def test_a_watermark_beneath_opaque_ink_is_no_part_of_the_drawing(self):
        mark = disc(150, 150, 100, "#0f5132") + words("Tolliver", 300, 200, 130, "#0f5132")
        for opacity in (0.05, 0.08, 0.12):
            beneath = f'<g opacity="{opacity}">{disc(700, 140, 140, "#000")}</g>'
            picture = take_in(svg(beneath + mark, 'viewBox="0 0 900 300" width="900" height="300"'))[1]
            for source in (picture, Bitmap(render_whole(picture, 900))):
                groups = groups_of(source)
                self.assertEqual((len(groups.emblems), len(groups.words), groups.separable), (1, 1, True), opacity)


def vector(content: str) -> Vector:
    return take_in(svg(content, BOX))[1]


def translucent(content: str, opacity: float) -> str:
    return "".join(f'<g opacity="{opacity}">{part}/></g>' for part in content.split("/>") if part)


def drawn(content: str, opacity: float) -> np.ndarray:
    whole = content if opacity == 1 else translucent(content, opacity)
    return render_whole(vector(whole), 128)
