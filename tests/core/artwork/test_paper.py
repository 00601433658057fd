"""White paper around what was cut out closely."""

from unittest import TestCase

import numpy as np

from bexi.core.artwork.ground import lift_ground
from bexi.core.artwork.ink import GroundKind, find_ink
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.framing.adapt import shades_of
from bexi.core.pixels.light import Pixels
from bexi.server.demo.lettering import outlines
from tests.core.judging.brought.drawing import face

WHITE = '<path fill="#fff" d="M0 0h400v300H0z"/>'
SHIELD = (
    '<path fill="none" stroke="#be185d" stroke-width="12" '
    'd="M90 6h220q84 0 84 84v56q-20 130-194 148Q26 276 6 146V90Q6 6 90 6z"/>'
)
DISC = '<ellipse cx="200" cy="150" rx="200" ry="150" fill="#1e3a8a"/>'
CROSS = '<path fill="#b91c1c" d="M170 0h60v300h-60zM0 120h400v60H0z"/>'
STRIPES = '<path fill="#b91c1c" d="M0 100h400v100H0z"/>'
FIELDS = (f"M{100 * column} {100 * row}h100v100h-100z" for row in range(3) for column in range(4) if (row + column) % 2)
CHECKER = f'<path fill="#111827" d="{"".join(FIELDS)}"/>'


def drawn(body: str) -> Pixels:
    """On white paper, 400 × 300 px."""
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300">{WHITE}{body}</svg>'
    return render_whole(check(svg.encode(), DEFAULT_LIMITS), 400)


def word(text: str, key: str) -> Pixels:
    """A word cut out right at its ink."""
    pixels = drawn(f'<path fill="#1e3a8a" d="{outlines(text, face(key), 10, 200, 110)}"/>')
    box = find_ink(pixels).box
    assert box is not None
    return np.ascontiguousarray(pixels[box.top : box.bottom, box.left : box.right])


class PaperTests(TestCase):
    def test_around_what_touches_the_edges(self):
        for name, pixels in (
            ("shield", drawn(SHIELD)),
            ("disc", drawn(DISC)),
            *((text, word(text, "rubik 700 normal")) for text in ("hillin", "MEATH", "Little")),
            *((text, word(text, "lora 600 normal")) for text in ("EILEEN", "hollin")),
        ):
            ink = find_ink(pixels)
            self.assertEqual((ink.ground, str(ink.ground_colour)), (GroundKind.SOLID, "#ffffff"), name)
            self.assertLess(ink.share, 0.9, name)

    def test_what_is_white_of_a_flag_is_no_paper(self):
        for pixels in map(drawn, (CROSS, STRIPES, CHECKER)):
            self.assertEqual(find_ink(pixels).ground, GroundKind.BUSY)

    def test_a_photograph_with_a_bright_sky_lies_on_none(self):
        grain = np.random.default_rng(5)
        y, x = np.indices((300, 400))
        shown = np.clip(
            120 + 60 * np.sin(x / 31)[..., None] * np.cos(y / 17)[..., None] + grain.normal(0, 40, (300, 400, 3)),
            0,
            239,
        )
        shown[:110] = 252
        pixels = np.dstack([shown.astype(np.uint8), np.full((300, 400), 255, dtype=np.uint8)])
        self.assertEqual(find_ink(pixels).ground, GroundKind.BUSY)

    def test_in_one_colour_the_ink_is_the_shape(self):
        told = shades_of(word("MEATH", "rubik 700 normal"))
        self.assertLess(told.full, 0.1)
        self.assertEqual(told.hollow, 1)

    def test_it_is_lifted(self):
        lifted = lift_ground(word("MEATH", "rubik 700 normal"), 0.08)
        clear = lifted[..., 3] == 0
        self.assertGreater(clear.mean(), 0.2)
        self.assertTrue((lifted[~clear][:, 2] > lifted[~clear][:, 0]).mean() > 0.95, "blue letters are left")
