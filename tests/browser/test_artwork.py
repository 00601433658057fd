import base64
import io
import zipfile

from PIL import Image, ImageDraw
from playwright.sync_api import APIResponse, Locator, Page, Route, expect

from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.recipe import Recipe
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.services import add_artwork
from bexi.server.drafts.models import Draft
from bexi.server.drafts.services import save_draft
from bexi.server.sites.models import Site
from tests.browser.case import BrowserTestCase
from tests.pictures import BLUE_DISC, decoded, encoded, plain_png

PASTE = """([data]) => {
    const bytes = Uint8Array.from(atob(data), (c) => c.charCodeAt(0));
    const transfer = new DataTransfer();
    transfer.items.add(new File([bytes], 'image.png', { type: 'image/png' }));
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true }));
}"""

MOVED = """() => {
    const moved = document.body.appendChild(document.createElement('div'));
    moved.style = 'position: absolute; left: -1000px';
    moved.getBoundingClientRect();
    moved.style.left = '0';
    return moved.getBoundingClientRect().x;
}"""


def square_on_white() -> bytes:
    image = Image.new("RGB", (120, 120), "white")
    ImageDraw.Draw(image).rectangle((30, 30, 89, 89), fill="#224466")
    return encoded(image, "PNG")


class ArtworkTestCase(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(name="Merrow Ferry", place=str(self.served / "log"))

    def shelf(self, query: str = "", **options: object) -> Page:
        page = self.open(f"/sites/{self.site.pk}/artwork{query}", **options)
        expect(page.get_by_role("button", name="Choose files")).to_be_visible()
        return page


class TakingInTests(ArtworkTestCase):
    def test_drop_choose_and_paste(self):
        page = self.shelf()
        self.drop(page, square_on_white(), "square.png")
        expect(page.get_by_role("heading", name="square", exact=True)).to_be_visible()
        chosen = [
            {"name": "disc.svg", "mimeType": "image/svg+xml", "buffer": BLUE_DISC},
            {"name": "plain.png", "mimeType": "image/png", "buffer": plain_png()},
        ]
        page.locator("input[type=file]").first.set_input_files(chosen)
        for title in ("disc", "plain"):
            expect(page.get_by_role("button", name=title)).to_be_visible()
        page.evaluate(PASTE, [base64.b64encode(plain_png(9, 9)).decode()])
        expect(page.get_by_role("heading", name="image", exact=True)).to_be_visible()
        self.assertEqual(Artwork.objects.count(), 4)

    def test_a_bad_file_is_told_and_can_be_dismissed(self):
        page = self.shelf()
        self.drop(page, b"just words", "words.png")
        told = page.get_by_role("alert").filter(has_text="words.png: This is not a picture")
        expect(told).to_be_visible()
        told.get_by_role("button").click()
        expect(told).to_be_hidden()
        self.assertFalse(Artwork.objects.exists())

    def test_dropped_on_the_sites_list(self):
        page = self.open("/")
        self.drop(page, square_on_white(), "square.png")
        expect(page.get_by_role("region", name="Started with square")).to_be_visible()
        self.assertEqual(Draft.objects.get(site__is_beginning=True).artwork.title, "square")

    def test_a_newer_version_of_what_benches_show_is_asked_about(self):
        artwork = add_artwork("square.png", square_on_white())
        for name in ("Harbour log", "Tide tables"):
            save_draft(Site.objects.create(name=name), artwork, Recipe.of(whole_artwork(120, 120)), 0)
        page = self.open(f"/sites/{self.site.pk}/artwork?piece={artwork.pk}")

        def choose(colour: str = "#0022cc") -> Locator:
            with page.expect_file_chooser() as chooser:
                page.get_by_role("button", name="Replace with a newer version").click()
            chooser.value.set_files({"name": "new.png", "mimeType": "image/png", "buffer": plain_png(64, 64, colour)})
            return page.get_by_role("dialog", name="Replace square with new.png?")

        expect(choose().get_by_role("listitem").filter(has_text="Tide tables")).to_be_visible()
        self.assert_no_axe_findings(page)
        page.get_by_role("button", name="Cancel").click()
        before = artwork.sha256
        artwork.refresh_from_db()
        self.assertEqual(artwork.sha256, before)
        choose().get_by_role("button", name="Add it as new artwork").click()
        expect(page.get_by_role("heading", name="new", exact=True)).to_be_visible()
        self.assertEqual(Artwork.objects.count(), 2)
        page.get_by_role("button", name="square PNG").click()
        expect(page.get_by_role("heading", name="square", exact=True)).to_be_visible()
        choose("#cc2200").get_by_role("button", name="Replace it").click()
        expect(page.get_by_text("It is replaced with the newer version.")).to_be_visible()
        artwork.refresh_from_db()
        self.assertNotEqual(artwork.sha256, before)

    def test_a_picture_of_the_site_is_taken_with_its_origin(self):
        page = self.shelf()
        page.get_by_role("button", name="Use a picture from the site").click()
        page.get_by_role("button", name="favicon.ico").click()
        expect(page.get_by_role("heading", name="favicon", exact=True)).to_be_visible()
        expect(page.get_by_text("renaming does not convert")).to_be_visible()
        self.assertEqual(Artwork.objects.get().origin, "Merrow Ferry: favicon.ico")


class PieceTests(ArtworkTestCase):
    def setUp(self):
        super().setUp()
        self.artwork = add_artwork("square.png", square_on_white())

    def test_rename_and_rights_by_keyboard(self):
        page = self.shelf(f"?piece={self.artwork.pk}")
        page.get_by_text("Title, alt text and rights").focus()
        page.keyboard.press("Enter")
        page.get_by_label("Title", exact=True).focus()
        page.keyboard.press("Control+A")
        page.keyboard.type("Blue square")
        page.get_by_label("Credit line").fill("A. Member")
        licence = page.get_by_label("Licence")
        licence.press("ArrowDown")
        expect(licence).to_have_attribute("aria-expanded", "true")
        for _ in range(10):
            if page.locator(f"#{licence.get_attribute('aria-activedescendant')}").inner_text() == "CC-BY-4.0":
                break
            licence.press("ArrowDown")
        licence.press("Enter")
        expect(licence).to_have_attribute("aria-expanded", "false")
        page.get_by_role("button", name="Save", exact=True).focus()
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Blue square", exact=True)).to_be_visible()
        self.artwork.refresh_from_db()
        self.assertEqual((self.artwork.title, self.artwork.licence), ("Blue square", "CC-BY-4.0"))

    def test_lifting_the_ground_and_taking_it_back(self):
        page = self.shelf(f"?piece={self.artwork.pk}")
        page.get_by_label("Remove the background").click()
        expect(page.get_by_text("transparent", exact=True)).to_be_visible()
        expect(page.get_by_label("Colour of the ink", exact=True)).to_have_value("#224466")
        page.get_by_label("Also inside the mark").click()
        expect(page.get_by_label("Also inside the mark")).to_be_checked()
        expect(page.get_by_role("group", name="How it is read")).to_be_enabled()
        self.artwork.refresh_from_db()
        self.assertTrue(self.artwork.read_as.lift_inside)
        page.get_by_label("Remove the background").click()
        expect(page.get_by_text("solid #ffffff", exact=True)).to_be_visible()

    def test_remove_and_undo(self):
        page = self.shelf(f"?piece={self.artwork.pk}")
        page.get_by_role("button", name="Remove").click()
        expect(page.get_by_text("There is no artwork yet")).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("heading", name="square", exact=True)).to_be_visible()
        self.artwork.refresh_from_db()
        self.assertIsNone(self.artwork.removed)

    def test_a_shelf_asked_for_before_a_removal_and_answered_after_it_is_asked_for_anew(self):
        asked: list[tuple[Route, APIResponse]] = []

        def hold_first(route: Route) -> None:
            if asked:
                route.continue_()
            else:
                asked.append((route, route.fetch()))

        page = self.shelf(f"?piece={self.artwork.pk}")
        page.route("**/api/artwork?**", hold_first)
        page.reload()
        with page.expect_response(lambda answer: answer.request.method == "DELETE"):
            page.get_by_role("button", name="Remove").click()
        route, answer = asked[0]
        route.fulfill(response=answer)
        expect(page.get_by_text("There is no artwork yet")).to_be_visible()

    def test_what_is_on_a_bench_does_not_disappear(self):
        save_draft(self.site, self.artwork, Recipe.of(Frame(0, 0, 120)), 0)
        page = self.shelf()
        page.get_by_role("button", name="Remove").click()
        expect(page.get_by_text("It is on the bench of Merrow Ferry")).to_be_visible()

    def test_search_and_narrow(self):
        add_artwork("disc.svg", BLUE_DISC)
        self.assert_narrows(self.shelf())

    def test_lists_open_with_less_motion(self):
        add_artwork("disc.svg", BLUE_DISC)
        self.assert_narrows(self.shelf(reduced_motion="reduce"))

    def test_what_is_moved_is_there_at_once_with_less_motion(self):
        """Lists are moved and measured; the shortest transition would have them measured where they were."""
        page = self.shelf(reduced_motion="reduce")
        self.assertEqual(page.evaluate(MOVED), 0)

    def assert_narrows(self, page: Page) -> None:
        """What is looked for is shown, and what is not is hidden."""
        page.get_by_label("Search artwork").fill("svg")
        expect(page.get_by_role("button", name="square")).to_be_hidden()
        expect(page.get_by_role("button", name="disc")).to_be_visible()
        page.get_by_label("Search artwork").fill("")
        page.get_by_label("Which artwork").click()
        page.get_by_title("Made of pixels").click()
        expect(page.get_by_role("button", name="disc")).to_be_hidden()


