"""Each view in its ordinary, empty and broken states."""

import re
from itertools import pairwise

from PIL import Image
from playwright.sync_api import Page, Route, expect

from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.server.artwork.services import add_artwork
from bexi.server.builds.services import build_site
from bexi.server.checks.starting import check_now
from bexi.server.drafts.services import save_draft
from bexi.server.installs.starting import install_now
from bexi.server.sites.models import Site
from tests.browser.case import BrowserTestCase
from tests.pictures import BLUE_DISC, encoded

OVERFLOW = """[
    document.documentElement.scrollWidth - innerWidth,
    document.documentElement.scrollHeight - innerHeight,
]"""


class ViewTestCase(BrowserTestCase):
    """A site with a built set, over the stand-in's crew rota."""

    def setUp(self):
        super().setUp()
        self.root = self.served / "crew"
        self.site = Site.objects.create(
            name="Crew rota",
            place=str(self.root),
            address=f"http://127.0.0.1:{self.standin_port + 2}/",
        )
        self.artwork = add_artwork("disc.svg", BLUE_DISC)
        save_draft(self.site, self.artwork, Recipe.of(Frame(0, 0, 512)), 0)
        self.build = build_site(self.site)

    def view(self, name: str, **options: object):
        return self.open(f"/sites/{self.site.pk}/{name}", **options)

    def watched(self) -> Page:
        """The live check after one check, with a watch half set up."""
        page = self.view("live-check")
        page.get_by_role("button", name="Check now").click()
        page.get_by_role("combobox", name="How often").click()
        page.get_by_title("Every day").click()
        return page


class LayoutTests(ViewTestCase):
    def test_nothing_sticks_out_at_the_sizes_the_interface_is_made_for(self):
        for width, height in ((1024, 768), (1280, 800), (1920, 1080), (420, 860)):
            page = self.open("/", viewport={"width": width, "height": height})
            for view in ("", "artwork", "artwork/letters", "set", "install", "live-check", "bench"):
                if view == "bench" and width < 1024:
                    continue  # the bench is made for a desk
                page.goto(f"{self.live_server_url}/sites/{self.site.pk}/{view}" if view else self.live_server_url)
                page.wait_for_load_state("networkidle")
                across, down = page.evaluate(OVERFLOW)
                self.assertLessEqual(across, 0, f"{view} at {width}")
                if view == "bench":
                    page.get_by_role("button", name="Safe circle").click()
                    self.assert_side_by_side(page, "Framing", "Stage", "Seen in place, true size")
                    self.assertLessEqual(down, 0, f"{view} at {width} × {height}")

    def assert_side_by_side(self, page, *regions: str) -> None:
        """Regions lie beside one another, and nothing of one reaches into the next."""
        boxes = [page.get_by_role("region", name=name, exact=True).bounding_box() for name in regions]
        for left, right in pairwise(boxes):
            self.assertLessEqual(left["x"] + left["width"], right["x"] + 0.5)


class SitesViewTests(ViewTestCase):
    def test_empty_list_says_what_to_do(self):
        Site.objects.all().delete()
        page = self.open("/")
        expect(page.get_by_text("No sites yet")).to_be_visible()
        page.get_by_role("button", name="Add a site").last.click()
        page.get_by_role("button", name="It has no address yet").click()
        page.get_by_role("button", name="Add the site").click()
        expect(page.get_by_text("Give the site a name")).to_be_visible()
        page.get_by_label("Name", exact=True).fill("Ferry")
        page.get_by_label("Address, as visitors type it").fill("merrow mouth")
        page.get_by_role("button", name="Add the site").click()
        expect(page.get_by_role("alert")).to_contain_text("not an address that visitors can type")
        page.get_by_label("Address, as visitors type it").fill(f"127.0.0.1:{self.standin_port + 1}/")
        page.get_by_role("button", name="Add the site").click()
        expect(page.get_by_role("button", name="Choose files")).to_be_visible()
        self.assertEqual(Site.objects.get().address, f"http://127.0.0.1:{self.standin_port + 1}/")

    def test_each_site_shows_its_state_and_the_next_step(self):
        page = self.open("/")
        expect(page.get_by_text("Built, not installed")).to_be_visible()
        page.get_by_role("link", name="Install the set of Crew rota").click()
        expect(page.get_by_role("heading", name="Install build 1")).to_be_visible()
        page.get_by_role("link", name="Bexi, all sites").click()
        expect(page.get_by_role("heading", name="Sites")).to_be_visible()

    def test_the_icon_that_visitors_get_is_shown_at_both_sizes(self):
        install_now(self.site)
        check_now(self.site)
        page = self.open("/")
        for size in (16, 32):
            box = page.get_by_alt_text(f"Icon of Crew rota as visitors get it, {size} px").bounding_box()
            self.assertEqual((box["width"], box["height"]), (size, size))


