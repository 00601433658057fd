"""Dark letters as they are brought most: on opaque white, which shows through them once it is lifted."""

import io
from itertools import product
from unittest import TestCase

import numpy as np
from PIL import Image

from bexi.core.artwork.intake import take_in
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap
from bexi.core.artwork.plate import PlateShape
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.framing.frame import Frame, hug
from bexi.core.framing.recipe import Framing
from bexi.core.framing.tabs import TABS
from bexi.core.judging.contrast import of_outline
from bexi.core.judging.cut_out import with_cut_out_marks
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.groups import groups_of
from bexi.core.judging.measure import measure
from bexi.core.judging.proposals import propose
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import BLACK, WHITE, Colour, contrast
from bexi.core.pixels.light import over
from tests.core.judging.brought.drawing import Brought, Piece, box, disc, symbol, text
from tests.core.judging.brought.forms import LETTER, MARK, wide
from tests.core.judging.brought.looking import first_of
from tests.core.judging.logos import words

WORDS = ("go", "ae", "Rb", "die", "abo", "oa")
FACES = ("barlow 400 normal", "lora 600 normal", "rubik 700 italic", "work-sans 800 normal")
ORANGE = "#e07a10"
INKS = ("#111111", "#2b4fd0", "#c8102e", "#0b7d3e", ORANGE)
"""The last stands on light and on dark tabs by itself."""


SCENERY = (
    box(0, 0, 400, 400, "#ffffff", "ground"),
    Piece(
        "badge",
        '<clipPath id="c"><circle cx="200" cy="200" r="180"/></clipPath><g clip-path="url(#c)">'
        '<path fill="#f6d365" d="M0 0h400v400H0z"/><circle cx="270" cy="130" r="50" fill="#fff"/>'
        '<path fill="#3a6073" d="M0 330L120 160 220 290 290 210 400 330V400H0z"/>'
        '<path fill="#16222a" d="M0 380L160 270 400 360V400H0z"/></g>',
    ),
)


def on_paper(word: str, face: str, ink: str, **kept_as: object) -> Brought:
    width, height = wide(word, face, 200) + 60, 300
    pieces = (box(0, 0, width, height, "#ffffff", "ground"), *text(word, 30, 200, 200, ink, face))
    return Brought(f"{word} in {face}", width, height, pieces, LETTER, **kept_as)


