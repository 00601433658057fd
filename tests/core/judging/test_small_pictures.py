"""Logos no wider than a page's header shows them: their thin letters stay letters, and the emblem is found."""

from itertools import product
from unittest import TestCase

import numpy as np
from PIL import Image

from bexi.core.artwork.ink import Box
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.judging.groups import groups_of
from tests.core.judging.test_beside_words import DISC, ORANGE, Edges, filled, in_common, line, word

WIDTH, HEIGHT = 900, 300
ON_WHITE = f'<rect width="{WIDTH}" height="{HEIGHT}" fill="#fff"/>'
THIN = ("playfair-display 400 normal", "work-sans 300 normal", "barlow-condensed 400 normal")

EMBLEMS: dict[str, tuple[str, Edges]] = {
    "a ring": (line(DISC.format(70, 150, 60, 120), 10), (65, 85, 195, 215)),
    "a drop": (
        filled("M120 70C150 120 180 150 180 180A60 60 0 0 1 60 180C60 150 90 120 120 70z", ORANGE),
        (60, 70, 180, 240),
    ),
    "a house": (line("M60 150L120 80L180 150V220H60z", 8), (56, 74, 184, 224)),
}


def small(drawn: str, width: int) -> Bitmap:
    """The drawing as a bitmap of `width` px."""
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="{WIDTH}" height="{HEIGHT}">{drawn}</svg>'
    large = Image.fromarray(render_whole(check(svg.encode(), DEFAULT_LIMITS), WIDTH))
    return Bitmap(np.asarray(large.resize((width, width * HEIGHT // WIDTH), Image.Resampling.LANCZOS)))


class SmallPicturesTests(TestCase):
    def test_the_emblem_beside_thin_letters_is_found_in_nearly_all(self):
        cases = list(product(EMBLEMS.items(), THIN, (200, 240), ("", ON_WHITE)))
        missed = [
            (name, face, width, bool(ground))
            for (name, (emblem, edges)), face, width, ground in cases
            if not is_found(ground + emblem + word("Harrowgate", 230, face, 100, 190), edges, width)
        ]
        self.assertLessEqual(len(missed), len(cases) // 9, missed)


def is_found(drawn: str, edges: Edges, width: int) -> bool:
    """Whether one emblem, where it was drawn, and words are found in a bitmap of `width` px."""
    groups = groups_of(small(drawn, width))
    box = Box(*(round(edge * width / WIDTH) for edge in edges))
    return len(groups.emblems) == 1 and bool(groups.words) and in_common(groups.emblems[0].box, box) > 0.75
