"""What a hand does to a drawing before its edges are put on px: what changes, and what must not."""

from collections.abc import Sequence
from dataclasses import replace
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.errors import FramingRefused
from bexi.core.framing.compose import compose, steps_done
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.hand.drawn import BY_HAND, drawing_of
from bexi.core.framing.hand.kinds import SIDE
from bexi.core.framing.hand.steps import HandStep, StepAt, stepped
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.framing.tabs import TABS
from bexi.core.judging.faithful import is_faithful
from bexi.core.judging.hand_steps import with_steps
from bexi.core.judging.judge import judge_at
from bexi.core.pixels.colour import Colour, contrast
from bexi.core.pixels.light import Pixels
from bexi.core.pixels.oklab import at_lightness, oklab
from tests.core.judging.logos import words

ALL = tuple(HandStep)
TAB_COLOURS = tuple(TABS.values())


def picture(content: str) -> Picture:
    """A drawing in units of an icon of 16 px."""
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" width="1024" height="1024" viewBox="0 0 16 16">{content}</svg>'
    return check(svg.encode(), DEFAULT_LIMITS)


def large(content: str) -> Pixels:
    return drawing_of(picture(content), Frame(0, 0, 1024))


def done(content: str, *steps: HandStep, size: int = 16, grounds: Sequence[Colour] = TAB_COLOURS) -> Pixels:
    return after(steps, large(content), size, grounds)


def after(steps: Sequence[HandStep], drawing: Pixels, size: int, grounds: Sequence[Colour]) -> Pixels:
    for step in steps:
        drawing = stepped(step, drawing, size, grounds)
    return drawing


def parts(pixels: Pixels) -> int:
    return int(ndimage.label(pixels[..., 3] > 127, structure=np.ones((3, 3)))[1])


def wide(pixels: Pixels, row: float) -> float:
    """How many px of an icon of 16 are inked in the row so many px down."""
    return float((pixels[int(row * SIDE / 16), :, 3] > 127).sum() * 16 / SIDE)


THIN = '<path d="M2 14L14 2" stroke="#204060" stroke-width="0.4"/>'
RING = '<circle cx="8" cy="8" r="7.5" fill="none" stroke="#123" stroke-width="0.25"/>'
RINGED = f'{RING}<path d="M5 11L8 4l3 7z" fill="#c33"/>'
EACH_BAR = [f'<path fill="#333" d="M{1 + 1.15 * n} 2h.7v12h-.7z"/>' for n in range(12)]
BARS = "".join(EACH_BAR)
PALE = '<circle cx="8" cy="8" r="7" fill="#ffe14d"/>'


