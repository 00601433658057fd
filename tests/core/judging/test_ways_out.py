"""Every way out is as good as it says, and the demo's pieces read as a person would say."""

import random
from unittest import TestCase

import numpy as np

from bexi.core.artwork.intake import take_in
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.symbols import Symbol, draw_symbol
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.judging.groups import groups_of
from bexi.core.judging.initials import drawn_initials, initials, initials_to_choose
from bexi.core.judging.judge import judge_at
from bexi.core.judging.likeness import distance, most_alike
from bexi.core.judging.proposals import propose
from bexi.core.judging.readings import BOUNDS, NOTED, Judgement, Readings
from bexi.core.judging.ways_out import Source, WayOut, letters_framing, ways_out
from bexi.core.pixels.colour import Colour
from bexi.resources import initials_face, symbol_shapes
from bexi.server.demo import artwork as demo
from tests.core.judging.logos import LOGOS


def source(picture: Picture) -> Source:
    return Source(picture, groups_of(picture))


def drawn(symbol: Symbol) -> Picture:
    return check(draw_symbol(symbol, symbol_shapes()).encode(), DEFAULT_LIMITS)


def whole(picture: Picture) -> Framing:
    return Framing(whole_artwork(picture.width, picture.height))


def offered(picture: Picture, size: int, framing: Framing | None = None) -> tuple[Judgement, list[WayOut]]:
    framing = framing or whole(picture)
    letters = drawn_initials("Merrow Ferry", groups_of(picture), initials_face())
    instead = [(one.source, letters_framing(one.source, framing)) for one in letters]
    (now,) = judge_at(picture, framing, [size])
    return now, ways_out(source(picture), framing, size, instead=instead)


class PromiseTests(TestCase):
    def test_every_way_out_betters_the_verdict_it_promises(self):
        chosen = random.Random(6)
        pictures = [logo.picture for logo in chosen.sample(LOGOS, 4)]
        pictures += [
            check(
                draw_symbol(Symbol(name, stroke=stroke, ink=Colour.parse(ink)), symbol_shapes()).encode(),
                DEFAULT_LIMITS,
            )
            for name, stroke, ink in (("anchor", 0.5, "#e8590c"), ("tree-pine", 4, "#1b2420"))
        ]
        kinds = set()
        for picture in pictures:
            for size in (16, 32):
                now, ways = offered(picture, size)
                for way in ways:
                    (again,) = judge_at(way.source.picture, way.framing, [size])
                    kinds.add(way.kind)
                    with self.subTest(way=way.kind, size=size):
                        self.assertEqual(again, way.judgement)
                        fits_better = (again.readings.fit or 0) > (now.readings.fit or 0)
                        better = again.standing > now.standing or (way.kind == "fit to the pixels" and fits_better)
                        self.assertTrue(better, (now.says, again.says))
                self.assertEqual(ways, sorted(ways, key=lambda way: way.judgement.standing, reverse=True))
        self.assertLessEqual({"emblem", "letters", "plate", "heavier"}, kinds)

    def test_an_icon_that_is_well_needs_none(self):
        lockup = take_in(demo.ferry_lockup())[1]
        self.assertEqual(offered(lockup, 16, Framing(Frame(27, 27, 566)))[1], [])

    def test_fitting_leaves_fewer_px_that_are_neither_ink_nor_ground(self):
        body = '<path fill="#d9480f" d="M50 50h80v260H50zM210 50h80v260h-80zM370 50h80v260h-80zM50 370h400v85H50z"/>'
        picture = check(
            f'<svg xmlns="http://www.w3.org/2000/svg" width="512" height="512">{body}</svg>'.encode(), DEFAULT_LIMITS
        )
        framing = Framing(Frame(77, 67, 860))
        fitted = next(way for way in offered(picture, 16, framing)[1] if way.kind == "fit to the pixels")
        self.assertLess(abs(fitted.framing.frame.side / 860 - 1), 0.06)
        before, after = (self.mixed(picture, one) for one in (framing, fitted.framing))
        self.assertLess(after, 0.75 * before)

    def mixed(self, picture: Picture, framing: Framing) -> int:
        (icon,) = compose(picture, framing, Purpose.TAB, [16])
        return int(((icon[..., 3] > 12) & (icon[..., 3] < 243)).sum())


