"""Takes the pictures in this folder from a running demo: `make screenshots`."""

import sys
from pathlib import Path

from tests.browser.chromium import chromium

FOLDER = Path(__file__).parent
VIEWS = {
    "sites": "/",
    "artwork": "/sites/1/artwork",
    "bench": "/sites/1/bench",
    "set": "/sites/2/set",
    "install": "/sites/1/install",
    "live-check": "/sites/3/live-check",
}


def take(address: str, only: list[str], mode: str = "light") -> None:
    """Take a picture of each named view, or of all."""
    with chromium() as browser:
        page = browser.new_page(viewport={"width": 1280, "height": 800}, color_scheme=mode)
        for name in only or VIEWS:
            page.goto(address + VIEWS[name], wait_until="networkidle")
            page.wait_for_timeout(400)
            page.screenshot(path=FOLDER / f"{name}.png")


if __name__ == "__main__":
    take(sys.argv[1], sys.argv[2:])
