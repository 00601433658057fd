from PIL import Image
from playwright.sync_api import expect

from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.recipe import Recipe
from bexi.server.artwork.services import add_artwork
from bexi.server.builds.models import BuildFile
from bexi.server.builds.services import build_site
from bexi.server.checks.starting import check_now
from bexi.server.drafts.services import duplicate, save_draft
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


class CrowdedTests(BrowserTestCase):
    """60 pieces, 30 builds and 8 drafts with unbroken names of 80 and 120 characters, on every view."""

    def setUp(self):
        super().setUp()
        address = f"http://127.0.0.1:{self.standin_port + 2}/"
        site = Site.objects.create(name="N" * 80, address=address, place=str(self.served / "crew"))
        for number in range(60):
            picture = encoded(Image.new("RGB", (64, 64), f"#00{number:02}80"), "PNG")
            artwork = add_artwork(f"{'f' * 120}{number}.png", picture, "T" * 120)
        save_draft(site, artwork, Recipe.of(whole_artwork(64, 64)), 0)
        for number in range(7):
            draft = site.drafts.first()
            duplicate(draft, f"{number}{'D' * 59}", draft.revision)
        build = build_site(site)
        files = list(build.files.all())
        for number in range(2, 31):
            build.pk, build.number = None, number
            build.save()
            BuildFile.objects.bulk_create(
                BuildFile(build=build, position=one.position, name=one.name, sha256=one.sha256, size=one.size)
                for one in files
            )
        check_now(site)
        artworks = ("artwork", f"artwork?piece={artwork.pk}", "artwork/letters", "artwork/symbol")
        self.paths = (
            *("", "visitor", f"several#{site.pk}", "account"),
            *(f"sites/{site.pk}/{view}" for view in (*artworks, "bench", "set", "install", "live-check")),
        )

    def test_every_view_at_every_width_by_day_and_by_night(self):
        """One test, since what crowds them takes as long to make as the views to look at."""
        self.assert_nothing_sticks_out()
        self.assert_clean_in("light")
        self.assert_clean_in("dark")

    def assert_nothing_sticks_out(self) -> None:
        page = self.open("/")
        for path in self.paths:
            page.goto("about:blank")
            page.goto(f"{self.live_server_url}/{path}")
            expect(page.locator("main h1").first).to_be_attached()
            page.wait_for_load_state("networkidle")
            for width in WIDTHS:
                page.set_viewport_size({"width": width, "height": 800})
                page.wait_for_timeout(150)
                with self.subTest(path=path, width=width):
                    self.assertEqual(page.evaluate(STICKING_OUT)[:3], [])
                    self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), width)

    def assert_clean_in(self, scheme: str) -> None:
        """Check every view with axe in one colour scheme, at the width of a phone, a tablet and a laptop."""
        page = self.open("/", color_scheme=scheme)
        for path in self.paths:
            page.goto("about:blank")
            page.goto(f"{self.live_server_url}/{path}")
            expect(page.locator("main h1").first).to_be_attached()
            page.wait_for_load_state("networkidle")
            for width in WIDTHS[:3]:
                page.set_viewport_size({"width": width, "height": 800})
                with self.subTest(path=path, width=width):
                    self.assert_no_axe_findings(page)