class DemoTests(TestCase):
    """As a person says who looks at each at true size."""

    def verdict(self, data: bytes, size: int = 16, framing: Framing | None = None) -> Judgement:
        picture = take_in(data)[1]
        return judge_at(picture, framing or whole(picture), [size])[0]

    def test_each_piece_at_16_px(self):
        lockup = self.verdict(demo.ferry_lockup())
        self.assertEqual((lockup.verdict, lockup.because), ("lost", "lettering"))
        self.assertEqual(self.verdict(demo.ferry_lockup(), framing=Framing(Frame(27, 27, 566))).says, "clear")
        self.assertIsNone(self.verdict(demo.log_book_photo()).verdict)
        self.assertIn(self.verdict(demo.harbour_stamp()).verdict, ("lost", "hard"))

    def test_letters_are_well(self):
        picture = take_in(demo.ferry_lockup())[1]
        best = max(
            judge_at(one.source.picture, whole(one.source.picture), [16])[0].standing
            for one in drawn_initials("Merrowmouth Ferry", groups_of(picture), initials_face())
        )
        self.assertEqual(best[0], 2)

    def test_a_pale_or_dark_mark_is_never_proposed_where_it_is_lost(self):
        for colour in ("#fff4d8", "#f4f4f4", "#112233"):
            mark = f'<path d="M20 20h60v60h-60zM110 20l40 60h-80z" fill="{colour}"/>'
            drawn = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100">{mark}</svg>'
            proposals = propose(source(take_in(drawn.encode())[1]))
            self.assertEqual((proposals[0].kind, proposals[0].is_lost), ("whole on a plate", False))
            self.assertTrue(any(one.is_lost for one in proposals))

    def test_what_is_proposed_first(self):
        kinds = {}
        for name in ("ferry_lockup", "ferry_emblem_on_white", "log_book_photo"):
            picture = take_in(getattr(demo, name)())[1]
            proposals = propose(
                source(picture), [one.source for one in drawn_initials("MF", groups_of(picture), initials_face())]
            )
            kinds[name] = proposals[0].kind
            self.assertIn("letters", [one.kind for one in proposals])
        self.assertEqual(
            kinds, {"ferry_lockup": "emblem", "ferry_emblem_on_white": "whole", "log_book_photo": "telling square"}
        )


class WordsTests(TestCase):
    def test_initials(self):
        for name, letters in (
            ("Merrowmouth Ferry", "MF"),
            ("  “tide” & co", "TC"),
            ("Ärger", "Ä"),
            ("…", ""),
            ("Huber und Sohn", "HS"),
            ("The Log", "L"),
            ("La Casa de los Libros", "CL"),
            ("Und", "U"),
        ):
            self.assertEqual(initials(name), letters)
        self.assertEqual(initials_to_choose("Huber und Sohn"), ["HS", "H", "HUS", "HU", "HUB"])
        self.assertEqual(initials_to_choose("…"), [])

    def test_the_worst_reading_is_the_verdict(self):
        judged = Judgement(16, Readings(visible_px=0.3, stroke_px=0.1, contrast={"light": 2.0}))
        self.assertEqual((judged.verdict, judged.because), ("lost", "visible"))
        self.assertEqual(judged.says, "lost: visible ink 0.3 px")
        self.assertEqual(Judgement(16, Readings(stroke_px=0.0, gap_px=0.0)).verdict, "hard")
        self.assertEqual(Judgement(16, Readings(lettering_px=5)).says, "weak: letter height 5.0 px")
        self.assertEqual(Judgement(16, Readings(stroke_px=9)).says, "clear")
        self.assertIsNone(Judgement(16, Readings(artwork=1.0), separable=False).verdict)
        for bound in BOUNDS.values():
            self.assertAlmostEqual(bound.score(bound.lost), 1)
            self.assertAlmostEqual(bound.score(bound.well), 2)


class LikenessTests(TestCase):
    def icon(self, name: str, ink: str = "#16302a", stroke: float = 2) -> np.ndarray:
        picture = check(draw_symbol(Symbol(name, Colour.parse(ink), stroke), symbol_shapes()).encode(), DEFAULT_LIMITS)
        return compose(picture, whole(picture), Purpose.TAB, [16])[0]

    def test_unlike_symbols_are_told_apart_and_heavier_ones_are_not(self):
        names = random.Random(8).sample(sorted(symbol_shapes()), 24)
        icons = [self.icon(name) for name in names]
        unlike = [distance(one, other) for number, one in enumerate(icons) for other in icons[number + 1 :]]
        heavier = [distance(icon, self.icon(name, stroke=3)) for icon, name in zip(icons, names, strict=True)]
        self.assertGreaterEqual(np.percentile(unlike, 10), NOTED["likeness"].well)
        self.assertLess(max(heavier), NOTED["likeness"].well)

    def test_the_most_alike_is_named(self):
        anchor = self.icon("anchor")
        others = {"a house": self.icon("house"), "that of the harbour": self.icon("anchor", "#1b3a33")}
        name, least = most_alike(anchor, others)
        self.assertEqual(name, "that of the harbour")
        self.assertLess(least, NOTED["likeness"].lost)
        self.assertIsNone(most_alike(anchor, {}))
        shifted = np.roll(anchor, 1, axis=0)
        self.assertLess(distance(anchor, shifted), 0.5)
