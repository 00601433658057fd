"""First look, close look and ways out, in Chromium."""

import io
import re

from PIL import Image
from playwright.sync_api import Page, expect

from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.recipe import Framing, Recipe
from bexi.server.artwork.services import add_artwork
from bexi.server.builds.services import build_site
from bexi.server.demo import artwork as demo
from bexi.server.drafts.services import save_draft
from bexi.server.sites.models import Site
from tests.browser.case import BrowserTestCase, screen_pixels
from tests.core.artwork.test_checkerboard import saved
from tests.pictures import BLUE_DISC

BARS = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 160 160">'
    b'<path fill="#123456" d="M75 22h10v116H75zM22 22h10v116H22zM128 22h10v116h-10z"/></svg>'
)


class JudgingTestCase(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(name="Merrow Ferry")
        self.lockup = add_artwork("lockup.svg", demo.ferry_lockup(), "Lockup")

    def first_look(self) -> Page:
        page = self.open(f"/sites/{self.site.pk}/artwork?piece={self.lockup.pk}")
        page.get_by_role("button", name="Open on the bench").click()
        expect(page.get_by_role("heading", name="Ways to use Lockup")).to_be_visible()
        return page

    def rung(self, page: Page, size: int):
        return page.get_by_role("list", name="Icons by size").get_by_role("button", name=f"Icon at {size} px").first

    def framing(self) -> dict:
        return self.site.drafts.get().recipe["framing"]


class FirstLookTests(JudgingTestCase):
    def test_the_best_is_taken_and_another_is_one_click_and_one_undo(self):
        page = self.first_look()
        best = page.get_by_role("button", name=re.compile("^The emblem chosen"))
        expect(best).to_have_attribute("aria-pressed", "true")
        emblem = self.framing()
        expect(self.rung(page, 16)).to_contain_text("clear")
        self.assert_no_axe_findings(page)
        page.get_by_role("button", name="As it is").click()
        expect(page.get_by_role("button", name="As it is")).to_have_attribute("aria-pressed", "true")
        page.get_by_role("button", name="Continue with the chosen one").click()
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual(self.framing()["frame"], {"x_px": 0, "y_px": -310, "side_px": 1240})
        page.get_by_role("button", name="Undo").click()
        expect(self.rung(page, 16)).to_contain_text("clear")
        self.assertEqual(self.framing(), emblem)

    def test_letters_are_drawn_when_they_are_chosen(self):
        page = self.first_look()
        page.get_by_role("button", name="Letters instead").click()
        expect(page.get_by_role("button", name="Letters instead")).to_have_attribute("aria-pressed", "true")
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertIsNotNone(self.framing()["artwork"])

    def test_two_actions_from_the_piece_to_a_built_set(self):
        page = self.first_look()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1", exact=True)).to_be_visible()
        expect(page.get_by_text("is clear").or_(page.get_by_text("are not clear")).first).to_be_visible()

    def test_a_photograph_is_called_not_judged_rather_than_not_clear(self):
        photograph = add_artwork("log.jpg", demo.log_book_photo(), "Log")
        save_draft(self.site, photograph, Recipe(Framing(Frame(0, 0, 512))), 0)
        build_site(self.site)
        page = self.open(f"/sites/{self.site.pk}/set")
        expect(page.get_by_text("sizes not judged: no flat areas, like a photograph")).to_be_visible()
        page.get_by_role("link", name="Bench", exact=True).click()
        small = self.rung(page, 16)
        expect(small).to_contain_text("not judged")
        edges = small.evaluate(
            "rung => [rung, ...rung.querySelectorAll('*')].map(one => one.scrollWidth - one.clientWidth)"
        )
        self.assertLessEqual(max(edges), 0, "its words run into the next one's")


class CloseLookTests(JudgingTestCase):
    def lost(self) -> Page:
        page = self.first_look()
        page.get_by_role("button", name="As it is").click()
        page.get_by_role("button", name="Continue with the chosen one").click()
        expect(self.rung(page, 16)).to_contain_text("lost")
        self.rung(page, 16).click()
        expect(page.get_by_role("heading", name="Fixes that help")).to_be_visible()
        return page

    def test_readings_places_and_a_way_out_for_the_small_sizes(self):
        page = self.lost()
        close = page.get_by_role("region", name="The icon at 16 px, looked at closely")
        expect(close.get_by_text("lost: letter height 0.5 px")).to_be_visible()
        expect(close.locator("rect[class*=lettering]")).to_have_count(2)
        close.get_by_role("checkbox", name="letters").uncheck()
        expect(close.locator("rect[class*=lettering]")).to_have_count(0)
        self.assert_no_axe_findings(page)
        close.get_by_role("listitem").first.get_by_role("button", name="Small sizes").click()
        for size in (16, 32, 48):
            expect(self.rung(page, size)).to_contain_text("clear")
        expect(self.rung(page, 64)).to_contain_text("lost")
        expect(page.get_by_text("Nothing to fix at this size.")).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(self.rung(page, 16)).to_contain_text("lost")

    def test_it_closes(self):
        page = self.lost()
        page.get_by_role("region", name="looked at closely").get_by_role("button", name="Close").click()
        expect(page.get_by_role("heading", name="Fixes that help")).to_be_hidden()


class ByHandTests(JudgingTestCase):
    def test_small_icons_are_by_hand_shown_beside_the_plain_ones_and_switched_off(self):
        page = self.first_look()
        page.get_by_role("button", name="Continue with the chosen one").click()
        expect(page.get_by_role("img", name="Plain, on dark")).to_be_visible()
        self.assert_no_axe_findings(page)
        small = page.get_by_role("radiogroup", name="How small icons are drawn")
        expect(small.get_by_role("radio", name="By hand")).to_be_checked()
        by_hand = self.rung(page, 16).get_by_role("img").get_attribute("src")
        page.keyboard.down("p")
        expect(self.rung(page, 16).get_by_role("img")).not_to_have_attribute("src", by_hand)
        page.evaluate("dispatchEvent(new Event('blur'))")  # another window takes the release
        expect(self.rung(page, 16).get_by_role("img")).to_have_attribute("src", by_hand)
        page.keyboard.up("p")
        loupe = page.get_by_label("Loupe on the icon at 16 px")
        expect(loupe).to_contain_text("edges on pixels")
        page.get_by_role("img", name="Plain, on dark").hover(position={"x": 1, "y": 1})
        expect(loupe).to_contain_text("0, 0: ")
        self.rung(page, 16).click()
        page.get_by_role("radiogroup", name="How the icon at 16 px is drawn").get_by_text("Plain").click()
        expect(page.get_by_role("img", name="Plain, on dark")).to_be_hidden()
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual(self.framing()["by_hand_px"], [24, 32, 48])


THIN = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" width="512" height="512">'
    b'<path d="M20 80Q50 5 80 80M30 60L70 60" fill="none" stroke="#0a7f8f" stroke-width="2"/></svg>'
)


