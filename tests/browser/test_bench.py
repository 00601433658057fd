"""The bench: undoing, sizes of their own, plates, catching edges."""

import base64
import re
import time

import numpy as np
from playwright.sync_api import Locator, Page, expect

from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.plan import RECOMMENDED
from bexi.core.pixels.colour import WHITE, Colour, contrast
from bexi.server.artwork.services import add_artwork
from bexi.server.drafts.services import save_draft
from bexi.server.installs.models import Install, InstallState
from bexi.server.sites.models import Site
from tests.browser.case import PATIENCE, SMALL, BrowserTestCase
from tests.core.judging.logos import TALL
from tests.pictures import BLUE_DISC, decoded, plain_png


class BenchTestCase(BrowserTestCase):
    plan = SMALL

    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(name="Ferry")
        self.artwork = add_artwork("disc.svg", BLUE_DISC)  # on the bench 1024 × 512
        save_draft(self.site, self.artwork, Recipe.of(Frame(0, 0, 512)), 0)

    def bench(self, **options: object) -> Page:
        page = self.open(f"/sites/{self.site.pk}/bench", **options)
        last = max(size for spec in self.plan.icons if spec.purpose is not Purpose.MASKED for size in spec.sizes)
        expect(page.get_by_alt_text(re.compile(rf"^Icon at {last} px(, home screen)?$"))).to_be_visible()
        return page

    def recipe(self) -> dict:
        return self.site.drafts.first().recipe

    def saved(self, page: Page) -> dict:
        expect(page.get_by_text("Draft saved")).to_be_visible()
        return self.recipe()

    def icon(self, page: Page, size: int | str) -> np.ndarray:
        told = f"{size} px" if isinstance(size, int) else size
        source = page.get_by_alt_text(f"Icon at {told}", exact=True).get_attribute("src")
        return decoded(base64.b64decode(source.split(",", 1)[1]))

    def turns(self, page: Page, size: int | str, at: tuple[int, int], colour: list[int]) -> None:
        """Wait until a pixel of an icon has a colour: rungs follow when they are made."""
        until = time.monotonic() + PATIENCE / 1000
        while (seen := self.icon(page, size)[at].tolist()) != colour and time.monotonic() < until:
            page.wait_for_timeout(100)
        self.assertEqual(seen, colour)


class UndoTests(BenchTestCase):
    def test_every_change_is_undone_and_done_again_even_after_a_reload(self):
        page = self.bench()
        for value in ("500", "400", "300"):
            page.get_by_label("Frame side, px").fill(value)
            self.saved(page)
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_label("Frame side, px")).to_have_value("400")
        page.reload()
        page.get_by_role("application").press("Control+z")
        expect(page.get_by_label("Frame side, px")).to_have_value("500")
        page.get_by_role("application").press("Control+z")
        expect(page.get_by_label("Frame side, px")).to_have_value("512")
        expect(page.get_by_role("button", name="Undo")).to_be_disabled()
        page.get_by_role("application").press("Control+Shift+z")
        page.get_by_role("application").press("Control+Shift+z")
        expect(page.get_by_label("Frame side, px")).to_have_value("400")
        self.assertEqual([*self.saved(page)["framing"]["frame"].values()], [0, 0, 400])

    def test_a_change_not_yet_saved_is_undone_too(self):
        page = self.bench()
        page.get_by_label("Frame x, px").fill("9")
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_label("Frame x, px")).to_have_value("0")
        expect(page.get_by_role("button", name="Redo")).to_be_enabled()


