import json
import tempfile
from pathlib import Path
from unittest import TestCase

from PIL import Image
from typer.testing import CliRunner

from bexi.cli import app
from tests.pictures import BLUE_DISC, decoded, encoded


class CommandTests(TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.picture = self.folder / "logo.svg"
        self.picture.write_bytes(BLUE_DISC)

    def run_bexi(self, *arguments: object):
        return CliRunner().invoke(app, [str(argument) for argument in arguments])

    def test_build_writes_the_set(self):
        out = self.folder / "new/icons"
        result = self.run_bexi("build", self.picture, "--out", out, "--ground", "#ffeedd", "--json")
        self.assertEqual(result.exit_code, 0, result.output)
        told = json.loads(result.stdout)
        self.assertEqual({file["name"] for file in told["files"]}, {path.name for path in out.iterdir()})
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