class ArrivingTests(ViewTestCase):
    """Where one is: said by the title, heard from the heading."""

    def test_each_step_puts_the_focus_on_the_heading_and_says_where_one_is(self):
        page = self.open("/")
        self.assertEqual(page.title(), "Sites · Bexi")
        page.get_by_role("link", name="Crew rota", exact=True).click()
        expect(page.get_by_role("heading", name="Bench of Crew rota")).to_be_focused()
        for view, heading in (
            ("Set", "Build 1"),
            ("Install", "Install build 1"),
            ("Live check", "Not checked yet"),
            ("Artwork", "Artwork for Crew rota"),
            ("Bench", "Bench of Crew rota"),
        ):
            page.get_by_role("link", name=view, exact=True).click()
            expect(page.get_by_role("heading", name=heading)).to_be_focused()
            expect(page).to_have_title(f"{view} · Crew rota · Bexi")

    def test_the_bar_can_be_skipped(self):
        page = self.view("live-check")
        page.get_by_role("button", name="Check now").wait_for()
        page.keyboard.press("Tab")
        skip = page.get_by_role("button", name="Skip to the content")
        expect(skip).to_be_focused()
        expect(skip).to_be_in_viewport()
        page.keyboard.press("Enter")
        page.keyboard.press("Tab")
        expect(page.get_by_role("button", name="Check now")).to_be_focused()

    def test_arrows_move_the_frame_from_the_stage_only_and_fields_keep_their_keys(self):
        page = self.view("bench")
        x = page.get_by_label("Frame x, px")
        before = x.input_value()
        page.get_by_role("region", name="Seen in place, true size").focus()
        page.keyboard.press("ArrowDown")
        page.get_by_role("link", name="Live check").focus()
        page.keyboard.press("ArrowRight")
        x.focus()
        page.keyboard.press("Control+Enter")
        page.get_by_role("application").focus()
        expect(x).to_have_value(before)
        page.keyboard.press("ArrowRight")
        expect(x).to_have_value(str(int(before) + 1))
        self.assertEqual(self.site.build_runs.count(), 0)


