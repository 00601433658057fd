import io
import re
import zipfile
from pathlib import Path
from urllib.parse import urlsplit

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.server.artwork.services import add_artwork
from bexi.server.drafts.services import save_draft
from bexi.server.sites.models import Site
from tests.browser.case import BrowserTestCase, screen_pixels, shown_png
from tests.pictures import BLUE_DISC, encoded, noise


def contents(folder: Path) -> dict[str, bytes]:
    return {str(path.relative_to(folder)): path.read_bytes() for path in folder.rglob("*") if path.is_file()}


class StoryTests(BrowserTestCase):
    def test_from_one_picture_to_its_icon_on_a_site_and_back(self):
        site = self.served / "merrowmouth"
        before = contents(site)
        address = f"http://127.0.0.1:{self.standin_port + 1}/"

        page = self.open("/")
        page.get_by_role("button", name="Add a site").first.click()
        page.get_by_role("button", name="It has no address yet").click()
        page.get_by_label("Name", exact=True).fill("Ferry")
        page.get_by_label("Address, as visitors type it").fill(address)
        page.get_by_label("Folder", exact=True).fill(str(site))
        page.get_by_role("button", name="Add the site").click()

        expect(page.get_by_role("button", name="Choose files")).to_be_visible()
        self.drop(page, BLUE_DISC, "disc.svg", "image/svg+xml")
        expect(page.get_by_role("heading", name="disc", exact=True)).to_be_visible()
        page.get_by_role("button", name="Open on the bench").click()

        frame = page.get_by_role("application")
        expect(page.get_by_role("heading", name="Ways to use")).to_be_visible()
        page.get_by_role("button", name="Continue with the chosen one").click()
        box = frame.bounding_box()
        page.mouse.move(box["x"] + box["width"], box["y"] + box["height"])
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] * 0.6, box["y"] + box["height"] * 0.6, steps=6)
        page.mouse.up()
        page.get_by_label("Frame side, px").fill("512")
        page.get_by_label("Frame y, px").fill("0")
        page.get_by_label("Frame x, px").fill("0")
        expect(frame).to_have_attribute(
            "aria-label", "Frame, 512 px at 0, 0. Arrows move it, Alt and arrows change its side."
        )
        for size in ("16 px", "32 px", "48 px", "180 px, home screen", "192 px, masked"):
            expect(page.get_by_alt_text(f"Icon at {size}", exact=True)).to_be_visible()

        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1")).to_be_visible()
        expect(page.get_by_role("article")).to_have_count(10)
        with page.expect_download() as download:
            page.get_by_role("link", name="Download ZIP").click()
        packed = zipfile.ZipFile(io.BytesIO(Path(download.value.path()).read_bytes()))
        self.assertEqual(len(packed.read("favicon.ico")), 15086)

        page.get_by_role("link", name="Install it").click()
        page.get_by_text("index.html").click()
        expect(page.get_by_text('href="/site.webmanifest?v=').locator("visible=true").first).to_be_visible()
        self.assertEqual(contents(site), before)
        page.get_by_role("button", name="Install 22 changes").click()
        expect(page.get_by_role("heading", name="Build 1 is in place")).to_be_visible()
        self.assertEqual((site / "favicon.ico").read_bytes(), packed.read("favicon.ico"))

        self.visit_and_expect_icon(address)

        page.get_by_role("link", name="Live check").click()
        page.get_by_role("button", name=re.compile("^Check (now|again)$")).click()
        expect(page.get_by_role("heading", name="No problems found")).to_be_visible()

        page.get_by_role("link", name="Install", exact=True).click()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("button", name="Install 22 changes")).to_be_visible()
        self.assertEqual(contents(site), before)

    def visit_and_expect_icon(self, address: str) -> None:
        """A real browser opens the site; the host's log shows that it asked for the new icon and got it."""
        self.requests.clear()  # Bexi has checked the site by itself meanwhile
        self.visit(address)
        asked = [
            (path, request["status"], request["content_type"])
            for request in self.requests.as_json()
            if (path := urlsplit(request["path"]).path).endswith((".ico", ".png", ".svg"))
        ]
        good = {
            ("/favicon.ico", 200, "image/x-icon"),
            ("/icon-16.png", 200, "image/png"),
            ("/icon-32.png", 200, "image/png"),
            ("/icon.svg", 200, "image/svg+xml"),
        }
        self.assertTrue(good & set(asked), asked)
        self.assertFalse([request for request in asked if request[1] != 200])