class WidenTests(TestCase):
    def test_a_thin_stroke_becomes_a_px_wide_in_its_own_colour(self):
        made = done(THIN, HandStep.WIDEN)
        self.assertAlmostEqual(wide(made, 8), 2**0.5, delta=0.2)
        self.assertEqual(tuple(made[SIDE // 2, SIDE // 2 + 7]), (0x20, 0x40, 0x60, 255))
        self.assertAlmostEqual(wide(done(THIN, HandStep.WIDEN, size=32), 8), 2**0.5 / 2, delta=0.2)

    def test_corners_tips_and_what_is_wide_enough_stay(self):
        star = "".join(
            f'<path d="M7 8L8 0l1 8z" transform="rotate({turn} 8 8)" fill="#224"/>' for turn in range(0, 360, 30)
        )
        for content in ('<path d="M1 15L8 1l7 14z"/>', star, '<path d="M3 3h1v10h-1zm5 0h1v10h-1z"/>', PALE, ""):
            made = large(content)
            self.assertIs(after([HandStep.WIDEN], made, 16, TAB_COLOURS), made)

    @settings(max_examples=40, deadline=None)
    @given(st.floats(0.2, 0.9), st.floats(0.3, 3), st.floats(0, 180))
    def test_no_gap_closes(self, stroke: float, gap: float, turn: float):
        lines = "".join(
            f'<path d="M3 {8 + (n - 1) * (stroke + gap)}h10" stroke="#204060" stroke-width="{stroke}"/>'
            for n in range(3)
        )
        made = done(f'<g transform="rotate({turn} 8 8)">{lines}</g>', HandStep.WIDEN)
        self.assertEqual(parts(made), 3)


class LeaveOutTests(TestCase):
    def test_a_fine_ring_dots_and_small_lettering_go(self):
        ringless = done(RINGED, HandStep.LEAVE_OUT)
        self.assertEqual(parts(ringless), 1)
        self.assertEqual(ringless[:20].max(), 0)
        mark = '<path fill="#a04" d="M1 14L7 1l6 13z"/>'
        self.assertEqual(parts(done(mark + '<circle cx="14.5" cy="1.5" r=".5" fill="#a04"/>', HandStep.LEAVE_OUT)), 1)
        letters = "".join(f'<path fill="#333" d="M{2 + n} 14h.6v1.5h-.6z"/>' for n in range(12))
        self.assertEqual(parts(done(f'<circle cx="8" cy="6" r="5.5"/>{letters}', HandStep.LEAVE_OUT)), 1)

    def test_what_is_the_mark_itself_stays(self):
        dots = "".join(f'<circle cx="{2 + 4 * n}" cy="8" r="1.2"/>' for n in range(4))
        for content in (dots, BARS, RING):
            made = large(content)
            self.assertIs(after([HandStep.LEAVE_OUT], made, 16, TAB_COLOURS), made)

    def test_on_a_plate_the_plate_is_what_is_left(self):
        made = done(f'<path fill="#dde" d="M0 0h16v16H0z"/>{RINGED}', HandStep.LEAVE_OUT)
        self.assertEqual(tuple(made[SIDE // 2, int(0.5 * SIDE / 16)]), (0xDD, 0xDD, 0xEE, 255))


class ThinOutTests(TestCase):
    def test_crowded_bars_become_as_many_as_have_a_px_each_and_a_px_between(self):
        for turn, axis in ((0, slice(None)), (90, None)):
            made = done(f'<g transform="rotate({turn} 8 8)">{BARS}</g>', HandStep.THIN_OUT)
            self.assertEqual(parts(made), 7)
            line = (made[SIDE // 2, :, 3] if axis else made[:, SIDE // 2, 3]) > 127
            lengths = np.diff(np.flatnonzero(np.diff(line.astype(int))))
            self.assertTrue((lengths >= SIDE / 16 - 2).all(), lengths)

    def test_bars_that_touch_the_edges_leave_nothing_of_the_old_ones(self):
        bars = "".join(f'<path fill="#333" d="M{1 + 1.15 * n} 0h.7v12h-.7z"/>' for n in range(12))
        for turn in (0, 90, 180, 270):
            made = done(f'<g transform="rotate({turn} 8 8)">{bars}</g>', HandStep.THIN_OUT)
            self.assertEqual(parts(made), 7)

    def test_bars_with_room_few_and_unlike_ones_stay(self):
        roomy = "".join(f'<path d="M{1 + 2 * n} 2h1v12h-1z"/>' for n in range(7))
        chart = "".join(f'<path d="M{1 + n} {10 - n}h.5v{4 + n}h-.5z"/>' for n in range(8))
        for content in (roomy, chart, "".join(EACH_BAR[:3])):
            made = large(content)
            self.assertIs(after([HandStep.THIN_OUT], made, 16, TAB_COLOURS), made)


class SetOffTests(TestCase):
    def test_by_as_little_as_it_takes_and_in_the_same_hue(self):
        for ink in ("#ffe14d", "#101840", "#b0ffd0"):
            made = done(PALE.replace("#ffe14d", ink), HandStep.SET_OFF)
            new = Colour(*(int(part) for part in made[SIDE // 2, SIDE // 2, :3]))
            self.assertTrue(all(contrast(new, tab) >= 3 for tab in TAB_COLOURS), ink)
            self.assertLess(min(contrast(new, tab) for tab in TAB_COLOURS), 3.3)
            was, now = (oklab(np.array(one.channels, dtype=np.uint8)) for one in (Colour.parse(ink), new))
            self.assertAlmostEqual(np.arctan2(was[2], was[1]), np.arctan2(now[2], now[1]), delta=0.1)

    def test_from_its_own_plate_and_not_where_it_stands_out(self):
        plated = '<path fill="#8899aa" d="M0 0h16v16H0z"/><path d="M5 11L8 4l3 7z" fill="#a0b0c0"/>'
        made = done(plated, HandStep.SET_OFF)
        self.assertEqual(tuple(made[2, 2]), (0x88, 0x99, 0xAA, 255))
        inside = Colour(*(int(part) for part in made[SIDE // 2, SIDE // 2, :3]))
        self.assertGreaterEqual(contrast(inside, Colour(0x88, 0x99, 0xAA)), 3)
        for content in (PALE.replace("#ffe14d", "#808080"), plated.replace("#a0b0c0", "#111")):
            same = large(content)
            self.assertIs(after([HandStep.SET_OFF], same, 16, TAB_COLOURS), same)

    def test_a_letter_is_seen_on_its_plate_as_that_becomes(self):
        made = done(PALE + '<path d="M5 4h2v8h-2z" fill="#fff"/>', HandStep.SET_OFF)
        plate, letter = (Colour(*(int(part) for part in made[SIDE // 2, at, :3])) for at in (SIDE // 4, SIDE * 6 // 16))
        self.assertEqual(letter, Colour(255, 255, 255))
        self.assertGreaterEqual(contrast(plate, letter), 3)

    def test_an_ink_at_one_edge_changes_nothing_at_the_other(self):
        made = done('<path fill="#ffe14d" d="M0 4h6v8h-6z"/><path fill="#808080" d="M10 4h6v8h-6z"/>', HandStep.SET_OFF)
        self.assertTrue((made[SIDE // 2, SIDE * 11 // 16 :] == (0x80, 0x80, 0x80, 255)).all())
        self.assertNotEqual(tuple(made[SIDE // 2, 9, :3]), (0xFF, 0xE1, 0x4D))

    @settings(max_examples=60, deadline=None)
    @given(st.tuples(*3 * [st.integers(0, 255)]), st.floats(-0.4, 0.4))
    def test_lightness_is_what_was_asked_for(self, channels: tuple[int, int, int], change: float):
        before = float(oklab(np.array(channels, dtype=np.uint8))[0])
        made = at_lightness(Colour(*channels), change)
        if made is None:
            self.assertFalse(0 <= before + change <= 1)
            return
        lightness = oklab(np.array(made.channels, dtype=np.uint8))[0]
        if before + change > 0.1:
            self.assertAlmostEqual(float(lightness), before + change, delta=0.02)
        else:  # the darkest greys of eight bits lie 0.07 apart
            self.assertLess(lightness, 0.14)


class LeftAloneTests(TestCase):
    def test_fades_photographs_and_blank_pictures(self):
        fade = '<linearGradient id="g"><stop stop-color="#36f"/><stop offset="1" stop-color="#fe8"/></linearGradient>'
        grain = np.random.default_rng(1).integers(0, 255, (SIDE, SIDE, 4), dtype=np.uint8)
        soft = np.repeat(np.repeat(grain[:12, :12], 32, axis=0), 32, axis=1)
        soft = np.stack([ndimage.gaussian_filter(soft[..., of].astype(float), 12) for of in range(4)], axis=-1)
        soft[..., 3] = 255
        texture = np.zeros((SIDE, SIDE, 4), dtype=np.uint8)
        texture[np.ix_(np.arange(SIDE) % 8 < 4, np.arange(SIDE) % 8 < 4)] = (40, 40, 40, 255)
        self.assertIs(after(ALL[:3], texture, 16, TAB_COLOURS), texture)
        for made in (large(f'{fade}<path fill="url(#g)" d="M0 0h16v16H0z"/>'), soft.astype(np.uint8), large("")):
            self.assertIs(after(ALL, made, 16, TAB_COLOURS), made)

    def test_other_sizes_other_purposes_and_plain_ones(self):
        thin, framing = picture(THIN + PALE), Framing(Frame(0, 0, 1024), by_hand=(16, 32))
        steps = replace(framing, steps=tuple(StepAt(16, step) for step in ALL))
        for purpose in Purpose:
            sizes = [16, 32, 192] if purpose is Purpose.TAB else [192, 512]
            plain, drawn = (compose(thin, one, purpose, sizes) for one in (framing, steps))
            same = [np.array_equal(*pair) for pair in zip(plain, drawn, strict=True)]
            self.assertEqual(same, [purpose is not Purpose.TAB or size != 16 for size in sizes])
        (one,), (other,) = (compose(thin, told, Purpose.TAB, [16]) for told in (steps.plain, framing.plain))
        self.assertTrue(np.array_equal(one, other))
        self.assertTrue(np.array_equal(compose(thin, replace(steps, by_hand=()), Purpose.TAB, [16])[0], other))

    def test_a_bitmap_as_a_vector_and_on_a_plate(self):
        thin = picture(THIN)
        drawn = Bitmap(render_whole(thin, 1024))
        plate = Plate(PlateShape.ROUNDED, Colour(255, 255, 255), 22, 0)
        for framing in (
            Framing(Frame(0, 0, 1024), by_hand=(16,)),
            Framing(Frame(-99, -99, 1222), plate=plate, by_hand=(16,)),
        ):
            told = replace(framing, steps=(StepAt(16, HandStep.WIDEN),))
            one, other = (compose(source, told, Purpose.TAB, [16])[0].astype(int) for source in (thin, drawn))
            self.assertLessEqual(np.abs(one - other).max(), 24)
            self.assertFalse(np.array_equal(one, compose(thin, framing, Purpose.TAB, [16])[0]))


class RecipeTests(TestCase):
    def test_steps_are_kept_and_those_of_other_sizes_refused(self):
        framing = Framing(Frame(0, 0, 64), by_hand=(16,), steps=(StepAt(16, HandStep.LEAVE_OUT),))
        self.assertEqual(Recipe.from_json(Recipe(framing).as_json()), Recipe(framing))
        for steps in ((StepAt(64, HandStep.WIDEN),), 2 * framing.steps):
            with self.assertRaises(FramingRefused):
                replace(framing, steps=steps)
        for wrong in ({"size_px": 16, "step": "erase"}, {"size_px": 16.0, "step": "widen"}, {"step": "widen"}):
            told = Recipe(framing).as_json()
            told["framing"]["hand_steps"] = [wrong]  # type: ignore[index]
            with self.assertRaises(FramingRefused):
                Recipe.from_json(told)


class BetteredTests(TestCase):
    """The judgement chooses, and each step that is left is needed."""

    def test_words_get_better_and_nothing_is_done_for_nothing(self):
        for content in (
            THIN.replace("#204060", "#3f76b0"),
            RINGED,
            BARS.replace("#333", "#777"),
            PALE.replace("#ffe14d", "#e5a50a"),
            f'<path fill="#123a6a" d="M0 0h16v16H0z"/>{THIN.replace("#204060", "#fff")}',
        ):
            source = picture(content)
            plain = Framing(whole_artwork(1024, 1024), by_hand=BY_HAND)
            drawn = with_steps(source, plain)
            self.assertTrue(drawn.steps, content)
            for size in {one.size for one in drawn.steps}:
                before, now = (judge_at(source, framing, [size])[0] for framing in (plain, drawn))
                self.assertGreater(now.standing, before.standing, (content, size))
                taken = {one.step for one in drawn.steps if one.size == size}
                self.assertEqual(set(steps_done(source, drawn, size)), taken)
                for step in taken:
                    fewer = replace(drawn, steps=tuple(one for one in drawn.steps if one != StepAt(size, step)))
                    self.assertLess(judge_at(source, fewer, [size])[0].standing, now.standing, (content, size, step))

    def test_what_is_clear_stays_as_it_is(self):
        source = picture('<circle cx="8" cy="8" r="7" fill="#2a9080"/>')
        told = replace(Framing(whole_artwork(1024, 1024), by_hand=BY_HAND), steps=(StepAt(16, HandStep.WIDEN),))
        self.assertEqual(with_steps(source, told).steps, ())


class FaithfulTests(TestCase):
    """What is drawn stays the same logo."""

    FACE = (
        '<circle cx="8" cy="8" r="7" fill="#ffcc4d"/>'
        '<circle cx="5.6" cy="6.6" r=".5"/><circle cx="10.4" cy="6.6" r=".5"/>'
        '<path d="M5 10.5h6v.5h-6zM4.6 5h2v.4h-2zM9.4 5h2v.4h-2z" fill="#65471b"/>'
    )

    def chosen(self, content: str) -> set[HandStep]:
        framing = Framing(whole_artwork(1024, 1024), by_hand=BY_HAND)
        return {one.step for one in with_steps(picture(content), framing).steps}

    def test_a_face_keeps_its_features(self):
        before, after_it = large(self.FACE), done(self.FACE, HandStep.LEAVE_OUT)
        self.assertFalse(np.array_equal(before, after_it))  # as the step alone would have it
        self.assertFalse(is_faithful(HandStep.LEAVE_OUT, Bitmap(before), Bitmap(after_it)))
        self.assertNotIn(HandStep.LEAVE_OUT, self.chosen(self.FACE))

    def test_what_lies_around_a_drawing_and_lettering_may_go(self):
        lettered = (
            '<circle cx="8" cy="8" r="7.5" fill="#1e3a8a"/><path d="M5 8L8 3l3 5z" fill="#fff"/>'
            f'<g transform="translate(1.6 0) scale(.016)">{words("Quayside", 70, 740, 150, "#ffffff")}</g>'
        )
        for content in (RINGED, lettered):
            before, after_it = (Bitmap(one) for one in (large(content), done(content, HandStep.LEAVE_OUT)))
            self.assertFalse(np.array_equal(before.pixels, after_it.pixels))
            self.assertTrue(is_faithful(HandStep.LEAVE_OUT, before, after_it))

    def test_colours_stay_what_they_are(self):
        for content in (PALE, f'<path fill="#0b4a6f" d="M0 0h16v16H0z"/>{THIN.replace("#204060", "#14532d")}'):
            one, other = (Bitmap(made) for made in (large(content), done(content, HandStep.SET_OFF)))
            self.assertFalse(is_faithful(HandStep.SET_OFF, one, other))
            self.assertNotIn(HandStep.SET_OFF, self.chosen(content))
        self.assertIn(HandStep.SET_OFF, self.chosen(PALE.replace("#ffe14d", "#e5a50a")))