class ShellTests(ViewTestCase):
    def test_theme_follows_the_machine_until_chosen_and_is_kept(self):
        page = self.view("set", color_scheme="dark")
        expect(page.locator("html")).to_have_attribute("data-mode", "dark")
        page.get_by_role("button", name="Switch to the light theme").click()
        expect(page.locator("html")).to_have_attribute("data-mode", "light")
        page.reload()
        expect(page.get_by_role("button", name="Switch to the dark theme")).to_be_visible()

    def test_a_process_that_stopped_is_told_and_the_bar_keeps_its_height(self):
        page, told = self.view("set"), "Background work stopped 3 times and was restarted; the log says why."
        before = page.locator("header").bounding_box()
        page.route("**/api/processes", lambda route: route.fulfill(json={"told": told}))
        page.reload()
        expect(page.get_by_text(told)).to_be_visible()
        expect(page.get_by_role("link", name="Live check", exact=True)).to_be_visible()
        self.assertEqual(page.locator("header").bounding_box(), before)
        page.locator("main").wait_for()
        self.assert_no_axe_findings(page)

    def test_switching_sites_and_views(self):
        other = Site.objects.create(name="Harbour log")
        page = self.view("bench")
        expect(page.get_by_alt_text("Icon at 512 px", exact=True)).to_be_visible()
        page.get_by_label("Site", exact=True).click()
        page.get_by_title("Harbour log").click()
        expect(page).to_have_url(re.compile(rf"/sites/{other.pk}/bench$"))
        expect(page.get_by_text("Nothing is on the bench for Harbour log yet")).to_be_visible()
        for name, told in (
            ("Set", "Nothing is built yet"),
            ("Install", "Nothing is built for this site yet"),
            ("Live check", "Not checked yet"),
        ):
            page.get_by_role("link", name=name, exact=True).click()
            expect(page.get_by_text(told)).to_be_visible()
        expect(page.get_by_role("link", name="Enter the address")).to_be_visible()

    def test_a_press_while_the_bench_is_being_set_up_wins(self):
        page = self.view("set")
        expect(page.get_by_role("region", name="Set plan")).to_be_visible()
        press = """([name, wait]) => new Promise(done => setTimeout(() => {
            [...document.querySelectorAll("nav a")].find(link => link.textContent === name).click();
            done();
        }, wait))"""
        for wait in range(0, 40, 10):
            page.evaluate(press, ["Bench", 0])
            page.evaluate(press, ["Artwork", wait])
            expect(page.get_by_role("heading", name=re.compile("^Artwork for"))).to_be_visible()
            expect(page).to_have_url(re.compile(r"/artwork$"))
            page.get_by_role("link", name="Set", exact=True).click()
            expect(page.get_by_role("region", name="Set plan")).to_be_visible()

    def test_an_address_that_leads_nowhere(self):
        for path in ("/nowhere", "/sites/999/bench"):
            page = self.open(path)
            expect(page.get_by_text("Nothing was found at this address")).to_be_visible()
            page.get_by_role("link", name="Go to the sites").click()
            expect(page.get_by_role("heading", name="Sites")).to_be_visible()

    def test_a_server_that_does_not_answer_is_told_and_asked_again(self):
        page = self.view("bench")
        expect(page.get_by_alt_text("Icon at 512 px", exact=True)).to_be_visible()
        page.route("**/api/**", lambda route: route.abort())
        page.get_by_label("Frame x, px").fill("7")
        expect(page.get_by_text("Not saved")).to_be_visible()
        expect(page.get_by_text("Bexi does not answer").first).to_be_visible()
        again = page.get_by_role("button", name="Try again").first.element_handle()
        page.unroute("**/api/**")
        again.evaluate("button => button.click()")  # not waited for: Bexi asks again by itself, too, and it goes
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual([*self.site.drafts.get().recipe["framing"]["frame"].values()], [7, 0, 512])


