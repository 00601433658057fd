"""Sites are added once for each request, found by any word, and need no server."""

from concurrent.futures import ThreadPoolExecutor

from django.db import connections
from django.test import TransactionTestCase

from bexi.server.sites.adding import add
from bexi.server.sites.models import Site, WithoutServer
from tests.server.case import ApiCase

KEY = "a-key-made-by-the-browser"


class AddingTests(ApiCase, TransactionTestCase):
    def post(self, body: dict, key: str = KEY):
        headers = {**self.token, **({"Idempotency-Key": key} if key else {})}
        return self.client.post("/api/sites", body, "application/json", headers=headers)

    def test_the_same_request_adds_one_site_and_another_adds_another(self):
        first, again = self.post({"name": "Crew"}), self.post({"name": "Crew"})
        self.assertEqual((first.status_code, again.status_code, first.json()["id"]), (201, 201, again.json()["id"]))
        self.assertNotEqual(self.post({"name": "Crew"}, "another-key-made-by-it").json()["id"], first.json()["id"])
        self.assertEqual(self.post({"name": "Crew"}, "").status_code, 201)
        self.assertEqual(Site.objects.count(), 3)

    def test_at_the_same_moment_too(self):
        def ask(_: int) -> int:
            try:
                return add(KEY, name="Crew").pk
            finally:
                connections.close_all()

        with ThreadPoolExecutor(4) as pool:
            self.assertEqual(len(set(pool.map(ask, range(8)))), 1)

    def test_an_odd_key_is_refused(self):
        self.assertEqual(self.post({"name": "Crew"}, "short").status_code, 422)
        self.assertEqual(self.post({"name": "Crew"}, "k" * 65).status_code, 422)

    def test_sites_are_found_by_all_words_in_any_case_of_any_script(self):
        for name, labels in (("Zürich lake", []), ("Pier", ["ΣΚΆΛΑ"]), ("Pier two", [])):
            Site.objects.create(name=name, labels=labels)
        ask = lambda search, most=None: [  # noqa: E731
            one["name"]
            for one in self.client.get("/api/sites", {"search": search, **({"most": most} if most else {})}).json()
        ]
        self.assertEqual(ask("ZÜRI"), ["Zürich lake"])
        self.assertEqual(ask("pier σκάλα"), ["Pier"])
        self.assertEqual((ask("pier"), ask("pier", 1)), (["Pier", "Pier two"], ["Pier"]))
        self.assertEqual((len(ask("")), ask("", 2)), (3, ["Zürich lake", "Pier"]))
        self.assertEqual(ask("nowhere"), [])

    def test_a_site_without_a_server_keeps_that_until_it_has_a_place(self):
        site = self.post({"name": "Crew", "without_server": "hand"}).json()
        self.assertEqual((site["without_server"], site["place_kind"]), ("hand", None))
        change = lambda **body: self.ask("PUT", f"sites/{site['id']}", {"name": "Crew", **body}).json()  # noqa: E731
        self.assertEqual(change()["without_server"], "hand")
        self.assertEqual(change(without_server="zip")["without_server"], WithoutServer.ZIP)
        placed = change(place=str(self.folder), without_server="zip")
        self.assertEqual((placed["without_server"], placed["place_kind"]), ("", "folder"))
