"""Real browsers, each in a fresh profile behind the proxy that serves the pages: what they got, and what they show."""

import base64
import io
import re
import shutil
import sqlite3
import tempfile
import time
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from marionette_driver.marionette import Marionette
from PIL import Image
from playwright.sync_api import sync_playwright

from tests.browser.chromium import ARGUMENTS
from tests.browsers.heads import Page
from tests.browsers.serving import Served, serving

_QUIET_SECONDS, _MOST_SECONDS = 0.35, 3.0
_SVG_COLOUR = re.compile(rb'fill="#([0-9a-f]{6})"')


@dataclass(frozen=True)
class Seen:
    """What a browser did with one page: paths it asked for, in order, and the path of the icon it shows, if any."""

    asked: list[str]
    shown: str | None


def chromium(pages: Sequence[Page]) -> dict[int, Seen]:
    """Debian's chromium through Playwright. What it shows is told by its own store of icons."""
    with serving(pages) as served, tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as profile:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch_persistent_context(
                profile,
                executable_path=shutil.which("chromium"),
                args=ARGUMENTS,
                proxy={"server": f"http://127.0.0.1:{served.port}"},
            )
            for page in pages:
                browser.pages[0].goto(f"http://{page.host}/")
                _settle(served, page)
            browser.close()
        store = sqlite3.connect(next(Path(profile).rglob("Favicons")))
        query = "SELECT page_url, url FROM icon_mapping JOIN favicons ON favicons.id = icon_id"
        shown = {address: icon.partition(".example")[2] for address, icon in store.execute(query)}
        store.close()
        return {page.number: Seen(served.asked[page.host], shown.get(f"http://{page.host}/")) for page in pages}


def firefox(pages: Sequence[Page]) -> dict[int, Seen]:
    """Debian's firefox-esr through Mozilla's own driver. What it shows is told by the browser's window."""
    with serving(pages) as served, tempfile.TemporaryDirectory() as logs:
        driver = Marionette(
            bin=shutil.which("firefox-esr"),
            headless=True,
            prefs=_preferences(served.port),
            gecko_log=f"{logs}/log",
        )
        driver.start_session()
        try:
            seen = {}
            for page in pages:
                driver.navigate(f"http://{page.host}/")
                _settle(served, page)
                with driver.using_context("chrome"):
                    shown = driver.execute_script("return gBrowser.selectedBrowser.mIconURL")
                seen[page.number] = Seen(served.asked[page.host], _path_of(page, shown) if shown else None)
            return seen
        finally:
            driver.quit(in_app=False)


def _settle(served: Served, page: Page) -> None:
    """Wait until nothing more is asked for."""
    begun = last = time.monotonic()
    count = -1
    while time.monotonic() - begun < _MOST_SECONDS and time.monotonic() - last < _QUIET_SECONDS:
        if len(served.asked[page.host]) != count:
            count, last = len(served.asked[page.host]), time.monotonic()
        time.sleep(0.03)


def _path_of(page: Page, shown: str) -> str | None:
    """Which of a page's files a data address shows; each has a colour of its own."""
    head, _, body = shown.partition(",")
    data = base64.b64decode(body)
    if "svg" in head:
        match = _SVG_COLOUR.search(data)
        colour = int(match[1], 16) if match else -1
    else:
        red, green, blue = Image.open(io.BytesIO(data)).convert("RGB").getpixel((2, 2))
        colour = red << 16 | green << 8 | blue
    return next((path for path, file in page.files.items() if file.colour(page.number) == colour), None)


def _preferences(port: int) -> dict[str, object]:
    """Everything goes to the proxy, and nothing is asked for that the page did not bring."""
    return {
        "network.proxy.type": 1,
        "network.proxy.http": "127.0.0.1",
        "network.proxy.http_port": port,
        "network.proxy.ssl": "127.0.0.1",
        "network.proxy.ssl_port": port,
        "network.captive-portal-service.enabled": False,
        "network.connectivity-service.enabled": False,
        "services.settings.server": "data:,#remote-settings-dummy/v1",
        "datareporting.policy.dataSubmissionEnabled": False,
        "app.update.enabled": False,
        "dom.security.https_first": False,
        "dom.security.https_first_schemeless": False,
        "browser.chrome.site_icons": True,
    }
