"""SVGs written anew against Chromium, which draws them before and after: the same picture, and nothing that acts."""

import io
from pathlib import Path

import numpy as np
from django.conf import settings
from PIL import Image
from playwright.sync_api import Page

from bexi.core.artwork.intake import take_in
from bexi.core.framing.drawn import drawn
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Framing
from bexi.core.pixels.colour import Colour
from tests.browser.case import BrowserTestCase

PACKAGES = settings.REPOSITORY / "frontend/node_modules"
SIDE, ACROSS = 64, 20
SHEET = """(drawings) => {
    document.body.style.cssText = 'margin:0;width:1280px;line-height:0;background:#fff';
    document.body.replaceChildren(...drawings.map((drawing) => {
        const image = new Image(64, 64);
        image.src = URL.createObjectURL(new Blob([drawing], {type: 'image/svg+xml'}));
        return image;
    }));
    return Promise.all([...document.images].map((image) => image.decode().then(() => true, () => false)));
}"""


def packaged() -> list[Path]:
    """Drawings of two icon sets from npm: flags full of clips, reuses and gradients, and symbols of strokes."""
    flags = sorted((PACKAGES / "flag-icons/flags/1x1").glob("*.svg"))
    symbols = sorted((PACKAGES / "lucide-static/icons").glob("*.svg"))[::20]
    return [*flags, *symbols]


XHTML = 'xmlns:h="http://www.w3.org/1999/xhtml"'
SVG = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 64 64">{}</svg>'
STYLED = (
    "<style>.a{fill:#1144cc}.a+.b{fill:none;stroke:#c22;stroke-width:4}g .c{opacity:.5}#d{fill:url(#e)}</style>"
    '<linearGradient id="e"><stop stop-color="gold"/><stop offset="1" stop-color="#063"/></linearGradient>'
    '<rect class="a" width="30" height="30"/><circle class="b" cx="40" cy="40" r="18"/>'
    '<g><rect class="c" x="20" y="8" width="30" height="30"/></g><path id="d" d="M2 60h60V50z"/>',
    "<style>@media (min-width:1px){rect{fill:red}} rect{fill:green!important}</style>"
    '<rect width="64" height="64" style="fill:red"/>',
    '<mask id="m"><rect width="64" height="64" fill="#fff"/><circle cx="32" cy="32" r="20"/></mask>'
    '<rect width="64" height="64" fill="#714" mask="url(#m)" style="mix-blend-mode:multiply"/>',
    '<filter id="f"><feGaussianBlur stdDeviation="3"/></filter>'
    '<filter id="t"><feTurbulence baseFrequency=".05" numOctaves="40"/></filter>'
    '<circle cx="32" cy="32" r="20" filter="url(#f)"/><rect width="64" height="20" filter="url(#t)"/>',
    '<symbol id="s" viewBox="0 0 8 8"><path d="M0 0h8L0 8z"/></symbol>'
    '<use href="#s" width="32" height="32" fill="navy"/>'
    '<use xlink:href="#s" x="32" y="32" width="32" height="32" style="fill:maroon;transform:rotate(10deg)"/>',
    "<style>:root{--ink:oklch(0.55 0.2 250);--part:30%} g{--ink:lab(50% 40 30)} circle{cx:20px;cy:20px;r:16px}"
    ".v{fill:var(--ink)} .w{fill:rgb(20 120 60 / var(--part))} rect{x:30px;y:30px;width:1cm;height:20px}</style>"
    '<circle class="v"/><g><rect class="v"/></g><rect class="w" style="x:2px"/>'
    '<path class="v" style="d:path(\'M40 4h20v20z\');transform-origin:50px 14px;transform:rotate(.1turn) scale(80%)"/>'
    '<path d="M4 60h9l-9-9z" fill="color(display-p3 0.2 0.7 0.9)" style="transform:translate(2px, -1px)"/>',
)
HOSTILE = (
    f'<svg xmlns="http://www.w3.org/2000/svg" {XHTML} width="64" height="64" onload="ran()">'
    "<script>ran(); function ran() { document.documentElement.setAttribute('data-ran', '1'); }</script>"
    '<h:script>document.documentElement.setAttribute("data-ran", "2")</h:script>'
    '<foreignObject width="9" height="9"><h:img src="/fetched-1.png" onerror="ran()"/></foreignObject>'
    "<style>@font-face{font-family:x;src:url(/fetched-2.woff)} svg>rect{fill:lime} rect{display:none}</style>"
    '<set attributeName="x" to="1" onbegin="ran()"/>'
    '<rect width="9" height="9" fill="#0000ff" style="display:inline"/>'
    '<a href="javascript:ran()"><text font-family="x">a</text></a></svg>'
)


class RebuiltDrawingsTests(BrowserTestCase):
    def blank(self) -> Page:
        """A page without a policy of its own."""
        context = self.browser.new_context(viewport={"width": SIDE * ACROSS, "height": 800})
        self.addCleanup(context.close)
        page = context.new_page()
        page.set_default_timeout(120_000)  # one picture of all drawings
        return page

    def shown(self, page: Page, drawings: list[str]) -> np.ndarray:
        """How Chromium shows drawings side by side, SIDE px large, as an array of one picture each."""
        well = page.evaluate(SHEET, drawings)
        self.assertEqual([number for number, decoded in enumerate(well) if not decoded], [])
        sheet = np.asarray(Image.open(io.BytesIO(page.screenshot(full_page=True))).convert("RGB")).astype(int)
        rows = len(drawings) // ACROSS
        pictures = sheet[: rows * SIDE].reshape(rows, SIDE, ACROSS, SIDE, 3).swapaxes(1, 2)
        return pictures.reshape(-1, SIDE, SIDE, 3)

    def test_three_hundred_drawings_look_the_same(self):
        drawings = {f"own {number}": SVG.format(body) for number, body in enumerate(STYLED)}
        drawings |= {file.name: file.read_text() for file in packaged()}
        names = list(drawings)[: len(drawings) // ACROSS * ACROSS]
        self.assertGreaterEqual(len(names), 300)
        before = [drawings[name] for name in names]
        after = [take_in(drawing.encode())[1].markup for drawing in before]
        page = self.blank()
        apart = np.abs(self.shown(page, before) - self.shown(page, after)).max(axis=(1, 2, 3))
        self.assertEqual({names[at]: int(apart[at]) for at in np.flatnonzero(apart > 3)}, {})

    def test_nothing_in_a_built_icon_acts_when_it_is_opened_by_itself(self):
        vector = take_in(HOSTILE.encode())[1]
        icon = drawn(vector, Framing(Frame(0, 0, 1024), ground=Colour.parse("#ff8800")))
        (self.served / "log/icon.svg").write_bytes(icon)
        page, asked = self.blank(), []
        page.on("request", lambda request: asked.append(request.url))
        page.goto(f"http://127.0.0.1:{self.standin_port + 3}/icon.svg")
        page.wait_for_timeout(300)
        self.assertIsNone(page.evaluate("document.documentElement.getAttribute('data-ran')"))
        self.assertEqual([url for url in asked if "fetched" in url], [])
        colours = set(Image.open(io.BytesIO(page.screenshot())).convert("RGB").get_flattened_data())
        self.assertTrue((0xFF, 0x88, 0) in colours)  # our ground, which none of its styles reaches
        self.assertTrue((0, 0xFF, 0) in colours)
