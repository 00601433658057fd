"""Photographs are told from drawings, whatever either went through.

The photographs are sample pictures of scikit-image, an open collection. Three more of it, nearly flat or even
throughout, are told as drawings: "moon", "brick" and "camera".
"""

import io
from unittest import TestCase

import numpy as np
from PIL import Image, ImageFilter
from skimage import data

from bexi.core.artwork.pictures import Bitmap
from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import candidates
from bexi.core.judging.survey import whole_survey
from bexi.core.judging.ways_out import Source
from tests.pictures import encoded

PHOTOGRAPHS = {
    "astronaut": data.astronaut,
    "cat": data.cat,
    "coffee": data.coffee,
    "coins": data.coins,
    "grass": data.grass,
    "gravel": data.gravel,
    "motorcycle": lambda: data.stereo_motorcycle()[0],
    "tissue": data.immunohistochemistry,
}


def _told(image: Image.Image) -> bool:
    """Whether it is told as a photograph."""
    return not whole_survey(Bitmap(np.asarray(image.convert("RGBA")))).drawing.separable


def _ways(image: Image.Image) -> dict[str, Image.Image]:
    """The same as it is, soft, small, and much compressed."""
    small = image.copy()
    small.thumbnail((200, 200))
    return {
        "sharp": image,
        "soft": image.filter(ImageFilter.GaussianBlur(3)),
        "small": small,
        "compressed": Image.open(io.BytesIO(encoded(image.convert("RGB"), "JPEG", quality=30))),
    }


def _shaded(high: int = 400, wide: int = 400) -> np.ndarray:
    """A sky that shades off in a circle, over a hill."""
    y, x = np.indices((high, wide)) / max(high, wide)
    glow = np.clip(1 - np.hypot(x - 0.7, y - 0.3), 0, 1)[..., None]
    sky = glow * (255, 190, 90) + (1 - glow) * (40, 60, 140)
    hill = (y > 0.7 + 0.1 * np.sin(6 * x))[..., None]
    return np.where(hill, (20, 60 + 80 * (1 - y[..., None].clip(0, 1)).mean(), 40), sky)


class PhotographTests(TestCase):
    def test_photographs_sharp_soft_small_and_compressed(self):
        drawn = {
            (name, way)
            for name, photograph in PHOTOGRAPHS.items()
            for way, image in _ways(Image.fromarray(photograph())).items()
            if not _told(image)
        }
        self.assertEqual(drawn, set())

    def test_one_is_proposed_by_its_telling_square(self):
        picture = Bitmap(np.asarray(Image.fromarray(data.cat()).convert("RGBA")))
        first = next(candidates(Source(picture, groups_of(picture))))
        self.assertEqual(first.kind, "telling square")
        self.assertIsNone(first.judged().judgements[0].verdict)

    def test_a_drawing_to_the_edges_that_shades_off_is_none(self):
        grain = np.random.default_rng(4).normal(0, 6, (400, 400, 1))
        for shown in (_shaded(), _shaded() + grain):
            image = Image.fromarray(np.clip(shown, 0, 255).astype(np.uint8))
            self.assertFalse(any(_told(one) for one in _ways(image).values()))

    def test_a_checkerboard_of_few_px_is_none(self):
        board = np.kron(np.indices((150, 200)).sum(axis=0) % 2, np.ones((4, 4)))
        self.assertFalse(_told(Image.fromarray((204 + 51 * board).astype(np.uint8))))