class SilentServerTests(ViewTestCase):
    FIELDS = "main input:visible, main textarea:visible, [role=dialog] input:visible"
    TYPED = ":is(input[type=text], input:not([type])):not([readonly]):visible"
    VALUES = "fields => fields.map(field => `${field.type} ${field.value} ${field.checked}`)"

    def test_no_field_goes_and_nothing_typed_when_the_server_does_not_answer(self):
        begun = self.open("/")
        self.drop(begun, BLUE_DISC, "disc.svg", "image/svg+xml")
        begun.get_by_role("button", name="Put it on a site").click()
        begun.get_by_label("The address of the site, or a name for it").wait_for()
        self.assert_fields_stay(begun)
        self.assert_fields_stay(self.watched())
        for view in ("artwork", "artwork/letters", "artwork/symbol", "bench", "set", "install"):
            with self.subTest(view):
                page = self.view(view)
                expect(page.get_by_role("region", name="Planning")).to_have_count(0)
                self.assert_fields_stay(page)

    def assert_fields_stay(self, page: Page) -> None:
        fields = page.locator(self.FIELDS)
        expect(fields.last).to_be_visible()
        page.wait_for_load_state("networkidle")
        for typed in page.locator(self.TYPED).all()[-1:]:
            typed.fill("half a thought")
        before = fields.evaluate_all(self.VALUES)
        lost: list[Route] = []

        def lose(route: Route) -> None:
            lost.append(route)
            route.abort()

        page.route("**/api/**", lose)
        for _ in range(2):
            page.evaluate("dispatchEvent(new Event('visibilitychange'))")  # all is asked for anew
            page.wait_for_timeout(1500)  # and once more
        self.assertTrue(lost)
        self.assertEqual(fields.evaluate_all(self.VALUES), before)
        page.context.close()


class BenchViewTests(ViewTestCase):
    def test_ready_frames_and_margins(self):
        page = self.view("bench")
        side, x, y = (page.get_by_label(f"Frame {name}, px") for name in ("side", "x", "y"))
        page.get_by_role("button", name="Whole artwork").click()
        expect(side).to_have_value("1024")
        expect(page.get_by_text("Margin added: top 256 px, bottom 256 px.")).to_be_visible()
        page.get_by_role("button", name="Fill").click()
        self.assertEqual((side.input_value(), x.input_value(), y.input_value()), ("512", "256", "0"))
        expect(page.get_by_text("No margin: the frame lies in the artwork.")).to_be_visible()
        page.get_by_role("button", name="Trim to the mark").click()
        expect(page.get_by_role("button", name="Trim to the mark")).to_have_attribute("aria-pressed", "true")
        self.assertAlmostEqual(int(side.input_value()), 410, delta=3)

    def test_dragging_moves_whole_pixels_and_keeps_the_side(self):
        page = self.view("bench")
        frame = page.get_by_role("application")
        box = frame.bounding_box()
        page.keyboard.down("Alt")  # nothing is caught
        page.mouse.move(box["x"] + 60, box["y"] + 60)
        page.mouse.down()
        page.mouse.move(box["x"] + 91, box["y"] + 37, steps=5)
        page.mouse.up()
        page.keyboard.up("Alt")
        expect(page.get_by_text("Draft saved")).to_be_visible()
        x, y, side = [*self.site.drafts.get().recipe["framing"]["frame"].values()]
        scale = box["width"] / 512
        self.assertEqual(side, 512)
        self.assertAlmostEqual(x, 31 / scale, delta=1)
        self.assertAlmostEqual(y, -23 / scale, delta=1)

    def test_corners_keep_it_square_and_the_opposite_corner_in_place(self):
        page = self.view("bench")
        frame = page.get_by_role("application")
        expect(page.get_by_alt_text("Icon at 16 px", exact=True)).to_be_visible()
        box = frame.bounding_box()
        page.mouse.move(box["x"], box["y"])
        page.mouse.down()
        page.mouse.move(box["x"] + 80, box["y"] + 80, steps=5)
        page.mouse.up()
        expect(page.get_by_text("Draft saved")).to_be_visible()
        x, y, side = [*self.site.drafts.get().recipe["framing"]["frame"].values()]
        self.assertLess(side, 512)
        self.assertEqual((x + side, y + side), (512, 512))

    def test_ground_colour_is_seen_in_every_size(self):
        page = self.view("bench")
        page.get_by_text("Colour", exact=True).click()
        page.get_by_label("Background colour", exact=True).fill("#ffcc0")
        expect(page.get_by_label("Background colour", exact=True)).to_have_attribute("aria-invalid", "true")
        page.get_by_label("Background colour", exact=True).fill("#ffcc00")
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual(self.site.drafts.get().recipe["framing"]["ground"], "#ffcc00")

    def test_g_flicks_the_ladders_ground(self):
        page = self.view("bench")
        rungs = page.get_by_role("list", name="Icons by size")
        expect(rungs).to_have_attribute("data-dark", "false")
        page.get_by_role("application").press("g")
        expect(rungs).to_have_attribute("data-dark", "true")
        page.get_by_text("Light", exact=True).click()
        expect(rungs).to_have_attribute("data-dark", "false")

    def test_enlarging_is_told_at_each_size(self):
        picture = Image.new("RGBA", (100, 100))
        picture.paste("#d9480f", (5, 5, 95, 95))
        small = add_artwork("small.png", encoded(picture, "PNG"))
        save_draft(self.site, small, Recipe.of(Frame(0, 0, 100)), 1)
        page = self.view("bench")
        rungs = page.get_by_role("list", name="Icons by size").get_by_role("listitem")
        expect(rungs).to_have_count(10)
        told = ["".join(text.split("\n")[1:3]) for text in rungs.all_inner_texts()]
        self.assertEqual(told[6], "weakartwork px 0.20")
        self.assertIn("artwork px 0.5", told[5])


