"""Emblems that stand near words and are much like letters, by height, place, stroke or colour, and stay whole."""

from unittest import TestCase

from bexi.core.artwork.ink import Box
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.svg.checking import check
from bexi.core.judging.groups import groups_of
from bexi.server.demo.lettering import outlines
from tests.core.judging.brought.drawing import face

INK, ORANGE = "#1e3a8a", "#ea580c"
HEAVY = "rubik 700 normal"
SERIF = "lora 600 normal"

Edges = tuple[int, int, int, int]
"""Left, top, right and bottom of an emblem, the thickness of its lines among it."""


def word(text: str, x: float, key: str = HEAVY, size: float = 120, base: float = 200, ink: str = INK) -> str:
    return f'<path fill="{ink}" d="{outlines(text, face(key), x, base, size)}"/>'


def line(path: str, width: float, ink: str = INK) -> str:
    return f'<path fill="none" stroke="{ink}" stroke-width="{width}" d="{path}"/>'


def filled(path: str, ink: str = INK) -> str:
    return f'<path fill="{ink}" fill-rule="evenodd" d="{path}"/>'


def block_letter(rows: str, x: int) -> str:
    """A letter of a face of squares, from five rows of five, 100 px high."""
    squares = (
        f"M{x + 20 * across} {100 + 20 * down}h20v20h-20z"
        for down, row in enumerate(rows.split())
        for across, is_ink in enumerate(row)
        if is_ink == "#"
    )
    return "".join(squares)


E, M, B, R = (
    "##### #.... ####. #.... #####",
    "##### #.#.# #.#.# #.#.# #.#.#",
    "####. #..## ####. #..## ####.",
    ("##### #...# ##### #.#.. #..##"),
)
DISC = "M{0} {1}a{2} {2} 0 1 0 {3} 0a{2} {2} 0 1 0 -{3} 0z"


def petals(*turns: int) -> str:
    """Outlined ones that lie over each other, each turned about (200, 210)."""
    each = (f'<ellipse cx="200" cy="120" rx="34" ry="90" transform="rotate({turn} 200 210)"/>' for turn in turns)
    return f'<g fill="none" stroke="{ORANGE}" stroke-width="6">{"".join(each)}</g>'


def disc(left: float, middle: float, radius: float) -> str:
    return DISC.format(left, middle, radius, 2 * radius)


