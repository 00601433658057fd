"""What a hand did is kept: built, saved, found again, whatever was slow, lost or in between."""

import re
import threading
from collections.abc import Callable

from playwright.sync_api import ElementHandle, Locator, Page, Route, expect

from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.server.artwork.services import add_artwork
from bexi.server.drafts.services import save_draft
from bexi.server.sites.models import Site
from tests.browser.case import AT_REST, SMALL, BrowserTestCase
from tests.pictures import BLUE_DISC, plain_png

DRAFTS = re.compile(r"/api/drafts/\d+$")
PLAN = re.compile(r"/api/sites/\d+/plan$")
PASTE = """([kind, text]) => {
    const transfer = new DataTransfer();
    transfer.items.add(new File([Uint8Array.of(137, 80, 78, 71)], 'text.png', { type: 'image/png' }));
    if (text) transfer.setData('text/plain', text);
    document.activeElement.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true, cancelable: true }));
}"""


class KeptTestCase(BrowserTestCase):
    plan = SMALL

    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(name="Ferry")
        self.artwork = add_artwork("disc.svg", BLUE_DISC)
        save_draft(self.site, self.artwork, Recipe.of(Frame(0, 0, 512)), 0)

    def view(self, name: str, **options: object) -> Page:
        page = self.open(f"/sites/{self.site.pk}/{name}", **options)
        expect(page.get_by_role("button", name="Build the set")).to_be_enabled()
        return page

    def built_side(self) -> int:
        return self.site.builds.latest("number").recipe["framing"]["frame"]["side_px"]


