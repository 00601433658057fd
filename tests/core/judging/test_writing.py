"""Words that are not made of letters one by one: characters in squares, and joined writing.

The words in writing/ are outlines from open faces (SIL Open Font License), each set by HarfBuzz: Noto Sans JP, Noto
Serif KR, Noto Sans and Kufi Arabic, Amiri and Noto Sans Devanagari, all of their npm packages' version 5.3.0.
"""

import re
from itertools import cycle
from pathlib import Path
from unittest import TestCase

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Vector
from bexi.core.artwork.svg.checking import check
from bexi.core.judging.groups import groups_of
from bexi.core.judging.lettering import rows_of
from bexi.core.judging.survey import whole_survey
from bexi.resources import symbol_shapes
from tests.core.judging.logos import symbol

CHARACTERS = {"lantern-books": 4, "blue-hill-tea": 4, "gull-stationery": 5, "sea-books": 4}
"""And how many each has."""
JOINED = ("lighthouse", "palm-cafe", "house-of-books", "lamp-house", "ocean-books")
LEFTWARDS = JOINED[:3]
SOLID = '<path fill="#0f5132" d="M20 250l110-190 110 190zM130 20a40 40 0 1 0 .1 0z"/>'
EMBLEMS = (SOLID, symbol("anchor", 20, 40, 220, "#0f5132", 2.4), symbol("leaf", 20, 40, 220, "#0f5132", 2))
_WORD = re.compile(r'viewBox="0 0 (\d+) 290"><path d="([^"]+)"')


def word(name: str) -> tuple[str, int]:
    """The outlines of a word, and how wide it is."""
    text = (Path(__file__).parent / "writing" / f"{name}.svg").read_text()
    match = _WORD.search(text)
    assert match is not None
    return match[2], int(match[1])


def drawing(width: int, height: int, body: str) -> Vector:
    return check(
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}">{body}</svg>'.encode(), DEFAULT_LIMITS
    )


def alone(name: str) -> Vector:
    path, width = word(name)
    return drawing(width + 80, 300, f'<path fill="#0f5132" d="{path}" transform="translate(40 0)"/>')


def beside(name: str, emblem: str) -> tuple[Vector, float]:
    """A word after an emblem, or before it where it runs leftwards; and where, of the width, one ends."""
    path, width = word(name)
    at, its = (40, width + 80) if name in LEFTWARDS else (330, 20)
    body = (
        f'<path fill="#0f5132" d="{path}" transform="translate({at} 0)"/><g transform="translate({its} 0)">{emblem}</g>'
    )
    return drawing(width + 370, 300, body), (its - 10 if name in LEFTWARDS else 290) / (width + 370)


def above(name: str, emblem: str) -> Vector:
    path, width = word(name)
    its = f'<g transform="translate({width / 2 - 90} 0)">{emblem}</g>'
    return drawing(width + 80, 600, f'<path fill="#0f5132" d="{path}" transform="translate(40 300)"/>{its}')


class WritingTests(TestCase):
    def test_characters_alone_are_words_of_which_the_first_can_be_cut_out(self):
        for name in CHARACTERS:
            picture = alone(name)
            groups = groups_of(picture)
            self.assertEqual((len(groups.words), groups.emblems), (1, ()), name)
            assert groups.first is not None
            pitch = picture.width / CHARACTERS[name]
            self.assertLess(groups.first.box.right, 1.1 * pitch, name)
            self.assertGreater(groups.first.box.width, 0.6 * pitch, name)

    def test_joined_writing_is_words_of_which_nothing_is_cut(self):
        for name in JOINED[1:]:
            groups = groups_of(alone(name))
            self.assertEqual((len(groups.words), groups.emblems, groups.first), (1, (), None), name)

    def test_an_emblem_of_the_same_colour_beside_them(self):
        for name, emblem in zip((*CHARACTERS, *JOINED), cycle(EMBLEMS), strict=False):
            picture, place = beside(name, emblem)
            groups = groups_of(picture)
            self.assertEqual((len(groups.emblems), bool(groups.words)), (1, True), (name, emblem))
            box, edge = groups.emblems[0].box, place * picture.width
            self.assertTrue(box.left >= edge if name in LEFTWARDS else box.right <= edge, (name, box, edge))

    def test_an_emblem_above_them(self):
        for name, emblem in zip((*CHARACTERS, *JOINED), cycle(EMBLEMS[::-1]), strict=False):
            picture = above(name, emblem)
            groups = groups_of(picture)
            self.assertEqual((len(groups.emblems), bool(groups.words)), (1, True), (name, emblem))
            self.assertLess(groups.emblems[0].box.bottom, picture.height / 2, name)

    def test_two_characters(self):
        for name in ("lantern-books", "sea-books"):
            path, width = word(name)
            half = 2 * width // CHARACTERS[name]
            pair = f'<path fill="#0f5132" d="{path}"/>'
            cut = f'<svg x="330" width="{half}" height="300" viewBox="0 0 {half} 300">{pair}</svg>'
            groups = groups_of(drawing(half + 370, 300, SOLID + cut))
            self.assertEqual((len(groups.emblems), len(groups.words)), (1, 1), name)
            assert groups.first is not None
            self.assertLess(groups.first.box.width, 0.6 * half / (half + 370) * 1024, name)

    def test_characters_below_each_other(self):
        for name in ("lantern-books", "blue-hill-tea", "sea-books"):  # kana, of one piece each, look like letters
            path, width = word(name)
            count = CHARACTERS[name]
            step = width / count
            pieces = "".join(
                f'<svg x="20" y="{20 + number * step}" width="{step}" height="{step}" '
                f'viewBox="{number * step} {110 - step / 2} {step} {step}"><path fill="#0f5132" d="{path}"/></svg>'
                for number in range(count)
            )
            groups = groups_of(drawing(round(step) + 40, width + 40, pieces))
            self.assertEqual((bool(groups.words), groups.emblems), (True, ()), name)
            assert groups.first is not None
            self.assertLess(groups.first.box.bottom, groups.ink.height / count * 1.2 if groups.ink else 0, name)

    def test_symbols_are_no_writing(self):
        told = []
        for name, shape in sorted(symbol_shapes().items())[::24]:
            picture = drawing(24, 24, symbol(name, 0, 0, 24, "#0f5132"))
            drawn = whole_survey(picture).drawing
            if any(row.characters or row.is_joined for row in rows_of(drawn.regions, max(drawn.kinds.shape))):
                told.append(shape)
        self.assertEqual(told, [])
