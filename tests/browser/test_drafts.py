"""Drafts belong to their address: windows side by side, saving that fails, what is left unsaved."""

from playwright.sync_api import Page, Route, expect

from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.server.drafts.services import save_draft
from tests.browser.test_bench import BenchTestCase

DRAFT = "**/api/drafts/*"


def refuse_saving(route: Route) -> None:
    if route.request.method == "PUT":
        route.abort()
    else:
        route.continue_()


class WindowTests(BenchTestCase):
    def test_each_window_goes_on_with_its_own_draft(self):
        first = self.bench()
        second = first.context.new_page()
        second.goto(first.url)
        second.get_by_role("button", name="Copy", exact=True).click()
        second.get_by_role("button", name="Copy it").click()
        expect(second.get_by_title("First draft, copy")).to_be_visible()
        first.bring_to_front()
        first.get_by_label("Frame side, px").fill("300")
        expect(first.get_by_text("Draft saved")).to_be_visible()
        sides = {draft.name: draft.recipe["framing"]["frame"]["side_px"] for draft in self.site.drafts.all()}
        self.assertEqual(sides, {"First draft": 300, "First draft, copy": 512})
        first.get_by_role("button", name="Build the set").click()
        expect(first.get_by_role("heading", name="Build 1")).to_be_visible()
        self.assertEqual([*self.site.builds.get().recipe["framing"]["frame"].values()], [0, 0, 300])

    def test_a_later_version_is_shown_or_gives_way(self):
        page = self.bench()
        save_draft(self.site, self.artwork, Recipe.of(Frame(5, 6, 70)), 1)
        page.get_by_label("Frame side, px").fill("300")
        expect(page.get_by_text("changed in another window")).to_be_visible()
        page.get_by_role("button", name="Keep mine instead").click()
        self.assertEqual(self.saved(page)["framing"]["frame"]["side_px"], 300)
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_label("Frame side, px")).to_have_value("70")  # nothing is lost


class UnsavedTests(BenchTestCase):
    def unsaved(self) -> Page:
        page = self.bench()
        page.route(DRAFT, refuse_saving)
        page.get_by_label("Frame side, px").fill("300")
        expect(page.get_by_text("Not saved")).to_be_visible()
        return page

    def test_nothing_goes_on_from_an_older_state(self):
        page = self.unsaved()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_text("could not be saved, so nothing was done").first).to_be_visible()
        page.get_by_role("button", name="Copy", exact=True).click()
        page.get_by_role("button", name="Copy it").click()
        expect(page.get_by_role("alert").get_by_text("could not be saved, so nothing was done").first).to_be_visible()
        self.assertEqual((self.site.builds.count(), self.site.build_runs.count(), self.site.drafts.count()), (0, 0, 1))

    def test_leaving_is_asked_about_and_the_change_is_there_after_coming_back(self):
        page = self.unsaved()
        page.get_by_role("link", name="Set", exact=True).click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("It stays in this browser")).to_be_visible()
        self.assert_no_axe_findings(page)
        dialog.get_by_role("button", name="Stay here").click()
        page.get_by_role("link", name="Set", exact=True).click()
        dialog.get_by_role("button", name="Leave the bench").click()
        expect(page.get_by_text("Nothing is built yet.")).to_be_visible()
        page.unroute(DRAFT)
        page.get_by_role("link", name="Bench", exact=True).click()
        expect(page.get_by_label("Frame side, px")).to_have_value("300")
        self.assertEqual(self.saved(page)["framing"]["frame"]["side_px"], 300)

    def test_a_lost_window_loses_nothing(self):
        page = self.unsaved()
        warned = []
        page.on("dialog", lambda dialog: (warned.append(dialog.type), dialog.accept()))
        page.reload()
        self.assertEqual(warned, ["beforeunload"])
        expect(page.get_by_label("Frame side, px")).to_have_value("300")
        page.unroute(DRAFT)
        expect(page.get_by_text("Draft saved")).to_be_visible()  # tried again by itself
        self.assertEqual(self.recipe()["framing"]["frame"]["side_px"], 300)


class DraggingTests(BenchTestCase):
    def test_the_frame_is_dragged_though_everything_is_selected(self):
        page = self.bench()
        page.keyboard.press("Control+a")
        box = page.get_by_role("application").bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.keyboard.down("Alt")
        page.mouse.down()
        page.mouse.move(x + 60, y + 5, steps=6)
        page.mouse.up()
        page.keyboard.up("Alt")
        self.assertGreater(self.saved(page)["framing"]["frame"]["x_px"], 20)
