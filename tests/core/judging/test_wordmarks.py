"""Wordmarks as they are brought: cropped to their ink, with letters that hang and letters that are bars."""

from itertools import product
from unittest import TestCase

import numpy as np

from bexi.core.artwork.ink import find_ink
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap, Vector
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.judging.groups import Groups, groups_of
from bexi.core.judging.initials import runs_leftwards
from bexi.core.pixels.colour import WHITE
from bexi.core.pixels.light import over
from bexi.server.demo.lettering import outlines
from tests.core.judging.brought.drawing import PACKAGES, advance, face

FACES = (
    *("rubik 700 normal", "lora 600 normal", "barlow-condensed 600 normal", "playfair-display 700 normal"),
    *("nunito 700 normal", "caveat 700 normal", "atkinson-hyperlegible-mono 400 normal", "work-sans 600 normal"),
)
WORDS = (
    *("Quill", "jaggy", "Happily", "WWF", "Illinois", "egg", "Yonder", "MINIMUM", "loft", "typography"),
    *("Jigsaw", "bloom", "EEL", "Pyjama", "under", "abc", "Kerf", "queue", "Flyby", "NORDHAL"),
)
HANDS = "Marlow", "Amaranta", "lumen", "Coastal"
_FOUND = 0.95


def cropped(words: str, font: bytes) -> Bitmap:
    """About a thousand px wide, nothing around the ink."""
    path = outlines(words, font, 200, 300, 200)
    size = f'viewBox="0 0 {advance(words, font, 200) + 500:.0f} 500"'
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" {size}><path fill="#813d9c" d="{path}"/></svg>'
    pixels = render_whole(check(svg.encode(), DEFAULT_LIMITS), 1400)
    box = find_ink(pixels).box
    return Bitmap(np.ascontiguousarray(pixels[box.top : box.bottom, box.left : box.right]))


def drawn(words: str, key: str, stroke: str, shape: str = "") -> Vector:
    """Words beside a shape; white ones where they lie on it or have a stroke around."""
    font = face(key)
    path, width = outlines(words, font, 60, 200, 150), advance(words, font, 150) + 120
    fill = "#fff" if stroke or "h600" in shape else "#12263a"
    return check(
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:.0f} 280"><path fill="#12263a" d="{shape}"/>'
        f'<path fill="{fill}" {stroke} d="{path}"/></svg>'.encode(),
        DEFAULT_LIMITS,
    )


def picture(width: float, height: int, body: str) -> Vector:
    """A drawing of a size in user units."""
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:.0f} {height}">{body}</svg>'
    return check(svg.encode(), DEFAULT_LIMITS)


def is_one_line(groups: Groups, width: int) -> bool:
    """Nothing but words, whose first letter can be cut out."""
    first = groups.first
    return len(groups.words) == 1 and not groups.emblems and first is not None and first.box.left < 0.1 * width