class DrawingTests(ArtworkTestCase):
    def test_letters_are_drawn_kept_and_changed(self):
        page = self.shelf()
        page.get_by_role("link", name="Draw letters").click()
        expect(page.get_by_label("One to three letters")).to_have_value("MF")
        expect(page.get_by_alt_text("16 px on dark")).to_be_visible()
        page.get_by_label("One to three letters").fill("漢")
        expect(page.get_by_text("This font has no “漢”")).to_be_visible()
        page.get_by_label("One to three letters").fill("Q")
        page.get_by_text("Disc", exact=True).click()
        expect(page.get_by_text("Contrast of ink and plate 7.9 : 1")).to_be_visible()
        page.get_by_role("button", name="Keep as artwork").click()
        expect(page.get_by_role("heading", name="Letters Q", exact=True)).to_be_visible()
        page.get_by_role("link", name="Change the drawing").click()
        page.get_by_label("Ink", exact=True).fill("#ffffff")
        page.get_by_role("button", name="Keep the change").click()
        expect(page.get_by_text("#ffffff")).to_be_visible()
        self.assertEqual(Artwork.objects.get().drawing["plate"]["shape"], "disc")

    def test_a_symbol_is_found_by_a_word_and_its_credit_travels(self):
        page = self.shelf()
        page.get_by_role("link", name="Draw a symbol").click()
        page.get_by_label("Search symbols").fill("lighthouse")
        page.get_by_role("list", name="Symbols found").get_by_role("button").first.click()
        page.get_by_role("button", name="Keep as artwork").click()
        page.get_by_role("button", name="Open on the bench").click()
        page.get_by_role("button", name="Build the set").click()
        with page.expect_download() as download:
            page.get_by_role("link", name="Download ZIP").click()
        credits = zipfile.ZipFile(io.BytesIO(download.value.path().read_bytes())).read("where-files-go.txt").decode()
        self.assertIn("ISC", credits)

    def test_a_build_begun_while_the_bench_opens_leads_to_the_set(self):
        add_artwork("disc.svg", BLUE_DISC)
        page = self.shelf()
        held: list[Route] = []
        page.route("**/assets/BenchView-*.js", lambda route: held.append(route))
        page.get_by_role("button", name="disc").click()
        page.get_by_role("button", name="Open on the bench").click()
        page.get_by_role("button", name="Build the set").click()
        expect(page.get_by_text("Opening the view")).to_be_visible()  # the bench is still on its way
        for route in held:
            route.continue_()
        expect(page.get_by_role("link", name="Download ZIP")).to_be_visible()

    def test_shown_pictures_are_the_kept_drawing(self):
        page = self.open(f"/sites/{self.site.pk}/artwork/symbol")
        shown = page.get_by_alt_text("180 px on light")
        expect(shown).to_be_visible()
        png = base64.b64decode(shown.get_attribute("src").split(",", 1)[1])
        self.assertEqual(decoded(png).shape, (180, 180, 4))


class ArtworkAccessibilityTests(ArtworkTestCase):
    def test_axe_finds_nothing(self):
        artwork = add_artwork("square.png", square_on_white())
        for scheme in ("light", "dark"):
            page = self.shelf(f"?piece={artwork.pk}", color_scheme=scheme)
            page.get_by_text("Title, alt text and rights").click()
            self.assert_no_axe_findings(page)
            for view, ready in (("letters", "16 px on light"), ("symbol", "16 px on light")):
                page.goto(f"{self.live_server_url}/sites/{self.site.pk}/artwork/{view}")
                expect(page.get_by_alt_text(ready)).to_be_visible()
                self.assert_no_axe_findings(page)
