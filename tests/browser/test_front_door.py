"""One field and one wide area above the sites: a picture, an address or a name, and what comes of them."""

import io
import re
from pathlib import Path
from unittest import mock
from zipfile import ZipFile

from PIL import Image
from playwright.sync_api import Page, Route, expect

from bexi.core.errors import HostRefused
from bexi.server.artwork.services import add_artwork
from bexi.server.drafts.beginnings import begin_with
from bexi.server.sites.models import Site
from tests.browser.case import BrowserTestCase
from tests.pictures import BLUE_DISC, encoded, plain_png

FIELDS = (
    ("32 px PNG", "PNG", (32, 32), 1_000_000),
    ("512 px PNG", "PNG", (512, 512), 1_000_000),
    ("ICO", "ICO", (48, 48), 1_000_000),
    ("180 px, opaque", "PNG", (180, 180), 1_000_000),
)


def _bar_on_white() -> bytes:
    """A bar with much paper around, so that its square is not what is proposed."""
    picture = Image.new("RGB", (300, 300), "white")
    picture.paste("#1144cc", (120, 60, 180, 240))
    return encoded(picture, "PNG")


class FrontDoorTests(BrowserTestCase):
    def begin(self, page: Page, typed: str) -> None:
        page.get_by_label("A site's address, a name or initials").fill(typed)
        page.keyboard.press("Enter")

    def dropped(self, picture: bytes = BLUE_DISC) -> Page:
        """A page onto which a picture was dropped: the first action."""
        page = self.open("/")
        self.drop(page, picture, "disc.svg", "image/svg+xml")
        expect(page.get_by_role("button", name="Put it on a site")).to_be_enabled()
        return page

    def test_a_picture_is_seen_in_place_with_its_words_and_what_else_can_be_made_of_it(self):
        page = self.dropped()
        begun = page.get_by_role("region", name="Started with disc")
        expect(begun.get_by_text("32 px, 8 times as large")).to_be_visible()
        for size in (16, 32, 180):
            expect(begun.get_by_text(re.compile(f"^{size} px (clear|weak|lost)"))).to_be_visible()
        shown = {name: begun.get_by_role("img", name=name).bounding_box()["width"] for name in PLACES}
        self.assertEqual(shown, PLACES)
        other = begun.get_by_role("group", name="Ways to use it").get_by_role("button").nth(1)
        other.click()
        expect(other).to_have_attribute("aria-pressed", "true")
        self.assertEqual(Site.objects.get().drafts.get().revision, 3)
        self.assert_no_axe_findings(page)
        for width in (320, 390, 1024):
            page.set_viewport_size({"width": width, "height": 800})
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), width)
        self.assertFalse(Site.named.exists())

    def test_a_blank_picture_is_said_to_be_blank(self):
        page = self.dropped(plain_png(60, 60, "#ffffff"))
        expect(page.get_by_role("alert").filter(has_text="This picture is blank")).to_be_visible()

    def test_why_a_photograph_is_not_judged_is_said_once(self):
        photo = Image.effect_noise((160, 160), 120).resize((480, 480)).convert("RGB")
        page = self.dropped(encoded(photo, "JPEG"))
        told = page.get_by_role("list", name="How it will be seen").get_by_role("listitem")
        expect(told).to_have_text(["not judged: no flat areas, like a photograph"])

    def test_what_was_chosen_is_on_the_bench_and_is_changed_there(self):
        page = self.dropped()
        page.get_by_role("group", name="Ways to use it").get_by_role("button").nth(1).click()
        expect(page.get_by_role("button", name="Put it on a site")).to_be_enabled()
        page.get_by_role("link", name="Work on it").click()
        page.get_by_role("application").press("Shift+ArrowDown")
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual(Site.objects.get().drafts.get().revision, 4)
        page.get_by_role("link", name="Bexi, all sites").click()
        page.get_by_role("region", name="Without a site").get_by_role("link", name="disc").click()
        with page.expect_download():
            page.get_by_role("button", name="Only the files").click()
        self.assertEqual(Site.objects.get().builds.get().recipe, Site.objects.get().drafts.get().recipe)

    def test_who_goes_to_the_bench_at_once_sees_the_first_proposal_come(self):
        page = self.open("/")
        held: list[Route] = []
        page.route(re.compile(r"/api/sites/\d+/bench$"), lambda route: held.append(route))
        self.drop(page, _bar_on_white(), "bar.png", "image/png")
        page.get_by_role("link", name="Work on it").click()
        expect(page.get_by_role("region", name="Proposals for bar")).to_be_visible()
        expect(page.get_by_label("Frame side, px")).to_have_value("300")
        held[0].continue_()
        expect(page.get_by_label("Frame side, px")).not_to_have_value("300")
        page.get_by_role("button", name="Continue with the chosen one").click()
        page.get_by_role("application").press("Shift+ArrowDown")
        expect(page.get_by_text("Draft saved")).to_be_visible()
        self.assertEqual(Site.objects.get().drafts.get().revision, 3)

    def test_a_picture_whose_answer_was_lost_is_begun_with_once(self):
        page = self.open("/")
        lost = []

        def lose(route: Route) -> None:
            if route.request.method != "POST" or lost:
                route.continue_()
                return
            lost.append(route.fetch())
            route.abort()

        page.route("**/api/beginnings", lose)
        self.drop(page, BLUE_DISC, "disc.svg", "image/svg+xml")
        expect(page.get_by_role("alert").filter(has_text="Bexi does not answer")).to_be_visible()
        self.drop(page, BLUE_DISC, "disc.svg", "image/svg+xml")
        expect(page.get_by_role("region", name="Started with disc")).to_be_visible()
        self.assertEqual(Site.objects.count(), 1)

    def test_a_picture_that_cannot_be_judged_can_be_taken_as_it_is(self):
        with mock.patch("bexi.server.drafts.judging._each_judged", side_effect=HostRefused("no", "This failed.")):
            page = self.dropped(BLUE_DISC.replace(b"#1144cc", b"#1155dd"))  # whose proposals nobody keeps
            expect(page.get_by_text("This failed.").first).to_be_visible()
        with page.expect_download():
            page.get_by_role("button", name="Only the files").click()

    def test_two_actions_from_a_picture_to_its_zip(self):
        page = self.dropped()
        with page.expect_download() as told:
            page.get_by_role("button", name="Only the files").click()  # the second
        with ZipFile(told.value.path()) as packed:
            names = {Path(name).name for name in packed.namelist()}
        self.assertLessEqual({"favicon.ico", "apple-touch-icon.png", "site.webmanifest"}, names)
        expect(page.get_by_text("The ZIP is in your downloads.")).to_be_visible()

    def test_three_actions_from_a_picture_to_one_file_for_an_upload_field(self):
        page = self.dropped()
        page.get_by_role("button", name="One file for an upload field").click()  # the second
        for label, kind, size, most in FIELDS:
            with page.expect_download() as told:
                page.get_by_role("button", name=label, exact=True).click()  # the third
            data = Path(told.value.path()).read_bytes()
            with Image.open(io.BytesIO(data)) as picture:
                self.assertEqual((picture.format, picture.size), (kind, size))
                if "opaque" in label:
                    self.assertEqual(picture.convert("RGBA").getextrema()[3], (255, 255))
            self.assertLess(len(data), most)
            expect(page.get_by_role("status").filter(has_text=told.value.suggested_filename)).to_be_visible()

    def test_four_actions_from_a_picture_to_the_plan_for_a_site(self):
        page = self.dropped()
        page.get_by_role("button", name="Put it on a site").click()  # the second
        page.get_by_label("The address of the site, or a name for it").fill("Ferry")
        page.keyboard.press("Enter")  # the third
        page.get_by_label("Folder", exact=True).fill(str(self.served / "merrowmouth"))
        page.keyboard.press("Enter")  # the fourth
        expect(page.get_by_role("button", name=re.compile("^Install .* changes$"))).to_be_visible()
        self.assertEqual((Site.named.get().name, Site.objects.count()), ("Ferry", 1))

    def test_onto_a_site_that_is_here_already(self):
        site = Site.objects.create(name="Tide tables", place=str(self.served / "tide"))
        page = self.dropped()
        page.get_by_role("button", name="Put it on a site").click()
        page.get_by_role("button", name="Tide tables").click()
        expect(page.get_by_role("button", name=re.compile("^Install .* changes$"))).to_be_visible()
        self.assertEqual(site.drafts.get().artwork.title, "disc")
        page.goto(self.live_server_url)
        expect(page.get_by_role("link", name="Tide tables", exact=True)).to_be_visible()
        expect(page.get_by_role("region", name="Without a site")).to_have_count(0)

    def test_what_was_begun_waits_for_a_site_and_can_be_removed_and_had_back(self):
        begin_with(add_artwork("disc.svg", BLUE_DISC), "Blue disc", None)
        page = self.open("/")
        kept = page.get_by_role("region", name="Without a site")
        kept.get_by_role("link", name="Blue disc").click()
        expect(page.get_by_role("region", name="Started with Blue disc")).to_be_visible()
        expect(kept).to_have_count(0)
        page.go_back()
        kept.get_by_role("button", name="Remove Blue disc").click()
        expect(kept).to_have_count(0)
        page.get_by_text("Removed sites").click()
        page.get_by_role("button", name="Restore Blue disc").click()
        expect(kept.get_by_role("link", name="Blue disc")).to_be_visible()

    def test_an_address_is_looked_at(self):
        page = self.open("/")
        self.begin(page, f"127.0.0.1:{self.standin_port + 4}")
        expect(page.get_by_role("dialog").get_by_text("its current icons").first).to_be_visible()
        self.assertEqual(Site.objects.get().name, "Tide tables")

    def test_a_name_is_set_in_four_faces_and_colours_to_choose_from(self):
        page = self.open("/")
        self.begin(page, "Huber und Sohn")
        letters = page.get_by_role("region", name="Letters for Huber und Sohn")
        faces = letters.get_by_role("group", name="Fonts").get_by_role("button")
        expect(faces).to_have_count(4)
        expect(faces.first).to_have_accessible_name(re.compile("^HS in "))
        letters.get_by_text("HUS", exact=True).click()
        letters.get_by_text("red", exact=True).click()
        self.assert_no_axe_findings(page)
        faces.nth(1).click()
        expect(page.get_by_role("region", name="Started with Huber und Sohn")).to_be_visible()
        drawn = Site.objects.get().drafts.get().artwork.drawing
        self.assertEqual((drawn["text"], drawn["ink"]), ("HUS", "#ffffff"))

    def test_initials_are_taken_as_they_are_typed(self):
        page = self.open("/")
        self.begin(page, "mF")
        expect(page.get_by_role("button", name=re.compile("^mF in ")).first).to_be_visible()

    def test_several_pictures_go_to_the_sites_whose_names_they_have(self):
        names = ("Harbour log", "Tide tables", "Crew rota")
        for name in names:
            Site.objects.create(name=name)
        page = self.open("/")
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name="Choose a picture").click()
        files = {"tide-tables-logo": "#cc2200", "Crew_Rota": "#0022cc", "something": "#22cc00"}
        chooser.value.set_files(
            [
                {"name": f"{name}.png", "mimeType": "image/png", "buffer": plain_png(64, 64, colour)}
                for name, colour in files.items()
            ]
        )
        dialog = page.get_by_role("dialog")
        row = lambda title: dialog.get_by_role("listitem").filter(has_text=title)  # noqa: E731
        expect(row("tide-tables-logo")).to_contain_text("Tide tables")
        expect(row("Crew_Rota")).to_contain_text("Crew rota")
        expect(row("something").get_by_role("button", name="No site")).to_be_disabled()
        row("Crew_Rota").get_by_role("combobox").click()
        page.locator('.ant-select-item[title="Harbour log"]').click()  # the list of sites has one of that title, too
        self.assert_no_axe_findings(page)
        dialog.get_by_role("button", name="Put 3 pictures on their sites").click()
        expect(dialog).to_have_count(0)
        expect(page.get_by_role("region", name="Without a site").get_by_role("link", name="something")).to_be_visible()
        on = {site.name: site.drafts.get().artwork.title for site in Site.named.all() if site.drafts.exists()}
        self.assertEqual(on, {"Tide tables": "tide-tables-logo", "Harbour log": "Crew_Rota"})

    def test_nothing_is_refused_in_silence(self):
        page = self.open("/")
        page.get_by_role("button", name="Begin").click()
        expect(page.get_by_text("Type an address or a name first.")).to_be_visible()
        self.begin(page, "127.0.0.1:9")
        expect(page.get_by_role("alert").filter(has_text="cannot be looked at")).to_be_visible()
        self.assert_no_axe_findings(page)
        page.get_by_role("button", name="It’s a name").click()
        expect(page.get_by_role("region", name="Letters for 127.0.0.1:9")).to_be_visible()


PLACES = {"In a light tab": 16, "In a dark tab": 16, "On a home screen": 180, "disc at 32 px, 8 times as large": 256}
"""How wide the pictures are in CSS px on a screen of one device px for each."""
