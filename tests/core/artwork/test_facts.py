import json
from unittest import TestCase

import numpy as np
from PIL import Image, ImageDraw

from bexi.core.artwork.detection import name_mismatch
from bexi.core.artwork.facts import Facts, measure
from bexi.core.artwork.ink import Box, GroundKind
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.notes import notes_on
from tests.pictures import BLUE_DISC, encoded, noise


def facts_of(data: bytes) -> Facts:
    return measure(data, *take_in(data))


def sentences(data: bytes, name: str = "a.png") -> str:
    picture_format, _ = take_in(data)
    return " ".join(note.sentence for note in notes_on(facts_of(data), name_mismatch(name, picture_format)))


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
        facts = facts_of(encoded(image, "JPEG", quality=70))
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
        facts = facts_of(BLUE_DISC)
        self.assertIsNone(facts.sharp_up_to)
        scale = facts.width / 200
        for edge, meant in zip((facts.ink.left, facts.ink.right), (10 * scale, 90 * scale), strict=True):
            self.assertAlmostEqual(edge, meant, delta=1.5)

    def test_main_colours_by_their_share(self):
        image = Image.new("RGBA", (100, 100))
        pen = ImageDraw.Draw(image)
        pen.rectangle((0, 0, 99, 59), fill="#cc2200")
        pen.rectangle((0, 60, 99, 99), fill="#0044aa")
        facts = facts_of(encoded(image, "PNG"))
        self.assertEqual(
            [(str(one.colour), round(one.share, 2)) for one in facts.colours], [("#cc2200", 0.6), ("#0044aa", 0.4)]
        )
        self.assertFalse(facts.one_colour)
        self.assertTrue(facts_of(BLUE_DISC).one_colour)

    def test_separate_parts_and_their_boxes(self):
        image = Image.new("RGBA", (200, 100))
        pen = ImageDraw.Draw(image)
        pen.rectangle((10, 10, 89, 89), fill="black")
        pen.rectangle((110, 40, 149, 79), fill="black")
        pen.point((190, 5), fill="black")  # a speck is noise
        self.assertEqual(facts_of(encoded(image, "PNG")).parts, (Box(10, 10, 90, 90), Box(110, 40, 150, 80)))

    def test_notes_name_what_matters(self):
        plain = encoded(Image.new("RGB", (60, 30), "#888888"), "JPEG")
        for word in ("JPEG", "blank"):
            self.assertIn(word, sentences(plain, "favicon.ico"))
        drawn = Image.new("RGB", (60, 30), "#888888")
        drawn.paste("#ffffff", (20, 5, 40, 25))
        for word in ("not square", "solid"):
            self.assertIn(word, sentences(encoded(drawn, "PNG"), "logo.png"))
        dark = Image.new("RGBA", (900, 900))
        ImageDraw.Draw(dark).ellipse((100, 100, 800, 800), outline="#101820", width=12)
        for word in ("dark tab", "thin lines"):
            self.assertIn(word, sentences(encoded(dark, "PNG")))
        self.assertIn("25.6 times", sentences(encoded(Image.fromarray(noise(20, 20)[..., :3]), "PNG")))
        self.assertIn("sharp at every size", sentences(BLUE_DISC, "disc.svg"))

    def test_facts_as_plain_data(self):
        plain = json.loads(json.dumps(facts_of(BLUE_DISC).as_json()))
        self.assertEqual(
            (plain["ground"], plain["ground_colour"], plain["colours"][0]["colour"]), ("clear", None, "#1144cc")
        )
