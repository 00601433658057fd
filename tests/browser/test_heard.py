"""Keys, ears, touch and zoom: what somebody gets who does not see the screen, or has no mouse."""

import re

from playwright.sync_api import Page, expect

from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.server.artwork.services import add_artwork
from bexi.server.drafts.services import save_draft
from bexi.server.sites.models import Site
from tests.browser.case import SMALL, BrowserTestCase
from tests.browser.test_crowded import STICKING_OUT
from tests.browser.test_start import LOGO
from tests.pictures import BLUE_DISC

FOCUSED = """() => {
    const at = document.activeElement;
    return at === document.body ? 'nowhere' : (at.getAttribute('aria-label') ?? at.innerText ?? '').trim();
}"""


class HeardTestCase(BrowserTestCase):
    plan = SMALL

    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(
            name="Crew rota",
            place=str(self.served / "crew"),
            address=f"http://127.0.0.1:{self.standin_port + 2}/",
        )
        save_draft(self.site, add_artwork("disc.svg", BLUE_DISC), Recipe.of(Frame(0, 0, 512)), 0)

    def view(self, name: str, **options: object) -> Page:
        page = self.open(f"/sites/{self.site.pk}/{name}", **options)
        expect(page.get_by_role("button", name="Build the set")).to_be_enabled()
        return page

    def hears(self, page: Page, told: str | re.Pattern[str]) -> None:
        expect(page.get_by_role("log").get_by_text(told).last).to_be_attached()


class FocusTests(HeardTestCase):
    def test_a_dialog_gives_the_focus_back_by_escape_and_by_its_cross(self):
        page = self.open("/")
        for opener, dialog in (("Add a site", "Add a site"), ("Find", "Find"), ("Keys and help", "Keys")):
            for by_key in (True, False):
                button = page.get_by_role("button", name=opener, exact=True).first
                button.focus()
                page.keyboard.press("Enter")
                expect(page.get_by_role("dialog", name=dialog)).to_be_visible()
                if by_key:
                    page.keyboard.press("Escape")
                else:
                    page.get_by_role("dialog").get_by_role("button", name="Close").click()
                expect(page.get_by_role("dialog")).to_have_count(0)
                expect(button, f"{dialog}, by key: {by_key}").to_be_focused()

    def test_the_pictures_of_a_site_give_it_back_too(self):
        page = self.view("artwork")
        button = page.get_by_role("button", name="Use a picture from the site")
        button.focus()
        page.keyboard.press("Enter")
        expect(page.get_by_role("dialog")).to_be_visible()
        page.keyboard.press("Escape")
        expect(button).to_be_focused()

    def test_a_control_that_vanishes_on_use_hands_the_focus_on(self):
        page = self.view("bench")
        page.get_by_label("Frame side, px").fill("400")
        expect(page.get_by_text("Draft saved")).to_be_visible()
        undo = page.get_by_role("button", name="Undo")
        undo.focus()
        page.keyboard.press("Enter")
        expect(undo).to_be_disabled()
        expect(page.get_by_role("button", name="Redo")).to_be_focused()
        for name in ("Icon at 16 px", "Adjust 16 px separately", "Use the shared framing"):
            button = page.get_by_role("button", name=name)
            button.focus()
            page.keyboard.press("Enter")
            page.wait_for_timeout(300)
            self.assertNotEqual(page.evaluate(FOCUSED), "nowhere", name)

    def test_keys_of_the_bench_work_from_everything_but_text(self):
        page = self.view("bench")
        side = page.get_by_label("Frame side, px")
        for number, role in enumerate(("radio", "slider", "button")):
            side.fill(str(400 + number))
            expect(page.get_by_text("Draft saved")).to_be_visible()
            page.locator("main").get_by_role(role).first.focus()
            page.keyboard.press("Control+z")
            expect(side, role).to_have_value("512")
        page.locator("main").get_by_role("slider").first.focus()
        page.keyboard.press("]")
        expect(page.get_by_role("button", name="Icon at 16 px")).to_have_attribute("aria-pressed", "true")
        side.focus()
        page.keyboard.press("]")  # text keeps its own
        expect(page.get_by_role("button", name="Icon at 16 px")).to_have_attribute("aria-pressed", "true")


