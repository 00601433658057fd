import json
import tempfile
from pathlib import Path
from unittest import TestCase

from PIL import Image
from typer.testing import CliRunner

from bexi.cli import app
from tests.pictures import BLUE_DISC, decoded, encoded


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

    def test_draw_letters_and_symbol(self):
        for arguments in (("letters", "MF", "--plate", "disc"), ("symbol", "anchor", "--stroke", "3")):
            out = self.folder / "drawn.svg"
            result = self.run_bexi("draw", *arguments, "--out", out, "--ink", "#aa1122")
            self.assertEqual(result.exit_code, 0, result.output)
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
