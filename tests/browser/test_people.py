"""Signing in and accounts, on the screen."""

from contextlib import suppress

from playwright.sync_api import Error, Page, Route, expect

from bexi.server.people import accounts
from bexi.server.people.roles import Role
from bexi.server.sites.models import Site
from tests.browser.case import BrowserTestCase

PASSWORD = "nine-lanterns-astern"


class PeopleTests(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(name="Ferry", place=str(self.served / "crew"))

    def sign_in(self, page: Page, name: str) -> None:
        """By keyboard alone: the first field has the focus."""
        expect(page.get_by_label("Name", exact=True)).to_be_focused()
        page.keyboard.type(name)
        page.keyboard.press("Tab")
        page.keyboard.type(PASSWORD)
        page.keyboard.press("Enter")

    def test_the_first_account_shuts_the_door_and_whoever_signs_in_comes_back_to_where_they_were(self):
        page = self.open("/account")
        page.get_by_label("Name to sign in with").fill("ines")
        page.get_by_label("First password").fill(PASSWORD)
        self.assert_no_axe_findings(page)
        page.get_by_role("button", name="Add the account").click()
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
        page.goto(f"{self.live_server_url}/sites/{self.site.pk}/install")
        self.sign_in(page, "ines")
        expect(page.get_by_text("Nothing is built for this site yet")).to_be_visible()
        expect(page).to_have_url(f"{self.live_server_url}/sites/{self.site.pk}/install")

    def test_a_wrong_password_is_said_at_its_place(self):
        accounts.add("ines", PASSWORD, Role.ADMINISTERS)
        for scheme in ("light", "dark"):
            page = self.open("/", color_scheme=scheme)
            page.get_by_label("Name", exact=True).fill("ines")
            page.get_by_label("Password").fill("guess")
            page.get_by_role("button", name="Sign in").click()
            expect(page.get_by_role("alert")).to_contain_text("name or the password is wrong")
            self.assert_no_axe_findings(page)

    def test_a_token_is_shown_once_and_the_account_is_left(self):
        accounts.add("ines", PASSWORD, Role.ADMINISTERS)
        page = self.open("/account")
        self.sign_in(page, "ines")
        page.get_by_label("What it is for").fill("nightly")
        page.get_by_role("button", name="Make a token").click()
        expect(page.get_by_text("bexi_")).to_be_visible()
        self.assert_no_axe_findings(page)
        page.reload()
        expect(page.get_by_role("button", name="Revoke nightly")).to_be_visible()
        expect(page.get_by_text("bexi_")).to_have_count(0)
        page.get_by_role("button", name="Sign out everywhere").click()
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()

    def test_a_late_answer_to_a_stranger_does_not_send_away_who_is_in(self):
        accounts.add("ines", PASSWORD, Role.ADMINISTERS)
        page, late = self.open("/sign-in"), []

        def hold(route: Route) -> None:
            if late:
                route.continue_()
            else:
                late.append((route, route.fetch()))

        page.route("**/api/processes", hold)
        page.goto(f"{self.live_server_url}/account")
        self.sign_in(page, "ines")
        expect(page.get_by_label("What it is for")).to_be_visible()
        (route, answer), *_ = late
        self.assertEqual(answer.status, 401)
        with suppress(Error):  # the page has given it up
            route.fulfill(response=answer)
        page.wait_for_timeout(500)
        expect(page.get_by_label("What it is for")).to_be_visible()

    def test_who_only_looks_sees_what_their_role_lacks(self):
        accounts.add("ines", PASSWORD, Role.ADMINISTERS)
        accounts.add("tom", PASSWORD, Role.LOOKS)
        page = self.open("/")
        self.sign_in(page, "tom")
        expect(page.get_by_role("link", name="Account of tom")).to_be_visible()
        expect(page.get_by_role("button", name="Add a site")).to_be_disabled()
        page.goto(f"{self.live_server_url}/sites/{self.site.pk}/install")
        expect(page.get_by_text("Your role is Viewer; this needs Publisher.").first).to_be_visible()
        expect(page.get_by_role("button", name="Change location")).to_have_count(0)
