"""Icons whose word is plain to the eye: shadows, gradients, translucent ink, plates in many colours, tiles.

The words are what a person said who looked at each at true size and enlarged [common practice]. The drawings are ours.
"""

from dataclasses import replace
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from bexi.core.artwork.intake import take_in
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.recipe import Framing
from bexi.core.framing.tabs import TABS
from bexi.core.judging.judge import judge_at
from bexi.core.judging.readings import Judgement
from bexi.core.pixels.colour import Colour, contrast

M = '<path d="M110 400V112h70l76 150 76-150h70v288h-66V226l-60 118h-40l-60-118v174z" fill="{}"/>'
N = '<path d="M110 400V112h66l150 180V112h66v288h-60L176 214v186z" fill="{}"/>'
E = '<path d="M140 110h240v62H210v56h150v58H210v60h170v62H140z" fill="{}"/>'
ARROW = '<path d="M120 220h150v-90l130 126-130 126v-90H120z" fill="{}"/>'
PLATE = '<rect width="512" height="512" rx="90" fill="{}"/>'
DISC = '<circle cx="256" cy="256" r="190" fill="{}" {}/>'
RING = '<circle cx="256" cy="256" r="200" fill="none" stroke="{}" stroke-opacity="{}" stroke-width="90"/>'
SHADOW = (
    '<filter id="s" x="-20%" y="-20%" width="140%" height="140%">'
    '<feDropShadow dx="0" dy="10" stdDeviation="14" flood-opacity="0.45"/></filter>'
)
GLOW = (
    '<filter id="s" x="-30%" y="-30%" width="160%" height="160%"><feGaussianBlur in="SourceAlpha" stdDeviation="20"/>'
    '<feMerge><feMergeNode/><feMergeNode in="SourceGraphic"/></feMerge></filter>'
)
STOPS = '<stop offset="0" stop-color="{}"/><stop offset="1" stop-color="{}"/>'
DARK_BRANDS = ("#1a5fb4", "#c01c28", "#813d9c", "#0b7285", "#d6336c", "#495057", "#5c7cfa", "#364fc7", "#1b2420")
PALE_BRANDS = ("#2ec27e", "#f5c211", "#12b886")


def linear(across: int, down: int, first: str, last: str) -> str:
    stops = STOPS.format(first, last)
    return f'<linearGradient id="g" x1="0" y1="0" x2="{across}" y2="{down}">{stops}</linearGradient>'


def radial(first: str, last: str) -> str:
    return f'<radialGradient id="g">{STOPS.format(first, last)}</radialGradient>'


def judged(body: str, defs: str = "", size: int = 16, tab: str = "light") -> Judgement:
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 512 512"><defs>{defs}</defs>{body}</svg>'
    picture = take_in(svg.encode())[1]
    framing = Framing(whole_artwork(picture.width, picture.height))
    (judgement,) = judge_at(picture, framing, [size], grounds={tab: TABS[tab]})
    return judgement