CASES: dict[str, tuple[str, Edges]] = {
    "an outlined fish with a small eye": (
        line("M60 150Q130 70 200 130L240 100V200L200 170Q130 230 60 150z", 3, ORANGE)
        + filled(disc(95, 140, 4), ORANGE)
        + word("HEXLEY", 320),
        (60, 96, 242, 203),
    ),
    "a nut with its bore, in one stroke": (
        line("M160 40L230 80V160L160 200 90 160V80z", 4) + line(disc(130, 120, 30), 4) + word("ORBEN", 30, base=330),
        (88, 38, 232, 202),
    ),
    "a flag as high as the capitals, beyond a rule": (
        filled("M60 115h80l-20 25 20 25H75v35H60z") + filled("M180 90h4v135h-4z") + word("DITTO", 230),
        (60, 115, 140, 200),
    ),
    "a stamp on the foot of the line, far before it": (
        filled("M85 118h30v42h-30zM60 160h80v14H60zM60 186h80v14H60z") + word("Ostrava", 240, SERIF),
        (60, 118, 140, 200),
    ),
    "a solid disc as high as the capitals": (filled(disc(60, 157, 43)) + word("Bramble", 176), (60, 114, 146, 200)),
    "a wheel with many holes, hardly further off than letters": (
        line(disc(64, 157, 39), 8) + line("M64 157h78M83 123l40 68M123 123l-40 68", 8) + word("Tollgate", 163),
        (60, 114, 146, 200),
    ),
    "crossing lines much thinner than the letters": (
        line("M60 118L140 198M60 198L90 168M110 148L140 118", 4) + word("LITTLE OWL", 180),
        (58, 116, 142, 200),
    ),
    "heavy letters of one pitch beside a plate": (
        filled("M40 90h120v120H40z" + disc(70, 150, 30))
        + filled("".join(block_letter(rows, 190 + 120 * n) for n, rows in enumerate((E, M, B, E, R)))),
        (40, 90, 160, 210),
    ),
    "a capital whose tail runs below the next letter": (
        filled(disc(230, 70, 40))
        + filled(disc(60, 250, 45) + disc(76, 250, 29))
        + filled("M110 272l24-6q30 44 122 34v14q-100 14-146-42z")
        + word("UARRY", 165, base=295),
        (230, 30, 310, 110),
    ),
    "a sign in three pieces and fewer letters than twice that": (
        line("M400 120h18l27-20v100l-27-20h-18z", 3) + line("M457 135v30M470 120v60", 3) + word("Fjord", 30),
        (398, 97, 472, 202),
    ),
    "a plate before an ampersand that begins a line": (
        filled("M40 60h180v180H40z" + disc(80, 150, 50))
        + word("Koru", 260, size=100, base=140, ink=ORANGE)
        + word("& Sons", 254, size=100, base=235),
        (40, 60, 220, 240),
    ),
    "spikes on the line of the words": (
        filled("M95 90h12v34H95zM95 176h12v34H95zM41 144h34v12H41zM127 144h34v12h-34z") + word("MARLOWE", 230),
        (41, 90, 161, 210),
    ),
    "a badge with letters of its own above a larger word": (
        filled("M100 20h160v160H100z")
        + word("360", 130, size=60, base=120, ink="#ffffff")
        + word("wavelet", 40, base=310),
        (100, 20, 260, 180),
    ),
    "what stands on a foot of its own": (
        filled("M95 60h40v60h-40zM60 120h110v40H60z") + filled("M60 168h110v8H60z") + word("Harrow", 260),
        (60, 60, 170, 176),
    ),
    "a mark above three narrow capitals": (
        line("M60 60h90v90H60zM60 150l90-90", 8, ORANGE) + word("ILO", 60, "barlow-condensed 600 normal", 90, 290),
        (56, 56, 154, 154),
    ),
    "a mark beside two lines of heavy letters": (
        line("M50 150h90v80H50zM70 150q0-50 25-50t25 50", 10)
        + word("Fifty Acre", 190, "rubik 700 normal", 100, 160)
        + word("Kitchen", 190, "rubik 700 normal", 100, 265),
        (45, 95, 145, 235),
    ),
    "a tick in a frame of the letters' stroke, as near as a word": (
        line("M70 123h66v66H70z", 14) + line("M88 156l12 12 20-24", 12) + word("pallas", 185),
        (63, 116, 143, 196),
    ),
    "a plate above a hand whose letters run into each other in part": (
        filled("M60 20h140v140H60zM90 50v80h80V50z") + word("Gilt", 60, "pacifico 400 normal", base=290),
        (60, 20, 200, 160),
    ),
    "a needle in a ring with letters": (
        line(disc(62, 150, 88), 6)
        + filled("M150 82l12 68h-24z", ORANGE)
        + filled("M150 218l12-68h-24z")
        + word("W", 72, size=20, base=157)
        + word("E", 216, size=20, base=157)
        + word("Halden", 60, SERIF, 100, 350),
        (59, 59, 241, 241),
    ),
    "an hourglass, slender and higher than a joined hand": (
        filled("M60 60h110v16H60zM60 244h110v16H60z")
        + line("M74 84h82q0 50-34 76 34 26 34 76H74q0-50 34-76-34-26-34-76z", 10)
        + filled("M92 120h46l-23 34z", ORANGE)
        + word("Tolliver", 230, "pacifico 400 normal", 110, 210),
        (60, 60, 170, 260),
    ),
    "petals in one fine line above a word": (
        petals(-72, -36, 0, 36, 72) + word("Serena", 60, SERIF, 100, 350),
        (21, 27, 379, 234),
    ),
    "two halves in the two colours of the word": (
        filled("M40 80h90v140H40z")
        + filled("M130 80h90v140h-90z", ORANGE)
        + word("Blue", 270, SERIF)
        + word("wow", 522, SERIF, ink=ORANGE),
        (40, 80, 220, 220),
    ),
    "a mark in the stroke of the thin half of a word": (
        word("North", 30, "barlow 700 normal", 140)
        + word("hub", 384, "barlow 400 normal", 140)
        + line("M656 140L736 60L816 140V230H656z", 11),
        (650, 52, 822, 236),
    ),
    "a mark and a line on its side": (
        line("M120 60v170M60 150q0 80 60 80t60-80M100 90h40", 16)
        + f'<g transform="translate(230 220) rotate(-90)">{word("EST 1924", 0, "work-sans 800 normal", 38, 0)}</g>'
        + word("Fenwick", 260),
        (52, 60, 188, 238),
    ),
}


class BesideWordsTests(TestCase):
    def test_the_emblem_is_found_whole_and_alone(self):
        for name, (body, edges) in CASES.items():
            with self.subTest(name):
                svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="400">{body}</svg>'
                picture = check(svg.encode(), DEFAULT_LIMITS)
                groups, drawn = groups_of(picture), Box(*(edge * picture.width // 1000 for edge in edges))
                self.assertEqual(len(groups.emblems), 1)
                self.assertTrue(groups.words)
                self.assertGreater(in_common(groups.emblems[0].box, drawn), 0.9, groups.emblems[0].box)

    def test_two_marks_of_one_size_with_words_between_are_no_wreath(self):
        body = (
            filled(disc(40, 150, 70)) + word("Alder", 210) + filled("M600 80h134v134h-134zM640 120v50h50v-50z", ORANGE)
        )
        svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="300">{body}</svg>'
        self.assertEqual(len(groups_of(check(svg.encode(), DEFAULT_LIMITS)).emblems), 2)

    def test_letters_that_run_into_each_other_at_the_end_of_a_word_are_no_emblem(self):
        """A high contrast of strokes and a tail that hangs below make them unlike the others."""
        tail = line("M300 112l36 80M372 112L330 235q-10 22-34 20", 7) + line("M330 150L400 112M350 140l50 60", 7)
        svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400">{word("Cal", 110, SERIF)}{tail}</svg>'
        groups = groups_of(check(svg.encode(), DEFAULT_LIMITS))
        self.assertEqual((groups.emblems, groups.first is not None), ((), True))


def in_common(one: Box, other: Box) -> float:
    """What two boxes share, of all that either covers."""
    width = min(one.right, other.right) - max(one.left, other.left)
    height = min(one.bottom, other.bottom) - max(one.top, other.top)
    shared = max(width, 0) * max(height, 0)
    return shared / (one.width * one.height + other.width * other.height - shared)
