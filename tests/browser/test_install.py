import io
import re
import zipfile
from unittest import mock

from django.test import override_settings
from playwright.sync_api import expect

from bexi.core.errors import HostRefused
from bexi.installing.step import Content, Step, StepKind
from bexi.server.installs.models import Install, InstallState, InstallStep, Planning
from bexi.server.installs.starting import install_now
from bexi.server.sites.models import Site
from bexi.standin.account import PASSWORD, USER
from bexi.standin.host import SFTP_OFFSET
from tests.browser.test_views import ViewTestCase


class InstallViewTests(ViewTestCase):
    def test_shared_header_is_edited_and_other_pages_are_left_alone(self):
        page = self.view("install")
        expect(page.get_by_text("parts/header.html")).to_be_visible()
        expect(page.get_by_text("Keeps every member of site.webmanifest but its icons.")).to_be_visible()
        expect(page.get_by_text("replaced, copy kept").first).to_be_visible()
        left_alone = page.get_by_role("listitem").filter(has_text="swap.html")
        expect(left_alone).to_contain_text("a part of a page")
        expect(page.get_by_text("Replaces: <link rel=").first).to_be_visible()

    def test_planning_shows_how_far_it_is_and_can_be_stopped(self):
        with mock.patch("bexi.server.machines.work.Work.offer"):
            page = self.view("install")
            expect(page.get_by_role("button", name="Stop planning")).to_be_enabled()
            Planning.objects.update(state="reading", done=1200, total=5000)
            expect(page.get_by_text("1200 of 5000 pages read")).to_be_visible()
            page.get_by_role("button", name="Stop planning").click()
            expect(page.get_by_role("button", name="Stop planning")).to_have_class(re.compile("loading"))
            for _ in range(100):  # the button says so at once, the server a little later
                if Planning.objects.get().stop_asked:
                    break
                page.wait_for_timeout(100)
            self.assertTrue(Planning.objects.get().stop_asked)
            Planning.objects.update(state="stopped")
            expect(page.get_by_role("alert")).to_contain_text("You stopped the planning. Nothing has been changed.")
        page.get_by_role("button", name="Plan again").click()
        expect(page.get_by_role("button", name=re.compile("^Install .* changes$"))).to_be_visible()

    def test_what_changes_in_the_manifest_and_what_was_done_are_shown(self):
        page = self.view("install")
        page.locator("summary", has_text="site.webmanifest").click()
        expect(page.get_by_text('"src": "/icon-192.png?v=').first).to_be_visible()
        page.get_by_role("button", name=re.compile("^Install .* changes$")).click()
        expect(page.get_by_role("heading", name="Build 1 is in place")).to_be_visible()
        page.get_by_text("11 files", exact=True).click()
        expect(page.get_by_role("listitem").filter(has_text="parts/header.html edited").first).to_be_visible()

    def test_a_site_changed_meanwhile_is_told_and_planned_again(self):
        page = self.view("install")
        button = page.get_by_role("button", name=re.compile("^Install .* changes$"))
        expect(button).to_be_visible()
        (self.root / "parts/header.html").write_bytes(b"<html><head></head>")
        button.click()
        expect(page.get_by_role("alert").filter(has_text="Changed since the plan was made")).to_be_visible()
        expect(button).to_be_visible()
        self.assertFalse((self.root / "favicon.ico").exists())

    def test_the_folder_can_be_corrected(self):
        Site.objects.update(place="/nowhere/at/all")
        page = self.view("install")
        expect(page.get_by_role("alert")).to_contain_text("There is no folder /nowhere/at/all")
        page.get_by_role("button", name="Change location").click()
        page.get_by_label("Folder", exact=True).fill(str(self.root))
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("button", name=re.compile("^Install .* changes$"))).to_be_visible()

    def test_a_place_is_said_by_its_kind_and_a_pasted_address_fills_the_fields(self):
        Site.objects.update(place="")
        page = self.view("install")
        page.get_by_text("SFTP", exact=True).click()
        page.get_by_label("Host, or a whole address").fill("sftp://harbour%40ferry@files.example:2222/www/site")
        page.keyboard.press("Tab")
        for label, value in (
            ("Host, or a whole address", "files.example"),
            ("Port", "2222"),
            ("User", "harbour@ferry"),
            ("Top folder there", "/www/site"),
        ):
            expect(page.get_by_label(label, exact=True)).to_have_value(value)
        page.get_by_text("FTPS", exact=True).click()
        self.assert_no_axe_findings(page)
        expect(page.get_by_text("An account reached by FTP over TLS")).to_be_visible()
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("button", name="Change location")).to_be_visible()
        self.assertEqual(Site.objects.get().place, "ftps://harbour%40ferry@files.example:2222/www/site")

    def test_a_folder_is_chosen_step_by_step_below_the_allowed_ones(self):
        Site.objects.update(place="")
        with override_settings(PLACE_ROOTS=[self.served]):
            page = self.view("install")
            page.get_by_role("button", name="Choose", exact=True).click()
            page.get_by_role("button", name="crew", exact=True).click()
            expect(page.get_by_label("Folder", exact=True)).to_have_value(str(self.served.resolve() / "crew"))
            page.get_by_role("button", name="One up").click()
            expect(page.get_by_role("button", name="One up")).to_have_count(0)
            page.get_by_role("button", name="crew", exact=True).click()
            page.get_by_role("button", name="Take this folder").click()
            page.get_by_role("button", name="Save").click()
            expect(page.get_by_role("button", name=re.compile("^Install .* changes$"))).to_be_visible()

    def test_a_later_change_of_somebody_is_shown_and_asked_about(self):
        install_now(self.site)
        (self.root / "parts/header.html").write_bytes(b"mine")
        page = self.view("install")
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_text("parts/header.html was changed since it was installed")).to_be_visible()
        expect(page.get_by_text("mine", exact=True)).to_be_visible()
        page.get_by_role("button", name="Keep it as it is now").click()
        expect(page.get_by_text("installed, then undone")).to_be_visible()
        self.assertEqual((self.root / "parts/header.html").read_bytes(), b"mine")

    def test_by_hand_with_a_zip_of_the_site(self):
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w") as archive:
            archive.writestr("index.html", "<head><title>a</title></head>")
        page = self.view("install")
        page.get_by_text("Install by hand instead").click()
        page.get_by_text("Site builder").click()
        expect(page.get_by_text("then publish: visitors do not see a saved draft.")).to_be_visible()
        with page.expect_file_chooser() as chooser:
            page.get_by_role("button", name="Choose a ZIP of the site").click()
        chooser.value.set_files({"name": "site.zip", "mimeType": "application/zip", "buffer": packed.getvalue()})
        with page.expect_download() as caught:
            page.get_by_role("link", name="Download the changed files").click()
        changed = zipfile.ZipFile(io.BytesIO(caught.value.path().read_bytes()))
        self.assertIn(b"/favicon.ico", changed.read("index.html"))

    def test_an_interrupted_installation_is_put_back_from_its_history(self):
        stuck = Install.objects.create(
            site=self.site,
            build=self.build,
            place=str(self.root),
            state=InstallState.STUCK,
            begun=1,
            problem="The line went dead.",
        )
        (self.root / "favicon.ico").write_bytes(b"new")
        added = Step(StepKind.ADD, "favicon.ico", None, Content.of(b"new"))
        InstallStep.of(stuck, 0, added).save()
        page = self.view("install")
        page.get_by_role("button", name="Put it back now").click()
        expect(page.get_by_text("Everything was put back as it was").first).to_be_visible()
        self.assertFalse((self.root / "favicon.ico").exists())


