"""A logo on a wide rectangle in the middle of paper, as the head of a page is kept."""

import io
from itertools import product
from unittest import TestCase

import numpy as np
from PIL import Image

from bexi.core.artwork.ink import find_ink
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.pictures import Bitmap
from bexi.core.judging.banners import inside_of_banner
from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import AS_IT_IS, propose
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import WHITE
from tests.core.judging.brought.drawing import Brought, box, symbol, text
from tests.core.judging.brought.forms import LETTER, MARK, wide

FACES = ("barlow 600 normal", "lora 600 normal")


def on_banner(word: str, face: str, colour: str, ink: str, with_emblem: bool, margin: int = 40) -> Brought:
    width, left = wide(word, face, 110) + 260, margin + 40 + 150 * with_emblem
    pieces = (
        box(0, 0, width + 2 * margin, 200 + 2 * margin, "#ffffff", "ground"),
        box(margin, margin, width, 200, colour, "ground"),
        *([symbol("rocket", margin + 40, margin + 35, 130, ink, 2.4)] if with_emblem else []),
        *text(word, left, margin + 140, 110, ink, face),
    )
    form = MARK if with_emblem else LETTER
    return Brought(f"{word} on {colour}", width + 2 * margin, 200 + 2 * margin, pieces, form, as_bitmap=True)


class BannerTests(TestCase):
    def test_what_lies_on_it_is_framed_on_its_colour(self):
        inks = (("#0b1020", "#ffffff"), ("#7a1f3d", "#ffe8b0"))
        for face, (colour, ink), with_emblem in product(FACES, inks, (True, False)):
            logo = on_banner("Velmar", face, colour, ink, with_emblem)
            groups = groups_of(logo.picture)
            with self.subTest(face, colour=colour, with_emblem=with_emblem):
                self.assertEqual((str(groups.ground), groups.paper), (colour, WHITE))
                self.assertEqual((len(groups.words), len(groups.emblems)), (1, int(with_emblem)))
                first = propose(Source(logo.picture, groups))[0]
                self.assertFalse(first.is_lost)
                icon = first.icons[1]
                self.assertEqual(icon[[0, 0, -1, -1], [0, -1, 0, -1]].tolist(), [[*groups.ground.channels, 255]] * 4)

    def test_the_whole_picture_unchanged_lies_on_the_paper(self):
        picture = on_banner("Velmar", FACES[0], "#0b1020", "#ffffff", True).picture
        proposals = propose(Source(picture, groups_of(picture)))
        unchanged = next(one for one in proposals if one.kind == AS_IT_IS)
        self.assertEqual(unchanged.framing.ground, WHITE)

    def test_a_soft_glow_around_white_ink_on_it_hides_nothing(self):
        shown = Image.fromarray(on_banner("Velmar", FACES[0], "#0b1020", "#ffffff", True).drawn).convert("RGB")
        y, x = np.mgrid[: shown.height, : shown.width]
        glow = np.exp(-((x - 145) ** 2 + (y - 140) ** 2) / 60**2)[..., None] * (40, 60, 90)
        target = io.BytesIO()
        Image.fromarray(np.clip(np.asarray(shown) + glow, 0, 255).astype(np.uint8)).save(target, "JPEG", quality=85)
        picture = take_in(target.getvalue())[1]
        first = propose(Source(picture, groups_of(picture)))[0]
        self.assertEqual(first.kind, "emblem on its own background")
        self.assertFalse(first.is_lost)

    def test_what_is_no_banner(self):
        paper = np.full((200, 400, 4), 255, dtype=np.uint8)

        def inside(left: int, top: int, right: int, bottom: int, *bands: tuple[int, int, int]) -> object:
            pixels = paper.copy()
            for number, (start, band) in enumerate(
                zip(range(top, bottom, (bottom - top) // len(bands)), bands, strict=True)
            ):
                end = bottom if number == len(bands) - 1 else start + (bottom - top) // len(bands)
                pixels[start:end, left:right, :3] = band
            return inside_of_banner(pixels, find_ink(pixels))

        self.assertIsNone(inside(20, 20, 180, 180, (10, 20, 40)))  # a tile
        self.assertIsNone(inside(20, 20, 380, 180, (200, 0, 0), (0, 120, 0)))  # a flag
        self.assertIsNone(inside(20, 90, 380, 104, (10, 20, 40)))  # a rule
        marked = paper.copy()
        marked[20:180, 20:380, :3] = 10, 20, 40
        self.assertIsNone(inside_of_banner(marked, find_ink(marked)))  # a brick, which is the mark itself
        marked[80:120, 180:220, :3] = 255
        self.assertIsNotNone(inside_of_banner(marked, find_ink(marked)))
        y, x = np.mgrid[:200, :400]
        pill = paper.copy()
        pill[np.hypot(np.maximum(abs(x - 200) - 100, 0), y - 100) < 80] = (10, 20, 40, 255)
        self.assertIsNone(inside_of_banner(pill, find_ink(pill)))
        self.assertIsNone(groups_of(Bitmap(pill)).paper)
