"""What browser tests share: the real application, the stand-in host and Chromium."""

import atexit
import base64
import io
import os
import re
import tempfile
import threading
from contextlib import ExitStack
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from unittest import mock

import numpy as np
from django.conf import settings
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.signals import request_finished, request_started
from django.test import override_settings
from PIL import Image
from playwright.sync_api import Browser, ConsoleMessage, Locator, Page, Playwright, expect, sync_playwright

from bexi.core.iconset.plan import RECOMMENDED, Plan
from bexi.standin.host import LOOPBACK, PORTS, running
from bexi.standin.requests_log import RequestLog
from bexi.standin.sites import reset
from tests.browser.chromium import launched
from tests.ports import free_port_range
from tests.server.case import AT_ONCE

PATIENCE = 120_000
"""Ms a view may take: the test's server encodes large icons and answers in turn, on a machine with other work."""
expect.set_options(timeout=PATIENCE)
SLOWED = float(os.environ.get("BEXI_SLOWED", "1"))
"""So many times slower pages compute, as on an old laptop."""
AXE = settings.REPOSITORY / "frontend/node_modules/axe-core/axe.min.js"
DROP = """async ([name, type, data]) => {
    const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0));
    const transfer = new DataTransfer();
    transfer.items.add(new File([bytes], name, { type }));
    const target = document.querySelector('main');
    for (const kind of ['dragenter', 'dragover', 'drop'])
        target.dispatchEvent(new DragEvent(kind, { dataTransfer: transfer, bubbles: true, cancelable: true }));
}"""

AT_REST = """() => Promise.all(document.getAnimations()
    .filter(({ effect }) => effect.getComputedTiming().endTime !== Infinity)
    .map(({ finished }) => finished.catch(() => undefined)))"""
LEFT_OUT = re.findall(
    r'^  "([a-z-]+)",$', (settings.REPOSITORY / "frontend/componentStyles.ts").read_text(), re.MULTILINE
)
COMPONENTS_OF = """(names) => {
    const all = new Set([...document.querySelectorAll('[class*=ant-]')].flatMap((element) => [...element.classList]));
    const of = new RegExp(`^ant-(?:${names.join('|')}|col-[a-z0-9]+)(?![a-z])`);
    return [...all].filter((one) => of.test(one));
}"""
SMALL = Plan(("favicon.ico", "icon-32.png", "apple-touch-icon.png"))
"""Where the set is not the matter: large icons take a browser test most of its time."""


_until_the_end = ExitStack()
atexit.register(_until_the_end.close)


@cache
def one_playwright() -> Playwright:
    """The driver of this process."""
    return _until_the_end.enter_context(sync_playwright())


@cache
def one_chromium() -> Browser:
    """The browser of this process; each page has a profile of its own all the same."""
    return _until_the_end.enter_context(launched(one_playwright()))


class Requests:
    """Counts what the server under test is answering."""

    def __init__(self):
        self._count, self._changed = 0, threading.Condition()
        request_started.connect(self._started)
        request_finished.connect(self._finished)

    def await_none(self) -> None:
        """Return when all are answered; the database is flushed under none of them."""
        with self._changed:
            self._changed.wait_for(lambda: self._count <= 0, timeout=PATIENCE / 1000)
            self._count = 0

    def _started(self, **_told):
        with self._changed:
            self._count += 1

    def _finished(self, **_told):
        with self._changed:
            self._count -= 1
            self._changed.notify_all()


@cache
def one_count() -> Requests:
    """The count of this process."""
    return Requests()


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
    """`plan` is the one that sites have which were given none."""

    host = LOOPBACK
    plan = RECOMMENDED

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.browser = one_chromium()
        one_count()

    def setUp(self):
        # A picture that a page has asked for last may still be written when the test is over.
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        kept = override_settings(BLOB_FOLDER=self.folder / "blobs", TASKS=AT_ONCE)
        kept.enable()
        self.addCleanup(kept.disable)
        planned = mock.patch("bexi.server.builds.models.RECOMMENDED", self.plan)
        planned.start()
        self.addCleanup(planned.stop)
        standin = one_standin()
        self.served, self.standin_port, self.requests = standin.served, standin.port, standin.log
        reset(self.served)
        self.requests.clear()

    def open(self, path: str = "/", **options: object) -> Page:
        """A page of a fresh browser profile; any error in its console fails the test."""
        context = self.browser.new_context(**{"viewport": {"width": 1280, "height": 800}, **options})
        self.addCleanup(one_count().await_none)
        self.addCleanup(context.close)
        page = context.new_page()
        if SLOWED > 1:
            context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": SLOWED})
        page.set_default_timeout(PATIENCE)
        page.on("console", self.fail_on_policy_breach)
        page.on("pageerror", lambda error: self.fail(f"error in the page: {error}"))
        page.goto(self.live_server_url + path)
        return page

    def fail_on_policy_breach(self, message: ConsoleMessage) -> None:
        """The page must live with its own Content Security Policy."""
        if "Content Security Policy" in message.text:
            self.fail(message.text)

    def visit(self, address: str) -> None:
        """A visitor's whole browser, whose tabs have icons, opens a page afresh and has asked for its icon."""
        with launched(one_playwright(), "chromium") as whole:
            page = whole.new_page()
            page.goto(address)
            page.wait_for_timeout(1500)

    def drop(self, page: Page, data: bytes, name: str, media_type: str = "") -> None:
        """Drop a file anywhere on the page."""
        page.locator("main").wait_for()
        page.evaluate(DROP, [name, media_type, base64.b64encode(data).decode()])

    def assert_no_axe_findings(self, page: Page) -> None:
        """Check the page with axe-core's rules for WCAG 2.2 A and AA and its best practices."""
        page.locator("h1").first.wait_for(state="attached")  # the view has come
        self.assertEqual(page.evaluate(COMPONENTS_OF, LEFT_OUT), [], "components whose styles are left out")
        # Colours on their way from one state to the next are no finding.
        page.evaluate(AT_REST)
        page.evaluate(AXE.read_text())
        findings = page.evaluate("axe.run({ resultTypes: ['violations'] }).then(({ violations }) => violations)")
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