class OwnFramingTests(BenchTestCase):
    def test_small_sizes_take_another_artwork_and_rejoin(self):
        letter = add_artwork("plain.png", plain_png(64, 64, "#cc2200"))
        page = self.bench()
        page.get_by_role("button", name="Icon at 32 px").click()
        expect(page.get_by_text("32 px uses the shared framing.")).to_be_visible()
        page.get_by_role("button", name="Adjust up to 32 px separately").click()
        expect(page.get_by_text("its own framing")).to_have_count(3)
        page.get_by_label("Artwork for these sizes").click()
        page.get_by_title("plain", exact=True).click()
        expect(page.get_by_label("Frame side, px")).to_have_value("64")
        recipe = self.saved(page)
        self.assertEqual((recipe["own"][0]["largest_px"], recipe["own"][0]["framing"]["artwork"]), (32, str(letter.pk)))
        self.turns(page, 16, (8, 8), [0xCC, 0x22, 0x00, 255])
        self.assertEqual(self.icon(page, 48)[24, 24].tolist(), [0x11, 0x44, 0xCC, 255])
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1")).to_be_visible()
        page.go_back()
        page.get_by_role("button", name="Icon at 16 px").click()
        page.get_by_role("button", name="Use the shared framing").click()
        expect(page.get_by_text("its own framing")).to_have_count(0)
        self.assertEqual(self.saved(page)["own"], [])

    def test_a_key_pressed_as_the_rungs_appear_is_meant_for_them(self):
        page = self.open()
        page.add_init_script(
            """new MutationObserver((_, watching) => {
                if (!document.querySelector('button[aria-pressed][class*=rung]')) return;
                watching.disconnect();
                document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "]", bubbles: true }));
            }).observe(document, { childList: true, subtree: true })"""
        )
        page.goto(f"{self.live_server_url}/sites/{self.site.pk}/bench")
        expect(page.get_by_role("button", name="Icon at 16 px")).to_have_attribute("aria-pressed", "true")

    def test_editing_one_size_leaves_the_others(self):
        page = self.bench()
        page.get_by_role("application").press("]")
        expect(page.get_by_role("button", name="Icon at 16 px")).to_have_attribute("aria-pressed", "true")
        page.get_by_role("button", name="Adjust 16 px separately").click()
        page.get_by_label("Frame side, px").fill("300")
        recipe = self.saved(page)
        self.assertEqual(
            ([*recipe["framing"]["frame"].values()], [*recipe["own"][0]["framing"]["frame"].values()]),
            ([0, 0, 512], [0, 0, 300]),
        )
        page.get_by_role("button", name="All sizes together").click()
        expect(page.get_by_label("Frame side, px")).to_have_value("512")

    def test_the_home_screen_has_its_own(self):
        page = self.bench()
        page.get_by_role("button", name="Icon at 180 px, home screen").click()
        page.get_by_role("button", name="Adjust the home screen separately").click()
        page.get_by_label("Home-screen background", exact=True).fill("#ffeecc")
        self.assertEqual(self.saved(page)["own"][0]["purpose"], "home")
        self.turns(page, "180 px, home screen", (0, 0), [0xFF, 0xEE, 0xCC, 255])

    def test_an_artwork_that_only_some_sizes_take_does_not_disappear(self):
        plain = add_artwork("plain.png", plain_png())
        page = self.bench()
        page.get_by_role("button", name="Icon at 16 px").click()
        page.get_by_role("button", name="Adjust 16 px separately").click()
        page.get_by_label("Artwork for these sizes").click()
        page.get_by_title("plain", exact=True).click()
        self.saved(page)
        page.goto(f"{self.live_server_url}/sites/{self.site.pk}/artwork?piece={plain.pk}")
        page.get_by_role("button", name="Remove").click()
        expect(page.get_by_text("It is on the bench of Ferry")).to_be_visible()


class PlateTests(BenchTestCase):
    def test_a_plate_is_seen_in_every_size(self):
        page = self.bench()
        plate = page.get_by_role("radiogroup", name="Plate")
        plate.get_by_text("Disc").click()
        page.get_by_label("Plate colour", exact=True).fill("#ffcc00")
        page.get_by_label("Inset", exact=True).press("ArrowRight")
        self.assertEqual(
            self.saved(page)["framing"]["plate"],
            Plate(PlateShape.DISC, Colour(255, 204, 0), 20, 1).as_json(),
        )
        self.turns(page, "180 px, home screen", (90, 6), [0xFF, 0xCC, 0x00, 255])
        self.assertEqual(self.icon(page, 48)[0, 0, 3], 0)


class CatchingTests(BenchTestCase):
    def drag(self, page: Page, dx: int, dy: int) -> None:
        box = page.get_by_role("application").bounding_box()
        page.mouse.move(box["x"] + 50, box["y"] + 50)
        page.mouse.down()
        page.mouse.move(box["x"] + 50 + dx / 2, box["y"] + 50 + dy / 2)
        page.mouse.move(box["x"] + 50 + dx, box["y"] + 50 + dy)

    def test_edges_and_centres_catch_the_frame_unless_alt_is_held(self):
        page = self.bench()
        scale = page.get_by_role("application").bounding_box()["width"] / 512
        to_middle = 256 * scale  # the frame's centre on the artwork's
        self.drag(page, round(to_middle) + 4, 3)
        page.mouse.up()
        self.assertEqual([*self.saved(page)["framing"]["frame"].values()], [256, 0, 512])
        page.keyboard.down("Alt")
        self.drag(page, 4, 3)
        page.mouse.up()
        page.keyboard.up("Alt")
        x, y, side = [*self.saved(page)["framing"]["frame"].values()]
        self.assertNotEqual((x, y), (256, 0))
        self.assertEqual(side, 512)

    def test_guides_show_what_caught_it(self):
        page = self.bench()
        self.drag(page, 3, 3)
        expect(page.locator("i[class*=guide]")).to_have_count(2)
        page.mouse.up()
        expect(page.locator("i[class*=guide]")).to_have_count(0)


