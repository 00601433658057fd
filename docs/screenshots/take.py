"""Takes the pictures in this folder from a demo of its own: `make screenshots`. The demo's ports must be free."""

import os
import re
import shutil
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Page

from bexi.server.demo.artwork import ferry_lockup
from bexi.standin.account import PASSWORD
from tests.browser.chromium import chromium
from tests.core.judging.brought.by_hand import side_by_side
from tests.core.judging.brought.developed import DEVELOPED
from tests.core.judging.brought.held_back import HELD_BACK
from tests.core.judging.brought.looking import contact_sheet
from tests.core.judging.brought.strange import STRANGE

FOLDER = Path(__file__).parent
SHEET = FOLDER.parent / "pages" / "explained" / "first-proposals.png"
DATA = Path("/tmp/bexi-demo")  # shown on the Install view, so the same every time
ADDRESS = "http://127.0.0.1:8400"
VIEWS = {
    "sites": "/",
    "begun": "/",
    "artwork": "/sites/1/artwork",
    "piece": "/sites/1/artwork?piece=6",
    "letters": "/sites/1/artwork/letters",
    "bench": "/sites/1/bench",
    "judged": "/sites/1/bench",
    "proposals": "/sites/3/artwork?piece=8",
    "set": "/sites/2/set",
    "install": "/sites/1/install",
    "install-over-sftp": "/sites/3/install",
    "live-check": "/sites/3/live-check",
    "visitor": "/visitor",
    "several": "/several#1,2,3",
    "people": "/account",
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


def _begun(page: Page) -> None:
    """Choose a picture on the first page, and the files that upload fields ask for."""
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="Choose a picture").click()
    picture = {"name": "Merrowmouth ferry.svg", "mimeType": "image/svg+xml", "buffer": ferry_lockup()}
    chooser.value.set_files(picture)
    page.get_by_role("group", name="Ways to use it").wait_for()
    page.get_by_role("button", name="One file for an upload field").click()


def _planned(page: Page) -> None:
    page.get_by_role("heading", name="What the site has now").wait_for()


def _over_sftp(page: Page) -> None:
    """Build a set for the old site and try the connection to where it lives."""
    page.goto(f"{ADDRESS}/sites/3/artwork?piece=8")
    page.get_by_role("button", name=re.compile("Open on the bench|Continue on the bench")).click()
    page.get_by_role("button", name="Build the set").click()
    page.get_by_role("heading", name="Build 1", exact=True).wait_for()
    page.goto(ADDRESS + VIEWS["install-over-sftp"])
    page.get_by_label("Password, or a private key").fill(PASSWORD)
    page.get_by_role("button", name="Test connection").click()
    page.get_by_role("button", name="Trust this key").click()
    _planned(page)


def _judged(page: Page) -> None:
    """Frame the whole artwork and look closely at the smallest icon."""
    page.get_by_role("button", name="Whole artwork").click()
    page.get_by_role("button", name="Icon at 16 px").first.click()
    page.get_by_role("heading", name="Fixes that help").wait_for()


def _proposals(page: Page) -> None:
    page.get_by_role("button", name="Open on the bench").click()
    page.get_by_role("heading", name="Ways to use").wait_for()
    page.get_by_alt_text("Icon at 512 px", exact=True).wait_for()


def _visitor(page: Page) -> None:
    """Visit three sites, one of them in a private window, and put two on the phone."""
    visits = (("Tide tables", "Visit"), ("Harbour log", "In a private window"), ("Crew rota", "Visit"))
    for number, (site, button) in enumerate(visits):
        page.get_by_role("combobox", name="Site to visit").click()
        page.locator(".ant-select-item-option", has_text=site).click()
        page.get_by_role("button", name=button, exact=True).click()
        page.get_by_role("listitem").nth(number).wait_for()
    for site in ("Tide tables", "Crew rota"):
        page.get_by_role("button", name=f"Add to home screen: {site}").click()
    page.get_by_role("button", name="+1 week").click()


_STEPS = {
    "begun": _begun,
    "install": _planned,
    "install-over-sftp": _over_sftp,
    "judged": _judged,
    "proposals": _proposals,
    "visitor": _visitor,
}


def take(names: list[str]) -> None:
    """Take a picture of each named view."""
    with demo(), chromium() as browser:
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for name in names:
            page.goto(ADDRESS + VIEWS[name], wait_until="networkidle")
            if name in _STEPS:
                _STEPS[name](page)
            page.locator("main").first.wait_for()
            page.wait_for_timeout(500)
            page.screenshot(path=FOLDER / f"{name}.png")


if __name__ == "__main__":
    if not sys.argv[1:]:
        logos = [*DEVELOPED, *HELD_BACK]
        contact_sheet([*logos, *STRANGE]).save(SHEET, optimize=True)
        side_by_side(logos).save(SHEET.with_name("by-hand.png"), optimize=True)
    take(sys.argv[1:] or list(VIEWS))
