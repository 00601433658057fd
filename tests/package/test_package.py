"""The wheel in a fresh environment, away from the checkout: `make try-package`."""

import json
import os
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from unittest import TestCase, skipUnless

from django.conf import settings

from bexi.standin.host import PORTS
from tests.pictures import BLUE_DISC
from tests.ports import free_port_range


@skipUnless(os.environ.get("BEXI_PACKAGE"), "run by make try-package")
class PackageTests(TestCase):
    @classmethod
    def setUpClass(cls):
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        cls.addClassCleanup(folder.cleanup)
        cls.folder = Path(folder.name)
        (wheel,) = (settings.REPOSITORY / "dist").glob("bexi-*.whl")
        subprocess.run([sys.executable, "-m", "venv", cls.folder / "fresh"], check=True)
        cls.bin = cls.folder / "fresh/bin"
        subprocess.run([cls.bin / "pip", "install", "--quiet", wheel], check=True)
        cls.environment = {**os.environ, "HOME": str(cls.folder), "XDG_STATE_HOME": str(cls.folder / "state")}
        for name in ("BEXI_DATA", "DJANGO_SETTINGS_MODULE", "PYTHONPATH"):
            cls.environment.pop(name, None)

    def run_bexi(self, *arguments: object, expected: int = 0) -> str:
        command = [self.bin / "bexi", *map(str, arguments)]
        result = subprocess.run(command, cwd=self.folder, env=self.environment, capture_output=True, text=True)
        self.assertEqual(result.returncode, expected, result.stdout + result.stderr)
        return result.stdout

    @contextmanager
    def running(self, name: str, *arguments: object, address: str) -> Iterator[None]:
        """A command of the package while the block runs, once its address answers."""
        log = (self.folder / f"{name}.log").open("w+")
        command = [self.bin / name, *map(str, arguments)]
        process = subprocess.Popen(command, cwd=self.folder, env=self.environment, stdout=log, stderr=log)
        try:
            for _ in range(240):
                try:
                    urllib.request.urlopen(address).close()
                    break
                except OSError:
                    time.sleep(0.25)
            else:
                self.fail(Path(log.name).read_text())
            yield
        finally:
            process.terminate()
            process.wait()
            log.close()

    def test_it_builds_installs_on_the_stand_in_and_checks(self):
        (self.folder / "disc.svg").write_bytes(BLUE_DISC)
        port = free_port_range(PORTS)
        sites, control = self.folder / "sites", f"http://127.0.0.1:{port}/"
        with self.running("bexi-standin", "--folder", sites, "--port", port, address=control):
            address = f"http://127.0.0.1:{port + 1}/"
            self.run_bexi("check", address, expected=1)
            self.run_bexi("build", "disc.svg", "--out", "icons", "--plan", "balanced")
            self.run_bexi("install", "icons", "--to", sites / "merrowmouth", "--yes")
            told = json.loads(self.run_bexi("check", address, "--installed", "icons", "--json"))
        self.assertEqual([one["what"] for one in told["findings"]], [])
        self.run_bexi("draw", "letters", "MF", "--out", "letters.svg")

    def test_it_serves_is_backed_up_and_ends(self):
        port = free_port_range(1)
        address, data = f"http://127.0.0.1:{port}/", self.folder / "data"
        with self.running("bexi", "serve", "--port", port, "--data", data, "--no-browser", address=f"{address}health"):
            with urllib.request.urlopen(address) as page:
                self.assertIn(b'id="root"', page.read())
            with urllib.request.urlopen(f"{address}api/sites") as sites:
                self.assertEqual(json.load(sites), [])
            self.run_bexi("serve", "--port", port + 1, "--data", data, "--no-browser", expected=1)
            self.run_bexi("serve", "--check", "--data", data)
            self.run_bexi("backup", "all.tar.gz", "--data", data)
            self.run_bexi("restore", "all.tar.gz", "--data", data, expected=1)
        self.run_bexi("restore", "all.tar.gz", "--data", data)
        self.assertIn("is not running", self.run_bexi("serve", "--check", "--data", self.folder / "none", expected=1))
