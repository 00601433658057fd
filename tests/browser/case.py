"""What browser tests share: the real application, the stand-in host and Chromium."""

import atexit
import base64
import io
import tempfile
from contextlib import ExitStack
from dataclasses import dataclass
from functools import cache
from pathlib import Path

import numpy as np
from django.conf import settings
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.test import override_settings
from PIL import Image
from playwright.sync_api import Browser, ConsoleMessage, Locator, Page, expect

from bexi.standin.host import LOOPBACK, PORTS, running
from bexi.standin.requests_log import RequestLog
from bexi.standin.sites import reset
from tests.browser.chromium import chromium
from tests.ports import free_port_range
from tests.server.case import AT_ONCE

expect.set_options(timeout=30_000)  # the test's server encodes large icons and answers in turn
AXE = settings.REPOSITORY / "frontend/node_modules/axe-core/axe.min.js"
DROP = """async ([name, type, data]) => {
    const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0));
    const transfer = new DataTransfer();
    transfer.items.add(new File([bytes], name, { type }));
    const target = document.querySelector('main');
    for (const kind of ['dragenter', 'dragover', 'drop'])
        target.dispatchEvent(new DragEvent(kind, { dataTransfer: transfer, bubbles: true, cancelable: true }));
}"""


_until_the_end = ExitStack()
atexit.register(_until_the_end.close)


@cache
def one_chromium() -> Browser:
    """The browser of this process; each page has a profile of its own all the same."""
    return _until_the_end.enter_context(chromium())


@dataclass(frozen=True)
class StandIn:
    """The stand-in host of this process: its folder, first port and log."""

    served: Path
    port: int
    log: RequestLog


@cache
def one_standin() -> StandIn:
    """The host; each test puts its sites back to their first state."""
    served = Path(_until_the_end.enter_context(tempfile.TemporaryDirectory())) / "sites"
    reset(served)
    port = free_port_range(PORTS)
    return StandIn(served, port, _until_the_end.enter_context(running(served, port)))


class BrowserTestCase(StaticLiveServerTestCase):
    host = LOOPBACK

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.browser = one_chromium()

    def setUp(self):
        # A picture that a page has asked for last may still be written when the test is over.
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        kept = override_settings(BLOB_FOLDER=self.folder / "blobs", TASKS=AT_ONCE)
        kept.enable()
        self.addCleanup(kept.disable)
        standin = one_standin()
        self.served, self.standin_port, self.requests = standin.served, standin.port, standin.log
        reset(self.served)
        self.requests.clear()

    def open(self, path: str = "/", **options: object) -> Page:
        """A page of a fresh browser profile; any error in its console fails the test."""
        context = self.browser.new_context(**{"viewport": {"width": 1280, "height": 800}, **options})
        self.addCleanup(context.close)
        page = context.new_page()
        page.set_default_timeout(30_000)
        page.on("console", self.fail_on_policy_breach)
        page.on("pageerror", lambda error: self.fail(f"error in the page: {error}"))
        page.goto(self.live_server_url + path)
        return page

    def fail_on_policy_breach(self, message: ConsoleMessage) -> None:
        """The page must live with its own Content Security Policy."""
        if "Content Security Policy" in message.text:
            self.fail(message.text)

    def drop(self, page: Page, data: bytes, name: str, media_type: str = "") -> None:
        """Drop a file anywhere on the page."""
        page.locator("main").wait_for()
        page.evaluate(DROP, [name, media_type, base64.b64encode(data).decode()])

    def assert_no_axe_findings(self, page: Page) -> None:
        """Check the page with axe-core's rules for WCAG 2.2 A and AA and its best practices."""
        page.wait_for_timeout(300)  # colours on their way from one state to the next are no finding
        page.evaluate(AXE.read_text())
        findings = page.evaluate("axe.run().then(({violations}) => violations)")
        told = [f"{one['id']}: {node['html'][:200]}" for one in findings for node in one["nodes"]]
        self.assertEqual(told, [], f"axe at {page.url}")


def screen_pixels(element: Locator) -> np.ndarray:
    """The device pixels of an element, shape (height, width, 3); of a picture once it is there."""
    element.evaluate("element => element.decode?.()")
    return np.asarray(Image.open(io.BytesIO(element.screenshot())).convert("RGB"))


def shown_png(element: Locator) -> np.ndarray:
    """The picture an image element shows, laid on white as a browser lays it: shape (height, width, 3)."""
    data = base64.b64decode(element.get_attribute("src").split(",", 1)[1])
    image = Image.open(io.BytesIO(data)).convert("RGBA")
    return np.asarray(Image.alpha_composite(Image.new("RGBA", image.size, "white"), image).convert("RGB"))