class EarsTests(HeardTestCase):
    def test_after_a_move_the_frame_and_the_words_of_the_small_sizes_are_told_once(self):
        page = self.view("bench")
        expect(page.get_by_alt_text("Icon at 32 px", exact=True)).to_be_visible()
        page.wait_for_load_state("networkidle")
        page.get_by_role("application").focus()
        for _ in range(5):
            page.keyboard.press("Shift+ArrowRight")
        self.hears(page, re.compile(r"^Frame 512 px wide at 50, 0\. 16 px \w+.*; 32 px \w+.*\.$"))
        page.wait_for_timeout(800)
        self.assertLessEqual(page.get_by_role("log").locator("p").count(), 2)

    def test_the_whole_story_by_name_role_and_live_text_alone(self):
        """From a typed address to the live check and back, as Chromium's accessibility tree gives it."""
        home = self.served / "tide" / "index.html"
        home.write_text(home.read_text().replace("<body>", f"<body>{LOGO}"))
        page = self.open("/")
        tree = lambda: page.locator("body").aria_snapshot()  # noqa: E731
        self.assertIn('heading "Sites"', tree())
        typed = page.get_by_role("textbox", name="A site's address, a name or initials")
        typed.fill(f"127.0.0.1:{self.standin_port + 4}")
        typed.press("Enter")
        page.get_by_role("button", name=re.compile("^Likeliest")).press("Enter")
        expect(page.get_by_role("heading", name="Ways to use")).to_be_visible()
        page.get_by_role("button", name="Continue with the chosen one").press("Enter")
        frame = page.get_by_role("application", name=re.compile("^Frame, "))
        frame.press("Shift+ArrowDown")
        self.hears(page, re.compile(r"^Frame \d+ px wide at "))
        page.get_by_role("button", name="Build the set").press("Enter")
        self.hears(page, "The set is built.")
        page.get_by_role("link", name="Install", exact=True).press("Enter")
        page.get_by_role("textbox", name="Folder").fill(str(self.served / "tide"))
        page.get_by_role("button", name="Save").press("Enter")
        self.hears(page, re.compile(r"^The plan is ready: \d+ files change\.$"))
        page.get_by_role("button", name=re.compile(r"^Install \d+ changes$")).press("Enter")
        self.hears(page, "Build 1 is installed.")
        page.get_by_role("link", name="Live check", exact=True).press("Enter")
        page.get_by_role("button", name=re.compile("^Check (now|again)$")).press("Enter")
        self.hears(page, re.compile("^Checked. "))
        page.get_by_role("link", name="Install", exact=True).press("Enter")
        page.get_by_role("button", name="Undo").press("Enter")
        self.hears(page, "Build 1 is undone.")
        expect(page.get_by_role("heading", name="Install build 1")).to_be_visible()


class TouchTests(HeardTestCase):
    PHONE = {"viewport": {"width": 390, "height": 800}, "has_touch": True, "is_mobile": True}

    def side(self, page: Page) -> str:
        return page.get_by_role("application").get_attribute("aria-label").split(".")[0]

    def swipe(self, page: Page, points: list[list[tuple[float, float]]]) -> None:
        """Fingers, each along its own points."""
        session = page.context.new_cdp_session(page)
        send = lambda kind, touches: session.send(  # noqa: E731
            "Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": x, "y": y} for x, y in touches]}
        )
        send("touchStart", [finger[0] for finger in points])
        for step in range(1, len(points[0])):
            send("touchMove", [finger[step] for finger in points])
            page.wait_for_timeout(16)
        send("touchEnd", [])

    def beside_frame(self, page: Page) -> tuple[float, float]:
        """A point of the stage that is outside the frame."""
        page.get_by_role("button", name="Zoom out").click(click_count=3)
        field = page.get_by_role("region", name="Stage").bounding_box()
        frame = page.get_by_role("application").bounding_box()
        self.assertGreater(field["y"] + field["height"], frame["y"] + frame["height"] + 40)
        return frame["x"] + frame["width"] / 2, frame["y"] + frame["height"] + 30

    def test_one_finger_scrolls_the_page_and_two_zoom_the_stage(self):
        page = self.view("bench", **self.PHONE)
        before = self.side(page)
        x, y = self.beside_frame(page)
        self.swipe(page, [[(x, y - step * 12) for step in range(12)]])
        page.wait_for_timeout(300)
        self.assertGreater(page.evaluate("scrollY"), 50)
        self.assertEqual(self.side(page), before)
        page.evaluate("scrollTo(0, 0)")
        zoomed = page.get_by_role("region", name="Stage").get_by_text(re.compile(r"^\d+ %$"))
        percent = int(zoomed.inner_text().split()[0])
        self.swipe(page, [[(x - 10 - 6 * step, y) for step in range(8)], [(x + 10 + 6 * step, y) for step in range(8)]])
        page.wait_for_timeout(200)
        self.assertGreater(int(zoomed.inner_text().split()[0]), percent)
        self.assertEqual(self.side(page), before)

    def test_one_finger_on_the_frame_moves_it_and_a_new_one_has_its_button(self):
        page = self.view("bench", **self.PHONE)
        x, y = self.beside_frame(page)
        frame = page.get_by_role("application").bounding_box()
        middle = (frame["x"] + frame["width"] / 2, frame["y"] + frame["height"] / 2)
        self.swipe(page, [[(middle[0] + step * 3, middle[1]) for step in range(10)]])
        self.assertNotIn("at 0, 0", self.side(page))
        self.assertEqual(page.evaluate("scrollY"), 0)
        page.get_by_role("button", name="New frame").click()
        self.swipe(page, [[(x - 60 + 4 * step, y - 60 + 4 * step) for step in range(10)]])
        self.assertNotIn("512 px", self.side(page))
        expect(page.get_by_role("button", name="New frame")).to_be_visible()

    def test_at_200_percent_the_wheel_scrolls_the_page_unless_control_is_held(self):
        page = self.view("bench", viewport={"width": 640, "height": 400})
        box = page.get_by_role("region", name="Stage").bounding_box()
        page.mouse.move(box["x"] + 100, box["y"] + 120)
        page.mouse.wheel(0, 120)
        page.wait_for_timeout(300)
        self.assertGreater(page.evaluate("scrollY"), 50)

    def test_at_400_percent_the_bar_does_not_stick_and_nothing_sticks_out(self):
        views = (f"sites/{self.site.pk}/{view}" for view in ("artwork", "bench", "set", "install", "live-check"))
        for view in ("", "visitor", "account", f"several#{self.site.pk}", *views):
            page = self.open(f"/{view}", viewport={"width": 320, "height": 256})
            page.locator("main").wait_for()
            page.wait_for_load_state("networkidle")
            page.mouse.wheel(0, 400)
            page.wait_for_timeout(200)
            bar = page.locator("header").first.bounding_box()
            self.assertLess(bar["y"] + bar["height"], 200, view)
            self.assertEqual(page.evaluate(STICKING_OUT), [], view)
            page.context.close()


