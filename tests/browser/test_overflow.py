from PIL import Image
from playwright.sync_api import expect

from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.recipe import Recipe
from bexi.server.artwork.services import add_artwork
from bexi.server.builds.services import build_site
from bexi.server.checks.starting import check_now
from bexi.server.drafts.services import save_draft
from bexi.server.sites.models import Site
from tests.browser.case import BrowserTestCase
from tests.pictures import encoded

WIDTHS = (390, 1024, 1280, 1920)
STICKING_OUT = """() => [...document.querySelectorAll('body *')].filter((element) => {
    const right = element.getBoundingClientRect().right;
    if (right <= innerWidth + 1 || getComputedStyle(element).position === 'fixed') return false;
    for (let around = element.parentElement; around; around = around.parentElement) {
        const held = getComputedStyle(around).overflowX !== 'visible';
        if (held && around.getBoundingClientRect().right <= innerWidth + 1) return false;
    }
    return true;
}).map((element) => element.outerHTML.slice(0, 120))"""


class OverflowTests(BrowserTestCase):
    """Unbroken names of 80 and 120 characters, on every view, from a phone to a wide screen."""

    def test_nothing_sticks_out(self):
        address = f"http://127.0.0.1:{self.standin_port + 2}/"
        site = Site.objects.create(name="N" * 80, address=address, place=str(self.served / "crew"))
        for number in range(6):
            picture = encoded(Image.new("RGB", (64, 64), f"#00{number}{number}80"), "PNG")
            artwork = add_artwork(f"{'f' * 120}{number}.png", picture, "T" * 120)
        save_draft(site, artwork, Recipe.of(whole_artwork(64, 64)), 0)
        build_site(site)
        check_now(site)
        page = self.open("/")
        views = (
            "artwork",
            f"artwork?piece={artwork.pk}",
            "artwork/letters",
            "artwork/symbol",
            "bench",
            "set",
            "install",
        )
        for path in ("", "visitor", *(f"sites/{site.pk}/{view}" for view in (*views, "live-check"))):
            page.goto(f"{self.live_server_url}/{path}")
            expect(page.get_by_role("heading").first).to_be_attached()
            page.wait_for_load_state("networkidle")
            for width in WIDTHS:
                page.set_viewport_size({"width": width, "height": 800})
                page.wait_for_timeout(150)
                with self.subTest(path=path, width=width):
                    self.assertEqual(page.evaluate(STICKING_OUT)[:3], [])
                    self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), width)