class FinishTests(BenchTestCase):
    def test_sharpening_and_outline_change_the_small_sizes(self):
        page = self.bench()
        before = self.icon(page, 32)
        page.get_by_role("radiogroup", name="Sharpen").get_by_text("4").click()
        page.get_by_label("Outline", exact=True).press("End")
        page.get_by_label("Outline colour", exact=True).fill("#00ff00")
        self.assertEqual(
            self.saved(page)["framing"]["finish"],
            {
                "sharpen_quarters": 4,
                "outline_percent": 15,
                "outline_colour": "#00ff00",
                "recolour": None,
                "weight_percent": 0,
            },
        )
        self.turns(page, 32, (16, 1), [0, 255, 0, 255])
        self.assertGreater((self.icon(page, 32)[..., 3] == 255).sum(), (before[..., 3] == 255).sum())

    def test_one_colour_ink_takes_another(self):
        page = self.bench()
        page.get_by_label("Colour of the ink", exact=True).fill("#aa0022")
        self.assertEqual(self.saved(page)["framing"]["finish"]["recolour"], "#aa0022")
        self.turns(page, 48, (24, 24), [0xAA, 0x00, 0x22, 255])
        page.get_by_role("button", name="Its own colour").click()
        self.assertIsNone(self.saved(page)["framing"]["finish"]["recolour"])


class LookingCloserTests(BenchTestCase):
    def test_loupe_shows_squares_and_the_colour_under_the_pointer(self):
        page = self.bench()
        loupe = page.get_by_label("Loupe on the icon at 16 px")
        expect(loupe).to_contain_text("16 px, 12 × enlarged")
        expect(loupe).to_contain_text("8, 8: #1144cc")
        canvas = loupe.locator("canvas")
        canvas.hover(position={"x": 5, "y": 5})
        expect(loupe).to_contain_text("0, 0: clear")
        page.get_by_role("button", name="Icon at 180 px").click()
        expect(page.get_by_label("Loupe on the icon at 180 px")).to_contain_text("4 × enlarged, middle part")

    def test_masks_and_how_much_ink_they_cut_off(self):
        save_draft(self.site, self.artwork, Recipe.of(Frame(51, 51, 410)), 1)  # the disc fills the frame
        page = self.bench()
        page.get_by_role("button", name="Safe circle").click()
        # Areas: a disc of radius 0.5 has 36 % of its area outside the safe circle of radius 0.4.
        expect(page.get_by_text(re.compile(r"^3[56]\.\d % of the ink outside$"))).to_be_visible()
        page.get_by_role("button", name="Rounded corners").click()
        expect(page.get_by_text("0.0 % of the ink outside")).to_be_visible()
        expect(page.get_by_role("button", name="Safe circle")).to_have_attribute("aria-pressed", "false")

    def test_seen_in_place_is_true_to_the_pixel(self):
        page = self.bench()
        for place in (
            "In a light tab, chosen",
            "In a dark tab, not chosen",
            "Among many tabs",
            "In a row of bookmarks",
            "Beside a search result",
        ):
            box = page.get_by_alt_text(place).bounding_box()
            self.assertEqual((box["width"], box["height"], box["x"] % 1, box["y"] % 1), (16, 16, 0, 0), place)
        page.get_by_role("radiogroup", name="Mask of the home screen").get_by_text("Circle").click()
        expect(page.get_by_alt_text("On a home screen, circle")).to_be_visible()

    def test_the_artworks_own_ground_is_one_click(self):
        framed = add_artwork("framed.png", plain_png(100, 80, "#336699"))
        save_draft(self.site, framed, Recipe.of(Frame(-10, -10, 120)), 1)
        page = self.bench()
        page.get_by_role("button", name="The artwork's own: #336699").click()
        self.assertEqual(self.saved(page)["framing"]["ground"], "#336699")


