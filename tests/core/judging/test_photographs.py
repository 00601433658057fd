"""Photographs are told from drawings, whatever either went through.

The photographs are sample pictures of scikit-image, an open collection. Three more of it, nearly flat or even
throughout, are told as drawings: "moon", "brick" and "camera".
"""

import io
from unittest import TestCase

import numpy as np
from PIL import Image, ImageFilter
from skimage import data

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import candidates
from bexi.core.judging.survey import whole_survey
from bexi.core.judging.telling import telling_squares
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

RING = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="64" height="64"><g fill="none" stroke="#fff">'
    b'<circle cx="32" cy="32" r="22" stroke-width="5"/><path d="M32 18v28M18 32h28" stroke-width="4"/></g></svg>'
)


def _told(image: Image.Image) -> bool:
    """Whether it is told as a photograph."""
    return not whole_survey(_taken_in(np.asarray(image))).drawing.separable


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


def _taken_in(photograph: np.ndarray) -> Bitmap:
    return Bitmap(np.asarray(Image.fromarray(photograph).convert("RGBA")))


class PhotographTests(TestCase):
    def test_photographs_sharp_soft_small_and_compressed(self):
        drawn = {
            (name, way)
            for name, photograph in PHOTOGRAPHS.items()
            for way, image in _ways(Image.fromarray(photograph())).items()
            if not _told(image)
        }
        self.assertEqual(drawn, set())

    def test_one_whose_outermost_px_are_translucent(self):
        pixels = _taken_in(data.cat()).pixels.copy()
        pixels[[0, -1], :, 3] = pixels[:, [0, -1], 3] = 128
        self.assertTrue(_told(Image.fromarray(pixels)))

    def test_one_is_proposed_by_its_telling_square_and_a_closer_one(self):
        picture = _taken_in(data.cat())
        proposed = list(candidates(Source(picture, groups_of(picture))))
        self.assertEqual([one.kind for one in proposed], ["telling square", "closer square", "as it is"])
        self.assertEqual(proposed[0].judged().judgements[0].says, "not judged: no flat areas, like a photograph")

    def test_a_drawing_to_the_edges_that_shades_off_is_none(self):
        grain = np.random.default_rng(4).normal(0, 6, (400, 400, 1))
        for shown in (_shaded(), _shaded() + grain):
            image = Image.fromarray(np.clip(shown, 0, 255).astype(np.uint8))
            self.assertFalse(any(_told(one) for one in _ways(image).values()))

    def test_an_icon_of_few_px_is_none_though_it_is_all_edges(self):
        y, x = np.indices((24, 24)) / 24
        icon = Image.fromarray(np.dstack([200 - 100 * x, 120 + 100 * y, 90 + 60 * x]).astype(np.uint8)).convert("RGBA")
        icon.alpha_composite(Image.fromarray(render_whole(check(RING, DEFAULT_LIMITS), 24)))
        self.assertFalse(_told(icon))

    def test_a_checkerboard_of_few_px_is_none(self):
        board = np.kron(np.indices((150, 200)).sum(axis=0) % 2, np.ones((4, 4)))
        self.assertFalse(_told(Image.fromarray((204 + 51 * board).astype(np.uint8))))


class TellingTests(TestCase):
    def test_what_a_photograph_is_about_lies_in_its_squares(self):
        """Where that is was marked by eye: parts of the width and height."""
        middles = {"cat": (0.48, 0.5), "coffee": (0.48, 0.45), "astronaut": (0.45, 0.5), "camera": (0.4, 0.45)}
        for name, (x, y) in middles.items():
            picture = _taken_in(getattr(data, name)())
            for square in telling_squares(picture):
                self.assertLess(abs(x * picture.width - square.x - square.side / 2), 0.5 * square.side, name)
                self.assertLess(abs(y * picture.height - square.y - square.side / 2), 0.5 * square.side, name)

    def test_a_thing_that_stands_out_is_whole_in_both(self):
        for x, y in ((80, 90), (330, 100), (200, 160)):
            sand = np.random.default_rng(x).normal(150, 20, (300, 480, 3))
            sand[y - 40 : y + 40, x - 40 : x + 40] += (60, -40, -60)
            picture = _taken_in(np.clip(sand, 0, 255).astype(np.uint8))
            for square in telling_squares(picture):
                self.assertLessEqual(square.x, x - 30)
                self.assertGreaterEqual(square.x + square.side, x + 30)
                self.assertLessEqual(square.y, y - 30)
                self.assertGreaterEqual(square.y + square.side, y + 30)
                self.assertGreaterEqual(square.y, 0)
                self.assertLessEqual(square.y + square.side, picture.height)

    def test_pictures_of_a_few_px_and_of_one_colour(self):
        for high, wide in ((1, 1), (1, 40), (3, 2), (9, 300), (301, 97), (1000, 999)):
            square, closer = telling_squares(_taken_in(np.full((high, wide, 3), 90, np.uint8)))
            self.assertEqual(square.side, min(high, wide))
            self.assertLessEqual(closer.side, square.side)
            for one in (square, closer):
                self.assertGreaterEqual(min(one.x, one.y), 0)
                self.assertLessEqual(one.x + one.side, wide)
                self.assertLessEqual(one.y + one.side, high)
