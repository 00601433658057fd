from dataclasses import replace
from unittest import TestCase

from bexi.core.artwork.facts import Facts, measure
from bexi.core.artwork.ink import Box, GroundKind
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.licences import LICENCES, credit_line
from bexi.core.artwork.notes import LARGEST_USUAL, notes_on
from bexi.core.artwork.shapes import MainColour
from bexi.core.pixels.colour import Colour
from tests.pictures import plain_png


def facts(**changes: object) -> Facts:
    """Facts of a faultless square picture, but for the changes."""
    data = plain_png(600, 600)
    picture_format, picture = take_in(data)
    faultless = replace(
        measure(data, picture_format, picture),
        ground=GroundKind.CLEAR,
        ground_colour=None,
        ink=Box(0, 0, 600, 600),
        ink_share=0.6,
        sharp_up_to=600,
        parts=(Box(0, 0, 600, 600),),
        one_colour=False,
        frames=((600, 600),),
    )
    return replace(faultless, **changes)


class NotesTests(TestCase):
    def noted(self, mismatch: str | None = None, **changes: object) -> dict[str, bool]:
        """The facts that notes are about, and whether each is a caution."""
        return {note.fact: note.caution for note in notes_on(facts(**changes), mismatch)}

    def test_a_faultless_picture_has_none(self):
        self.assertEqual(self.noted(), {})

    def test_each_fact_that_matters_has_its_note(self):
        dark, light, middle = (MainColour(Colour(*(value,) * 3), 1.0) for value in (20, 240, 150))
        for changes, noted in (
            ({"width": 700}, {"shape": False}),
            ({"ground": GroundKind.SOLID, "ground_colour": Colour(1, 2, 3)}, {"ground": False}),
            ({"ground": GroundKind.BUSY}, {"ground": True}),
            ({"ink": None, "ink_share": 0.0}, {"ink": True}),
            (
                {"ink": None, "ground": GroundKind.SOLID, "sharp_up_to": 1, "turned": True},
                {"turned": False, "ink": True},
            ),
            ({"ink_share": 0.05}, {"ink_share": True}),
            ({"parts": (Box(0, 0, 9, 9),) * 12}, {"parts": True}),
            ({"sharp_up_to": LARGEST_USUAL - 1}, {"sharp_up_to": True}),
            ({"sharp_up_to": LARGEST_USUAL}, {}),
            ({"vector": True, "sharp_up_to": None}, {"sharp_up_to": False}),
            ({"animated": True, "frames": ((9, 9),) * 4}, {"frames": False}),
            ({"frames": ((16, 16), (32, 32))}, {"frames": False}),
            ({"turned": True}, {"turned": False}),
            ({"profile": "Wide space"}, {"profile": False}),
            ({"profile": "sRGB built-in"}, {}),
            ({"live_text": True}, {"live_text": True}),
            ({"one_colour": True, "colours": (dark,)}, {"colours": True}),
            ({"one_colour": True, "colours": (light,)}, {"colours": True}),
            ({"one_colour": True, "colours": (middle,)}, {}),
        ):
            self.assertEqual(self.noted(**changes), noted, changes)
        self.assertEqual(self.noted("The name ends in .ico."), {"format": True})

    def test_every_note_is_a_whole_sentence(self):
        many = facts(width=700, ground=GroundKind.BUSY, ink_share=0.01, turned=True, live_text=True, sharp_up_to=16)
        for note in notes_on(many, "The name ends in .ico."):
            self.assertTrue(note.sentence[0].isupper() and note.sentence.endswith("."), note.sentence)


class LicenceTests(TestCase):
    def test_only_licences_that_ask_for_a_credit_get_a_line(self):
        # CC BY 4.0 §3(a), CC BY-SA 4.0 §3(a), ISC and MIT ask for a notice; CC0 and one's own work do not.
        lines = {key: credit_line("Boat", "A. Member", key) for key in LICENCES}
        asking = {key for key, line in lines.items() if line}
        self.assertEqual(asking, {"CC-BY-4.0", "CC-BY-SA-4.0", "ISC", "MIT"})
        self.assertEqual(lines["CC-BY-4.0"], "Boat: A. Member (CC BY 4.0)")

    def test_a_missing_author_is_said(self):
        self.assertIn("author not noted", credit_line("Boat", "", "MIT"))
