"""Three tasks set to somebody who has never seen Bexi, done by keyboard alone and by the words on the screen.

What they do is counted: words looked up in the finder, fields filled, and presses of Tab on the way.
"""

import re
import time
from dataclasses import dataclass

from playwright.sync_api import Page, expect

from bexi.server.artwork.models import Artwork
from bexi.server.installs.starting import install_now
from bexi.server.sites.models import Site
from bexi.standin.account import PASSWORD, USER
from bexi.standin.host import LOOPBACK, SFTP_OFFSET
from tests.browser.case import PATIENCE, BrowserTestCase
from tests.browser.test_start import LOGO
from tests.browser.test_views import ViewTestCase
from tests.pictures import BLUE_DISC

MOST_TABS = 60
LABEL = """(at) => {
    const label = at.labels?.[0]?.innerText || at.closest('.ant-form-item')?.querySelector('label')?.innerText;
    return (at.getAttribute('aria-label') || label || at.innerText || '').trim();
}"""


@dataclass
class Somebody:
    """Has a keyboard and eyes."""

    page: Page
    actions: int = 0
    tabs: int = 0

    def sees(self, text: str) -> None:
        expect(self.page.get_by_text(text).first).to_be_visible()

    def presses(self, words: str) -> None:
        """Finds a control or view by its words and takes it."""
        self.page.keyboard.press("Control+k")
        box = self.page.get_by_role("combobox", name="An action, site, artwork or word")
        expect(box).to_be_focused()
        self.page.keyboard.type(words)
        expect(self.page.get_by_role("option").first).to_be_visible()
        self.page.keyboard.press("Enter")
        expect(box).to_have_count(0)
        self.actions += 1

    def goes_to(self, label: str, key: str = "Tab") -> None:
        """Tabs to what is called so, a pattern, once it is there; Shift+Tab counts like Tab."""
        controls = self.page.locator("a, button:enabled, input:enabled, textarea:enabled")
        until = time.monotonic() + PATIENCE / 1000
        while not any(re.match(label, name) for name in controls.evaluate_all(f"all => all.map({LABEL})")):
            if time.monotonic() > until:
                raise AssertionError(f"{label} is not there")
            self.page.wait_for_timeout(100)
        for _ in range(MOST_TABS):
            if re.match(label, self.at()):
                self.actions += 1
                return
            self.page.keyboard.press(key)
            self.tabs += 1
        raise AssertionError(f"{label} is not reached by Tab; at {self.at()!r}")

    def at(self) -> str:
        """What has the focus is called so."""
        return self.page.evaluate(f"({LABEL})(document.activeElement)")

    def fills(self, label: str, text: str) -> None:
        self.goes_to(label)
        self.page.keyboard.press("Control+a")
        self.page.keyboard.type(text)

    def enters(self) -> None:
        self.page.keyboard.press("Enter")


class TaskTests(BrowserTestCase):
    def test_the_whole_story_by_tab_alone(self):
        home = self.served / "tide" / "index.html"
        home.write_text(home.read_text().replace("<body>", f"<body>{LOGO}"))
        page = self.open("/")
        page.get_by_role("heading", name="Sites").wait_for()
        who = Somebody(page)
        who.fills("A site's address, a name or initials", f"127.0.0.1:{self.standin_port + 4}")
        who.enters()
        who.sees("Problems with its current icons:")
        who.sees("Likeliest")
        who.goes_to("Likeliest")
        who.enters()
        who.sees("Ways to use")
        who.goes_to("Build the set", "Shift+Tab")
        who.enters()
        expect(page.get_by_role("heading", name="Build 1", exact=True)).to_be_focused()
        who.goes_to("Install it")
        who.enters()
        who.sees("Where are this site’s files?")
        who.fills("Folder", str(self.served / "tide"))
        who.enters()
        expect(page.get_by_role("heading", name="Install build 1")).to_be_focused()
        who.goes_to(r"Install \d+ changes")
        who.enters()
        who.sees("Build 1 is in place")
        who.goes_to("Check what visitors get")
        who.enters()
        expect(page.get_by_role("heading", level=1).filter(has_text="problem")).to_be_focused()
        who.goes_to("Check (now|again)")
        who.enters()
        expect(page.get_by_role("heading", level=1).filter(has_text="problem")).to_be_visible()
        self.assertLessEqual(who.tabs, MOST_TABS)

    def test_a_wide_logo_with_words_onto_a_site_by_sftp(self):
        page = self.open("/")
        page.get_by_role("heading", name="Sites").wait_for()
        who = Somebody(page)
        self.drop(page, BLUE_DISC, "logo.svg", "image/svg+xml")
        button = page.get_by_role("button", name="Put it on a site")
        expect(button).to_be_enabled()
        who.goes_to("Put it on a site")
        who.enters()
        who.fills("The address of the site", "Harbour log")
        who.enters()
        who.sees("Where are this site’s files?")
        who.fills("Folder", f"sftp://{USER}@{LOOPBACK}:{self.standin_port + SFTP_OFFSET}/log")
        self.assertEqual(page.get_by_label("Folder", exact=True).input_value()[:7], "sftp://")
        who.presses("Save")
        who.sees("An account reached by SFTP")
        expect(page.get_by_role("heading", level=1)).to_be_focused()
        who.fills("Password, or a private key", PASSWORD)
        who.enters()
        who.sees("Trust this key")
        who.presses("Trust this key")
        button = page.get_by_role("button", name=re.compile("^Install .* changes$"))
        expect(button).to_be_visible()
        who.presses("Install changes")
        who.sees("Build 1 is in place")
        self.assertTrue((self.served / "log" / "icon-192.png").exists())
        self.assertLessEqual(who.actions, 10)
        self.assertLessEqual(who.tabs, MOST_TABS)

    def test_letters_for_a_site_builders_field_of_32_px(self):
        site = Site.objects.create(name="Ferry")
        page = self.open(f"/sites/{site.pk}/artwork")
        page.get_by_role("link", name="Draw letters").wait_for()
        who = Somebody(page)
        who.presses("Draw letters")
        expect(page.get_by_role("heading", level=1)).to_be_focused()
        who.fills("One to three letters", "MF")
        who.presses("Keep as artwork")
        who.sees("Open on the bench")
        who.presses("Open on the bench")
        who.sees("Ways to use")
        who.presses("Set view")
        who.sees("One file for an upload field")
        who.fills("Side in px", "32")
        who.presses("Make it")
        expect(page.get_by_role("link", name="ferry-32.png")).to_be_visible()
        self.assertEqual(Artwork.objects.get().drawing["text"], "MF")
        self.assertLessEqual(who.actions, 8)
        self.assertLessEqual(who.tabs, MOST_TABS)


class TakingBackTests(ViewTestCase):
    def test_last_months_icon_is_taken_back(self):
        before = (self.root / "parts/header.html").read_bytes()
        install_now(self.site)
        page = self.open("/")
        page.get_by_role("link", name="Crew rota", exact=True).wait_for()
        who = Somebody(page)
        who.presses("Crew rota site")
        who.sees("Size ladder")
        who.presses("Install view")
        who.sees("History")
        who.sees("Undo")
        who.presses("Undo")
        who.sees("installed, then undone")
        self.assertEqual((self.root / "parts/header.html").read_bytes(), before)
        self.assertEqual((who.actions, who.tabs), (3, 0))
