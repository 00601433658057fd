from unittest import mock

from bexi.server.visitors import services
from tests.core.livesite.site import HOME, FakeSite, html
from tests.pictures import decoded, plain_png
from tests.server.case import ApiTestCase

OLD, NEW = plain_png(16, 16, "#aa0000"), plain_png(16, 16, "#0000aa")
PAGE = html('<link rel="icon" sizes="16x16" href="/i.png"><link rel="apple-touch-icon" href="/i.png">')
DAY = 86400


class VisitorTests(ApiTestCase):
    def setUp(self):
        super().setUp()
        self.site = FakeSite({"": PAGE, "i.png": OLD}, {"i.png": {"cache-control": "max-age=3600"}})
        visiting = mock.MagicMock()
        visiting.return_value.__enter__.return_value = self.site
        self.enterContext(mock.patch.object(services, "visiting", visiting))

    def visit(self, private: bool = False) -> dict:
        told = self.ask("POST", "visitor/visits", {"address": HOME, "private": private})
        self.assertEqual(told.status_code, 200, told.content)
        return told.json()

    def colour(self, shown: dict) -> tuple[int, ...]:
        picture = self.client.get(f"/api/visitor/pictures/{shown['sha256']}?px=16")
        return tuple(int(value) for value in decoded(picture.content)[0, 0, :3])

    def test_a_returning_visitor_sees_the_old_icon_until_the_clock_is_moved_on(self):
        self.visit()
        self.site.files = {"": PAGE, "i.png": NEW}
        self.assertEqual(self.colour(self.visit()["tabs"][0]["shown"]["blink"]), (170, 0, 0))
        self.assertEqual(self.colour(self.visit(private=True)["tabs"][0]["shown"]["blink"]), (0, 0, 170))
        self.ask("PUT", "visitor/clock", {"ahead": 8 * DAY})
        visitor = self.visit()
        self.assertEqual(self.colour(visitor["tabs"][0]["shown"]["blink"]), (0, 0, 170))
        self.assertEqual([tab["private"] for tab in visitor["tabs"]], [False, True])
        self.assertEqual(visitor["ahead"], 8 * DAY)
        moved = [self.ask("POST", "visitor/clock", {"by": DAY}).json()["ahead"] for _ in range(2)]
        self.assertEqual(moved, [9 * DAY, 10 * DAY])
        self.ask("PUT", "visitor/clock", {"ahead": 8 * DAY})

    def test_clearing_the_cache_is_a_first_visit(self):
        self.assertGreater(self.visit()["kept"], 0)
        self.site.files = {"": PAGE, "i.png": NEW}
        self.assertEqual(self.ask("DELETE", "visitor/cache").json()["kept"], 0)
        self.assertEqual(self.colour(self.visit()["tabs"][0]["shown"]["gecko"]), (0, 0, 170))

    def test_the_home_screen_keeps_what_was_put_there(self):
        self.visit()
        put = self.ask("POST", "visitor/home-screen", {"address": HOME}).json()
        self.site.files = {"": PAGE, "i.png": NEW}
        self.ask("PUT", "visitor/clock", {"ahead": 30 * DAY})
        later = self.visit()
        self.assertEqual(later["home_screen"], put["home_screen"])
        self.assertEqual(self.colour(later["home_screen"][0]["shown"]), (170, 0, 0))
        again = self.ask("POST", "visitor/home-screen", {"address": HOME}).json()
        self.assertEqual(self.colour(again["home_screen"][0]["shown"]), (0, 0, 170))
        self.assertEqual(len(again["home_screen"]), 1)

    def test_starting_over_forgets_all(self):
        self.visit()
        over = self.ask("DELETE", "visitor").json()
        self.assertEqual((over["tabs"], over["kept"], over["ahead"]), ([], 0, 0))

    def test_senseless_things_are_refused(self):
        for method, path, body in (
            ("POST", "visitor/visits", {"address": "file:///etc/passwd"}),
            ("POST", "visitor/visits", {"address": ""}),
            ("PUT", "visitor/clock", {"ahead": -1}),
            ("PUT", "visitor/clock", {"ahead": 1e12}),
            ("POST", "visitor/clock", {"by": 0}),
        ):
            self.problem(self.ask(method, path, body), 422, "invalid-request")
        kept = services.blobs.put(b"something else that Bexi keeps")
        for name in (kept, "0" * 64):
            self.assertEqual(self.client.get(f"/api/visitor/pictures/{name}").status_code, 404)
