"""Edges that somebody took hold of: they lie where they were put, as far as the others leave room."""

from dataclasses import replace
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.svg.checking import check
from bexi.core.errors import FramingRefused
from bexi.core.framing.compose import compose, moves_in
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.hand.drawn import grips_in
from bexi.core.framing.hand.held import MOST_HELD, Axis, Grip, HeldEdge
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe

_SIZE = 16
_BARS = "M34 22h14v116H34zM82 22h14v116H82zM122 50h15v60h-15z"
PICTURE = check(
    f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 160 160"><path fill="#123456" d="{_BARS}"/></svg>'.encode(),
    DEFAULT_LIMITS,
)
FRAMING = Framing(whole_artwork(PICTURE.width, PICTURE.height), by_hand=(_SIZE,))


def grips(framing: Framing) -> list[Grip]:
    return grips_in(moves_in(PICTURE, framing, _SIZE), _SIZE, framing.held)


def across(framing: Framing) -> list[Grip]:
    return [grip for grip in grips(framing) if grip.axis is Axis.ACROSS]


def put(grip: Grip, px: int) -> Framing:
    return replace(FRAMING, held=(HeldEdge(_SIZE, grip.axis, grip.place, px),))


class HeldTests(TestCase):
    def test_an_edge_lies_where_it_was_put_and_the_others_where_they_lay(self):
        before = across(FRAMING)
        right = before[1]
        after = across(put(right, int(right.px) + 1))
        self.assertEqual([grip.px for grip in after], [before[0].px, right.px + 1, *(one.px for one in before[2:])])
        self.assertEqual([grip.is_held for grip in after], [grip is right for grip in before])
        icons = [compose(PICTURE, one, Purpose.TAB, [_SIZE])[0] for one in (FRAMING, put(right, int(right.px) + 1))]
        changed = np.flatnonzero((icons[0] != icons[1]).any(axis=(0, 2)))
        self.assertIn(int(right.px), changed)  # the px that the bar grew into
        self.assertGreater(int(icons[1][8, int(right.px), 3]), 240)

    @given(number=st.integers(0, 5), px=st.integers(0, _SIZE))
    def test_no_edge_passes_or_meets_another(self, number: int, px: int):
        grip = across(FRAMING)[number]
        after = [one.px for one in across(put(grip, px))]
        self.assertEqual(after, sorted(set(after)))
        self.assertEqual(after[number], min(max(px, grip.least), grip.most))

    def test_another_size_and_a_plain_icon_know_nothing_of_it(self):
        grip = across(FRAMING)[0]
        held = put(grip, int(grip.px) - 1)
        for one, other in ((replace(held, by_hand=()), replace(FRAMING, by_hand=())), (held.plain, FRAMING.plain)):
            icons = [compose(PICTURE, framing, Purpose.TAB, [_SIZE])[0] for framing in (one, other)]
            np.testing.assert_array_equal(*icons)
        large = [compose(PICTURE, framing, Purpose.TAB, [32, 180]) for framing in (held, FRAMING)]
        for one, other in zip(*large, strict=True):
            np.testing.assert_array_equal(one, other)

    def test_an_edge_that_is_there_no_more_is_let_go(self):
        gone = replace(FRAMING, held=(HeldEdge(_SIZE, Axis.ACROSS, 1.3, 5),))
        self.assertEqual(grips(gone), grips(FRAMING))

    def test_the_recipe_names_it_and_older_ones_hold_none(self):
        recipe = Recipe(put(across(FRAMING)[0], 2))
        told = recipe.as_json()
        self.assertEqual(Recipe.from_json(told), recipe)
        framing = {name: value for name, value in told["framing"].items() if name != "held_edges"}
        self.assertEqual(Recipe.from_json({**told, "version": 5, "framing": framing}), Recipe(FRAMING))

    def test_what_makes_no_sense_is_refused(self):
        with self.assertRaises(FramingRefused):
            HeldEdge(_SIZE, Axis.DOWN, 3.0, 17)
        with self.assertRaises(FramingRefused):
            replace(FRAMING, held=(HeldEdge(64, Axis.DOWN, 3.0, 17),))
        with self.assertRaises(FramingRefused):
            replace(FRAMING, held=tuple(HeldEdge(_SIZE, Axis.DOWN, 3.0, 3) for _ in range(MOST_HELD + 1)))
        told = Recipe(put(across(FRAMING)[0], 2)).as_json()
        told["framing"]["held_edges"][0]["axis"] = "sideways"
        with self.assertRaises(FramingRefused):
            Recipe.from_json(told)