class WordTests(TestCase):
    def assert_word(self, word: str, body: str, defs: str = "", tabs: tuple[str, ...] = ("light", "dark")) -> None:
        for tab in tabs:
            for size in (16, 32):
                judgement = judged(body, defs, size, tab)
                self.assertEqual(judgement.verdict, word, (judgement.says, body[:90], size, tab))

    def test_a_shadow_or_a_glow_is_neither_ink_nor_gap(self):
        for defs in (SHADOW, GLOW):
            self.assert_word("well", DISC.format("#d63a2f", 'filter="url(#s)"'), defs, ("light",))
            self.assert_word("well", f'<g filter="url(#s)">{E.format("#2e7d32")}</g>', defs, ("light",))

    def test_a_gradient_is_one_colour_in_every_direction(self):
        for gradient in (
            *(linear(*way, "#1a5fb4", "#3a2a8a") for way in ((1, 0), (0, 1), (1, 1))),
            radial("#3b86e0", "#173a7a"),
        ):
            self.assert_word("well", PLATE.format("url(#g)") + M.format("#fff"), gradient)
        self.assert_word("well", DISC.format("url(#g)", ""), linear(0, 1, "#ff8a3d", "#c2185b"))

    def test_translucent_ink_has_the_contrast_it_shows(self):
        self.assert_word("well", RING.format("#000", 0.45), tabs=("light",))
        self.assert_word("lost", RING.format("#000", 0.45), tabs=("dark",))
        self.assert_word("lost", RING.format("#000", 0.12))
        shown = Colour(*(round(255 * 0.55),) * 3)
        read = judged(RING.format("#000", 0.45)).readings.contrast["light"]
        self.assertAlmostEqual(read, contrast(shown, Colour(255, 255, 255)), delta=0.15)

    def test_white_letters_are_seen_by_their_own_plate(self):
        for brand in DARK_BRANDS:
            for letter in (M, N, E):
                self.assert_word("well", PLATE.format(brand) + letter.format("#fff"))
        for brand in PALE_BRANDS:
            self.assert_word("hard", PLATE.format(brand) + E.format("#fff"))
            self.assert_word("well", PLATE.format(brand) + E.format("#1b2420"))

    def test_bold_letters(self):
        for letter in (M, N, E):
            self.assert_word("well", letter.format("#222"), tabs=("light",))
            self.assert_word("lost", letter.format("#222"), tabs=("dark",))

    def test_what_fills_the_square_is_judged_by_its_parts(self):
        flag = (
            '<rect width="512" height="512" fill="#0b5fa5"/><rect y="200" width="512" height="112" fill="#ffd000"/>'
            '<rect x="140" width="112" height="512" fill="#ffd000"/>'
        )
        tile = '<rect x="{}" y="{}" width="128" height="128" fill="{}"/>'
        checker = "".join(
            tile.format(128 * x, 128 * y, "#111" if (x + y) % 2 else "#f4c430") for x in range(4) for y in range(4)
        )
        for body in (flag, checker):
            self.assert_word("well", body)

    def test_what_is_too_thin_is_lost(self):
        thin = '<circle cx="256" cy="256" r="230" fill="none" stroke="#b00" stroke-width="{}"/>'
        self.assert_word("lost", thin.format(3))
        self.assertEqual(judged(thin.format(10)).verdict, "lost")

    def test_cracks_between_blocks_cost_nothing_and_gaps_as_wide_as_strokes_do(self):
        def blocks(side: int, pitch: int) -> str:
            cells = ((x, y) for x in range(480 // pitch) for y in range(480 // pitch) if (3 * x + 5 * y) % 7 > 2)
            path = "".join(f"M{16 + pitch * x} {16 + pitch * y}h{side}v{side}h-{side}z" for x, y in cells)
            return f'<path d="{path}" fill="#813d9c"/>'

        self.assert_word("well", blocks(74, 80), tabs=("light",))
        self.assertEqual(judged(blocks(10, 20)).verdict, "lost")

    def test_an_arrow_is_seen_by_its_plate(self):
        self.assert_word("well", PLATE.format("#2a6fdb") + ARROW.format("#ffe08a"))
        self.assert_word("lost", PLATE.format("#2a6fdb") + ARROW.format("#2f86d0"))


class NotesTests(TestCase):
    """What is told beside the word, and changes nothing of it."""

    def test_little_ink_and_another_icon_like_it(self):
        small = (
            '<rect width="512" height="512" fill="none"/><rect x="160" y="160" width="190" height="190" fill="#a11"/>'
        )
        judgement = judged(small)
        self.assertEqual((judgement.verdict, list(judgement.readings.notes())), ("well", [_FILLS]))
        for distance, note in ((0.2, "the same as Harbour log's icon"), (6.7, "looks like Harbour log's icon")):
            readings = replace(judgement.readings, ink=1.0, likeness=distance, like="Harbour log's icon")
            self.assertEqual(list(readings.notes()), [note])
            self.assertEqual(replace(judgement, readings=readings).verdict, "well")
        self.assertEqual(list(replace(judgement.readings, ink=1.0, likeness=9.0, like="x").notes()), [])


_FILLS = "the mark fills 14% of the square"
_GREY = st.integers(0, 255)


class MonotonicTests(TestCase):
    @settings(max_examples=40, deadline=None)
    @given(plate=_GREY, ink=_GREY, more=st.integers(0, 60), tab=st.sampled_from(tuple(TABS)))
    def test_more_contrast_of_the_mark_never_lowers_the_word(self, plate, ink, more, tab):
        """Greys of a letter on a plate; the letter is moved away from its plate, all else is alike."""
        further = min(255, ink + more) if ink >= plate else max(0, ink - more)
        if abs(ink - plate) < 40:  # nearer than that they may be taken for one colour
            return
        below = PLATE.format(Colour(*(plate,) * 3))
        before, after = (judged(below + E.format(Colour(*(grey,) * 3)), tab=tab) for grey in (ink, further))
        least = min(after.readings.contrast.values()) - min(before.readings.contrast.values())
        self.assertGreaterEqual(least, -1e-6)
        self.assertGreaterEqual(after.verdict.rank, before.verdict.rank, (before.says, after.says))
