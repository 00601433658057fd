import json
import subprocess
import sys
import tempfile
from pathlib import Path
from unittest import TestCase, mock

from PIL import Image
from typer.testing import CliRunner

from bexi.cli import app
from bexi.server.demo.artwork import ferry_lockup
from tests.core.judging.logos import WORDS_ALONE
from tests.pictures import BLUE_DISC, decoded, encoded

HAIR = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 512 512">'
    b'<circle cx="256" cy="256" r="240" fill="none" stroke="#777" stroke-width="2"/></svg>'
)
"""A line too thin to be seen at any size."""


class CommandTestCase(TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.picture = self.folder / "logo.svg"
        self.picture.write_bytes(BLUE_DISC)

    def run_bexi(self, *arguments: object, answer: str | None = None):
        return CliRunner().invoke(app, [str(argument) for argument in arguments], input=answer)


class CommandTests(CommandTestCase):
    def test_build_writes_the_set(self):
        out = self.folder / "new/icons"
        result = self.run_bexi("build", self.picture, "--out", out, "--ground", "#ffeedd", "--json")
        self.assertEqual(result.exit_code, 0, result.output)
        told = json.loads(result.stdout)
        self.assertEqual(
            {*(file["name"] for file in told["files"]), "recipe.json"}, {path.name for path in out.iterdir()}
        )
        self.assertEqual(told["recipe"]["framing"]["ground"], "#ffeedd")
        self.assertEqual((out / "favicon.ico").stat().st_size, 15086)  # Microsoft, "Icons": see test_formats
        self.assertEqual(decoded((out / "icon-32.png").read_bytes())[0, 0].tolist(), [0xFF, 0xEE, 0xDD, 255])

    def test_build_says_in_the_manifest_what_it_is_told_and_again_from_its_recipe(self):
        first, again = self.folder / "first", self.folder / "again"
        said = ("--manifest", "display=standalone", "--manifest", "short_name=Blue = best")
        self.assertEqual(self.run_bexi("build", self.picture, "--out", first, *said).exit_code, 0)
        written = (first / "site.webmanifest").read_bytes()
        self.assertEqual(json.loads(written)["short_name"], "Blue = best")
        (first / "logo.svg").write_bytes(BLUE_DISC)
        result = self.run_bexi("build", first / "recipe.json", "--out", again)
        self.assertEqual((again / "site.webmanifest").read_bytes(), written, result.output)
        unknown = self.run_bexi("build", self.picture, "--out", self.folder, "--manifest", "scope=/")
        self.assertEqual(unknown.exit_code, 2)
        self.assertIn("“scope” is not set here", unknown.output.replace("\n", " "))

    def test_frame_is_respected(self):
        result = self.run_bexi("build", self.picture, "--out", self.folder, "--frame", "0,0,512")
        self.assertEqual(result.exit_code, 0, result.output)
        alpha = decoded((self.folder / "icon-192.png").read_bytes())[..., 3]
        self.assertGreater(alpha[96, 96], 0)
        self.assertEqual(alpha[0, 0], 0)

    def test_facts_as_json(self):
        (self.folder / "photo.ico").write_bytes(encoded(Image.new("RGB", (30, 20), "navy"), "JPEG"))
        facts = json.loads(self.run_bexi("facts", self.folder / "photo.ico", "--json").stdout)
        self.assertEqual((facts["format"], facts["width"], facts["height"]), ("JPEG", 30, 20))
        self.assertIn("renaming", facts["notes"][0]["sentence"])

    def test_facts_are_told_by_a_process_that_loads_nothing_to_read_pictures_with(self):
        told = (
            "import sys; sys.argv = ['bexi', 'facts', sys.argv[1]]; import bexi.__main__ as own\n"
            "try: own.main()\nfinally: print(sorted({'numpy', 'PIL'} & set(sys.modules)))"
        )
        command = [sys.executable, "-c", told, self.picture]
        said = subprocess.run(command, capture_output=True, text=True, check=True).stdout
        self.assertTrue(said.startswith("SVG, "), said)
        self.assertEqual(said.splitlines()[-1], "[]")

    def test_draw_letters_and_symbol(self):
        for arguments in (("letters", "MF", "--plate", "disc"), ("symbol", "anchor", "--stroke", "3")):
            out = self.folder / "drawn.svg"
            result = self.run_bexi("draw", *arguments, "--out", out, "--ink", "#aa1122", "--replace", "--json")
            self.assertEqual(result.exit_code, 0, result.output)
            self.assertEqual(json.loads(result.stdout), {"file": str(out), "bytes": out.stat().st_size})
            self.assertIn("#aa1122", out.read_text())
            self.assertEqual(self.run_bexi("facts", out).exit_code, 0)

    def test_bad_input_ends_with_2_and_one_sentence(self):
        (self.folder / "text.png").write_text("not a picture")
        for arguments in (
            ("build", self.folder / "text.png", "--out", self.folder),
            ("build", self.folder / "missing.png", "--out", self.folder),
            ("build", self.picture, "--out", self.folder, "--frame", "0,0,0"),
            ("build", self.picture, "--out", self.folder, "--ground", "plaid"),
            ("build", self.picture, "--out", self.picture),
            ("facts", self.folder / "text.png"),
            ("draw", "letters", "ABCD", "--out", self.picture),
            ("draw", "letters", "A", "--face", "none", "--out", self.picture),
            ("draw", "symbol", "boat", "--out", self.picture),
            ("draw", "symbol", "ship", "--ink", "red", "--out", self.picture),
        ):
            result = self.run_bexi(*arguments)
            self.assertEqual((result.exit_code, result.stdout), (2, ""), arguments)
            self.assertEqual(len(result.stderr.strip().splitlines()), 1, result.stderr)

    def test_help(self):
        for arguments in (("--help",), ("build", "--help"), ("facts", "--help")):
            self.assertIn("Usage", self.run_bexi(*arguments).stdout)


class SetCommandTests(CommandTestCase):
    def test_plans_and_single_files(self):
        plans = json.loads(self.run_bexi("plans", "--json").stdout)
        self.assertEqual(list(plans), ["short", "balanced", "whole"])
        out = self.folder / "one"
        only = ("--only", "icon-48.png", "--only", "favicon.ico")
        result = self.run_bexi("build", self.picture, "--out", out, "--plan", "whole", *only)
        self.assertEqual(result.exit_code, 0, result.output)
        self.assertEqual({path.name for path in out.iterdir()}, {"favicon.ico", "icon-48.png", "recipe.json"})
        for wrong in (("--plan", "grand"), ("--only", "icon-48.png"), ("--base", "icons")):
            self.assertEqual(self.run_bexi("build", self.picture, "--out", out, *wrong).exit_code, 2, wrong)

    def test_files_written_alone_are_those_of_the_whole_set(self):
        self.run_bexi("build", self.picture, "--out", self.folder / "whole")
        for name in ("site.webmanifest", "icon-512.png"):
            result = self.run_bexi("build", self.picture, "--out", self.folder / "one", "--only", name)
            self.assertEqual(result.exit_code, 0, result.output)
            self.assertEqual((self.folder / "one" / name).read_bytes(), (self.folder / "whole" / name).read_bytes())
        self.assertIn(b"/icon-512.png", (self.folder / "one/site.webmanifest").read_bytes())

    def test_a_recipe_is_not_written_over(self):
        self.run_bexi("build", self.picture, "--out", self.folder)
        recipe = (self.folder / "recipe.json").read_bytes()
        result = self.run_bexi("build", self.folder / "recipe.json", "--out", self.folder, "--plan", "short")
        self.assertEqual((result.exit_code, (self.folder / "recipe.json").read_bytes()), (0, recipe), result.output)

    def test_fit_makes_the_file_or_says_why_not(self):
        out = self.folder / "field.png"
        made = self.run_bexi("fit", self.picture, "--size", "64", "--max-kb", "5", "--out", out)
        self.assertEqual((made.exit_code, decoded(out.read_bytes()).shape), (0, (64, 64, 4)), made.output)
        refused = self.run_bexi("fit", self.picture, "--size", "64", "--max-kb", "0.01", "--out", out)
        self.assertEqual(refused.exit_code, 2)
        self.assertIn("the smallest PNG of this icon takes", refused.stderr)

    def test_compare_ends_with_1_when_sets_differ(self):
        for name, ground in (("a", "#ffffff"), ("b", "#ffffff"), ("c", "#000000")):
            self.run_bexi("build", self.picture, "--out", self.folder / name, "--plan", "short", "--ground", ground)
        same = self.run_bexi("compare", self.folder / "a", self.folder / "b")
        self.assertEqual(same.exit_code, 0, same.output)
        other = self.run_bexi("compare", self.folder / "a", self.folder / "c", "--json")
        self.assertEqual(other.exit_code, 1)
        told = {one["name"]: one for one in json.loads(other.stdout)}
        self.assertEqual(told["icon-192.png"]["pictures"][0]["largest"], 255)
        self.assertEqual(self.run_bexi("compare", self.folder / "a", self.folder / "nothing").exit_code, 2)


class JudgeTests(CommandTestCase):
    def setUp(self):
        super().setUp()
        self.lockup = self.folder / "lockup.svg"
        self.lockup.write_bytes(ferry_lockup())

    def test_judge_as_json(self):
        result = self.run_bexi("judge", self.lockup, "--size", 16, "--size", 180, "--name", "Merrow Ferry", "--json")
        self.assertEqual(result.exit_code, 0, result.output)
        small, home = json.loads(result.stdout)["sizes"]
        self.assertEqual((small["size"], small["verdict"], small["because"]), (16, "lost", "lettering"))
        read = {"stroke_px", "gap_px", "lettering_px", "contrast", "structure", "ink"}
        self.assertLessEqual(read, set(small["readings"]))
        first = small["ways_out"][0]
        self.assertEqual((first["kind"], first["verdict"]), ("emblem", "well"))
        self.assertTrue(first["gain"])
        self.assertEqual(len(first["framing"]["frame"]), 3)
        self.assertEqual(home["verdict"], "hard")
        letters = next(way["letters"] for way in small["ways_out"] if way["kind"] == "letters")
        self.assertEqual((letters["text"], letters["face"]), ("MF", "rubik"))

    def test_judge_on_grounds_of_one_s_own_and_of_a_recipe(self):
        result = self.run_bexi(
            "judge", self.lockup, "--size", 16, "--ground", "#123f59", "--frame", "27,27,566", "--json"
        )
        contrast = json.loads(result.stdout)["sizes"][0]["readings"]["contrast"]
        self.assertEqual(list(contrast), ["#123f59"])
        out = self.folder / "icons"
        self.run_bexi("build", self.lockup, "--out", out, "--plan", "short", "--frame", "27,27,566")
        (out / "lockup.svg").write_bytes(ferry_lockup())
        told = self.run_bexi("judge", out / "recipe.json", "--size", 16)
        self.assertIn("16 px  clear", told.stdout)
        self.assertEqual(self.run_bexi("judge", self.lockup, "--ground", "sky").exit_code, 2)

    def test_fit_takes_the_best_proposal(self):
        out, whole = self.folder / "best.png", self.folder / "whole.png"
        self.assertEqual(self.run_bexi("fit", self.lockup, "--size", 32, "--out", out, "--propose").exit_code, 0)
        self.assertEqual(self.run_bexi("fit", self.lockup, "--size", 32, "--out", whole).exit_code, 0)
        seen = [int((decoded(file.read_bytes())[..., 3] > 127).sum()) for file in (out, whole)]
        self.assertGreater(seen[0], 2 * seen[1])  # the emblem fills the square, the words beside it do not
        again = self.run_bexi("fit", self.lockup, "--size", 32, "--out", out, "--propose", "--frame", "0,0,9")
        self.assertEqual(again.exit_code, 2)

    def test_small_icons_are_by_hand_unless_they_shall_be_plain(self):
        frame = ("--frame", "27,27,566")
        icons, recipes = [], []
        for folder, plain in (("hand", ()), ("plain", ("--plain",))):
            out = self.folder / folder
            self.assertEqual(self.run_bexi("build", self.lockup, "--out", out, *frame, *plain).exit_code, 0)
            icons.append((out / "icon-32.png").read_bytes())
            recipes.append(json.loads((out / "recipe.json").read_text())["recipe"]["framing"]["by_hand_px"])
            one = self.folder / f"{folder}.png"
            self.assertEqual(self.run_bexi("fit", self.lockup, "--size", 32, "--out", one, *frame, *plain).exit_code, 0)
            self.assertTrue((decoded(one.read_bytes()) == decoded(icons[-1])).all())
        self.assertNotEqual(*icons)
        self.assertEqual(recipes, [[16, 24, 32, 48], []])
        judged = self.run_bexi("judge", self.lockup, *frame, "--size", 16, "--plain", "--json")
        self.assertEqual(judged.exit_code, 0, judged.output)

    def test_judge_draws_its_stages(self):
        told = self.run_bexi("judge", self.lockup, "--size", 16, "--stages", self.folder / "stages")
        self.assertEqual(told.exit_code, 0, told.output)
        self.assertEqual(len(list((self.folder / "stages").glob("*.png"))), 6)

    def test_propose(self):
        result = self.run_bexi("propose", self.lockup, "--json")
        first = json.loads(result.stdout)["proposals"][0]
        self.assertEqual((first["kind"], set(first["verdicts"])), ("emblem", {"16", "32", "180"}))
        self.assertEqual(len(first["framing"]["frame"]), 3)
        self.assertIn("emblem", self.run_bexi("propose", self.lockup).stdout.splitlines()[0])

    def test_build_refuses_what_is_lost_and_takes_the_best_proposal(self):
        out = self.folder / "icons"
        refused = self.run_bexi("build", self.lockup, "--out", out, "--plan", "short", "--judge")
        self.assertEqual((refused.exit_code, out.exists()), (3, False), refused.output)
        self.assertIn("lost: letter height", refused.stderr)
        built = self.run_bexi("build", self.lockup, "--out", out, "--plan", "short", "--propose", "--judge")
        self.assertEqual(built.exit_code, 0, built.output)
        self.assertTrue((out / "favicon.ico").exists())
        filled = self.run_bexi("build", self.lockup, "--out", out, "--propose", "--ground", "#ffeedd")
        self.assertEqual(filled.exit_code, 0, filled.output)
        self.assertEqual(decoded((out / "icon-32.png").read_bytes())[0, 0].tolist(), [0xFF, 0xEE, 0xDD, 255])
        twice = self.run_bexi("build", self.lockup, "--out", out, "--propose", "--frame", "0,0,9")
        self.assertEqual(twice.exit_code, 2)

    def test_a_name_from_right_to_left_begins_at_the_right(self):
        sign = self.folder / "sign.svg"
        sign.write_bytes(WORDS_ALONE)
        lefts = []
        for name in ("Quayside", "מגדלור"):
            told = json.loads(self.run_bexi("propose", sign, "--json", "--name", name).stdout)["proposals"]
            lefts.append(
                next(one["framing"]["frame"]["x_px"] for one in told if one["kind"].startswith("first letter"))
            )
        self.assertLess(lefts[0], lefts[1] - 100)

    def test_a_file_s_name_is_no_site_s_name(self):
        sign = self.folder / "0 quay.svg"
        sign.write_bytes(WORDS_ALONE)
        self.assertTrue(self.run_bexi("propose", sign).stdout.startswith("first letter on a plate: "))
        sign.write_bytes(HAIR)
        unnamed = self.run_bexi("propose", sign)
        self.assertNotIn("letters", unnamed.stdout)
        self.assertIn("--name", unnamed.stderr)
        named = self.run_bexi("propose", sign, "--name", "Quayside Books")
        self.assertTrue(named.stdout.startswith("letters"), named.stdout)
        self.assertNotIn("--name", named.stderr)

    def test_build_where_nothing_else_is_told_writes_the_letters_it_drew(self):
        sign, out = self.folder / "sign.svg", self.folder / "icons"
        sign.write_bytes(HAIR)
        built = self.run_bexi("build", sign, "--out", out, "--plan", "short", "--propose", "--name", "Quayside Books")
        self.assertEqual(built.exit_code, 0, built.output)
        again = self.run_bexi("build", out / "recipe.json", "--out", self.folder / "again")
        self.assertEqual(again.exit_code, 0, again.output)
        self.assertEqual((out / "favicon.ico").read_bytes(), (self.folder / "again/favicon.ico").read_bytes())


class KeepingTests(CommandTestCase):
    """What is the person's stays, unless they say otherwise."""

    def refused(self, *arguments: object, sentence: str) -> None:
        before = {path: path.read_bytes() for path in self.folder.rglob("*") if path.is_file()}
        result = self.run_bexi(*arguments)
        self.assertEqual(result.exit_code, 2, result.output)
        self.assertIn(sentence, result.stderr)
        now = {path: path.read_bytes() for path in self.folder.rglob("*") if path.is_file()}
        self.assertEqual(now, before)

    def test_the_picture_being_read_is_never_replaced(self):
        own = self.folder / "icon.svg"
        own.write_bytes(self.picture.read_bytes() + b"<!-- mine -->")
        for more in ((), ("--replace",)):
            self.refused("build", own, "--out", self.folder, *more, sentence="is what this is built from")
            self.refused("fit", own, "--out", own, "--size", "32", *more, sentence="is what this is built from")
        self.assertEqual(self.run_bexi("build", own, "--out", self.folder / "icons").exit_code, 0)
        (self.folder / "icons/recipe.json").replace(self.folder / "recipe.json")
        self.refused(
            "build",
            self.folder / "recipe.json",
            "--out",
            self.folder,
            "--replace",
            sentence="is what this is built from",
        )

    def test_files_that_no_build_has_written_are_only_replaced_when_asked_for(self):
        out = self.folder / "icons"
        out.mkdir()
        (out / "favicon.ico").write_bytes(b"mine")
        self.refused("build", self.picture, "--out", out, sentence="1 file that Bexi did not write: favicon.ico")
        self.refused("fit", self.picture, "--out", out / "favicon.ico", "--size", "32", sentence="--replace")
        with mock.patch("bexi.cli.keeping.is_at_terminal", return_value=True):
            no = self.run_bexi("build", self.picture, "--out", out, answer="n\n")
            self.assertEqual((no.exit_code, (out / "favicon.ico").read_bytes()), (2, b"mine"))
            none = self.run_bexi("build", self.picture, "--out", out)
            self.assertEqual((none.exit_code, "Aborted" in none.output), (2, False))
            yes = self.run_bexi("build", self.picture, "--out", out, answer="y\n")
        self.assertEqual((yes.exit_code, (out / "favicon.ico").read_bytes()[:4]), (0, b"\0\0\1\0"))
        again = self.run_bexi("build", self.picture, "--out", out, "--ground", "#ffeecc")
        self.assertEqual(again.exit_code, 0, again.output)  # all of it is ours

    def test_a_recipe_that_was_tuned_by_hand_stays(self):
        out = self.folder / "icons"
        self.run_bexi("build", self.picture, "--out", out)
        tuned = (out / "recipe.json").read_text().replace('"site"', '"site" ')
        (out / "recipe.json").write_text(tuned)
        self.refused("build", self.picture, "--out", out, "--ground", "#ffeecc", sentence="recipe.json")
        replaced = self.run_bexi("build", self.picture, "--out", out, "--ground", "#ffeecc", "--replace")
        self.assertEqual(replaced.exit_code, 0, replaced.output)

    def test_verdicts_come_with_the_json(self):
        told = json.loads(self.run_bexi("build", self.picture, "--out", self.folder / "a", "--judge", "--json").stdout)
        self.assertEqual({one["size"] for one in told["verdicts"]} & {16, 180}, {16, 180})
        self.assertNotIn(
            "verdicts", json.loads(self.run_bexi("build", self.picture, "--out", self.folder / "a", "--json").stdout)
        )

    def test_a_member_of_the_manifest_without_a_value_is_refused(self):
        self.refused(
            "build", self.picture, "--out", self.folder / "a", "--manifest", "display", sentence="has no value"
        )