class InTheBuildTests(KeptTestCase):
    def slowly(self, page: Page, method: str) -> Callable[[Route], None]:
        """The first request of a method takes a while."""
        held = threading.Event()

        def handle(route: Route) -> None:
            if route.request.method == method and not held.is_set():
                held.set()
                page.wait_for_timeout(1500)
            route.continue_()

        return handle

    def test_a_change_is_built_after_its_view_was_left_while_it_was_being_saved(self):
        page = self.view("bench")
        page.route(DRAFTS, self.slowly(page, "PUT"))
        page.get_by_label("Frame side, px").fill("400")
        page.get_by_role("link", name="Set", exact=True).click()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1", exact=True)).to_be_visible()
        self.assertEqual(self.built_side(), 400)

    def test_a_press_while_the_bench_opens_builds_the_set(self):
        page = self.view("set")
        page.route(DRAFTS, self.slowly(page, "GET"))
        page.goto(f"{self.live_server_url}/sites/{self.site.pk}/bench/{self.site.drafts.get().pk}")
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1", exact=True)).to_be_visible()

    def test_nothing_is_built_without_a_change_that_could_not_be_saved(self):
        page = self.view("bench")
        page.route(DRAFTS, lambda route: route.abort() if route.request.method == "PUT" else route.continue_())
        page.get_by_label("Frame side, px").fill("400")
        expect(page.get_by_text("Not saved", exact=True)).to_be_visible()
        page.get_by_role("link", name="Set", exact=True).click()
        page.get_by_role("button", name="Leave the bench").click()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_text("Your last change could not be saved")).to_be_visible()
        self.assertFalse(self.site.builds.exists())
        page.unroute(DRAFTS)
        page.get_by_role("link", name="Bench", exact=True).click()
        expect(page.get_by_text("Draft saved")).to_be_visible()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1", exact=True)).to_be_visible()
        self.assertEqual(self.built_side(), 400)

    def test_a_change_whose_answer_was_lost_is_no_other_windows(self):
        page = self.view("bench")
        lost = threading.Event()

        def lose(route: Route) -> None:
            if route.request.method != "PUT" or lost.is_set():
                route.continue_()
                return
            lost.set()
            route.fetch()
            route.abort()

        page.route(DRAFTS, lose)
        page.get_by_label("Frame side, px").fill("400")
        expect(page.get_by_text("Not saved", exact=True)).to_be_visible()
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual(self.site.drafts.get().recipe["framing"]["frame"]["side_px"], 400)

    def test_a_bench_left_while_it_saves_and_opened_again_sends_nothing_beside_that(self):
        page = self.view("bench")
        sent: list[Route] = []

        def hold_first(route: Route) -> None:
            if route.request.method == "PUT":
                sent.append(route)
            if sent != [route]:
                route.continue_()

        page.route(DRAFTS, hold_first)
        page.get_by_label("Frame side, px").fill("400")
        page.get_by_label("Frame side, px").press("Enter")
        expect(page.get_by_text("Saving", exact=True)).to_be_visible()
        page.get_by_role("link", name="Set", exact=True).click()
        page.get_by_role("link", name="Bench", exact=True).click()
        side = page.get_by_label("Frame side, px")
        expect(side).to_have_value("400")
        side.fill("380")
        side.press("Enter")
        page.wait_for_timeout(1000)
        self.assertEqual(len(sent), 1)
        sent[0].continue_()
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual(self.site.drafts.get().recipe["framing"]["frame"]["side_px"], 380)

    def test_a_name_typed_and_a_tick_set_at_once_are_both_kept(self):
        page = self.view("set")
        plan = page.get_by_role("region", name="Set plan")
        plan.get_by_label("site.webmanifest").click()
        plan.get_by_text("Installed as an app").click()
        plan.get_by_label("Short name").fill("Tide")
        plan.get_by_label("icon-16.png").click()  # which leaves the field
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1", exact=True)).to_be_visible()
        build = self.site.builds.get()
        names = {file.name for file in build.files.all()}
        self.assertLessEqual({"icon-16.png", "site.webmanifest"}, names)
        self.site.set_plan.refresh_from_db()
        self.assertEqual(self.site.set_plan.plan["app"]["short_name"], "Tide")

    def test_a_plan_that_could_not_be_saved_is_said_and_is_not_left_out_in_silence(self):
        page = self.view("set")
        page.route(PLAN, lambda route: route.abort() if route.request.method == "PUT" else route.continue_())
        page.get_by_label("icon-16.png").click()
        expect(page.get_by_role("alert").filter(has_text="Not saved")).to_be_visible()
        page.get_by_role("link", name="Artwork", exact=True).click()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_text("Your last change could not be saved")).to_be_visible()
        page.get_by_role("link", name="Set", exact=True).click()
        expect(page.get_by_label("icon-16.png")).to_be_checked()
        page.unroute(PLAN)
        page.get_by_role("button", name="Try again").click()
        expect(page.get_by_role("alert").filter(has_text="Not saved")).to_have_count(0)
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1", exact=True)).to_be_visible()
        self.assertIn("icon-16.png", {file.name for file in self.site.builds.get().files.all()})

    def test_text_is_kept_when_its_view_goes(self):
        page = self.view("artwork")
        page.get_by_role("link", name="Set", exact=True).click()
        plan = page.get_by_role("region", name="Set plan")
        plan.get_by_label("site.webmanifest").click()
        plan.get_by_text("Installed as an app").click()
        field = plan.get_by_label("Start address")
        field.fill("/start")
        field.evaluate("element => (element.known = true)")
        field.press("Enter")
        page.wait_for_timeout(300)
        self.assertTrue(field.evaluate("element => element.known && element === document.activeElement"))
        field.fill("/begin")
        with page.expect_response(lambda answer: PLAN.search(answer.url) and answer.request.method == "PUT"):
            page.go_back()  # without leaving the field
        page.wait_for_load_state("networkidle")
        self.assertEqual(self.site.set_plan.plan["app"]["start_url"], "/begin")


