"""A logo on a wide rectangle in the middle of paper, as the head of a page is kept."""

import io
from dataclasses import replace
from itertools import product
from unittest import TestCase

import numpy as np
from PIL import Image

from bexi.core.artwork.ink import find_ink
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.pictures import Bitmap
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.recipe import Framing
from bexi.core.judging.banners import inside_of_banner
from bexi.core.judging.groups import groups_of
from bexi.core.judging.judge import judge_at
from bexi.core.judging.proposals import AS_IT_IS, propose
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import WHITE
from tests.core.judging.brought.drawing import Brought, Piece, box, symbol, text
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

    def test_it_may_shade_off(self):
        logo = on_banner("Velmar", FACES[0], "#0b1020", "#ffffff", True)
        stops = '<stop stop-color="#7a1f3d"/><stop offset="1" stop-color="#1d3557"/>'
        shade = f'<linearGradient id="f">{stops}</linearGradient>'
        width, height = logo.width - 80, logo.height - 80
        rect = Piece("ground", f'{shade}<rect x="40" y="40" width="{width}" height="{height}" fill="url(#f)"/>')
        shaded = replace(logo, pieces=(logo.pieces[0], rect, *logo.pieces[2:]))
        groups = groups_of(shaded.picture)
        self.assertEqual((groups.paper, len(groups.words), len(groups.emblems)), (WHITE, 1, 1))
        self.assertEqual(propose(Source(shaded.picture, groups))[0].kind, "emblem on its own background")

    def test_its_colour_stays_where_the_paper_is_lifted(self):
        picture = on_banner("Velmar", FACES[0], "#0b1020", "#ffffff", True).picture
        for frame in (whole_artwork(picture.width, picture.height), Frame(70, 60, 180)):
            plain, lifted = (judge_at(picture, Framing(frame, lift=lift), [180])[0] for lift in (None, 0.08))
            self.assertEqual((plain.says, lifted.says), ("clear", "clear"), frame)

    def test_what_is_no_banner(self):
        paper = np.full((200, 400, 4), 255, dtype=np.uint8)

        marked = np.full((160, 360, 4), (10, 20, 40, 255), dtype=np.uint8)
        marked[60:100, 60:120, :3] = 255
        flag = marked.copy()
        flag[80:, :, :3] = 200, 0, 0
        tile, rule, brick = marked[:, :160], marked[60:76], marked[110:, :]
        for shape, is_banner in ((marked, True), (tile, False), (flag, False), (rule, False), (brick, False)):
            pixels = paper.copy()
            pixels[20 : 20 + shape.shape[0], 20 : 20 + shape.shape[1]] = shape
            self.assertEqual(inside_of_banner(pixels, find_ink(pixels)) is not None, is_banner, shape.shape)
        y, x = np.mgrid[:200, :400]
        pill = paper.copy()
        pill[np.hypot(np.maximum(abs(x - 200) - 100, 0), y - 100) < 80] = (10, 20, 40, 255)
        self.assertIsNone(inside_of_banner(pill, find_ink(pill)))
        self.assertIsNone(groups_of(Bitmap(pill)).paper)