class ManyTests(HeardTestCase):
    def test_every_picker_finds_what_is_beyond_its_first_ones(self):
        Site.objects.bulk_create(Site(name=f"Pier {number:04}") for number in range(1000))
        last = Site.objects.create(name="Zürich lake")
        for number in range(60):
            add_artwork(f"mark-{number:03}.svg", BLUE_DISC.replace(b"#1144cc", b"#11%02x00" % number))
        page = self.view("bench")
        page.get_by_role("button", name="Icon at 32 px").click()
        page.get_by_role("button", name="Adjust up to 32 px separately").click()
        page.get_by_label("Artwork for these sizes").fill("mark-000")
        page.get_by_title("mark-000", exact=True).click()
        expect(page.get_by_text("Draft saved")).to_be_visible()
        switch = page.get_by_role("combobox", name="Site")
        switch.fill("züri")
        page.locator('.ant-select-item[title="Zürich lake"]').click()
        expect(page).to_have_url(re.compile(rf"/sites/{last.pk}/"))
        page.keyboard.press("Control+k")
        page.get_by_label("An action, site, artwork or word").fill("pier 0987")
        expect(page.get_by_role("option").first).to_contain_text("Pier 0987")

    def test_the_first_sites_are_listed_before_all_are_known(self):
        Site.objects.bulk_create(Site(name=f"Pier {number:04}") for number in range(1000))
        page = self.open("/")
        expect(page.get_by_role("link", name="Crew rota", exact=True)).to_be_visible()
        entries = page.evaluate(
            "performance.getEntriesByType('resource').filter(({ name }) => name.includes('/api/sites?')).length"
        )
        self.assertGreater(entries, 0)


class WithoutServerTests(HeardTestCase):
    def test_by_hand_and_zip_need_no_password_and_go_straight_on(self):
        page = self.view("install")
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1", exact=True)).to_be_visible()
        page.get_by_role("link", name="Install", exact=True).click()
        for way, heading in (("By hand", "Install by hand"), ("ZIP", "Install with a ZIP of the site")):
            page.get_by_role("button", name="Change location").click()
            page.get_by_text(way, exact=True).click()
            page.get_by_role("button", name="Save", exact=True).click()
            expect(page.get_by_role("heading", name=heading)).to_be_visible()
            expect(page.get_by_label("Password", exact=False)).to_have_count(0)
            expect(page.get_by_role("button", name="Test connection")).to_have_count(0)
        self.site.refresh_from_db()
        self.assertEqual((self.site.place, self.site.without_server), ("", "zip"))
