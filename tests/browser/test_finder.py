"""Ctrl or ⌘ K finds everything; ? lists the keys, on every view."""

import re

from playwright.sync_api import expect

from tests.browser.test_views import ViewTestCase


class FinderTests(ViewTestCase):
    def test_an_action_of_the_screen_is_found_by_any_of_its_words_with_its_key(self):
        page = self.view("bench")
        page.get_by_role("button", name="Build the set").wait_for()
        page.keyboard.press("Control+k")
        page.get_by_role("combobox", name="An action, site, artwork or word").fill("set build")
        option = page.get_by_role("option").first
        expect(option).to_contain_text("Build the set")
        expect(option).to_contain_text("Ctrl or ⌘ Enter")
        self.assert_no_axe_findings(page)
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Build 2", exact=True)).to_be_visible()

    def test_views_sites_pieces_and_words_are_found_by_keyboard_alone(self):
        page = self.view("set")
        page.get_by_role("heading", name="Build 1", exact=True).wait_for()
        for typed, address in (("live", "live-check"), ("disc", r"artwork\?piece="), ("crew rota site", "bench")):
            page.keyboard.press("Control+k")
            expect(page.get_by_role("combobox", name="An action")).to_be_focused()
            page.keyboard.type(typed)
            expect(page.get_by_role("combobox", name="An action")).to_have_value(typed)
            expect(page.get_by_role("option").first).to_be_visible()
            page.wait_for_timeout(600)  # pieces are asked for
            page.keyboard.press("Enter")
            expect(page).to_have_url(re.compile(rf"/sites/{self.site.pk}/{address}"))
        page.keyboard.press("Control+k")
        expect(page.get_by_role("combobox", name="An action")).to_be_focused()
        page.keyboard.type("plate means")
        expect(page.get_by_role("option").first).to_contain_text("a shape with its own colour")
        page.keyboard.type(" xyzzy")
        expect(page.get_by_text("Nothing has all of these words.")).to_be_visible()
        page.get_by_role("combobox", name="An action").fill("xyzzy")
        expect(page.get_by_text("Nothing has that name.")).to_be_visible()

    def test_the_keys_are_listed_everywhere_but_not_from_fields(self):
        page = self.open("/")
        page.get_by_label("Search the sites").or_(page.get_by_role("heading", name="Sites")).first.wait_for()
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_contain_text("find any action")
        expect(page.get_by_role("link", name="How Bexi works")).to_have_attribute("href", "/docs/index.html")
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.goto(f"{self.live_server_url}/sites/{self.site.pk}/artwork")
        page.get_by_label("Search artwork").press("?")
        expect(page.get_by_label("Search artwork")).to_have_value("?")
        expect(page.get_by_role("dialog")).to_have_count(0)