class OnPaperTests(TestCase):
    def test_what_fades_on_a_tab_stands_on_its_paper(self):
        for number, (word, face) in enumerate(product(WORDS, FACES)):
            ink = INKS[number % len(INKS)]
            first = first_of(on_paper(word, face, ink, **({"jpeg": 85} if number % 2 else {"as_bitmap": True})))
            stands = all(contrast(Colour.parse(ink), tab) >= 3 for tab in TABS.values())
            with self.subTest(word, face=face, ink=ink):
                self.assertEqual(first.framing.plate.shape is PlateShape.NONE, stands)
                self.assertEqual(first.framing.plate.colour, WHITE)
                self.assertEqual(first.framing.lift_inside, stands)

    def test_white_in_a_drawing_of_several_colours_is_one_of_them(self):
        for kept_as in ({"as_bitmap": True}, {"jpeg": 85}):
            first = first_of(Brought("scenery", 400, 400, SCENERY, MARK, **kept_as))
            icon = first.icons[1]
            self.assertEqual(icon[0, 0, 3], 0)
            self.assertGreater(int(icon[10, 21].min()), 240)

    def test_of_a_sheet_with_two_grounds_a_logo_stands_on_its_own(self):
        for upper, lower, fill in (("#2b4fd0", "#f59f00", "url(#f)"), ("#c8102e", "#ffffff", "#ffffff")):
            stops = f'<stop stop-color="{lower}"/><stop offset="1" stop-color="#fff"/>'
            fade = f'<linearGradient id="f">{stops}</linearGradient>'
            marks = (
                disc(120, 110, 70, upper, "emblem"),
                Piece("emblem", f'{fade}<path d="M50 420l80-120 80 120z" fill="{fill}"/>'),
            )
            words = (*text("Fele", 240, 140, 110, upper, FACES[0]), *text("Brep", 240, 410, 110, "#ffffff", FACES[0]))
            grounds = (box(0, 0, 600, 220, "#ffffff", "ground"), box(0, 220, 600, 280, "#12263a", "ground"))
            first = first_of(Brought("sheet", 600, 500, (*grounds, *marks, *words), MARK, as_bitmap=True))
            with self.subTest(upper):
                self.assertEqual((first.framing.lift, first.framing.ground), (None, WHITE))  # most edges are dark

    def test_what_lifting_leaves_of_a_tint_is_no_ink(self):
        for ink in ("#fca5a5", "#93c5fd", "#d8b4fe"):
            lines = "M33 23h134v164H33zM66 56h68M72 154q0-42 28-42t28 42M100 112a20 20 0 1 0-.1 0z"
            emblem = f'<path fill="none" stroke="{ink}" stroke-width="13" d="{lines}"/>'
            paper = '<path fill="#fff" d="M0 0h640v210H0z"/>'
            tint = f'<path fill="{ink}" opacity=".2" d="M33 23h134v164H33z"/>'
            body = paper + tint + emblem + words("Orsino", 210, 150, 120, ink)
            svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 640 210">{body}</svg>'
            target = io.BytesIO()
            drawn = render_whole(check(svg.encode(), DEFAULT_LIMITS), 640)
            Image.fromarray(drawn[..., :3]).save(target, "JPEG", quality=72)
            picture = take_in(target.getvalue())[1]
            framing = Framing(hug(groups_of(picture).emblems[0].box, 2), lift=0.08, lift_inside=True)
            regions = measure(picture, framing).drawing.regions
            self.assertEqual(sum(region.kind > 0 for region in regions), 3, ink)

    def test_the_border_of_a_screenshot_goes_with_the_paper(self):
        logo = on_paper("go", FACES[0], ORANGE, as_bitmap=True)
        for depth in (1, 3, 5):
            pixels = logo.drawn.copy()
            lines = [*range(depth), *range(-depth, 0)]
            pixels[lines] = pixels[:, lines] = 153, 153, 153, 255
            picture = Bitmap(pixels)
            first = propose(Source(picture, groups_of(picture)))[0]
            with self.subTest(depth=depth):
                self.assertEqual(first.framing.plate.shape, PlateShape.NONE)
                self.assertEqual(first.icons[1][0, 0, 3], 0)

    def test_a_frame_that_cuts_through_ink_is_seen_on_the_pictures_ground(self):
        picture = on_paper("abodie", FACES[0], "#5a2982", jpeg=90).picture
        for frame in (Frame(200, 110, 90), Frame(760, 110, 150), Frame(200, 60, 200)):
            ratios = of_outline(measure(picture, Framing(frame, ground=WHITE)).drawing, TABS)
            with self.subTest(frame):
                self.assertGreater(ratios["own"], 7)

    def test_the_white_of_a_badges_mark_stays(self):
        badge = box(40, 40, 320, 320, ORANGE, "mark")
        bars = (box(left, 120, 50, 160, "#ffffff", "mark") for left in (130, 220))
        pieces = box(0, 0, 400, 400, "#ffffff", "ground"), badge, *bars
        first = first_of(Brought("bars on a badge", 400, 400, pieces, MARK, as_bitmap=True))
        self.assertFalse(first.framing.lift_inside)
        self.assertEqual(first.icons[0][8, 6].tolist(), [255, 255, 255, 255])

    def test_ink_that_is_hardly_darker_than_the_paper_stays(self):
        board = box(60, 60, 280, 180, "#e1e8ed", "mark"), box(100, 110, 200, 25, "#66757f", "mark")
        pieces = box(0, 0, 400, 400, "#ffffff", "ground"), *board, box(180, 240, 40, 130, "#c1694f", "mark")
        for kept_as in ({"as_bitmap": True}, {"jpeg": 85}):
            first = first_of(Brought("board on a post", 400, 400, pieces, MARK, **kept_as))
            pale = first.icons[1][3, 16].astype(int)
            self.assertLess(np.abs(pale - (0xE1, 0xE8, 0xED, 255)).max(), 6, kept_as)

    def test_a_counter_is_no_mark_on_a_badge_and_a_cross_is(self):
        y, x = np.mgrid[:200, :200]
        badge = (x - 100) ** 2 + (y - 100) ** 2 < 90**2
        counter = (x - 100) ** 2 + (y - 120) ** 2 < 30**2
        cross = ((abs(x - 100) < 12) & (abs(y - 100) < 50)) | ((abs(y - 100) < 12) & (abs(x - 100) < 50))
        two = counter | ((x - 100) ** 2 + (y - 60) ** 2 < 22**2)
        eyes = ((x - 65) ** 2 + (y - 90) ** 2 < 22**2) | ((x - 135) ** 2 + (y - 90) ** 2 < 22**2)
        for hole, is_mark in ((counter, False), (two, False), (cross, True), (eyes, True)):
            drawing = Drawing((badge & ~hole).astype(np.uint8), (WHITE, BLACK), separable=True)
            self.assertEqual(len(with_cut_out_marks(drawing).colours) == 3, is_mark)


class ShadowTests(TestCase):
    def test_a_tile_leaves_its_shadow_on_the_paper(self):
        for tile, fuzz in product(("#12263a", "#0b7d3e"), (8, 16, 30)):
            shadow = Piece("shadow", '<rect x="60" y="76" width="380" height="380" rx="80" opacity=".35"/>')
            drawn = box(60, 60, 380, 380, tile, "emblem", 80), symbol("rocket", 150, 150, 200, "#ffffff", 2.4)
            on_clear = Brought(tile, 500, 520, (shadow, *drawn), MARK, fuzz=fuzz).picture.pixels
            picture = Bitmap(over(on_clear, Colour(243, 244, 246)))
            first = propose(Source(picture, groups_of(picture)))[0]
            self.assertEqual((first.framing.plate.shape, first.framing.ground), (PlateShape.NONE, None))
            icon = over(first.icons[1], TABS["dark"])[..., :3]
            corners = icon[[[0], [-1]], :6].reshape(-1, 3), icon[[[0], [-1]], -6:].reshape(-1, 3)
            self.assertLess(np.concatenate(corners).max(), 100, tile)  # the shadow was as light as 200