class TypedTests(KeptTestCase):
    def test_letters_half_done_are_there_again(self):
        page = self.view("artwork/letters")
        page.get_by_label("One to three letters").fill("QZ")
        page.get_by_role("link", name="Bench", exact=True).click()
        expect(page.get_by_role("application")).to_be_visible()
        page.go_back()
        expect(page.get_by_label("One to three letters")).to_have_value("QZ")
        page.get_by_role("link", name="Cancel").click()
        page.get_by_role("link", name="Draw letters").click()
        expect(page.get_by_label("One to three letters")).to_have_value("F")

    def test_details_edited_again_are_not_called_saved_and_are_there_again(self):
        page = self.view("artwork")
        page.get_by_text("Title, alt text and rights").click()
        page.get_by_label("Alt text").fill("A blue disc")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("button", name="Saved")).to_be_visible()
        page.get_by_label("Credit line").fill("Somebody")
        expect(page.get_by_role("button", name="Save", exact=True)).to_be_visible()
        page.get_by_role("link", name="Bench", exact=True).click()
        page.get_by_role("link", name="Artwork", exact=True).click()
        expect(page.get_by_text("not saved yet")).to_be_visible()
        expect(page.get_by_label("Credit line")).to_have_value("Somebody")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("button", name="Saved")).to_be_visible()
        self.artwork.refresh_from_db()
        self.assertEqual((self.artwork.alt, self.artwork.credit), ("A blue disc", "Somebody"))

    def test_a_second_picture_does_not_take_the_place_of_the_first(self):
        page = self.open("/")
        self.drop(page, plain_png(64, 64, "#cc2200"), "first.png", "image/png")
        page.get_by_role("button", name="Put it on a site").click()
        self.drop(page, plain_png(64, 64, "#0022cc"), "second.png", "image/png")
        expect(page.get_by_role("region", name="Started with second")).to_be_visible()
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(page.get_by_role("region", name="Without a site").get_by_role("link", name="first")).to_be_visible()

    def test_text_pasted_from_a_word_processor_is_text(self):
        page = self.view("artwork/letters")
        page.get_by_label("One to three letters").focus()
        page.evaluate(PASTE, ["text", "AB"])
        page.wait_for_timeout(500)
        expect(page.get_by_text("text.png")).to_have_count(0)
        page.evaluate(PASTE, ["picture", ""])
        expect(page.get_by_text("text.png").first).to_be_visible()

    def test_a_site_whose_answer_was_lost_is_not_added_twice(self):
        page = self.open("/")

        lost = threading.Event()

        def lose(route: Route) -> None:
            if route.request.method != "POST" or lost.is_set():
                route.continue_()
                return
            lost.set()
            route.fetch()
            route.abort()

        page.route("**/api/sites", lose)
        page.get_by_role("button", name="Add a site").first.click()
        page.get_by_role("button", name="It has no address yet").click()
        page.get_by_label("Name", exact=True).fill("Crew")
        page.get_by_role("button", name="Add the site").click()
        expect(page.get_by_role("alert").filter(has_text="Bexi does not answer")).to_be_visible()
        page.get_by_role("button", name="Add the site").click()
        expect(page.get_by_role("button", name="Choose files")).to_be_visible()
        self.assertEqual(Site.objects.filter(name="Crew").count(), 1)


class OutageTests(KeptTestCase):
    def test_a_view_that_could_not_be_fetched_comes_by_a_press(self):
        page = self.view("bench")
        for kind in ("js", "css"):
            pattern = re.compile(rf"/assets/SetView[^/]*\.{kind}$")
            page.route(pattern, lambda route: route.abort())
            page.reload()
            expect(page.get_by_role("button", name="Build the set")).to_be_enabled()
            page.get_by_role("link", name="Set", exact=True).click()
            notice = page.get_by_role("alert").filter(has_text="Bexi does not answer")
            expect(notice).to_be_visible()
            page.unroute(pattern)
            notice.get_by_role("button", name="Try again").click()
            region = page.get_by_role("region", name="Set plan")
            expect(region).to_be_visible()
            columns = page.locator("main").evaluate("main => getComputedStyle(main).gridTemplateColumns")
            self.assertGreaterEqual(len(columns.split()), 2, "its styles are missing")
            page.get_by_role("link", name="Bench", exact=True).click()

    def test_the_console_is_clean_on_every_view(self):
        told: list[str] = []
        page = self.open("/")
        page.on("console", lambda message: told.append(message.text) if message.type in ("warning", "error") else None)
        views = ("artwork", "artwork/letters", "artwork/symbol", "bench", "set", "install", "live-check")
        for path in ("", "visitor", "account", "several", *(f"sites/{self.site.pk}/{view}" for view in views)):
            page.goto(f"{self.live_server_url}/{path}")
            page.locator("main").first.wait_for()
            page.wait_for_load_state("networkidle")
        self.assertEqual(told, [])


