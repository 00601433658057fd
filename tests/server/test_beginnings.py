"""What is begun without a site is kept apart from the sites until it is put on one."""

from django.test import TestCase

from bexi.server.artwork.services import add_artwork
from bexi.server.drafts.services import neighbours
from bexi.server.sites.models import Site
from tests.pictures import BLUE_DISC
from tests.server.case import ApiCase


class BeginningTests(ApiCase, TestCase):
    def setUp(self):
        super().setUp()
        self.artwork = add_artwork("disc.svg", BLUE_DISC)
        self.begun = self.ask("POST", "beginnings", {"artwork_id": self.artwork.pk}).json()

    def listed(self, path: str = "sites") -> list[str]:
        return [one["name"] for one in self.client.get(f"/api/{path}").json()]

    def test_it_goes_by_its_picture_and_is_among_no_sites(self):
        self.assertEqual((self.begun["name"], self.begun["artwork_id"]), ("disc", self.artwork.pk))
        self.assertEqual(
            (self.listed(), self.listed("sites?search=disc"), self.listed("beginnings")), ([], [], ["disc"])
        )
        self.assertNotIn("disc", self.client.get("/api/sites.csv").content.decode())
        other = Site.objects.create(name="Other")
        self.assertFalse(any("disc" in name for name in neighbours(other.pk, 0)))

    def test_the_same_request_begins_once(self):
        headers = {**self.token, "Idempotency-Key": "a-key-made-by-the-browser"}
        ask = lambda: self.client.post(  # noqa: E731
            "/api/beginnings", {"artwork_id": self.artwork.pk, "name": "Blue"}, "application/json", headers=headers
        )
        self.assertEqual(ask().json(), ask().json())
        self.assertEqual(self.listed("beginnings"), ["Blue", "disc"])

    def test_with_a_name_or_an_address_it_is_a_site(self):
        self.assertEqual(self.ask("PUT", f"sites/{self.begun['id']}", {"name": "Ferry"}).json()["is_beginning"], False)
        self.assertEqual((self.listed(), self.listed("beginnings")), (["Ferry"], []))
        self.problem(self.ask("POST", f"beginnings/{self.begun['id']}/onto", {"site_id": 1}), 404, "not-found")

    def test_onto_a_site_it_is_one_change_there(self):
        site = Site.objects.create(name="Ferry")
        other = add_artwork("other.svg", BLUE_DISC.replace(b"blue", b"navy"))
        self.ask("POST", f"sites/{site.pk}/bench", {"artwork_id": other.pk})
        self.ask("POST", f"beginnings/{self.begun['id']}/onto", {"site_id": site.pk})
        draft = site.drafts.get()
        self.assertEqual((draft.artwork, self.listed("beginnings")), (self.artwork, []))
        self.ask("POST", f"drafts/{draft.pk}/undo", {"revision": draft.revision})
        draft.refresh_from_db()
        self.assertEqual(draft.artwork, other)

    def test_onto_another_beginning_it_is_not_put(self):
        other = self.ask("POST", "beginnings", {"artwork_id": self.artwork.pk}).json()
        self.problem(
            self.ask("POST", f"beginnings/{self.begun['id']}/onto", {"site_id": other["id"]}), 404, "not-found"
        )
        self.assertEqual(len(self.listed("beginnings")), 2)
