import io
import re
import time
import zipfile

import numpy as np
from playwright.sync_api import expect

from bexi.core.formats import ico
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.server.builds.models import BuildRun, RunState
from bexi.server.builds.services import build_site
from bexi.server.drafts.services import save_draft
from tests.browser.case import PATIENCE, screen_pixels
from tests.browser.test_views import ViewTestCase
from tests.pictures import decoded


class SetViewTests(ViewTestCase):
    def test_files_with_reasons_sizes_and_bytes(self):
        page = self.view("set")
        card = page.get_by_role("article").filter(has_text="favicon.ico")
        expect(card).to_contain_text("16, 32, 48 px · 15.1 kB")
        expect(card).to_contain_text("WHATWG HTML")
        self.assertEqual([card.get_by_role("img").nth(n).bounding_box()["width"] for n in range(3)], [16, 32, 48])
        expect(page.get_by_role("article").filter(has_text="icon-512.png")).to_contain_text("middle part")

    def test_earlier_builds_stay_and_a_changed_draft_is_told(self):
        save_draft(self.site, self.artwork, Recipe.of(Frame(10, 0, 400)), 1)
        page = self.view("set")
        expect(page.get_by_text("The draft or its plan has changed since this build")).to_be_visible()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 2")).to_be_visible()
        expect(page.get_by_role("link", name="ZIP of build 1")).to_be_visible()

    def test_lines_are_copied(self):
        page = self.view("set", permissions=["clipboard-read", "clipboard-write"])
        page.get_by_role("button", name="Copy the lines").click()
        expect(page.get_by_text("The lines are on the clipboard.")).to_be_visible()
        self.assertIn('rel="apple-touch-icon"', page.evaluate("navigator.clipboard.readText()"))

    def test_a_plan_is_chosen_and_each_file_tells_its_cost(self):
        page = self.view("set")
        plan = page.get_by_role("region", name="Set plan")
        expect(plan.get_by_text("10 files", exact=False)).to_be_visible()
        plan.get_by_text("Minimal", exact=True).click()
        expect(plan.get_by_text(re.compile(r"^6 files, .* from this draft$"))).to_be_visible()
        plan.get_by_label("icon-monochrome-512.png").click()
        expect(plan.get_by_label("icon-monochrome-512.png")).to_be_checked()
        plan.get_by_text("Sizes of your own").click()
        plan.get_by_label("Size in px").fill("24")
        plan.get_by_role("button", name="Add this size").click()
        expect(plan.get_by_label("icon-24.png")).to_be_checked()
        plan.get_by_label("site.webmanifest").click()
        expect(plan.get_by_label("icon-512.png", exact=True)).not_to_be_checked()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 2", exact=True)).to_be_visible()
        names = {file.name for file in self.site.builds.first().files.all()}
        self.assertEqual(names, {"favicon.ico", "icon-24.png", "icon.svg", "apple-touch-icon.png"})

    def test_addresses_and_dark_colours_reach_the_files(self):
        page = self.view("set")
        plan = page.get_by_role("region", name="Set plan")
        plan.get_by_role("heading", name="Addresses").click()
        plan.get_by_role("heading", name="SVG icon and PNG").click()
        plan.get_by_text("Change with the file, against stale caches").click()
        plan.get_by_text("Own colour of the ink in dark schemes").click()
        expect(plan.get_by_label("In dark schemes", exact=True)).to_have_value("#ffffff")
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_label("Lines for the head")).to_contain_text("/icon.svg?v=")

    def test_an_installed_app_is_described_and_its_start_screen_seen(self):
        page = self.view("set")
        plan = page.get_by_role("region", name="Set plan")
        plan.get_by_role("heading", name="Installed as an app").click()
        expect(plan.get_by_text("Opened in the browser it has no start screen.")).to_be_visible()
        plan.get_by_label("Opens").click()
        page.get_by_title("in its own window, like other apps").click()
        plan.get_by_text("Start screen in a colour of its own").click()
        plan.get_by_label("Start screen", exact=True).fill("#1144cc")
        self.assertEqual(plan.get_by_alt_text("The icon").evaluate("image => image.naturalWidth"), 192)
        expect(plan.get_by_text("The mark has 1.0 : 1 to this background; graphics need 3 : 1.")).to_be_visible()
        plan.get_by_label("Short name, under the icon").fill("Ferries")
        plan.get_by_label("Start address").fill("elsewhere://x")
        plan.get_by_label("Start address").press("Enter")
        expect(plan.get_by_text("lies on the site itself")).to_be_visible()
        plan.get_by_label("Start address").fill("/crossings/")
        plan.get_by_label("Start address").press("Enter")
        expect(plan.get_by_text("4 of 6 set")).to_be_visible()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_role("heading", name="Build 2", exact=True)).to_be_visible()
        build = self.site.builds.first()
        manifest = page.request.get(f"{self.live_server_url}/api/builds/{build.pk}/files/site.webmanifest").json()
        self.assertEqual((manifest["start_url"], manifest["background_color"]), ("/crossings/", "#1144cc"))

    def test_builds_are_compared_with_a_difference_image(self):
        save_draft(self.site, self.artwork, Recipe.of(Frame(10, 0, 400)), 1)
        build_site(self.site)
        page = self.view("set")
        page.get_by_role("button", name="What differs from build 1").click()
        expect(page.get_by_role("heading", name="Build 1 and build 2")).to_be_visible()
        image = page.get_by_alt_text("Difference of icon-32.png, white where equal")
        shown = screen_pixels(image)
        self.assertEqual(shown.shape, (32, 32, 3))
        self.assertTrue((shown == 255).all(axis=-1).any() and (shown < 255).any())
        page.get_by_role("button", name="Back to the files").click()
        expect(page.get_by_role("article").first).to_be_visible()

    def test_a_build_is_made_again_with_the_same_bytes(self):
        page = self.view("set")
        page.get_by_role("button", name="Rebuild").click()
        expect(page.get_by_text("10 files, the same bytes")).to_be_visible()

    def test_one_file_for_an_upload_field_or_the_reason_why_not(self):
        page = self.view("set")
        field = page.get_by_role("region", name="One file for an upload field")
        field.get_by_label("Side in px").fill("48")
        field.get_by_label("Format").click()
        page.locator(".ant-select-item").get_by_text("ICO", exact=True).click()
        field.get_by_role("button", name="Make it").click()
        with page.expect_download() as caught:
            field.get_by_role("link", name="crew-rota-48.ico").click()
        data = caught.value.path().read_bytes()
        self.assertEqual([frame.pixels.shape[0] for frame in ico.read(data)], [16, 32, 48])
        field.get_by_label("At most KB").fill("0.2")
        field.get_by_role("button", name="Make it").click()
        expect(field.get_by_role("alert")).to_contain_text("the smallest ICO of this icon takes")
        field.get_by_label("Name of the preset").fill("Shop builder")
        field.get_by_role("button", name="Keep").click()
        expect(field.get_by_label("Saved presets")).to_be_visible()

    def test_a_build_under_way_shows_how_far_it_is_and_can_be_stopped(self):
        run = BuildRun.objects.create(
            site=self.site,
            artwork=self.artwork,
            sources=self.build.sources,
            recipe=self.build.recipe,
            state=RunState.RUNNING,
            done=3,
            total=10,
        )
        page = self.view("set")
        expect(page.get_by_role("status", name="Build under way")).to_contain_text("3 of 10 files")
        page.get_by_role("button", name="Stop").click()
        until = time.monotonic() + PATIENCE / 1000
        while not BuildRun.objects.get(pk=run.pk).stop_asked and time.monotonic() < until:
            page.wait_for_timeout(100)
        run.refresh_from_db()
        self.assertTrue(run.stop_asked)
        BuildRun.objects.update(state=RunState.STOPPED)
        expect(page.get_by_role("button", name="Build the set")).to_be_visible()
        page.reload()
        expect(page.get_by_text("Stopped. Nothing of this build was kept.")).to_be_visible()  # until it is read
        self.assert_no_axe_findings(page)
        page.get_by_role("button", name="Dismiss").click()
        page.reload()
        expect(page.get_by_role("button", name="Build the set")).to_be_visible()
        expect(page.get_by_text("Stopped. Nothing of this build was kept.")).to_have_count(0)

    def test_that_no_worker_answers_is_said(self):
        order = {"artwork": self.artwork, "sources": self.build.sources, "recipe": self.build.recipe}
        BuildRun.objects.create(site=self.site, **order)
        page = self.view("set")
        expect(page.get_by_text("Waiting: no worker answers. Start Bexi again.")).to_be_visible()

    def test_the_package_and_the_drawn_icon_are_what_was_built(self):
        page = self.view("set")
        with page.expect_download() as caught:
            page.get_by_role("link", name="Download ZIP").click()
        names = zipfile.ZipFile(io.BytesIO(caught.value.path().read_bytes())).namelist()
        self.assertIn("where-files-go.txt", names)
        drawn = screen_pixels(page.get_by_alt_text("icon.svg"))
        built = decoded(
            self.client.get(f"/api/builds/{self.build.pk}/files/icon-192.png", SERVER_NAME="127.0.0.1").content
        )
        middle = built[96, 60, :3].astype(int)
        self.assertLessEqual(np.abs(drawn[32, 20].astype(int) - middle).max(), 2)