class BenchTests(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(name="Ferry")
        self.artwork = add_artwork("noise.png", encoded(Image.fromarray(noise(300, 200)), "PNG"))
        save_draft(self.site, self.artwork, Recipe.of(Frame(0, -50, 300)), 0)

    def frame(self) -> list[int]:
        return [*self.site.drafts.get().recipe["framing"]["frame"].values()]

    def test_ladder_is_true_to_the_pixel_on_ordinary_and_dense_screens(self):
        for ratio in (1, 2):
            page = self.open(f"/sites/{self.site.pk}/bench", device_scale_factor=ratio)
            for size in ("16 px", "32 px", "48 px", "180 px, home screen", "192 px, masked"):
                icon = page.get_by_alt_text(f"Icon at {size}", exact=True)
                expect(icon).to_be_visible()
                screen, meant = screen_pixels(icon), shown_png(icon)
                self.assertEqual(screen.shape, meant.shape)
                self.assertLessEqual(np.abs(screen.astype(int) - meant.astype(int)).max(), 1, (ratio, size))

    def test_keyboard_alone_moves_and_resizes_and_the_draft_is_kept(self):
        page = self.open(f"/sites/{self.site.pk}/bench")
        page.get_by_role("application").focus()
        for key in ("ArrowRight", "Shift+ArrowDown", "Alt+ArrowRight", "Alt+Shift+ArrowDown", "ArrowLeft", "ArrowLeft"):
            page.keyboard.press(key)
        expect(page.get_by_label("Frame side, px")).to_have_value("291")
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual(self.frame(), [-1, -40, 291])
        page.reload()
        expect(page.get_by_label("Frame side, px")).to_have_value("291")

    def test_building_waits_for_the_last_change(self):
        page = self.open(f"/sites/{self.site.pk}/bench")
        page.get_by_label("Frame side, px").fill("123")
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 1")).to_be_visible()
        self.assertEqual([*self.site.builds.get().recipe["framing"]["frame"].values()], [0, -50, 123])

    def test_a_change_in_another_window_is_not_overwritten(self):
        page = self.open(f"/sites/{self.site.pk}/bench")
        expect(page.get_by_label("Frame side, px")).to_have_value("300")
        save_draft(self.site, self.artwork, Recipe.of(Frame(5, 6, 70)), 1)
        page.get_by_label("Frame x, px").fill("9")
        expect(page.get_by_text("changed in another window")).to_be_visible()
        self.assertEqual(self.frame(), [5, 6, 70])
        page.get_by_role("button", name="Show that version").click()
        expect(page.get_by_label("Frame side, px")).to_have_value("70")

    def test_a_frame_beside_the_artwork_is_told(self):
        page = self.open(f"/sites/{self.site.pk}/bench")
        page.get_by_label("Frame x, px").fill("900")
        expect(page.get_by_text("beside the artwork").first).to_be_visible()
        self.assertEqual(self.frame(), [0, -50, 300])


class AccessibilityTests(BrowserTestCase):
    def test_axe_finds_nothing_in_either_theme(self):
        site = Site.objects.create(name="Ferry", place=str(self.served / "log"), address="http://127.0.0.1:1/")
        artwork = add_artwork("disc.svg", BLUE_DISC)
        save_draft(site, artwork, Recipe.of(Frame(0, 0, 512)), 0)
        for scheme in ("light", "dark"):
            page = self.open("/", color_scheme=scheme)
            expect(page.get_by_role("link", name="Ferry", exact=True)).to_be_visible()
            self.assert_no_axe_findings(page)
            page.get_by_role("link", name="Ferry", exact=True).click()
            expect(page.get_by_alt_text("Icon at 512 px", exact=True)).to_be_visible()
            self.assert_no_axe_findings(page)
            page.get_by_role("button", name="Build the set").click()
            number = 1 if scheme == "light" else 2
            expect(page.get_by_role("heading", name=f"Build {number}", exact=True)).to_be_visible()
            for view, ready in (
                ("Set", "Lines for the head"),
                ("Artwork", "Separate parts"),
                ("Install", "Files in the top folder"),
                ("Live check", "Not checked"),
            ):
                page.get_by_role("link", name=view, exact=True).click()
                expect(page.get_by_text(ready).first).to_be_visible()
                self.assert_no_axe_findings(page)
