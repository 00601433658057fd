"""Every command and example that the documentation shows is run; every link leads somewhere."""

import contextlib
import json
import os
import re
import shlex
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from unittest import TestCase, mock

import httpx
import jsonschema
from django.conf import settings
from typer.testing import CliRunner

from bexi.cli import app
from bexi.server import running
from bexi.standin.host import PORTS
from bexi.standin.host import running as standin
from bexi.standin.sites import reset
from docs.make import make
from tests.pictures import BLUE_DISC
from tests.ports import free_port_range

PAGES = settings.REPOSITORY / "docs" / "pages"
FORMATS = settings.REPOSITORY / "docs" / "formats"
OF_THE_SERVER = ("serve", "demo", "work", "user", "key", "backup", "restore")
BIN = Path(sys.executable).parent
PAGE = "<!doctype html>\n<html>\n<head>\n<title>Merrowmouth</title>\n</head>\n<body></body>\n</html>\n"


def blocks(kind: str) -> list[tuple[str, str]]:
    """The fenced blocks of a kind, with the name of their page."""
    found = []
    for page in sorted(PAGES.rglob("*.md")):
        fenced = re.findall(rf"^```{kind}\n(.*?)^```", page.read_text(), re.MULTILINE | re.DOTALL)
        found += [(str(page.relative_to(PAGES)), block) for block in fenced]
    return found


class ExamplesTests(TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.start_afresh()
        own = {"BEXI_DATA": str(self.folder / "data"), "XDG_STATE_HOME": str(self.folder / "state")}
        self.environment = {**os.environ, **own, "PATH": f"{BIN}{os.pathsep}{os.environ['PATH']}"}
        for name in ("DJANGO_SETTINGS_MODULE", "BEXI_SECRET", "BEXI_TRUST"):
            self.environment.pop(name, None)

    def start_afresh(self) -> None:
        for name in ("logo.svg", "wide-logo.svg"):
            (self.folder / name).write_bytes(BLUE_DISC)
        (self.folder / "page.html").write_text(PAGE)
        site = self.folder / "site"
        site.mkdir(exist_ok=True)
        (site / "index.html").write_text(PAGE)

    def test_every_command_works_as_shown(self):
        for page, block in blocks("sh"):
            self.start_afresh()
            for line in block.strip().splitlines():
                code, said = self.run_line(line)
                if line == "bexi serve --check":  # says here that no worker runs
                    self.assertIn("worker: it is not running", said)
                else:
                    self.assertEqual(code, 0, f"{page}: {line}\n{said}")
        self.assertEqual((self.folder / "site" / "index.html").read_text(), PAGE)

    def run_line(self, line: str) -> tuple[int, str]:
        """The exit code of a command, and what it said. One that needs no server runs here, many times faster."""
        command, *arguments = shlex.split(line)
        if command == "bexi" and arguments[0] not in OF_THE_SERVER:
            with contextlib.chdir(self.folder), mock.patch.dict(os.environ, self.environment, clear=True):
                told = CliRunner().invoke(app, arguments)
            return told.exit_code, told.output
        done = subprocess.run(line, shell=True, cwd=self.folder, env=self.environment, capture_output=True, text=True)
        return done.returncode, done.stdout + done.stderr

    def test_commands_for_elsewhere_are_ones_that_exist(self):
        for page, block in blocks("sh example"):
            for line in block.strip().splitlines():
                if line.startswith("bexi "):
                    name, *rest = line.split()[1:]
                    told = CliRunner().invoke(app, [name, "--help"]).output
                    for option in (word for word in rest if word.startswith("--")):
                        self.assertIn(option, told, f"{page}: {line}")

    def test_servers_start_and_end(self):
        lines = [block.strip() for _, block in blocks("sh server")]
        self.assertEqual(lines, ["bexi serve", "bexi demo"])
        port = free_port_range(1)
        process = subprocess.Popen(
            f"exec bexi serve --no-browser --port {port}", shell=True, env=self.environment, stdout=subprocess.DEVNULL
        )
        try:
            end = time.monotonic() + 180  # a machine may have other work
            while process.poll() is None and running.taken("127.0.0.1", [port]) == [] and time.monotonic() < end:
                time.sleep(0.2)
            time.sleep(1)
            page = httpx.get(f"http://127.0.0.1:{port}/docs/index.html", trust_env=False, timeout=60)
            self.assertIn("What Bexi is for", page.text)
            self.assertIn("script-src", page.headers["content-security-policy"])
        finally:
            process.send_signal(signal.SIGINT)
            process.wait(30)

    def test_every_example_in_python_runs(self):
        for page, block in blocks("python"):
            done = subprocess.run([sys.executable, "-c", block], cwd=self.folder, capture_output=True, text=True,
                                  env={**self.environment, "PYTHONPATH": str(settings.REPOSITORY)})  # fmt: skip
            self.assertEqual(done.returncode, 0, f"{page}\n{done.stderr}")
        self.assertIn('rel="icon"', (self.folder / "page.html").read_text())
        self.assertGreater(len(list(self.folder.glob("*.png"))), 3)

    def test_the_formats_are_as_described(self):
        """Validated by jsonschema, an implementation of JSON Schema draft 2020-12."""
        for line in ("bexi draw letters MF --out m.svg", "bexi build m.svg --out icons --plan whole --propose"):
            self.assertEqual(self.run_line(line)[0], 0)
        for name, told in (
            ("recipe", (self.folder / "icons" / "recipe.json").read_text()),
            ("report", self.report()),
        ):
            schema = json.loads((FORMATS / f"{name}.schema.json").read_text())
            jsonschema.Draft202012Validator.check_schema(schema)
            jsonschema.Draft202012Validator(schema).validate(json.loads(told))

    def report(self) -> str:
        """Of the site as the stand-in host serves it."""
        served, port = self.folder / "sites", free_port_range(PORTS)
        reset(served)
        with standin(served, port):
            command = [BIN / "bexi", "check", f"http://127.0.0.1:{port + 1}/", "--json"]
            return subprocess.run(command, env=self.environment, capture_output=True, text=True).stdout


class SiteTests(TestCase):
    def test_every_link_leads_somewhere_and_nothing_comes_from_elsewhere(self):
        with tempfile.TemporaryDirectory() as folder:
            target = Path(folder) / "docs"
            make(target)  # strict: a link between pages that leads nowhere fails
            pages = list(target.rglob("*.html"))
            self.assertGreater(len(pages), 20)
            for page in pages:
                html = page.read_text()
                self.assertEqual(re.findall(r"<script|src=\"https?:|href=\"https?:[^\"]*\.css", html), [], page.name)
                for place in re.findall(r'(?:src|href)="([^":#]+)["#]', html):
                    self.assertTrue((page.parent / place).exists(), f"{page.name}: {place}")
            commands = (target / "reference" / "commands.html").read_text()
            self.assertIn("bexi user add", commands)
            unit = next(block for _, block in blocks("ini systemd"))
            self.assertIn("ExecStart=/opt/bexi/bin/bexi serve", unit)
