"""`bexi check` and `bexi visit` against the stand-in host."""

import json
from unittest import mock

from bexi.standin.host import LOOPBACK, PORTS, running
from bexi.standin.sites import reset
from bexi.web.visiting import visiting
from tests.pictures import plain_png
from tests.ports import free_port_range
from tests.test_cli import CommandTestCase


class CheckCommandTests(CommandTestCase):
    def setUp(self):
        super().setUp()
        self.served = self.folder / "sites"
        reset(self.served)
        self.port = free_port_range(PORTS)
        context = running(self.served, self.port)
        context.__enter__()
        self.addCleanup(context.__exit__, None, None, None)

    def address(self, offset: int) -> str:
        return f"http://{LOOPBACK}:{self.port + offset}/"

    def check(self, *arguments: object, expected: int) -> dict:
        result = self.run_bexi("check", *arguments, "--json")
        self.assertEqual(result.exit_code, expected, result.output)
        return json.loads(result.stdout)

    def test_what_each_visitor_takes_and_until_when(self):
        said = self.check(self.address(3), expected=1)
        home = said["pages"][0]
        self.assertTrue(home["taken"]["blink"]["address"].endswith("/pics/flag.gif"))
        self.assertTrue(home["taken"]["gecko"]["address"].endswith("/favicon.ico"))
        self.assertIsNone(home["taken"]["home-screen"]["address"])
        self.assertEqual([one["kind"] for one in home["declared"]], ["icon", "icon"])
        self.assertIn("Not an ICO", [one["what"] for one in said["findings"]])
        self.assertEqual(set(said["seen"]), {"first-visit", "hour", "day", "week"})
        self.assertRegex(said["certain_from"], r"^20\d\d-\d\d-\d\dT")  # a year after the file was changed

    def test_a_set_that_is_served_as_it_was_built_is_well(self):
        icons, site = self.folder / "icons", self.served / "merrowmouth"
        self.run_bexi("build", self.picture, "--out", icons, "--plan", "balanced")
        self.assertEqual(self.run_bexi("install", icons, "--to", site, "--yes").exit_code, 0)
        said = self.check(self.address(1), "--installed", icons, "--pages", 3, expected=0)
        self.assertEqual((len(said["pages"]), said["findings"]), (3, []))
        self.assertGreater(said["not_looked_at"]["pages"], 2)
        self.assertTrue(all(one["as_installed"] for one in said["files"] if one["as_installed"] is not None))
        self.assertIn("No problems found.", self.run_bexi("check", self.address(1)).stdout)
        (icons / "letters.svg").write_bytes(b"what it was drawn from")
        (icons / "where-files-go.txt").write_bytes(b"a note")
        self.check(self.address(1), "--installed", icons, expected=0)
        (site / "icon.svg").write_bytes(plain_png())
        said = self.check(self.address(1), "--installed", icons, expected=1)
        self.assertIn("File not as installed", [one["what"] for one in said["findings"]])

    def test_sites_with_faults(self):
        told = {}
        for offset in (4, 5):
            for one in self.check(self.address(offset), expected=1)["findings"]:
                told[one["what"]] = one["evidence"]
        self.assertIn("text/html", told["A page instead of an icon"])
        self.assertIn("text/plain", told["SVG served with a wrong type"])

    def test_what_cannot_be_looked_at_and_wrong_words(self):
        for arguments, sentence in (
            (("http://127.0.0.1:9/",), "cannot be looked at"),
            (("ftp://merrowmouth.example/",), "cannot be looked at"),
            ((self.address(1), "--clock", "soon"), "+7d"),
            ((self.address(1), "--installed", self.folder / "none.txt" / "x"), "There is no folder"),
            ((self.address(1), "--installed", self.folder / "empty"), "contains no icon set"),
            ((self.address(1), "--installed", self.folder / "foreign"), "contains no icon set"),
        ):
            for name, files in (("empty", ()), ("foreign", ("notes.txt",))):
                (self.folder / name).mkdir(exist_ok=True)
                for file in files:
                    (self.folder / name / file).write_text("mine")
            with mock.patch("bexi.cli.check.visiting", wraps=visiting) as visited:
                result = self.run_bexi("check", *arguments)
            self.assertEqual(visited.called, "cannot be looked at" in sentence)  # nothing is asked in vain
            self.assertNotRegex(result.stderr, r"Error|\.\.$")
            self.assertEqual(result.exit_code, 2, result.output)
            self.assertIn(sentence, result.stderr)

    def test_a_visitor_comes_back_by_a_clock_that_is_moved_on(self):
        icon, profile = self.served / "merrowmouth/favicon.ico", self.folder / "profile.json"
        icon.write_bytes(plain_png(16, 16, "#aa0000"))
        visit = ("visit", self.address(1), "--profile", profile, "--json")
        self.assertEqual(json.loads(self.run_bexi(*visit).stdout)["blink"]["state"], "new")
        icon.write_bytes(plain_png(16, 16, "#0000aa"))
        states = [
            json.loads(self.run_bexi(*visit, "--clock", clock).stdout)["blink"]["state"]
            for clock in ("+2h", "+6d", "+8d", "+9d")
        ]
        self.assertEqual(states, ["old", "old", "new", "new"])
        private = self.run_bexi("visit", self.address(1))
        self.assertIn("uses /favicon.ico", private.stdout)
        profile.write_text("{}")
        self.assertIn("not a profile", self.run_bexi(*visit).stderr)

    def test_from_an_address_alone_to_a_set(self):
        drawing = '<svg viewBox="0 0 90 90"><rect width="90" height="90"/></svg>'
        mark = f'<header><a class="logo" href="/">{drawing}</a></header>'
        home = self.served / "tide" / "index.html"
        home.write_text(home.read_text().replace("<body>", f"<body>{mark}"))
        out = self.folder / "icons"
        result = self.run_bexi("start", self.address(4), "--out", out)
        self.assertEqual(result.exit_code, 0, result.output)
        self.assertIn("Tide tables", result.stdout)
        self.assertIn("Problems with its current icons:", result.stdout)
        self.assertIn("a drawing in the page (drawn and named like a logo)", result.stdout)
        self.assertIn("<rect", (out / "logo.svg").read_text())
        self.assertEqual(json.loads((out / "recipe.json").read_text())["site"], "Tide tables")
        nothing = self.run_bexi("start", f"http://{LOOPBACK}:{free_port_range(1)}/", "--out", out)
        self.assertEqual(nothing.exit_code, 2)
        self.assertIn("cannot be looked at", nothing.stderr)
        self.assertNotIn("..", nothing.stderr)