TYPES_AS_SOON_AS_IT_CAN = """() => new MutationObserver((_, watch) => {
    const field = document.querySelector('input[type=password]');
    if (!field) return;
    watch.disconnect();
    field.focus();
}).observe(document.body, { childList: true, subtree: true })"""


class OverSftpTests(ViewTestCase):
    """The whole story over SFTP, and a visitor's real Chromium that asks for the icons."""

    def setUp(self):
        super().setUp()
        self.site.place = f"sftp://{USER}@127.0.0.1:{self.standin_port + SFTP_OFFSET}/crew"
        self.site.save()

    def icons_asked_for(self) -> set[str]:
        """Which of the old and the new icon a fresh visitor's browser asks the site for."""
        self.requests.clear()
        self.visit(self.site.address)
        asked = {str(request["path"]).split("?")[0] for request in self.requests.as_json()}
        return asked & {"/img/tiny.png", "/icon.svg"}

    def test_connect_plan_install_and_undo(self):
        before = {path: path.read_bytes() for path in self.root.rglob("*") if path.is_file()}
        self.assertEqual(self.icons_asked_for(), {"/img/tiny.png"})
        page = self.view("install")
        expect(page.get_by_text("Enter the password or key on the right")).to_be_visible()
        page.get_by_label("Password, or a private key").fill(PASSWORD)
        page.get_by_role("button", name="Test connection").click()
        expect(page.get_by_role("alert")).to_contain_text("is new to Bexi")
        fingerprint = page.get_by_label(re.compile("^Fingerprint SHA256:.{43}$"))
        self.assertRegex(fingerprint.inner_text(), r"(?s)^SHA256:\s(\S{4}\s){10}\S{3}$")
        for width in (390, 1920):
            page.set_viewport_size({"width": width, "height": 800})
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth - innerWidth"), 0, width)
        page.set_viewport_size({"width": 1280, "height": 800})
        page.get_by_role("button", name="Trust this key").click()
        expect(page.get_by_text("rename: works")).to_be_visible()
        expect(page.get_by_text('+  <link rel="icon" type="image/svg+xml"', exact=False)).to_be_visible()
        self.assert_no_axe_findings(page)
        button = page.get_by_role("button", name=re.compile("^Install .* changes$"))
        count = int(button.inner_text().split()[1])
        page.get_by_role("checkbox", name="Remove img/tiny.png").check()
        expect(button).to_have_text(f"Install {count + 1} changes")
        button.click()
        expect(page.get_by_role("heading", name="Build 1 is in place")).to_be_visible()
        self.assertFalse((self.root / "img/tiny.png").exists())
        self.assertEqual(self.icons_asked_for(), {"/icon.svg"})
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_text("installed, then undone")).to_be_visible()
        # The plan that is made anew asks the site, too.
        expect(page.get_by_role("button", name=re.compile("^Install .* changes$"))).to_be_visible()
        self.assertEqual({path: path.read_bytes() for path in self.root.rglob("*") if path.is_file()}, before)
        self.assertEqual(self.icons_asked_for(), {"/img/tiny.png"})

    def test_a_hasty_hand_keeps_the_focus_after_the_location_is_saved(self):
        place = self.site.place
        Site.objects.update(place="")
        page = self.view("install")
        page.get_by_text("SFTP", exact=True).click()
        page.get_by_label("Host, or a whole address").fill(place)
        page.keyboard.press("Tab")
        page.evaluate(TYPES_AS_SOON_AS_IT_CAN)
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("Enter the password or key on the right")).to_be_visible()
        page.wait_for_timeout(1000)
        expect(page.get_by_label("Password, or a private key")).to_be_focused()

    def test_each_attempt_is_a_press_and_a_refused_one_turns_what_worked_off(self):
        page = self.view("install")
        asked = []
        page.on("request", lambda request: asked.append((request.method, request.url, request.post_data or "")))
        field = page.get_by_label("Password, or a private key")
        field.fill(PASSWORD)
        page.get_by_role("button", name="Test connection").click()
        page.get_by_role("button", name="Trust this key").click()
        expect(page.get_by_role("button", name=re.compile("^Install .* changes$"))).to_be_visible()
        told = len(asked)
        field.press_sequentially("-later")
        page.wait_for_timeout(800)
        self.assertEqual([one for one in asked[told:] if PASSWORD in one[2]], [])  # typing asks nothing
        with mock.patch(
            "bexi.server.installs.places.try_out", side_effect=HostRefused("wrong-secret", "Not accepted.")
        ):
            page.get_by_role("button", name="Test connection").click()
            expect(page.get_by_text("Enter the password or key on the right")).to_be_visible()
        self.assertEqual([one for one in asked if PASSWORD in one[1]], [])
        kept = page.evaluate("JSON.stringify([{...localStorage}, {...sessionStorage}, document.cookie, history.state])")
        self.assertNotIn(PASSWORD, kept)