PRESSED = """() => {
    window.hits = [];
    document.addEventListener('click', (event) => {
        window.hits.push(event.target.closest('button, a, summary, label'));
        event.preventDefault();
        event.stopImmediatePropagation();
    }, true);
}"""
TARGETS = """() => [...document.querySelectorAll('main button, main a[href], main summary')].filter((one) => {
    const box = one.getBoundingClientRect();
    if (!box.width || !one.checkVisibility() || one.matches(':disabled')) return false;
    const at = document.elementFromPoint(box.x + box.width / 2, box.y + box.height / 2);
    return at && (one.contains(at) || at.contains(one));
}).slice(0, 24).length"""


class PressTests(KeptTestCase):
    """Whatever was typed, a press hits what it was aimed at: nothing moves from under it."""

    def test_every_button_is_hit_right_after_typing_into_every_field(self):
        missed = []
        for view in ("artwork/letters", "artwork/symbol", "artwork", "bench", "set", "install", "live-check"):
            page = self.view(view)
            page.wait_for_load_state("networkidle")
            self.unfold(page)
            page.evaluate(PRESSED)
            fields = page.locator("main input[type=text]:visible, main input:not([type]):visible")
            for number in range(fields.count()):
                field = fields.nth(number)
                self.type_into(page, field)  # which may bring more to press
                buttons = page.locator("main button:visible:not(:disabled), main summary:visible").element_handles()
                for button in buttons[::3]:
                    self.type_into(page, field)
                    if not self.hits(page, button):
                        missed.append((view, number, button.evaluate("one => one.outerHTML")[:200]))
            page.context.close()
        self.assertEqual(missed, [])

    def unfold(self, page: Page) -> None:
        """Have what is folded shown: there are fields in it, too."""
        for summary in page.locator("main summary").all():
            if not summary.evaluate("element => element.parentElement.open"):
                summary.click()

    def test_a_dialog_takes_a_press_from_its_first_moment_on(self):
        page = self.open("/")
        for _ in range(5):
            page.get_by_role("button", name="Add a site").first.click()
            button = page.get_by_role("button", name="It has no address yet")
            button.wait_for(state="attached")
            box = button.bounding_box()
            page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
            expect(page.get_by_label("Name", exact=True)).to_be_visible()
            page.keyboard.press("Escape")
            expect(page.get_by_role("dialog")).to_have_count(0)

    def test_what_arrives_while_something_is_pressed_does_not_move_it_away(self):
        waiting, late, arrived = self.what_arrives_late()
        waiting.hover()
        waiting.page.mouse.down()
        late.continue_()
        waiting.page.wait_for_timeout(300)
        expect(waiting).to_be_visible()
        waiting.page.mouse.up()
        expect(arrived).to_be_visible()

    def test_what_arrives_while_something_is_dragged_is_shown(self):
        waiting, late, arrived = self.what_arrives_late()
        waiting.hover()
        waiting.page.mouse.down()
        waiting.page.mouse.move(400, 500)
        late.continue_()
        expect(arrived).to_be_visible()

    def what_arrives_late(self) -> tuple[Locator, Route, Locator]:
        """What the live check shows while it waits, the answer that is held back, and what comes with it."""
        late: list[Route] = []
        page = self.view("bench")
        page.route(
            re.compile(r"/api/sites/\d+/checks$"), lambda route: route.continue_() if late else late.append(route)
        )
        page.get_by_role("link", name="Live check").click()
        waiting = page.get_by_text("Reading the last check")
        waiting.wait_for()
        return waiting, late[0], page.get_by_role("heading", name="Not checked yet")

    def type_into(self, page: Page, field: Locator) -> None:
        field.scroll_into_view_if_needed()
        field.focus()
        page.keyboard.type("a")
        page.keyboard.press("Backspace")
        page.evaluate(AT_REST)  # a list that opens lies over what is below by then

    def hits(self, page: Page, button: ElementHandle) -> bool:
        box = button.bounding_box()
        if not box or box["y"] < 60 or box["y"] + box["height"] > 800 or box["x"] < 0 or box["x"] > 1280:
            return True  # nobody can press what is not seen
        at = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        covered = "(element, [x, y]) => !element.contains(document.elementFromPoint(x, y))"
        if button.evaluate(covered, at):
            return True
        page.evaluate("window.hits = []")
        page.mouse.move(*at)
        page.mouse.down()
        page.wait_for_timeout(20)
        page.mouse.up()
        return button.evaluate("element => window.hits.some((hit) => hit === element || element.contains(hit))")
