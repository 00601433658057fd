"""Many sites on the screen: found, chosen, removed, built and installed together."""

import re

from playwright.sync_api import expect

from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.server.artwork.services import add_artwork
from bexi.server.builds.services import build_site
from bexi.server.drafts.services import save_draft
from bexi.server.sites.models import Site
from tests.browser.case import BrowserTestCase
from tests.pictures import BLUE_DISC

REMOVE = re.compile("^Remove.*build 1$")


class SeveralTestCase(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.crew, self.log = (
            Site.objects.create(name=name, place=str(self.served / folder), labels=["harbour"])
            for name, folder in (("Crew rota", "crew"), ("Harbour log", "log"))
        )
        self.bare = Site.objects.create(name="Bare site")
        save_draft(self.crew, add_artwork("disc.svg", BLUE_DISC), Recipe.of(Frame(0, 0, 512)), 0)


class FindingTests(SeveralTestCase):
    def test_sites_are_found_by_words_state_and_label(self):
        page = self.open("/")
        rows = page.get_by_role("listitem")
        page.get_by_label("Search the sites").fill("harbour log")
        expect(rows).to_have_count(1)
        expect(page.locator("main").get_by_role("status")).to_have_text("1 of 3")
        page.get_by_label("Search the sites").fill("")
        page.get_by_label("Label").select_option("harbour")
        expect(rows).to_have_count(2)
        page.get_by_label("State", exact=True).select_option("Changed since the build")
        expect(rows).to_have_count(1)
        page.get_by_label("Order").select_option("Name")
        self.assert_no_axe_findings(page)

    def test_chosen_sites_get_a_label_and_are_removed_and_brought_back(self):
        page = self.open("/")
        page.get_by_label("Choose Bare site").check()
        bar = page.get_by_role("region", name="Chosen sites")
        bar.get_by_label("Label").fill("new")
        bar.get_by_role("button", name="Add label").click()
        expect(page.get_by_role("listitem").filter(has_text="Bare site")).to_contain_text("new")
        bar.get_by_role("button", name="Remove").click()
        expect(bar).to_contain_text("1 site removed; nothing has been changed where they live.")
        expect(page.get_by_role("link", name="Bare site", exact=True)).to_have_count(0)
        self.assert_no_axe_findings(page)
        bar.get_by_role("button", name="Restore").click()
        expect(page.get_by_role("link", name="Bare site", exact=True)).to_be_visible()

    def test_a_list_is_brought_in(self):
        page = self.open("/")
        files = {"name": "sites.csv", "mimeType": "text/csv", "buffer": b"name,address\nTide,tide.example\n"}
        page.get_by_label("A list of sites").set_input_files(files)
        expect(page.get_by_text("1 added, 0 here already.")).to_be_visible()
        expect(page.get_by_role("link", name="Tide", exact=True)).to_be_visible()


class TogetherTests(SeveralTestCase):
    def test_taken_over_built_planned_installed_and_undone_together(self):
        page = self.open(f"/several#{self.crew.pk},{self.log.pk}")
        page.get_by_text("Copy settings from another site").click()
        page.get_by_role("combobox", name="The site to copy from").click()
        page.locator('.ant-select-item[title="Crew rota"]').click()
        page.get_by_role("button", name="Copy", exact=True).click()
        page.get_by_role("button", name="Build each").click()
        expect(page.get_by_role("link", name="built")).to_have_count(2)
        page.get_by_role("button", name="Plan installing").click()
        expect(page.locator("main").get_by_role("status")).to_contain_text("The plan for all: 17 new files")
        self.assert_no_axe_findings(page)
        page.get_by_role("button", name="Install on 2 sites").click()
        expect(page.get_by_text("installed", exact=True)).to_have_count(2)
        for site in ("crew", "log"):
            self.assertTrue((self.served / site / "icon-192.png").exists())
        page.get_by_role("button", name="Undo for all").click()
        dialog = page.get_by_role("dialog", name="Undo on several sites")
        expect(dialog.get_by_role("button", name="Undo on 2 sites")).to_be_enabled()
        self.assert_no_axe_findings(page)
        dialog.get_by_role("checkbox", name="Crew rota").uncheck()
        dialog.get_by_role("button", name="Undo on 1 site").click()
        expect(page.get_by_text("undone")).to_have_count(1)
        self.assertFalse((self.served / "log" / "icon-192.png").exists())
        self.assertTrue((self.served / "crew" / "icon-192.png").exists())
        page.get_by_role("button", name="Undo at Crew rota").click()
        expect(page.get_by_text("undone")).to_have_count(2)
        self.assertFalse((self.served / "crew" / "icon-192.png").exists())

    def test_a_site_that_refuses_says_why_and_the_others_go_on(self):
        page = self.open(f"/several#{self.bare.pk},{self.crew.pk}")
        page.get_by_role("button", name="Build each").click()
        expect(page.get_by_text("Nothing is on its bench yet.")).to_be_visible()
        expect(page.get_by_role("link", name="built")).to_have_count(1)


class RemovingTests(SeveralTestCase):
    def test_a_build_and_a_draft_are_removed_and_brought_back(self):
        build_site(self.crew)
        page = self.open(f"/sites/{self.crew.pk}/set")
        page.get_by_role("button", name=REMOVE).click()
        page.get_by_role("button", name="Restore").click()
        expect(page.get_by_role("button", name=REMOVE)).to_be_visible()
        page.goto(f"{self.live_server_url}/sites/{self.crew.pk}/bench")
        page.get_by_role("button", name="Copy", exact=True).click()
        page.get_by_role("button", name="Copy it").click()
        expect(page.get_by_title("First draft, copy", exact=True)).to_be_visible()
        page.get_by_role("button", name="Remove", exact=True).click()
        expect(page.get_by_text("“First draft, copy” is removed.")).to_be_visible()
        page.get_by_role("button", name="Restore").click()
        expect(page.get_by_text("is removed")).to_have_count(0)
        self.assertEqual(self.crew.drafts.count(), 2)
