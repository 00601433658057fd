from unittest import TestCase

import numpy as np
from PIL import Image, ImageDraw

from bexi.core.artwork.facts import Facts, measure
from bexi.core.artwork.ink import Box, GroundKind
from bexi.core.artwork.intake import take_in
from tests.pictures import BLUE_DISC, encoded, noise


def facts_of(data: bytes, name: str = "a.png") -> Facts:
    return measure(name, data, *take_in(data))


class FactsTests(TestCase):
    def test_ink_on_a_clear_ground(self):
        image = Image.new("RGBA", (100, 60))
        ImageDraw.Draw(image).rectangle((20, 10, 49, 39), fill="#cc2200")
        facts = facts_of(encoded(image, "PNG"))
        self.assertEqual(facts.ground, GroundKind.CLEAR)
        self.assertEqual(facts.ink, Box(20, 10, 50, 40))
        self.assertEqual((facts.margins.right, facts.margins.bottom), (50, 20))
        self.assertAlmostEqual(facts.ink_share, 900 / 6000)
        self.assertEqual(facts.sharp_up_to, 30)

    def test_ink_on_a_solid_ground_despite_compression_noise(self):
        image = Image.new("RGB", (200, 200), "white")
        ImageDraw.Draw(image).rectangle((50, 60, 149, 139), fill="#003366")
        facts = facts_of(encoded(image, "JPEG", quality=70), "a.jpg")
        self.assertEqual((facts.ground, str(facts.ground_colour)), (GroundKind.SOLID, "#ffffff"))
        self.assertLessEqual(
            np.abs(
                np.array([50, 60, 150, 140]) - (facts.ink.left, facts.ink.top, facts.ink.right, facts.ink.bottom)
            ).max(),
            2,
        )

    def test_busy_ground_is_all_ink(self):
        facts = facts_of(encoded(Image.fromarray(noise(50, 40)[..., :3]), "PNG"))
        self.assertEqual((facts.ground, facts.ink), (GroundKind.BUSY, Box(0, 0, 50, 40)))

    def test_vector_is_sharp_at_any_size(self):
        facts = facts_of(BLUE_DISC, "disc.svg")
        self.assertIsNone(facts.sharp_up_to)
        scale = facts.width / 200
        for edge, meant in zip((facts.ink.left, facts.ink.right), (10 * scale, 90 * scale), strict=True):
            self.assertAlmostEqual(edge, meant, delta=1.5)

    def test_notes_name_what_matters(self):
        notes = " ".join(facts_of(encoded(Image.new("RGB", (60, 30), "#888888"), "JPEG"), "favicon.ico").notes)
        for word in ("JPEG", "not square", "blank", "solid"):
            self.assertIn(word, notes)