class LiveCheckViewTests(ViewTestCase):
    def test_problems_come_first_with_evidence_and_a_way_on(self):
        page = self.view("live-check")
        page.get_by_role("button", name="Check now").click()
        expect(page.get_by_role("heading", name=re.compile(r"\d+ problems?"))).to_be_visible()
        wrong = page.get_by_role("region", name="Problems")
        expect(wrong.get_by_text("A phone fills the clear parts with black.")).to_be_visible()
        expect(page.get_by_role("region", name="What visitors see").get_by_role("article")).to_have_count(6)
        self.assert_no_axe_findings(page)
        wrong.get_by_role("link", name=re.compile("Install the set|Build a set")).first.click()
        expect(page.get_by_role("application").or_(page.get_by_role("heading", name="Install build 1"))).to_be_visible()

    def test_a_watch_is_kept_and_lines_for_servers_are_shown(self):
        page = self.watched()
        page.get_by_label("Tell by mail when it gets worse").fill("nobody")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_text("The request is not valid")).to_be_visible()
        page.get_by_label("Tell by mail when it gets worse").fill("harbour@merrowmouth.example")
        with page.expect_response(re.compile(r"/watch$")):  # while it is asked, the button goes by another name
            page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("button", name="Save", exact=True)).to_have_count(0)
        self.assertEqual(self.site.watch.mail, "harbour@merrowmouth.example")
        page.get_by_text("Caddy", exact=True).click()
        expect(page.get_by_label("Lines for Caddy")).to_contain_text("header @icons Cache-Control")
        page.get_by_text("Others", exact=True).click()
        expect(page.get_by_text("Files ending in .svg are sent as image/svg+xml.")).to_be_visible()
        self.assert_no_axe_findings(page)

    def test_a_check_that_ends_leaves_what_is_typed_and_chosen_beside_it(self):
        page = self.watched()
        page.get_by_label("Tell by mail when it gets worse").fill("harbour")
        page.get_by_text("Caddy", exact=True).click()
        with page.expect_response(re.compile(r"/api/checks/\d+$")):
            page.get_by_role("button", name="Check again").click()
        expect(page.get_by_role("region", name="Checks", exact=True).get_by_role("link")).to_have_count(2)
        expect(page.get_by_label("Tell by mail when it gets worse")).to_have_value("harbour")
        expect(page.get_by_label("Lines for Caddy")).to_be_visible()

    def test_a_site_that_is_down(self):
        Site.objects.update(address="http://127.0.0.1:9/")
        page = self.view("live-check")
        page.get_by_role("button", name="Check now").click()
        expect(page.get_by_text("The site does not answer", exact=True)).to_be_visible()
        page.get_by_role("link", name="Bexi, all sites").click()
        expect(page.get_by_text("Problems found")).to_be_visible()
