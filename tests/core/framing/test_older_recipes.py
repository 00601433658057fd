"""Recipes as earlier versions of Bexi wrote them, word for word."""

from unittest import TestCase

from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.errors import FramingRefused
from bexi.core.framing.cut import Cut
from bexi.core.framing.finish import Finish
from bexi.core.framing.frame import Frame
from bexi.core.framing.hand.held import Axis, HeldEdge
from bexi.core.framing.hand.steps import HandStep, StepAt
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Own, Recipe
from bexi.core.pixels.colour import WHITE, Colour

PLAIN = {
    "frame": [12, -40, 616],
    "ground": "clear",
    "home_ground": "#16302a",
    "plate": ["rounded", "#ffcc00", 22, 4],
    "artwork": None,
    "finish": [2, 6, "#ffffff", None],
}
DARK = Colour(0x16, 0x30, 0x2A)
READ = Framing(
    Frame(12, -40, 616), None, DARK, Plate(PlateShape.ROUNDED, Colour(255, 204, 0), 22, 4), finish=Finish(2, 6)
)


class OlderRecipeTests(TestCase):
    def test_version_1_said_home_instead_of_a_purpose(self):
        own = [{"smallest": 1, "largest": 32, "home": home, "framing": PLAIN} for home in (True, False)]
        told = Recipe.from_json({"version": 1, "framing": PLAIN, "own": own})
        self.assertEqual(told, Recipe(READ, (Own(READ, 1, 32, Purpose.HOME), Own(READ, 1, 32, Purpose.TAB))))

    def test_version_2_has_neither_weight_nor_cut(self):
        own = [{"smallest": 16, "largest": 16, "purpose": "masked", "framing": {**PLAIN, "artwork": "7"}}]
        (one,) = Recipe.from_json({"version": 2, "framing": PLAIN, "own": own}).own
        self.assertEqual((one.purpose, one.framing.artwork), (Purpose.MASKED, "7"))

    def test_version_3(self):
        framing = {**PLAIN, "ground": "#ffffff", "finish": [0, 0, "#000000", "#aa0022", -3], "cut": [1, 2, 30, 40]}
        told = Recipe.from_json({"version": 3, "framing": framing, "own": []}).framing
        self.assertEqual((told.ground, told.cut), (WHITE, Cut(1, 2, 30, 40)))
        self.assertEqual(told.finish, Finish(0, 0, Colour(0, 0, 0), Colour(0xAA, 0, 0x22), -3))

    def test_version_4_draws_nothing_by_hand(self):
        told = {**Recipe(READ, (Own(READ, 1, 32),)).as_json(), "version": 4}
        for framing in (told["framing"], told["own"][0]["framing"]):
            del framing["by_hand_px"]
        recipe = Recipe.from_json(told)
        self.assertEqual([one.by_hand for one in recipe.framings], [(), ()])
        self.assertEqual(Recipe.from_json({**recipe.as_json(), "own": []}).framing, READ)

    def test_up_to_version_6_a_hand_does_nothing_but_move_edges(self):
        told = Recipe(Framing(Frame(0, 0, 8), by_hand=(16,), held=(HeldEdge(16, Axis.DOWN, 2.5, 3),))).as_json()
        del told["framing"]["hand_steps"]
        (framing,) = Recipe.from_json({**told, "version": 6}).framings
        self.assertEqual((framing.by_hand, len(framing.held), framing.steps), ((16,), 1, ()))

    def test_up_to_version_7_ground_inside_ink_stays(self):
        told = Recipe(Framing(Frame(0, 0, 8), lift=0.1, by_hand=(16,), steps=(StepAt(16, HandStep.WIDEN),))).as_json()
        del told["framing"]["lift_inside"]
        (framing,) = Recipe.from_json({**told, "version": 7}).framings
        self.assertEqual((framing.lift, framing.lift_inside, len(framing.steps)), (0.1, False, 1))

    def test_what_is_written_now_is_version_8_and_the_same(self):
        recipe = Recipe.from_json({"version": 2, "framing": PLAIN})
        self.assertEqual(recipe.as_json()["version"], 8)
        self.assertEqual(Recipe.from_json(recipe.as_json()), recipe)

    def test_what_is_no_recipe_is_refused(self):
        for change in (
            {"framing": 3},
            {"framing": {**PLAIN, "frame": [1, 2]}},
            {"framing": {**PLAIN, "plate": ["star"]}},
            {"framing": {**PLAIN, "finish": 3}},
            {"framing": {**PLAIN, "cut": [1, 2, 3]}},
            {"own": [{}]},
            {"own": 7},
        ):
            with self.subTest(change), self.assertRaises(FramingRefused):
                Recipe.from_json({"version": 3, "framing": PLAIN, **change})
