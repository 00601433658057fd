"""Takes the pictures in this folder from a demo of its own: `make screenshots`. The demo's ports must be free."""

import os
import shutil
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from tests.browser.chromium import chromium

FOLDER = Path(__file__).parent
DATA = Path("/tmp/bexi-demo")  # shown on the Install view, so the same every time
ADDRESS = "http://127.0.0.1:8400"
VIEWS = {
    "sites": "/",
    "artwork": "/sites/1/artwork",
    "piece": "/sites/1/artwork?piece=6",
    "letters": "/sites/1/artwork/letters",
    "bench": "/sites/1/bench",
    "set": "/sites/2/set",
    "install": "/sites/1/install",
    "live-check": "/sites/3/live-check",
}


@contextmanager
def demo() -> Iterator[None]:
    """A fresh demo while the block runs."""
    shutil.rmtree(DATA, ignore_errors=True)
    environment = {**os.environ, "BEXI_DATA": str(DATA)}
    process = subprocess.Popen([sys.executable, "-m", "bexi.server.demo.run"], env=environment)
    try:
        _wait(process)
        yield
    finally:
        process.terminate()
        process.wait()


def _wait(process: "subprocess.Popen[bytes]") -> None:
    for _ in range(240):
        if process.poll() is not None:
            sys.exit("The demo did not start.")
        try:
            urllib.request.urlopen(ADDRESS).close()
            return
        except OSError:
            time.sleep(0.5)


def take(names: list[str]) -> None:
    """Take a picture of each named view."""
    with demo(), chromium() as browser:
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for name in names:
            page.goto(ADDRESS + VIEWS[name], wait_until="networkidle")
            page.wait_for_timeout(500)
            page.screenshot(path=FOLDER / f"{name}.png")


if __name__ == "__main__":
    take(sys.argv[1:] or list(VIEWS))
