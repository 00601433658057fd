"""Find knows what people come to do, by the words that they would type."""

import re

from django.conf import settings
from playwright.sync_api import expect

from tests.browser.test_views import ViewTestCase

WORDS = {
    "upload": "Add a logo or picture",
    "import logo": "Add a logo or picture",
    "drop a file": "Add a logo or picture",
    "paste": "Add a logo or picture",
    "rebrand": "Replace the logo with a new version",
    "new logo next year": "Replace the logo with a new version",
    "initials": "Make an icon of initials",
    "monogram": "Make an icon of initials",
    "font": "Make an icon of initials",
    "emoji": "Draw a symbol",
    "pictogram": "Draw a symbol",
    "crop": "Crop the picture",
    "cut": "Crop the picture",
    "zoom": "Crop the picture",
    "trim": "Trim it and set the margin",
    "padding": "Trim it and set the margin",
    "whitespace": "Trim it and set the margin",
    "transparent": "Remove the background",
    "remove white box": "Remove the background",
    "background": "Remove the background",
    "background colour": "Set a background colour",
    "fill": "Set a background colour",
    "round": "Round the corners",
    "circle": "Round the corners",
    "dark": "See it on light and dark tabs",
    "night": "See it on light and dark tabs",
    "resize": "Resize it, size by size",
    "resolution": "Resize it, size by size",
    "blurry": "Make small sizes sharp",
    "phone": "See it on a phone's home screen",
    "home screen": "See it on a phone's home screen",
    "maskable": "Keep clear of the safe circle",
    "undo": "Undo an installation",
    "take back": "Undo an installation",
    "roll back": "Undo an installation",
    "redo": "Undo the last change",
    "ICO": "Convert to ICO or PNG",
    "convert": "Convert to ICO or PNG",
    "export png": "Convert to ICO or PNG",
    "download": "Convert to ICO or PNG",
    "upload field": "Make one file for an upload field",
    "size limit": "Make one file for an upload field",
    "compress": "Make files smaller",
    "manifest": "Name and colours when installed as an app",
    "pwa": "Name and colours when installed as an app",
    "html": "Copy the lines for the head",
    "snippet": "Copy the lines for the head",
    "publish": "Install it on the site",
    "ftp": "Install it on the site",
    "by hand": "Install by hand or with a ZIP",
    "password": "Change your password",
    "cache": "I still see the old icon",
    "still see the old": "I still see the old icon",
    "not updating": "I still see the old icon",
    "htaccess": "Server settings: content types and caching",
    "monitor": "Check automatically",
    "several": "Work on several sites at once",
    "csv": "Import or export the list of sites",
    "colleague": "Add a colleague",
    "invite user": "Add a colleague",
    "token": "Make a token for a script",
    "command line": "From a script or pipeline",
    "backup": "Run Bexi for a team",
}


class TaskWordsTests(ViewTestCase):
    def test_what_people_type_finds_the_task_among_the_first_three(self):
        page = self.view("bench")
        page.get_by_role("button", name="Build the set").wait_for()
        page.keyboard.press("Control+k")
        field = page.get_by_role("combobox", name="An action, site, artwork or word")
        missed = []
        for typed, task in WORDS.items():
            field.fill(typed)
            first = page.get_by_role("option").evaluate_all("all => all.slice(0, 3).map((one) => one.innerText)")
            if not any(one.startswith(task) for one in first):
                missed.append((typed, task, first))
        self.assertGreaterEqual(len(WORDS), 60)
        self.assertEqual(missed, [])

    def test_a_task_leads_where_it_is_done_and_a_page_is_there(self):
        page = self.view("set")
        page.get_by_role("button", name="Build the set").wait_for()
        page.keyboard.press("Control+k")
        page.get_by_role("combobox", name="An action").fill("initials")
        page.get_by_role("option", name=re.compile("^Make an icon of initials")).click()
        expect(page.get_by_label("One to three letters")).to_be_visible()
        page.keyboard.press("Control+k")
        page.get_by_role("combobox", name="An action").fill("wide wordmark")
        with page.context.expect_page() as opened:
            page.get_by_role("option").first.click()
        expect(opened.value.get_by_role("heading", level=1)).to_contain_text("wide logo")

    def test_a_slip_of_the_finger_offers_what_is_nearest(self):
        page = self.view("set")
        page.get_by_role("button", name="Build the set").wait_for()
        page.keyboard.press("Control+k")
        page.get_by_role("combobox", name="An action").fill("transparnet")
        expect(page.get_by_text("Nothing has that name. These come closest.")).to_be_visible()
        expect(page.get_by_role("option").first).to_contain_text("Remove the background")
        expect(page.get_by_role("option").last).to_contain_text("documentation")

    def test_what_only_the_documentation_tells_of_is_found_there(self):
        page = self.view("set")
        page.get_by_role("button", name="Build the set").wait_for()
        page.keyboard.press("Control+k")
        page.get_by_role("combobox", name="An action").fill("zopfli")
        expect(page.get_by_text("the documentation mentions it")).to_be_visible()
        with page.context.expect_page() as opened:
            page.get_by_role("option").first.click()
        expect(opened.value.get_by_text("zopfli").first).to_be_visible()

    def test_every_page_that_a_task_names_is_there(self):
        source = (settings.REPOSITORY / "frontend/src/app/finder/tasks.ts").read_text()
        pages = re.findall(r'page\("([^"]+)"\)', source)
        self.assertGreater(len(pages), 5)
        for one in pages:
            self.assertTrue((settings.REPOSITORY / f"docs/pages/{one}.md").exists(), one)
