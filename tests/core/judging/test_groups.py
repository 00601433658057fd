"""Emblems told from words, and what is proposed first, on twenty logos of our own making."""

from itertools import product
from unittest import TestCase

import numpy as np

from bexi.core.artwork.ink import Box
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.symbols import Symbol, draw_symbol
from bexi.core.artwork.vector import render_whole
from bexi.core.judging.groups import groups_of
from bexi.core.judging.proposals import Proposal, propose
from bexi.core.judging.ways_out import Source
from bexi.resources import symbol_shapes
from bexi.server.demo.lettering import outlines
from tests.core.judging.brought.drawing import Brought, advance, face, text
from tests.core.judging.brought.forms import LETTER
from tests.core.judging.brought.strange import STRANGE
from tests.core.judging.logos import LOGOS, TALL, Logo
from tests.pictures import noise_bitmap

TILE = '<path d="M0 0h500v500H0z" fill="#7dd3fc"/>'


def shown(proposal: Proposal) -> Box:
    """What of the artwork a proposal shows."""
    frame, cut = proposal.framing.frame, proposal.framing.cut
    left, top, right, bottom = frame.x, frame.y, frame.x + frame.side, frame.y + frame.side
    if cut:
        left, top, right, bottom = (
            max(left, cut.left),
            max(top, cut.top),
            min(right, cut.right),
            min(bottom, cut.bottom),
        )
    return Box(left, top, right, bottom)


def holds_all(box: Box, emblem: Box, slack: int = 2) -> bool:
    across = box.left <= emblem.left + slack and box.right >= emblem.right - slack
    return across and box.top <= emblem.top + slack and box.bottom >= emblem.bottom - slack


def holds_words(box: Box, logo: Logo) -> bool:
    picture = logo.picture
    words = render_whole(check(logo.svg_of(logo.words), DEFAULT_LIMITS), max(picture.width, picture.height))
    return bool((words[max(box.top, 0) : box.bottom, max(box.left, 0) : box.right, 3] > 40).any())


