import io
from unittest import TestCase

import numpy as np
from PIL import Image

from bexi.core.artwork.intake import take_in
from bexi.core.artwork.pictures import Bitmap
from bexi.core.errors import PlanRefused
from bexi.core.formats import ico
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.fit import FieldFormat, FieldGround, Fit, Requirement, fit
from tests.pictures import BLUE_DISC, decoded, noise

RECIPE = Recipe.of(Frame(0, 0, 512))


def made(wanted: Requirement, picture: object = None) -> Fit:
    picture = picture or take_in(BLUE_DISC)[1]
    return fit(lambda key: picture, RECIPE, wanted)


class FitTests(TestCase):
    """Every file is opened by Pillow, which did not choose it, and meets what was asked for."""

    def test_every_format_in_the_size_asked_for(self):
        for kind in FieldFormat:
            data = made(Requirement(kind, 64)).data
            image = Image.open(io.BytesIO(data))
            self.assertEqual((image.size, image.format.lower()), ((64, 64), kind.value), kind)

    def test_a_limit_is_met_by_giving_up_as_little_as_possible(self):
        picture = Bitmap(noise(512, 512))
        whole = made(Requirement(FieldFormat.PNG, 256), picture)
        self.assertEqual(whole.notes, ())
        limited = made(Requirement(FieldFormat.PNG, 256, most_kb=60), picture)
        self.assertLessEqual(len(limited.data), 60_000)
        self.assertRegex(limited.notes[0], r"^\d+ colours, dithered; the channels are [\d.]+ of 255 off on average\.$")
        self.assertLess(len(made(Requirement(FieldFormat.JPEG, 256, most_kb=50), picture).data), 50_000)

    def test_at_least_takes_more_pixels_where_the_artwork_has_them(self):
        self.assertEqual(made(Requirement(FieldFormat.PNG, 128, at_least=True)).size, 256)
        small = Bitmap(noise(512, 512))
        self.assertEqual(made(Requirement(FieldFormat.PNG, 400, at_least=True), small).size, 400)
        self.assertEqual(made(Requirement(FieldFormat.PNG, 300, at_least=True), small).size, 450)

    def test_grounds(self):
        opaque = made(Requirement(FieldFormat.PNG, 32, ground=FieldGround.OPAQUE)).data
        self.assertEqual(decoded(opaque)[..., 3].min(), 255)
        clear = np.asarray(Image.open(io.BytesIO(made(Requirement(FieldFormat.GIF, 32)).data)).convert("RGBA"))
        self.assertEqual(set(np.unique(clear[..., 3])), {0, 255})
        full = Bitmap(np.full((512, 512, 4), 255, dtype=np.uint8))
        with self.assertRaises(PlanRefused):
            made(Requirement(FieldFormat.PNG, 32, ground=FieldGround.CLEAR), full)

    def test_ico_holds_smaller_frames_as_far_as_the_limit_allows(self):
        sizes = [frame.pixels.shape[0] for frame in ico.read(made(Requirement(FieldFormat.ICO, 64)).data)]
        self.assertEqual(sizes, [16, 32, 48, 64])
        tight = ico.read(made(Requirement(FieldFormat.ICO, 64, most_kb=0.7)).data)
        self.assertEqual([(frame.pixels.shape[0], frame.is_png) for frame in tight], [(64, True)])

    def test_what_cannot_be_had_is_refused_with_the_reason(self):
        picture = Bitmap(noise(512, 512))
        with self.assertRaises(PlanRefused) as caught:
            made(Requirement(FieldFormat.BMP, 256, most_kb=10), picture)
        self.assertIn("the smallest BMP of this icon takes 196.7 KB", caught.exception.sentence)
        for bad in (
            {"format": FieldFormat.ICO, "size": 512},
            {"format": FieldFormat.PNG, "size": 0},
            {"format": FieldFormat.PNG, "size": 16, "most_kb": -1},
            {"format": FieldFormat.JPEG, "size": 16, "ground": FieldGround.CLEAR},
        ):
            with self.assertRaises(PlanRefused):
                Requirement(**bad)
