"""Structure against scikit-image's structural similarity."""

import random
from unittest import TestCase

import numpy as np
from PIL import Image
from scipy import ndimage
from scipy.stats import spearmanr
from skimage.metrics import structural_similarity

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Vector
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.symbols import Symbol, draw_symbol
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.framing.tabs import LIGHT_TAB
from bexi.core.judging.judge import judge
from bexi.core.judging.readings import Judgement
from bexi.core.pixels.colour import WHITE
from bexi.core.pixels.light import Pixels, over
from bexi.resources import symbol_shapes

SIZES = (12, 16, 24, 32, 48)
LARGE = 384


def framed(name: str, stroke: float = 2, shift: int = 0) -> tuple[Vector, Framing]:
    """A symbol, and a framing that is off its middle by `shift`."""
    picture = check(draw_symbol(Symbol(name, stroke=stroke), symbol_shapes()).encode(), DEFAULT_LIMITS)
    return picture, Framing(Frame(shift, shift, picture.width))


def judged(
    name: str, sizes: tuple[int, ...], stroke: float = 2, shift: int = 0
) -> tuple[list[Pixels], list[Judgement]]:
    """Icons of a symbol, and how they are judged on a light tab."""
    picture, framing = framed(name, stroke, shift)
    icons = compose(picture, framing, Purpose.TAB, sizes)
    return icons, judge(picture, framing, [icon for icon in icons if len(icon) < LARGE], grounds={"light": LIGHT_TAB})


def grey(icon: Pixels, side: int) -> np.ndarray:
    image = Image.fromarray(over(icon, WHITE)).convert("L")
    return np.asarray(image.resize((side, side), Image.Resampling.BICUBIC), dtype=float)


class SimilarityTests(TestCase):
    def test_the_order_is_that_of_structural_similarity(self):
        """In the surroundings of the ink: far from it all is white, and alike whatever is drawn."""
        ours, theirs = [], []
        for name in random.Random(11).sample(sorted(symbol_shapes()), 24):
            icons, judgements = judged(name, (*SIZES, LARGE))
            large = grey(icons[-1], LARGE)
            near = ndimage.binary_dilation(large < 128, iterations=12)
            edges = near & ~ndimage.binary_erosion(large < 128, iterations=6)
            for icon, judgement in zip(icons[:-1], judgements, strict=True):
                _, alike = structural_similarity(large, grey(icon, LARGE), data_range=255, full=True, win_size=25)
                ours.append(judgement.readings.structure)
                theirs.append(alike[edges].mean())
        self.assertGreaterEqual(spearmanr(ours, theirs).statistic, 0.8)
