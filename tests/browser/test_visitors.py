import re
from dataclasses import replace

from PIL import Image
from playwright.sync_api import Page, expect

from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.addresses import Addresses
from bexi.core.iconset.plan import RECOMMENDED
from bexi.server.artwork.services import add_artwork
from bexi.server.builds.models import SitePlan
from bexi.server.builds.services import build_site
from bexi.server.checks.starting import check_now
from bexi.server.drafts.services import save_draft
from bexi.server.installs.starting import install_now
from bexi.server.sites.models import Site
from tests.browser.case import BrowserTestCase, screen_pixels
from tests.pictures import encoded

PLAIN = replace(RECOMMENDED, addresses=Addresses())
OLD, NEW = "#aa0000", "#0000aa"


def install_now_of(site: Site) -> None:
    """Build what is on its bench and install it."""
    build_site(site)
    install_now(site)


class VisitorTests(BrowserTestCase):
    """Build, install, wait by the moved clock: the returning visitor sees the new icon."""

    def setUp(self):
        super().setUp()
        self.root = self.served / "merrowmouth"
        sizes = [(16, 16), (32, 32), (48, 48)]
        (self.root / "favicon.ico").write_bytes(encoded(Image.new("RGBA", (48, 48), OLD), "ICO", sizes=sizes))
        address = f"http://127.0.0.1:{self.standin_port + 1}/"
        self.site = Site.objects.create(name="Ferry", address=address, place=str(self.root))
        artwork = add_artwork("blue.png", encoded(Image.new("RGB", (512, 512), NEW), "PNG"))
        save_draft(self.site, artwork, Recipe.of(whole_artwork(512, 512)), 0)

    def colour(self, page: Page, alt: str) -> tuple[int, ...]:
        """The colour in the middle of a picture of the page."""
        picture = page.get_by_alt_text(alt, exact=True).first
        expect(picture).to_be_visible()
        pixels = screen_pixels(picture)
        return tuple(int(value) for value in pixels[pixels.shape[0] // 2, pixels.shape[1] // 2])

    def test_who_came_before_sees_the_new_icon_on_the_next_visit(self):
        """Addresses change with the content unless somebody turns that off."""
        page = self.open("/visitor")
        page.get_by_role("button", name="Visit", exact=True).click()
        self.assertEqual(self.colour(page, "Icon of Ferry"), (170, 0, 0))
        install_now_of(self.site)
        page.get_by_role("button", name="Visit again Ferry").click()
        expect(page.get_by_text("?v=").first).to_be_visible()
        self.assertEqual(self.colour(page, "Icon of Ferry"), (0, 0, 170))

    def test_addresses_are_made_to_change_with_one_press(self):
        SitePlan.objects.create(site=self.site, plan=PLAIN.as_json())
        install_now_of(self.site)
        check_now(self.site)
        page = self.open(f"/sites/{self.site.pk}/live-check")
        page.get_by_role("button", name="Change the addresses").click()
        expect(page.get_by_role("heading", name="Install build 2")).to_be_visible()
        expect(page.get_by_text("will see the new one on their next visit")).to_be_visible()
        page.get_by_role("button", name=re.compile("Install .* change")).click()
        expect(page.get_by_role("heading", name="Build 2 is in place")).to_be_visible()
        self.assertIn(b"/favicon.ico?v=", (self.root / "index.html").read_bytes())

    def test_the_whole_story(self):
        SitePlan.objects.create(site=self.site, plan=PLAIN.as_json())
        page = self.open("/visitor")
        page.get_by_role("button", name="Visit", exact=True).click()
        self.assertEqual(self.colour(page, "Icon of Ferry"), (170, 0, 0))

        page.goto(f"{self.live_server_url}/sites/{self.site.pk}/bench")
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1")).to_be_visible()
        page.get_by_role("link", name="Install it").click()
        page.get_by_role("button", name=re.compile("Install .* changes")).click()
        page.get_by_role("link", name="Check what visitors get").click()
        page.get_by_role("button", name=re.compile("^Check (now|again)$")).click()
        expect(page.get_by_role("heading", name="No problems found")).to_be_visible()
        self.assertEqual(self.colour(page, "Most browsers on desks and phones: the icon shown"), (0, 0, 170))
        expect(page.get_by_text("All browsers will show the new icons by")).to_be_visible()
        came = page.get_by_role("slider", name="Came first")
        came.focus()
        came.press("End")
        expect(page.get_by_text("Somebody who came a year ago and comes back now sees this:")).to_be_visible()
        came.press("ArrowLeft")
        came.press("ArrowLeft")
        came.press("ArrowLeft")
        expect(page.get_by_text("old icon").first).to_be_visible()
        self.assertEqual(self.colour(page, "Most browsers on desks and phones: the icon shown"), (170, 0, 0))
        expect(page.locator(".ant-btn-loading")).to_have_count(0)  # a button on its way is paler
        self.assert_no_axe_findings(page)

        page.get_by_role("link", name="Simulated visitor").click()
        page.get_by_role("button", name="Visit again Ferry").click()
        expect(page.get_by_text("uses /favicon.ico: the page declares none")).to_have_count(0)
        page.get_by_role("button", name="In a private window").click()
        expect(page.get_by_text("Ferry, private window")).to_be_visible()
        self.assertEqual(self.colour(page, "Icon of Ferry"), (0, 0, 170))
        page.get_by_role("button", name="+1 week").click()
        page.get_by_role("button", name="+1 day").click()
        expect(page.get_by_text("8 days ahead")).to_be_visible()
        page.get_by_role("button", name="Visit again Ferry").last.click()
        page.get_by_role("button", name="Add to home screen: Ferry").first.click()
        expect(page.get_by_alt_text("Icon of Ferry, on the home screen")).to_be_visible()
        for alt in ("Icon of Ferry", "Icon of Ferry, on the home screen"):
            self.assertEqual(self.colour(page, alt), (0, 0, 170))
        self.assert_no_axe_findings(page)

    def test_the_list_of_sites_shows_what_visitors_get(self):
        page = self.open("/")
        page.get_by_role("button", name="Check now at Ferry").click()
        expect(page.get_by_text("just now")).to_be_visible()
        self.assertEqual(self.colour(page, "Icon of Ferry as visitors get it, 16 px"), (170, 0, 0))
        self.assert_no_axe_findings(page)
