"""From a typed address to a built set."""

from playwright.sync_api import expect

from bexi.server.checks.models import Check, CheckState
from bexi.server.sites.models import Site
from tests.browser.case import BrowserTestCase

LOGO = '<header><a class="logo" href="/"><svg viewBox="0 0 90 90"><circle cx="45" cy="45" r="40"/></svg></a></header>'


class StartTests(BrowserTestCase):
    def test_three_actions_from_a_typed_address_to_a_built_set(self):
        home = self.served / "tide" / "index.html"
        home.write_text(home.read_text().replace("<body>", f"<body>{LOGO}"))
        page = self.open("/")
        page.get_by_role("button", name="Add a site").last.click()
        page.get_by_label("Its address").fill(f"127.0.0.1:{self.standin_port + 4}")
        page.keyboard.press("Enter")  # the first
        expect(page.get_by_text("Problems with its current icons:")).to_be_visible()
        self.assert_no_axe_findings(page)
        page.get_by_role("button", name="Likeliest: drawn and named like a logo").click()  # the second
        expect(page.get_by_role("heading", name="Ways to use")).to_be_visible()
        page.get_by_role("button", name="Build the set").click()  # the third
        expect(page.get_by_role("heading", name="Build 1", exact=True)).to_be_visible()
        self.assertEqual(Site.objects.get().name, "Tide tables")

    def test_what_cannot_be_looked_at_is_said_at_the_field(self):
        page = self.open("/")
        page.get_by_role("button", name="Add a site").last.click()
        page.get_by_role("button", name="Look it up").click()
        expect(page.get_by_text("Type the address, like merrowmouth.example.")).to_be_visible()
        for typed, told in (
            ("two words", "not an address that visitors can type"),
            ("127.0.0.1:9", "cannot be looked at"),
        ):
            page.get_by_label("Its address").fill(typed)
            page.get_by_role("button", name="Look it up").click()
            expect(page.get_by_role("alert").filter(has_text=told)).to_be_visible()
        self.assertFalse(Site.objects.exists())

    def test_a_check_that_failed_does_not_say_that_all_is_well(self):
        site = Site.objects.create(name="Tide tables", address=f"http://127.0.0.1:{self.standin_port + 4}/")
        Check.objects.create(site=site, state=CheckState.FAILED, problem="The site does not answer.")
        page = self.open(f"/sites/{site.pk}/artwork")
        page.get_by_role("button", name="Use a picture from the site").click()
        told = page.get_by_text("Its current icons have not been checked. The site does not answer.")
        expect(told).to_be_visible()