class FramesTests(BenchTestCase):
    def frame(self, page: Page) -> list[int]:
        return [*self.saved(page)["framing"]["frame"].values()]

    def drag_on_stage(self, page: Page, start: tuple, end: tuple) -> None:
        page.mouse.move(*start)
        page.mouse.down()
        page.mouse.move((start[0] + end[0]) / 2, (start[1] + end[1]) / 2)
        page.mouse.move(*end)
        page.mouse.up()

    def test_hugging_with_a_margin(self):
        page = self.bench()
        page.get_by_role("button", name="Trim to the mark").click()
        tight = self.frame(page)
        page.get_by_label("Margin when trimming, %").fill("10")
        expect(page.get_by_label("Frame side, px")).to_have_value(str(int(tight[2] / 0.8 + 0.5)))
        wide = self.frame(page)
        self.assertAlmostEqual(wide[0] + wide[2] / 2, tight[0] + tight[2] / 2, delta=1)

    def test_one_part_after_the_other(self):
        two = BLUE_DISC.replace(b"</svg>", b'<rect x="150" y="40" width="20" height="20"/></svg>')
        save_draft(self.site, add_artwork("two.svg", two), Recipe.of(Frame(0, 0, 512)), 1)
        page = self.bench()
        page.get_by_role("button", name="Emblem").click()
        largest = self.frame(page)
        page.get_by_role("button", name="Next part").click()
        expect(page.get_by_role("button", name="Next part")).to_have_attribute("aria-pressed", "true")
        self.assertLess(self.frame(page)[2], largest[2])

    def test_what_reaches_into_the_frame_of_an_emblem_is_left_out(self):
        save_draft(self.site, add_artwork("beacon.svg", TALL.svg), Recipe.of(Frame(0, 0, 512)), 1)
        page = self.bench()
        page.get_by_role("button", name="Emblem").click()
        expect(page.get_by_text("the rest of it is left out")).to_be_visible()
        self.assertIsNotNone(self.saved(page)["framing"]["cut"])
        page.get_by_role("button", name="Show all").click()
        expect(page.get_by_role("button", name="Show all")).to_be_hidden()
        self.assertIsNone(self.saved(page)["framing"]["cut"])

    def test_an_edge_keeps_it_square_and_centred_on_the_other_direction(self):
        page = self.bench()
        box = page.get_by_role("application").bounding_box()
        x, y = box["x"] + box["width"], box["y"] + box["height"] / 2
        self.drag_on_stage(page, (x, y), (x - 60, y))
        left, top, side = self.frame(page)
        self.assertEqual(left, 0)
        self.assertLess(side, 512)
        self.assertAlmostEqual(top + side / 2, 256, delta=1)

    def test_a_frame_is_drawn_anew_beside_the_old_one(self):
        page = self.bench()
        box = page.get_by_role("application").bounding_box()
        scale = box["width"] / 512
        start = (box["x"] + box["width"] + 40, box["y"] + 30)
        self.drag_on_stage(page, start, (start[0] + 100, start[1] + 60))
        x, y, side = self.frame(page)
        self.assertAlmostEqual(side, 100 / scale, delta=2)
        self.assertAlmostEqual(x, 512 + 40 / scale, delta=2)
        self.assertAlmostEqual(y, 30 / scale, delta=2)

    def test_a_click_beside_the_frame_draws_none(self):
        page = self.bench()
        box = page.get_by_role("application").bounding_box()
        page.mouse.click(box["x"] + box["width"] + 60, box["y"] + 60)
        self.assertEqual(self.frame(page), [0, 0, 512])

    def becomes(self, frame: Locator, said: str) -> None:
        """Wait until something is true of the place of the frame on the screen."""
        box = "const { x, y, width } = frame.getBoundingClientRect()"
        frame.page.wait_for_function(f"(frame) => {{ {box}; return {said}; }}", arg=frame.element_handle())

    def test_zoom_by_wheel_keys_and_buttons(self):
        page = self.bench()
        frame = page.get_by_role("application")
        box = frame.bounding_box()
        page.get_by_label("Zoom in").click()
        self.becomes(frame, f"Math.abs(width - 1.25 * {box['width']}) < 2")
        page.get_by_role("button", name="Fit").click()
        self.becomes(frame, f"Math.abs(width - {box['width']}) < 0.5")
        frame.press("-")
        self.becomes(frame, f"Math.abs(width - 0.8 * {box['width']}) < 2")
        frame.press("0")
        self.becomes(frame, f"Math.abs(width - {box['width']}) < 0.5")
        page.mouse.move(box["x"] + 20, box["y"] + 20)
        page.mouse.wheel(30, 40)
        self.becomes(frame, f"Math.round({box['x']} - x) === 30 && Math.round({box['y']} - y) === 40")
        page.keyboard.down("Control")
        page.mouse.wheel(0, -100)
        self.becomes(frame, f"width > {box['width']} + 1")
        page.keyboard.up("Control")
        self.assertEqual(self.frame(page), [0, 0, 512])


