"""The stage's geometry: the front end's own functions, run by Node on random cases, and their laws checked here."""

import json
import random
import subprocess
import tempfile
from pathlib import Path
from unittest import TestCase

from django.conf import settings

FRONTEND = settings.REPOSITORY / "frontend"
GRIPS = ("nw", "n", "ne", "e", "se", "s", "sw", "w")


def answers(cases: list[list]) -> list:
    """What the functions answer to each case."""
    script = Path(__file__).with_name("geometry.mjs")
    with tempfile.TemporaryDirectory() as out:
        command = ["node", str(script), str(FRONTEND), out]
        result = subprocess.run(command, input=json.dumps(cases), capture_output=True, text=True, check=False)
    if result.returncode:
        raise RuntimeError(result.stderr)
    return json.loads(result.stdout)


class GeometryTests(TestCase):
    @classmethod
    def setUpClass(cls):
        dice = random.Random(12)

        def frame() -> dict:
            return {"x": dice.randint(-500, 2000), "y": dice.randint(-500, 2000), "side": dice.randint(1, 1500)}

        def step() -> float:
            return dice.uniform(-900, 900)

        facts = {"width": 1240, "height": 620, "ink": {"left": 46, "top": 46, "right": 1200, "bottom": 574}}
        cls.cases = [
            *(["moved", frame(), step(), step()] for _ in range(200)),
            *(["resized", frame(), dice.choice(GRIPS), step(), step()] for _ in range(400)),
            *(["snapped", frame(), facts, dice.uniform(0, 30)] for _ in range(400)),
            *(["snappedSide", frame(), dice.choice(GRIPS), facts, dice.uniform(0, 30)] for _ in range(400)),
            *(["drawn", {"x": step(), "y": step()}, {"x": step(), "y": step()}] for _ in range(200)),
            *(["grown", frame(), dice.randint(-2000, 2000)] for _ in range(100)),
            *(["withMargin", frame(), dice.randint(0, 40)] for _ in range(200)),
            *(
                [
                    "zoomed",
                    {"scale": dice.uniform(0.1, 4), "x": step(), "y": step()},
                    dice.uniform(0.5, 2),
                    step(),
                    step(),
                ]
                for _ in range(100)
            ),
        ]
        cls.results = answers(cls.cases)

    def of(self, name: str) -> list[tuple[list, dict]]:
        return [(case[1:], result) for case, result in zip(self.cases, self.results, strict=True) if case[0] == name]

    def test_every_frame_is_a_square_of_whole_pixels(self):
        for case, result in zip(self.cases, self.results, strict=True):
            if case[0] == "zoomed":
                continue
            frame = result["frame"] if case[0].startswith("snapped") else result
            self.assertEqual(set(frame), {"x", "y", "side"})
            self.assertTrue(all(isinstance(value, int) for value in frame.values()), case)
            self.assertTrue(1 <= frame["side"] <= 100_000)

    def test_moving_keeps_the_side(self):
        for (frame, dx, dy), result in self.of("moved"):
            self.assertEqual(result["side"], frame["side"])
            self.assertLessEqual(abs(result["x"] - frame["x"] - dx), 0.5)
            self.assertLessEqual(abs(result["y"] - frame["y"] - dy), 0.5)

    def test_resizing_keeps_the_opposite_corner_or_edge_in_place(self):
        for (frame, grip, _, _), result in self.of("resized"):
            for axis, low, high in (("x", "w", "e"), ("y", "n", "s")):
                start, end = frame[axis], frame[axis] + frame["side"]
                if high in grip:
                    self.assertEqual(result[axis], start)
                elif low in grip:
                    self.assertEqual(result[axis] + result["side"], end)
                else:
                    self.assertAlmostEqual(result[axis] + result["side"] / 2, (start + end) / 2, delta=0.5)

    def test_a_caught_frame_lies_on_its_guides_and_moved_no_further_than_the_reach(self):
        caught = 0
        for (frame, _, reach), result in self.of("snapped"):
            for axis in ("x", "y"):
                moved = result["frame"][axis]
                self.assertLessEqual(abs(moved - frame[axis]), reach + 0.5)
                line = result["guides"].get(axis)
                if line is None:
                    self.assertEqual(moved, frame[axis])
                    continue
                caught += 1
                edges = (moved, moved + frame["side"] / 2, moved + frame["side"])
                self.assertLessEqual(min(abs(edge - line) for edge in edges), 0.5)
        self.assertGreater(caught, 50)

    def test_a_caught_edge_lies_on_its_guide_and_what_stays_in_place_stays(self):
        caught = 0
        for (frame, grip, _, reach), result in self.of("snappedSide"):
            new = result["frame"]
            self.assertLessEqual(abs(new["side"] - frame["side"]), reach + 1)
            for axis, low, high in (("x", "w", "e"), ("y", "n", "s")):
                if high in grip:
                    self.assertEqual(new[axis], frame[axis])
                elif low in grip:
                    self.assertEqual(new[axis] + new["side"], frame[axis] + frame["side"])
                line = result["guides"].get(axis)
                if line is not None and new["side"] > 1:
                    caught += 1
                    edge = new[axis] + (new["side"] if high in grip else 0)
                    self.assertLessEqual(abs(edge - line), 0.5)
        self.assertGreater(caught, 20)

    def test_a_drawn_frame_begins_where_the_pointer_went_down(self):
        for (start, end), frame in self.of("drawn"):
            self.assertAlmostEqual(
                frame["side"], max(abs(end["x"] - start["x"]), abs(end["y"] - start["y"]), 1), delta=0.5
            )
            for axis in ("x", "y"):
                begun = frame[axis] + (frame["side"] if end[axis] < start[axis] else 0)
                self.assertAlmostEqual(begun, start[axis], delta=1)

    def test_a_margin_is_added_around_the_same_middle(self):
        for (frame, margin), result in self.of("withMargin"):
            self.assertAlmostEqual(result["side"] * (1 - 2 * margin / 100), frame["side"], delta=1)
            self.assertAlmostEqual(result["x"] + result["side"] / 2, frame["x"] + frame["side"] / 2, delta=1)

    def test_zooming_keeps_the_point_under_the_pointer(self):
        for (view, _, x, y), result in self.of("zoomed"):
            before = ((x - view["x"]) / view["scale"], (y - view["y"]) / view["scale"])
            after = ((x - result["x"]) / result["scale"], (y - result["y"]) / result["scale"])
            for one, other in zip(before, after, strict=True):
                self.assertAlmostEqual(one, other, places=6)