class HandStepTests(JudgingTestCase):
    def setUp(self):
        super().setUp()
        self.lockup = add_artwork("thin.svg", THIN, "Lockup")

    def test_the_first_proposal_is_redrawn_where_it_is_weak_and_the_stage_shows_its_colours(self):
        page = self.first_look()
        page.get_by_role("button", name="Continue with the chosen one").click()
        expect(self.rung(page, 16)).to_contain_text("clear")
        self.rung(page, 16).click()
        expect(page.get_by_label("Loupe on the icon at 16 px")).to_contain_text("thin strokes widened")
        expect(page.get_by_role("checkbox", name="Widen thin strokes")).to_be_checked()
        colours = screen_pixels(page.get_by_alt_text("Lockup")).reshape(-1, 3)
        self.assertTrue((colours == 255).all(axis=1).any())  # white on its plate
        page.get_by_role("checkbox", name="Widen thin strokes").uncheck()
        expect(self.rung(page, 16)).to_contain_text("weak")
        page.get_by_role("button", name="Undo").click()
        expect(self.rung(page, 16)).to_contain_text("clear")

    def test_elsewhere_it_is_among_the_fixes(self):
        whole = whole_artwork(self.lockup.facts["width"], self.lockup.facts["height"])
        save_draft(self.site, self.lockup, Recipe(Framing(whole)), 0)
        page = self.open(f"/sites/{self.site.pk}/bench")
        self.rung(page, 16).click()
        fix = page.get_by_role("listitem").filter(has_text="Redrawn by hand")
        fix.get_by_role("button", name="16 px").click()
        expect(page.get_by_role("checkbox", name="Widen thin strokes")).to_be_checked()
        expect(page.get_by_text("Draft saved")).to_be_visible()
        (own,) = self.site.drafts.get().recipe["own"]
        self.assertIn({"size_px": 16, "step": "widen"}, own["framing"]["hand_steps"])