class DraftsTests(BenchTestCase):
    def choose(self, page: Page, label: str, option: str) -> None:
        page.get_by_label(label).click()
        opened = page.locator(".ant-select-dropdown:visible")
        opened.get_by_title(option, exact=True).click()
        expect(opened).to_have_count(0)

    def test_a_draft_is_copied_named_compared_and_chosen(self):
        page = self.bench()
        page.get_by_role("button", name="Copy", exact=True).click()
        page.get_by_label("Name of the copy").fill("Closer")
        page.get_by_role("button", name="Copy it").click()
        expect(page.get_by_title("Closer")).to_be_visible()
        page.get_by_label("Frame side, px").fill("300")
        self.assertEqual([*self.saved(page)["framing"]["frame"].values()], [0, 0, 300])
        self.choose(page, "Compare with", "First draft")
        expect(page.get_by_alt_text("First draft at 16 px")).to_be_visible()
        self.choose(page, "Draft on the bench", "First draft")
        expect(page.get_by_label("Frame side, px")).to_have_value("512")
        self.assertEqual(self.site.drafts.first().name, "First draft")
        page.get_by_role("button", name="Rename").click()
        page.get_by_label("Name of the draft").fill("Closer")
        page.get_by_role("button", name="Rename it", exact=True).click()
        expect(page.get_by_text("a draft called “Closer” already")).to_be_visible()

    def test_builds_are_compared_side_by_side_and_what_is_installed_by_a_key(self):
        page = self.bench()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1")).to_be_visible()
        Install.objects.create(site=self.site, build=self.site.builds.get(), place="/", state=InstallState.DONE)
        save_draft(self.site, self.artwork, Recipe.of(Frame(0, 0, 300)), 1)
        page = self.bench()
        self.choose(page, "Compare with", "Build 1, installed")
        for size in (16, 48, 180):
            expect(page.get_by_alt_text(f"Build 1 at {size} px")).to_be_visible()
        icon = page.get_by_alt_text("Icon at 32 px", exact=True)
        page.get_by_role("application").focus()
        page.keyboard.down("\\")
        expect(icon).to_have_attribute("src", re.compile("/api/builds/.*/icon-32.png"))
        page.keyboard.up("\\")
        expect(icon).to_have_attribute("src", re.compile("^data:"))


class LadderTests(BenchTestCase):
    def test_own_ground_and_twice_the_pixels(self):
        page = self.bench()
        page.get_by_role("radiogroup", name="Background of the ladder").get_by_text("Own").click()
        page.get_by_label("Behind the icons", exact=True).fill("#ff8800")
        rungs = page.get_by_role("list", name="Icons by size")
        expect(rungs).to_have_css("background-color", "rgb(255, 136, 0)")
        page.get_by_role("radiogroup", name="Screen px for each image px").get_by_text("2 ×").click()
        expect(page.get_by_text("2 × enlarged", exact=True)).to_be_visible()
        expect(page.get_by_alt_text("Icon at 32 px", exact=True)).to_have_css("width", "64px")

    def test_colours_near_at_hand_and_their_contrast(self):
        page = self.bench()
        field = page.get_by_label("Home-screen background", exact=True)
        field.click()
        page.get_by_label("Home-screen background: #1144cc").click()
        self.assertEqual(self.saved(page)["framing"]["home_ground"], "#1144cc")
        field.fill("#1a4dd5")
        expect(page.get_by_text("graphics need 3 : 1")).to_be_visible()
        field.fill("#ffffff")
        ratio = contrast(WHITE, Colour.parse("#1144cc"))  # the core's, checked against published pairs
        expect(page.get_by_text(f"{ratio:.1f} : 1 to the ink #1144cc")).to_be_visible()

    def test_keys_are_listed_and_one_builds(self):
        page = self.bench()
        page.get_by_role("application").press("?")
        expect(page.get_by_role("dialog")).to_contain_text("previous and next size")
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_be_hidden()
        page.keyboard.press("Control+Enter")
        expect(page.get_by_role("heading", name="Build 1")).to_be_visible()