class WordmarkTests(TestCase):
    def test_words_alone_are_one_line_with_a_first_letter(self):
        # Every other pair was held back while this was made: 83 of 86 and 82 of 85.
        missed = []
        pairs = list(product(WORDS, FACES))
        for words, key in pairs[::3]:
            picture = cropped(words, face(key))
            if not is_one_line(groups_of(picture), picture.width):
                missed.append((words, key))
        self.assertLessEqual(len(missed), (1 - _FOUND) * len(pairs[::3]), missed)

    def test_what_a_word_stands_between_is_no_letter_of_it(self):
        faces = (
            "rubik 600 normal",
            "work-sans 400 normal",
            "nunito 700 normal",
            "atkinson-hyperlegible-next 700 italic",
        )
        for around, key in product(("{mesto}", "[WAFUR]", "(vocil)", "/drona/", "«Derano»", "“Marlow”"), faces):
            picture = cropped(around, face(key))
            first = groups_of(picture).first
            assert first is not None
            begins, ends = (first.box.left / picture.width, first.box.right / picture.width)
            self.assertTrue(begins > 0.02 and ends < 0.5, (around, key, begins))
        for plain, key in product(("jazzel", "nunu", "pasted", "bobaq", "fuj", "SILLZ"), faces):
            picture = cropped(plain, face(key))
            first = groups_of(picture).first
            if first is not None:  # where letters run into each other
                self.assertLess(first.box.left, 0.02 * picture.width, (plain, key))

    def test_the_letters_of_a_word_on_a_badge_are_not_told_apart_by_their_holes(self):
        for words, key in product(("zaplu", "adobe", "PRBOD"), ("barlow 600 normal", "rubik 400 normal")):
            groups = groups_of(drawn(words, key, "", "M0 0h600v280h-600z"))
            self.assertEqual((len(groups.words), groups.emblems), (1, ()), (words, key))

    def test_outlined_letters_are_told_whether_their_outlines_touch_or_not(self):
        for words, key, line in product(("BREZIR", "LUNA"), ("work-sans 800 normal", "lora 600 normal"), (6, 14)):
            picture = drawn(words, key, f'stroke="#1c7ed6" stroke-width="{line}" stroke-linejoin="round"')
            groups = groups_of(picture)
            self.assertEqual((len(groups.words), groups.emblems), (1, ()), (words, key, line))
            if first := groups.first:  # of outlines that touch much, none can be cut out
                self.assertLess(first.box.right, 0.45 * picture.width)

    def test_a_hard_shadow_beneath_letters_makes_them_no_drawing(self):
        for words, key in product(("SAFAVE", "Midi"), ("rubik 700 italic", "work-sans 800 normal")):
            font, width = face(key), advance(words, face(key), 150) + 80
            shadow, letters = (outlines(words, font, 40 - by, 190 - by, 150) for by in (0, 10))
            body = f'<path fill="#2b4fd0" d="{shadow}"/><path fill="#e0b040" d="{letters}"/>'
            groups = groups_of(picture(width, 260, body))
            self.assertEqual((len(groups.words), groups.emblems), (1, ()), (words, key))

    def test_the_first_letter_is_cut_out_with_the_shadow_drawn_beside_it(self):
        faces = ("rubik 700 normal", "work-sans 800 normal", "barlow 600 normal")
        for key, by in [*product(faces, (14, 18))]:
            letters, shadow, at = "", "", 20.0
            for letter in "SADEK":
                letters += outlines(letter, face(key), at, 170, 150)
                shadow += outlines(letter, face(key), at + by, 170 + by, 150)
                at += advance(letter, face(key), 150) + 16
            logo = picture(at + 40, 240, f'<path fill="#7a1f3d" d="{shadow}"/><path fill="#22b8cf" d="{letters}"/>')
            alone = picture(at + 40, 240, f'<path d="{outlines("S", face(key), 20, 170, 150)}"/>')
            first, end = groups_of(logo).first, find_ink(render_whole(alone, alone.width)).box.right
            with self.subTest(key, by=by):
                assert first is not None
                self.assertEqual(len(first.colours), 2)
                self.assertGreater(first.box.right - end, by / (at + 40) * logo.width / 2)

    def test_a_wide_m_is_no_joined_letters(self):
        for key, wider in (("rubik 600 normal", 1.2), ("work-sans 600 normal", 1.2), ("lora 600 normal", 1.1)):
            body = f'<path fill="#12263a" d="{outlines("umbra", face(key), 30, 180, 140)}"/>'
            width = wider * (advance("umbra", face(key), 140) + 60)
            first = groups_of(picture(width, 260, f'<g transform="scale({wider} 1)">{body}</g>')).first
            self.assertIsNotNone(first, key)

    def test_a_low_letter_moved_beneath_the_first_one_is_none_of_it(self):
        for words, key in product(("Tarn", "Fob", "Yolk", "Irna"), ("barlow-condensed 600 normal", "rubik 700 normal")):
            font, after = face(key), 30 + advance(words[0], face(key), 160) - (0 if words[0] == "I" else 14)
            first, rest = outlines(words[0], font, 30, 190, 160), outlines(words[1:], font, after, 190, 160)
            width = after + advance(words[1:], font, 160) + 30
            cut = groups_of(picture(width, 240, f'<path d="{first}"/><path d="{rest}"/>')).first
            if cut is not None:  # else they touch
                self.assertLess(cut.box.right, (after + 24) / width * 1024, (words, key))

    def test_letters_that_a_badge_shows_of_its_ground_have_no_marks_inside(self):
        for key in ("barlow-condensed 600 normal", "work-sans 600 normal"):
            disc = '<circle cx="200" cy="200" r="180" fill="#92400e"/>'
            name, below = outlines("Piper", face(key), 130, 190, 56), outlines("cakes", face(key), 140, 240, 44)
            svg = picture(400, 400, f'{disc}<path fill="#fff" d="{name}"/><path fill="#f472b6" d="{below}"/>')
            groups = groups_of(Bitmap(over(render_whole(svg, 500), WHITE)))
            self.assertEqual((len(groups.words), groups.emblems), (2, ()), key)

    def test_an_ampersand_between_two_names_is_no_emblem(self):
        faces = ("barlow 600 normal", "lora 600 normal", "rubik 700 normal", "work-sans 400 normal")
        for key, second in product(faces, ("#e8590c", "#12263a")):
            font, at, body = face(key), 30.0, ""
            for words, ink in (("Marden", "#12263a"), ("&", second), ("Volpe", "#12263a")):
                body += f'<path fill="{ink}" d="{outlines(words, font, at, 170, 140)}"/>'
                at += advance(words + " ", font, 140)
            groups = groups_of(picture(at, 240, body))
            self.assertEqual(groups.emblems, (), (key, second))
            self.assertLess(groups.first.box.left, 0.06 * 1024)

    def test_an_ampersand_below_an_emblem_is_none_of_it_even_in_pieces(self):
        font, at, body = face("lora 600 normal"), 30.0, '<path fill="#12263a" d="M300 20l90 60v110h-180v-110z"/>'
        for name in ("Marden", "&", "Volpe"):
            cut = f'<path fill="#fff" d="M{at:.0f} 252h60v8h-60z"/>' if name == "&" else ""
            body += f'<path fill="#12263a" d="{outlines(name, font, at, 280, 80)}"/>{cut}'
            at += advance(name + " ", font, 80)
        (emblem,) = groups_of(picture(at, 320, body)).emblems
        self.assertLess(emblem.box.bottom, 200 / at * 1024)

    def test_where_the_first_letter_runs_into_a_line_the_second_is_not_taken_for_it(self):
        for words, key in product(("OAKMER", "Derano"), ("barlow 600 normal", "lora 600 normal", "rubik 700 normal")):
            line = '<path fill="none" stroke="#12263a" stroke-width="6" d="M60 20v220"/>'
            letters = f'<path fill="#12263a" d="{outlines(words, face(key), 55, 180, 120)}"/>'
            logo = picture(advance(words, face(key), 120) + 100, 260, line + letters)
            second = (55 + advance(words[0], face(key), 120) * 0.8) / (advance(words, face(key), 120) + 100)
            first = groups_of(logo).first
            self.assertTrue(first is None or first.box.left < second * logo.width / 2, (words, key))

    def test_corners_around_a_word_are_no_emblem(self):
        upper_left, lower_right = '<path d="M{0} {1}v60h12v-48h48v-12z"/>', '<path d="M{0} {1}v-60h-12v48h-48v12z"/>'
        upper_right, lower_left = '<path d="M{0} {1}v60h-12v-48h-48v-12z"/>', '<path d="M{0} {1}v-60h12v48h48v12z"/>'
        for words, key in product(("Marove", "SADEK"), ("barlow 600 normal", "lora 600 normal")):
            right = advance(words, face(key), 120) + 160
            body = f'<path fill="#12263a" d="{outlines(words, face(key), 80, 180, 120)}"/>'
            slanted = upper_left.format(20, 30) + lower_right.format(right - 20, 250)
            others = upper_right.format(right - 20, 30) + lower_left.format(20, 250)
            for corners in (slanted, others, slanted + others):
                groups = groups_of(picture(right, 280, f'{body}<g fill="#f472b6">{corners}</g>'))
                self.assertEqual((len(groups.words), groups.emblems), (1, ()), (words, key, corners))

    def test_an_address_in_two_colours_is_one_line(self):
        keys = ("barlow-condensed 400 normal", "barlow-condensed 600 normal", "lora 400 normal", "rubik 700 normal")
        for key in keys:
            end = advance("marup", face(key), 140) + 30
            name, rest = outlines("marup", face(key), 30, 170, 140), outlines(".shop", face(key), end, 170, 140)
            body = f'<path fill="#4c1d95" d="{name}"/><path fill="#65a30d" d="{rest}"/>'
            groups = groups_of(picture(end + advance(".shop", face(key), 140) + 30, 240, body))
            self.assertEqual((len(groups.words), groups.emblems), (1, ()), key)

    def test_a_word_that_is_bold_in_part_is_one_line(self):
        for bold, light, words in product((True, False), ("work-sans", "playfair-display"), ("win hub", "Home Mama")):
            keys = [face(f"{light} {weight} normal") for weight in ((800, 400) if bold else (400, 800))]
            start, rest = words.split()
            end = advance(start, keys[0], 140) + 30
            body = f'<path d="{outlines(start, keys[0], 30, 170, 140)}{outlines(rest, keys[1], end, 170, 140)}"/>'
            drawing = picture(end + advance(rest, keys[1], 140) + 30, 240, body)
            self.assertTrue(is_one_line(groups_of(drawing), drawing.width), (bold, light, words))

    def test_a_w_of_a_wide_face_is_one_letter(self):
        for words in ("wood", "moat"):
            path = outlines(words, face("work-sans 800 normal"), 30, 170, 140)
            groups = groups_of(picture(640, 240, f'<path transform="scale(1.1 1)" d="{path}"/>'))
            self.assertIsNotNone(groups.first, words)

    def test_a_swoosh_along_a_word_is_no_emblem(self):
        for words, key in product(("Saser", "Mapuha"), ("barlow 600 normal", "rubik 400 normal")):
            for top in (20, 225):
                groups = groups_of(drawn(words, key, "", f"M60 {top + 40}q150 -40 330 -10q-150 -10 -330 30z"))
                self.assertEqual((len(groups.words), groups.emblems), (1, ()), (words, key, top))

    def test_a_small_line_above_is_no_accent_of_the_first_letter(self):
        for key in ("barlow 600 normal", "lora 600 normal"):
            small, large = (
                outlines(*of) for of in (("NELA", face(key), 34, 60, 36), ("ZAPLU", face(key), 30, 220, 150))
            )
            svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 600 280"><path d="{}"/></svg>'
            first = groups_of(check(svg.format(small + large).encode(), DEFAULT_LIMITS)).first
            assert first is not None
            self.assertGreater(first.box.top, 70 / 600 * 1024)

    def test_a_word_on_its_side_beside_an_emblem(self):
        mark = '<circle cx="110" cy="150" r="70" fill="none" stroke="#12263a" stroke-width="26"/>'
        for words, key, turn in product(("WABRE", "Tefoli"), ("barlow 600 normal", "lora 600 normal"), (-90, 90)):
            path = outlines(words, face(key), -advance(words, face(key), 60) / 2, 20, 60)
            word = f'<g transform="translate(250 150) rotate({turn})"><path d="{path}"/></g>'
            svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 300 300">{mark}{word}</svg>'
            groups = groups_of(check(svg.encode(), DEFAULT_LIMITS))
            self.assertEqual((len(groups.words), len(groups.emblems), groups.first), (1, 1, None), (words, key, turn))
            self.assertLess(groups.emblems[0].box.right, 700)

    def test_in_other_scripts_too(self):
        for script, words in (("cyrillic", "Йогурт"), ("greek", "Φάρος"), ("latin-ext", "řšěč")):
            font = (PACKAGES / f"@fontsource/noto-sans/files/noto-sans-{script}-400-normal.woff").read_bytes()
            picture = cropped(words, font)
            self.assertTrue(is_one_line(groups_of(picture), picture.width), words)

    def test_a_joined_hand_is_words_of_which_nothing_can_be_cut(self):
        for words in HANDS:
            groups = groups_of(cropped(words, face("pacifico 400 normal")))
            self.assertEqual((len(groups.words), len(groups.emblems), groups.first), (1, 0, None), words)

    def test_a_capital_that_stands_apart_from_its_hand_is_cut_out(self):
        for words in ("Bramley", "Pellow", "Tamarind"):
            logo = cropped(words, face("pacifico 400 normal"))
            first = groups_of(logo).first
            assert first is not None
            self.assertLess(first.box.width, 1.3 * first.box.height, words)
            self.assertLess(first.box.left, 0.05 * logo.width, words)

    def test_half_a_badge_is_no_letter_of_what_lies_on_it(self):
        """The one half has the colour of the letters on the other."""
        key = "barlow-condensed 600 normal"
        halves = '<path fill="#1f2937" d="M120 30H300V210H120A90 90 0 0 1 120 30z"/>'
        halves += '<path fill="#f59e0b" d="M300 30H620A90 90 0 0 1 620 210H300z"/>'
        fix, works = outlines("FIX", face(key), 130, 160, 120), outlines("WORKS", face(key), 330, 160, 120)
        letters = f'<path fill="#fff" d="{fix}"/><path fill="#1f2937" d="{works}"/>'
        first = groups_of(picture(740, 240, halves + letters)).first
        assert first is not None
        self.assertLess(first.box.width, 120 / 740 * 1024)

    def test_words_that_run_leftwards_begin_at_the_right(self):
        font = (PACKAGES / "@fontsource/rubik/files/rubik-hebrew-600-normal.woff").read_bytes()
        for name in ("מגדלור", "אשכול", "תפוח"):
            picture = cropped(name[::-1], font)  # outlines are laid from left to right
            groups = groups_of(picture, runs_leftwards(name))
            self.assertEqual((len(groups.words), groups.emblems), (1, ()))
            assert groups.first is not None
            self.assertGreater(groups.first.box.right, 0.97 * picture.width, name)
            self.assertTrue(is_one_line(groups_of(picture), picture.width), name)

    def test_the_direction_of_a_name_is_that_of_its_first_letter(self):
        leftwards = ("מגדלור", "مقهى", "7 מגדלור", "«مقهى» Café")
        for name in leftwards:
            self.assertTrue(runs_leftwards(name), name)
        for name in ("Harbour log", "7 knots", "Café «مقهى»", "灯台", "", "42"):
            self.assertFalse(runs_leftwards(name), name)
