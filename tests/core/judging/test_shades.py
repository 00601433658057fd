"""Logos on a ground that shades off from edge to edge."""

from unittest import TestCase

import numpy as np

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import propose
from bexi.core.judging.shades import evened
from bexi.core.judging.survey import whole_survey
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import Colour, contrast
from tests.core.judging.logos import disc, words

STOPS = '<stop stop-color="{}"/><stop offset="1" stop-color="{}"/>'
ACROSS = f'<linearGradient id="g">{STOPS}</linearGradient>'
SLANTED = f'<linearGradient id="g" x2="1" y2="1">{STOPS}</linearGradient>'
ROUND = f'<radialGradient id="g" r="1.2">{STOPS}</radialGradient>'
PAIRS = (("#7c2d12", "#65a30d"), ("#0369a1", "#b45309"), ("#1e1b4b", "#0891b2"))


def on_shade(gradient: str, body: str) -> Bitmap:
    size = 'viewBox="0 0 900 300" width="900" height="300"'
    ground = f'{gradient}<path fill="url(#g)" d="M0 0h900v300H0z"/>'
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" {size}>{ground}{body}</svg>'
    return Bitmap(render_whole(check(svg.encode(), DEFAULT_LIMITS), 900))


class ShadeTests(TestCase):
    def test_an_emblem_and_a_word_are_told_from_it(self):
        body = disc(150, 150, 90, "#fff") + words("Wrenfield", 290, 190, 110, "#fff")
        for gradient in (ACROSS, SLANTED, ROUND):
            for pair in PAIRS:
                picture = on_shade(gradient.format(*pair), body)
                groups = groups_of(picture)
                self.assertEqual((len(groups.emblems), len(groups.words)), (1, 1), (gradient, pair))
                self.assertLess(groups.emblems[0].box.right, 260)

    def test_a_first_letter_stands_on_the_shade_that_was_around_it(self):
        for pair in PAIRS:
            picture = on_shade(ACROSS.format(*pair), words("Wrenfield", 120, 190, 140, "#fff"))
            first = propose(Source(picture, groups_of(picture)))[0]
            self.assertTrue(first.kind.startswith("first letter"), first.kind)
            self.assertFalse(first.is_lost)
            corner = Colour(*(int(channel) for channel in first.icons[2][2, 2, :3]))
            self.assertLess(contrast(corner, Colour.parse(pair[0])), 1.5, pair)

    def test_what_is_no_even_shade(self):
        grain = np.random.default_rng(2).integers(0, 256, (200, 300, 3), dtype=np.uint8)
        stripes = np.zeros((200, 300, 3), dtype=np.uint8)
        stripes[:, 150:] = 200
        for shown in (grain, stripes):
            pixels = np.dstack([shown, np.full(shown.shape[:2], 255, dtype=np.uint8)])
            self.assertIsNone(evened(pixels))
        self.assertFalse(whole_survey(Bitmap(pixels)).drawing.shaded)