class OutageTests(BenchTestCase):
    plan = RECOMMENDED

    def test_the_bench_mends_itself(self):
        page = self.bench()
        page.route("**/api/**", lambda route: route.abort())
        page.get_by_label("Frame side, px").fill("400")
        expect(page.get_by_text("waiting for Bexi").first).to_be_visible()
        expect(page.get_by_text("Not saved", exact=True)).to_be_visible()
        expect(page.get_by_alt_text("Icon at 512 px", exact=True)).to_be_visible()
        page.unroute("**/api/**")
        self.assertEqual(self.saved(page)["framing"]["frame"]["side_px"], 400)
        expect(page.get_by_text("waiting for Bexi")).to_have_count(0)
        expect(page.get_by_text("being made")).to_have_count(0)


class BenchAccessibilityTests(BenchTestCase):
    def test_what_is_dragged_is_taken_hold_of_by_24_px(self):
        # WCAG 2.2, success criterion 2.5.8.
        reach = """(handle) => {
            const box = handle.getBoundingClientRect(), [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
            return [[-11.5, 0], [11.5, 0], [0, -11.5], [0, 11.5]].map(
                ([across, down]) => document.elementFromPoint(x + across, y + down) === handle);
        }"""
        page = self.bench()
        self.assertEqual(page.locator("[data-grip=nw]").evaluate(reach), [True] * 4)
        page = self.open(f"/sites/{self.site.pk}/artwork/letters")
        slider = page.get_by_role("slider").first
        slider.scroll_into_view_if_needed()
        self.assertEqual(slider.evaluate(reach), [True] * 4)

    def test_axe_finds_nothing_while_a_rung_stands_alone(self):
        for scheme in ("light", "dark"):
            page = self.bench(color_scheme=scheme)
            page.get_by_role("button", name=re.compile("Icon at 32 px")).click()
            self.assert_no_axe_findings(page)
            page.get_by_role("button", name="Adjust 32 px separately").click()
            page.get_by_role("radiogroup", name="Plate").get_by_text("Round").click()
            expect(page.get_by_label("Rounding", exact=True)).to_be_visible()
            self.assert_no_axe_findings(page)
            page.get_by_role("button", name="Use the shared framing").click()
            self.saved(page)


class StandInTests(BenchTestCase):
    plan = RECOMMENDED

    def test_small_icons_follow_at_once_and_say_that_they_are_stand_ins(self):
        page = self.bench()
        held, holding = [], True
        page.route("**/ladder", lambda route: held.append(route) if holding else route.continue_())
        page.get_by_label("Frame x, px").fill("300")  # the disc lies from 102 to 922, so its left half is cut off
        stand_in = page.get_by_role("img", name="Icon at 48 px, a preview")
        expect(stand_in).to_be_visible()
        expect(page.get_by_role("img", name="In a light tab, chosen, a preview")).to_be_visible()
        pixels = stand_in.evaluate("canvas => [...canvas.getContext('2d').getImageData(2, 24, 1, 1).data]")
        self.assertLess(np.abs(np.subtract(pixels, (17, 68, 204, 255))).max(), 3)
        self.assertEqual(stand_in.evaluate("({width, height}) => [width, height]"), [48, 48])
        large = page.get_by_alt_text("Icon at 512 px", exact=True)
        expect(large.locator("xpath=ancestor::span[@data-outdated]")).to_have_count(1)
        expect(page.get_by_text("being made").first).to_be_visible()
        holding = False
        for route in held:
            route.continue_()
        expect(stand_in).to_have_count(0)
        expect(page.locator("[data-outdated]")).to_have_count(0)
        self.turns(page, 48, (24, 2), [17, 68, 204, 255])

    def test_the_small_icons_do_not_wait_for_the_large_ones(self):
        page = self.bench()
        large = []
        page.route(
            "**/ladder",
            lambda route: large.append(route) if '"size":512' in route.request.post_data else route.continue_(),
        )
        for x, colour in ((300, [17, 68, 204, 255]), (-300, [0, 0, 0, 0]), (310, [17, 68, 204, 255])):
            page.get_by_label("Frame x, px").fill(str(x))
            self.turns(page, 16, (8, 1), colour)
            page.wait_for_timeout(400)  # longer than the hand's rest, so the large ones are asked for
        self.assertEqual(len(large), 3)