class GroundTests(JudgingTestCase):
    def test_a_dark_mark_is_said_to_vanish(self):
        self.lockup = add_artwork("stamp.png", demo.harbour_stamp(), "Lockup")
        page = self.first_look()
        page.get_by_role("button").filter(has_text="though it fades on dark tabs").click()
        expect(page.get_by_text("On dark tabs it vanishes")).to_be_visible()

    def test_a_checkerboard_that_was_saved_is_told_and_goes(self):
        target = io.BytesIO()
        Image.fromarray(saved(16, (255, 204))).save(target, "PNG")
        self.lockup = add_artwork("saved.png", target.getvalue(), "Lockup")
        page = self.open(f"/sites/{self.site.pk}/artwork?piece={self.lockup.pk}")
        expect(page.get_by_text("a checkerboard was saved into the picture")).to_be_visible()
        expect(page.get_by_role("switch", name="Remove the background")).to_be_visible()
        page.get_by_role("button", name="Open on the bench").click()
        page.get_by_role("button", name="Continue with the chosen one").click()
        expect(page.get_by_text("The flat background of the picture is removed, also inside the mark.")).to_be_visible()
        self.assertTrue(self.framing()["lift_tolerance"])

    def test_of_a_drawing_nothing_is_removed_inside_the_mark(self):
        recipe = Recipe(Framing(whole_artwork(512, 256), lift=0.08))
        save_draft(self.site, add_artwork("disc.svg", BLUE_DISC), recipe, 0)
        page = self.open(f"/sites/{self.site.pk}/bench")
        expect(page.get_by_text("The flat background of the picture is removed.")).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("inside the mark"))).to_have_count(0)

    def test_clear_on_a_solid_ground_offers_to_lift_it(self):
        self.lockup = add_artwork("emblem.jpg", demo.ferry_emblem_on_white(), "Lockup")
        page = self.first_look()
        page.get_by_role("button", name="Continue with the chosen one").click()
        expect(page.get_by_text("The flat background of the picture is removed")).to_be_visible()
        toggle = page.get_by_role("button", name=re.compile("^(Keep|Remove) it inside"))
        was = toggle.inner_text()
        toggle.click()
        expect(toggle).not_to_have_text(was)
        goes = str(was.startswith("Remove")).lower()
        on_stage = page.get_by_role("region", name="Stage").locator(f"img[src*='inside={goes}']")
        expect(on_stage).to_be_visible()
        page.get_by_role("button", name="Keep the background").click()
        expect(page.get_by_alt_text("The artwork without its background")).to_be_visible()
        page.get_by_role("button", name="Remove the background").click()
        expect(page.get_by_role("button", name="Remove the background")).to_be_hidden()
        expect(page.get_by_alt_text("Icon at 512 px", exact=True)).to_be_visible()
        expect(page.get_by_text("being made")).to_have_count(0)
        page.wait_for_load_state("networkidle")
        self.lockup.refresh_from_db()
        self.assertIsNotNone(self.lockup.read_as.lift)


class EdgeTests(JudgingTestCase):
    def edges(self, page: Page):
        return page.get_by_role("region", name="The icon at 16 px, looked at closely").get_by_role("slider")

    def held(self) -> list[dict]:
        return self.framing()["held_edges"]

    def test_an_edge_between_two_pixels_goes_to_the_next_one(self):
        bars = add_artwork("bars.svg", BARS)
        whole = Framing(whole_artwork(bars.facts["width"], bars.facts["height"]), by_hand=(16,))
        save_draft(self.site, bars, Recipe(whole), 0)
        page = self.open(f"/sites/{self.site.pk}/bench")
        self.rung(page, 16).click()
        edge = self.edges(page).and_(page.get_by_label("Edge at 7.5 px across"))
        expect(edge).to_have_attribute("aria-valuetext", "between pixels 7 and 8")
        edge.focus()
        page.keyboard.press("ArrowRight")
        expect(edge).to_have_attribute("aria-valuetext", "on pixel 8, moved by you")

    def test_an_edge_is_put_on_another_pixel_by_key_and_by_hand_and_put_back(self):
        page = self.first_look()
        page.get_by_role("button", name="Continue with the chosen one").click()
        self.rung(page, 16).click()
        edge = self.edges(page).first
        before = self.rung(page, 16).get_by_role("img").get_attribute("src")
        px = int(float(edge.get_attribute("aria-valuenow")))
        most, least = (int(edge.get_attribute(f"aria-value{end}")) for end in ("max", "min"))
        by, key = (1, "ArrowRight") if px < most else (-1, "ArrowLeft")
        self.assertGreater(most, least)
        edge.focus()
        page.keyboard.press(key)
        expect(edge).to_have_attribute("aria-valuetext", f"on pixel {px + by}, moved by you")
        expect(edge).to_be_focused()
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual([(one["size_px"], one["put_on_px"]) for one in self.held()], [(16, px + by)])
        self.assertNotEqual(self.rung(page, 16).get_by_role("img").get_attribute("src"), before)
        self.assert_no_axe_findings(page)
        page.get_by_role("button", name="Put the moved edge back").click()
        expect(edge).to_have_attribute("aria-valuetext", f"on pixel {px}")
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual(self.held(), [])
        box, step = edge.bounding_box(), 176 // 16 * by
        middle = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(*middle)
        page.mouse.down()
        page.mouse.move(middle[0] + step, middle[1], steps=4)
        page.mouse.up()
        expect(edge).to_have_attribute("aria-valuetext", f"on pixel {px + by}, moved by you")
        page.get_by_role("button", name="Undo", exact=True).click()
        expect(edge).to_have_attribute("aria-valuetext", f"on pixel {px}")
        self.assertEqual(self.held(), [])
