from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from bexi.core.artwork import letters
from bexi.core.artwork.facts import Facts, measure
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.letters import Letters, draw_letters
from bexi.core.artwork.plate import SIDE, Plate, PlateShape
from bexi.core.artwork.subjects import SUBJECTS
from bexi.core.artwork.symbols import Symbol, draw_symbol, search
from bexi.core.artwork.vector import render_whole
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.colour import Colour
from bexi.resources import FACES, face_files, symbol_shapes


def facts_of(svg: str) -> Facts:
    data = svg.encode()
    return measure(data, *take_in(data))


def ink_of(svg: str, colour: Colour) -> np.ndarray:
    """Where a drawing shows exactly this colour."""
    pixels = render_whole(take_in(svg.encode())[1], SIDE)
    return np.all(pixels[..., :3] == colour.channels, axis=-1) & (pixels[..., 3] == 255)


LETTERS = "ABCDEFGH"


class LettersTests(TestCase):
    def test_centred_by_the_ink_in_every_face_and_weight(self):
        for face in FACES.values():
            for weight in face.weights:
                margins = facts_of(draw_letters(Letters("Jy"), face_files(face.key, weight))).margins
                self.assertAlmostEqual(margins.left, margins.right, delta=2)
                self.assertAlmostEqual(margins.top, margins.bottom, delta=2)

    def test_many_at_once_from_a_face_that_is_not_read_yet(self):
        files = face_files("rubik", 800)
        alone = [draw_letters(Letters(text), files) for text in LETTERS]
        for _ in range(10):
            letters._font.cache_clear()
            with ThreadPoolExecutor(len(LETTERS)) as threads:
                self.assertEqual(list(threads.map(lambda text: draw_letters(Letters(text), files), LETTERS)), alone)

    def test_as_large_as_the_plate_allows(self):
        # Arithmetic: a margin of 10 % leaves 0.8 of the side; on a disc the ink's corners touch that circle.
        files = face_files("rubik", 800)
        for shape in (PlateShape.NONE, PlateShape.SQUARE, PlateShape.ROUNDED):
            ink = ink_of(draw_letters(Letters("M", plate=Plate(shape, margin=10)), files), Letters("M").ink)
            rows, columns = np.nonzero(ink)
            self.assertAlmostEqual(max(np.ptp(rows), np.ptp(columns)), 0.8 * SIDE, delta=4)
        ink = ink_of(draw_letters(Letters("M", plate=Plate(PlateShape.DISC, margin=10)), files), Letters("M").ink)
        rows, columns = np.nonzero(ink)
        self.assertAlmostEqual(np.hypot(np.ptp(rows), np.ptp(columns)), 0.8 * SIDE, delta=5)

    def test_plates_cover_their_analytic_area(self):
        side = float(SIDE)
        radius = 0.2 * side
        areas = {
            PlateShape.SQUARE: side**2,
            PlateShape.ROUNDED: side**2 - (4 - np.pi) * radius**2,
            PlateShape.DISC: np.pi * (side / 2) ** 2,
        }
        for shape, area in areas.items():
            svg = draw_letters(Letters("i", plate=Plate(shape, radius=20)), face_files("barlow", 900))
            alpha = render_whole(take_in(svg.encode())[1], SIDE)[..., 3] / 255
            self.assertAlmostEqual(alpha.sum() / area, 1, places=3)

    def test_tracking_moves_letters_apart(self):
        files = face_files("nunito", 800)
        tight, wide = (facts_of(draw_letters(Letters("ii", tracking=tracking), files)) for tracking in (0, 50))
        self.assertEqual(len(wide.parts), 4)
        self.assertGreater(tight.ink.height, wide.ink.height)

    def test_scripts_the_faces_cover(self):
        for text, face in (
            ("Ж", "rubik"),
            ("א", "rubik"),
            ("Ω", "noto-sans"),
            ("Ł", "barlow"),
            ("e\u0301", "work-sans"),
        ):
            self.assertIsNotNone(facts_of(draw_letters(Letters(text), face_files(face, 700))).ink)

    def test_a_missing_character_is_named(self):
        with self.assertRaises(ArtworkRefused) as caught:
            draw_letters(Letters("A漢"), face_files("rubik", 700))
        self.assertIn("“漢” (U+6F22)", caught.exception.sentence)

    def test_bad_values_are_refused(self):
        for make in (
            lambda: Letters(""),
            lambda: Letters("ABCD"),
            lambda: Letters("A", tracking=99),
            lambda: Plate(margin=60),
            lambda: Symbol("anchor", stroke=9),
        ):
            with self.assertRaises(ArtworkRefused):
                make()

    @given(st.text(min_size=1, max_size=3))
    @settings(max_examples=60, deadline=None)
    def test_any_text_is_drawn_or_refused(self, text):
        with suppress(ArtworkRefused):
            take_in(draw_letters(Letters(text), face_files("noto-sans", 700)).encode())


class SymbolTests(TestCase):
    def test_ink_fills_the_room_and_is_centred(self):
        for name in ("anchor", "ship", "waves-horizontal"):
            for stroke in (0.5, 2, 4):
                facts = facts_of(draw_symbol(Symbol(name, stroke=stroke, plate=Plate(margin=10)), symbol_shapes()))
                self.assertAlmostEqual(max(facts.ink.width, facts.ink.height), 0.8 * SIDE, delta=8)
                self.assertAlmostEqual(facts.margins.left, facts.margins.right, delta=8)

    def test_search_by_words(self):
        names = [shape.name for shape in search("anchor", symbol_shapes())]
        self.assertEqual(names[0], "anchor")
        self.assertIn("ship", [shape.name for shape in search("boat", symbol_shapes())])
        self.assertEqual(list(search("zzzzqq", symbol_shapes())), [])

    def test_symbols_are_found_by_the_word_one_thinks_of(self):
        for words, expected in (
            ("bread", "croissant"),
            ("hair", "scissors"),
            ("law", "scale"),
            ("ferry", "ship"),
            ("boat", "ship"),
            ("house", "house"),
            ("dog", "dog"),
            ("coffee", "coffee"),
            ("tree", "tree-pine"),
            ("Garden", "flower"),
        ):
            with self.subTest(words):
                found = [shape.name for shape in search(words, symbol_shapes())]
                self.assertIn(expected, found[:4])
        self.assertNotIn("ruler", [shape.name for shape in search("bread", symbol_shapes())])

    def test_every_symbol_of_a_subject_is_there(self):
        self.assertLessEqual({name for names in SUBJECTS.values() for name in names}, set(symbol_shapes()))

    def test_an_unknown_name_gets_a_hint(self):
        with self.assertRaises(ArtworkRefused) as caught:
            draw_symbol(Symbol("boat"), symbol_shapes())
        self.assertIn("ship", caught.exception.sentence)

    def test_every_symbol_is_sound_svg(self):
        for name in list(symbol_shapes())[::40]:
            self.assertIsNotNone(facts_of(draw_symbol(Symbol(name), symbol_shapes())).ink, name)