class LogoTests(TestCase):
    def test_the_first_proposal_holds_the_whole_emblem_and_none_of_the_words(self):
        failed = []
        for logo in LOGOS:
            picture = logo.picture
            first = propose(Source(picture, groups_of(picture)))[0]
            box = shown(first)
            if not holds_all(box, logo.box_of(logo.emblem)) or holds_words(box, logo):
                failed.append(logo.name)
        self.assertEqual(len(LOGOS), 20)
        self.assertLessEqual(len(failed), 2, failed)

    def test_a_frame_leaves_out_what_reaches_into_it(self):
        picture = TALL.picture
        emblem = next(one for one in propose(Source(picture, groups_of(picture))) if one.kind.startswith("emblem"))
        frame, words = emblem.framing.frame, TALL.box_of(TALL.words)
        self.assertLess(words.left, frame.x + frame.side)  # the square alone would show them
        self.assertFalse(holds_words(shown(emblem), TALL))

    def test_a_picture_of_nothing_but_a_rule_is_proposed_whole(self):
        rule = '<svg xmlns="http://www.w3.org/2000/svg" width="900" height="60"><path d="M20 25h860v6h-860z"/></svg>'
        picture = check(rule.encode(), DEFAULT_LIMITS)
        self.assertTrue(propose(Source(picture, groups_of(picture)))[0].kind.startswith("whole"))

    def test_a_badge_of_two_tones_is_not_taken_apart(self):
        tile = next(logo for logo in STRANGE if logo.name == "tile with a sheen").picture
        kinds = {one.kind for one in propose(Source(tile, groups_of(tile)))}
        self.assertLessEqual(kinds, {"whole", "whole on a plate", "as it is"})  # not blue alone, nor half an envelope

    def test_shapes_alike_in_several_colours_are_one_emblem(self):
        # A common device of logos: dots or bars in a row, each in a colour of its own.
        colours = ("#e53935", "#43a047", "#1e88e5")
        rows = {
            "dots": "".join(f'<circle cx="{60 + 40 * n}" cy="60" r="14" fill="{c}"/>' for n, c in enumerate(colours)),
            "bars": "".join(
                f'<rect x="{46 + 34 * n}" y="20" width="20" height="80" fill="{c}"/>' for n, c in enumerate(colours)
            ),
        }
        for name, row in rows.items():
            svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 120">{row}</svg>'
            groups = groups_of(check(svg.encode(), DEFAULT_LIMITS))
            self.assertEqual(len(groups.emblems), 1, name)

    def test_small_parts_of_a_drawing_at_its_corner_or_its_sides_are_no_companions(self):
        held_by_stars = '<circle cx="100" cy="60" r="44" fill="#147"/>{}'
        star = '<path d="M{} 50l4 8 9 1-7 6 2 9-8-4-8 4 2-9-7-6 9-1z" fill="#147"/>'
        drawings = {
            "a dot": held_by_stars.format('<circle cx="150" cy="16" r="7" fill="#147"/>'),
            "two dots": held_by_stars.format(
                '<circle cx="146" cy="18" r="6" fill="#147"/><circle cx="162" cy="18" r="6" fill="#147"/>'
            ),
            "a star at either side": held_by_stars.format(star.format(36) + star.format(164)),
        }
        for name, body in drawings.items():
            svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 120">{body}</svg>'
            (emblem,) = groups_of(check(svg.encode(), DEFAULT_LIMITS)).emblems
            self.assertGreater(emblem.box.width, 96, name)  # the disc alone has 90

    def test_lines_of_words_above_each_other_are_not_joined(self):
        for upper, lower in (("HARBOR", "LIGHTS"), ("BIG", "BANG"), ("NORD", "HALLE"), ("MOUNT", "AINS")):
            for key in ("work-sans 800 normal", "barlow-condensed 600 normal", "rubik 700 normal"):
                lines = *text(upper, 30, 110, 100, "#111111", key), *text(lower, 30, 192, 100, "#111111", key)
                groups = groups_of(Brought(upper, 640, 220, lines, LETTER).picture)
                self.assertEqual(len(groups.words), 2, (upper, key))

    def test_noise_has_neither_emblem_nor_words(self):
        groups = groups_of(noise_bitmap(300, 200))
        self.assertEqual((groups.words, groups.emblems, groups.separable), ((), (), False))

    def test_a_pattern_of_many_dots_is_one_mark_and_no_writing(self):
        places = [(x, y, np.hypot(x - 8, y - 8)) for x in range(17) for y in range(17)]
        for reach in (0.9, 1.05):  # in the middle the dots touch, or do not
            radii = ((x, y, 11 * reach - 0.8 * away) for x, y, away in places)
            dots = "".join(f'<circle cx="{20 + 20 * x}" cy="{20 + 20 * y}" r="{r:.1f}"/>' for x, y, r in radii if r > 1)
            svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 360 360">{dots}</svg>'
            groups = groups_of(check(svg.encode(), DEFAULT_LIMITS))
            self.assertEqual((len(groups.emblems), groups.words), (1, ()), reach)
            self.assertEqual(groups.emblems[0].box, groups.ink, reach)

    def test_the_last_letters_of_a_name_below_its_first_are_no_emblem(self):
        for key, at in product(("rubik 700 normal", "work-sans 800 normal"), (265, 280)):
            upper = "".join(piece.markup for piece in text("Pell", 40, 190, 90, "#fff", "work-sans 400 normal"))
            beside = 40 + advance("o", face(key), 90) - 12  # they touch
            lower = "".join(outlines(one, face(key), x, at, 90) for one, x in (("o", 40), ("w", beside)))
            body = f'<path d="M20 20h320v320H20z" fill="#333"/>{upper}<path fill="#fff" d="{lower}"/>'
            svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 360 360">{body}</svg>'
            groups = groups_of(check(svg.encode(), DEFAULT_LIMITS))
            self.assertEqual((len(groups.words), [one.box for one in groups.emblems if one.on]), (1, []), (key, at))
            self.assertIsNotNone(groups.first)

    def test_a_symbol_below_a_word_and_flush_with_it_is_its_emblem(self):
        font, ink = face("rubik 700 normal"), "#16302a"
        for word, symbol in (("ZEN", "anchor"), ("Mira", "cloud"), ("LUMO", "bell"), ("pal", "house")):
            name, mark = outlines(word, font, 40, 150, 120), draw_symbol(Symbol(symbol), symbol_shapes())
            body = mark[mark.index(">") + 1 :].strip().removesuffix("</svg>")
            for left, tile in product((40, advance(word, font, 120) - 70), ("", TILE)):
                placed = f'<g transform="translate({left:.0f} 190) scale(0.11)">{body}</g>'
                drawn = f'{tile}<path d="{name}" fill="{ink}"/>{placed}'
                svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 500 500">{drawn}</svg>'
                groups = groups_of(check(svg.encode(), DEFAULT_LIMITS))
                self.assertEqual(len(groups.emblems), 1, (word, symbol, left, tile))

    def test_a_symbol_as_high_as_the_letters_between_two_words_is_their_emblem(self):
        font, ink, words = face("rubik 700 normal"), "#16302a", ("Lumo", "Harbor")
        at = 80 + advance(words[0], font, 120)
        path = "".join(outlines(word, font, x, 170, 120) for word, x in zip(words, (30, at + 140), strict=True))
        for symbol in ("umbrella", "anchor", "bell", "house"):
            mark = draw_symbol(Symbol(symbol), symbol_shapes())
            body = mark[mark.index(">") + 1 :].strip().removesuffix("</svg>")
            drawn = f'<path d="{path}" fill="{ink}"/><g transform="translate({at:.0f} 83) scale(0.088)">{body}</g>'
            width = at + 170 + advance(words[1], font, 120)
            svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:.0f} 260">{drawn}</svg>'
            self.assertEqual(len(groups_of(check(svg.encode(), DEFAULT_LIMITS)).emblems), 1, symbol)
