"""Many sites: lists in and out, removing and bringing back, what goes on at several at once."""

from django.db import connection
from django.test.utils import CaptureQueriesContext

from bexi.server.builds.models import Build
from bexi.server.checks.watching import due
from bexi.server.drafts.models import Draft
from bexi.server.installs.starting import install_now
from bexi.server.sites.models import Deed, Site
from tests.server.case import ApiTestCase, BenchTestCase


class ListTests(ApiTestCase):
    def send_list(self, text: str, encoding: str = "utf-8"):
        return self.send(text.encode(encoding), "sites.csv", "sites.csv")

    def test_out_and_in_again(self):
        site = {"name": "Fähre, alt", "address": "https://ferry.example/", "place": str(self.folder)}
        body = {**site, "labels": ["a", "b"]}
        self.ask("POST", "sites", body)
        self.ask("POST", "sites", {"name": "=1+1"})
        exported = self.client.get("/api/sites.csv").content.decode()
        self.assertIn('"Fähre, alt"', exported)
        self.assertIn("'=1+1", exported)
        Site.objects.all().delete()
        self.assertEqual(self.send_list(exported).json(), {"added": 2, "here_already": 0})
        self.assertEqual(self.send_list(exported).json(), {"added": 0, "here_already": 2})
        first, second = self.ask("GET", "sites").json()
        self.assertEqual({name: first[name] for name in body}, body)
        self.assertEqual(second["name"], "=1+1")

    def test_what_spreadsheets_write(self):
        for text, encoding in (
            ("Name;Address\r\nFähre;ferry.example\r\n", "cp1252"),
            ("\ufeffname\taddress\nFähre\tferry.example\n\n \t \n", "utf-8"),
        ):
            Site.objects.all().delete()
            self.assertEqual(self.send_list(text, encoding).json()["added"], 1, text)
            site = Site.objects.get()
            self.assertEqual((site.name, site.address), ("Fähre", "https://ferry.example"))

    def test_every_wrong_line_is_said_and_nothing_added(self):
        sentence = self.problem(
            self.send_list("name,address\nFerry,ferry.example\n,b.example\nTide,no address\n"), 422, "lines-wrong"
        )
        self.assertIn("line 3, name", sentence)
        self.assertIn("line 4, address", sentence)
        self.assertFalse(Site.objects.exists())
        for text in ("", "Ferry,ferry.example\n", "name,colour\nFerry,red\n"):
            self.problem(self.send_list(text), 422, "no-list")

    def test_labels_are_changed_only_when_told(self):
        site = self.ask("POST", "sites", {"name": "Ferry", "labels": ["harbour"]}).json()
        self.assertEqual(self.ask("PUT", f"sites/{site['id']}", {"name": "Ferry 2"}).json()["labels"], ["harbour"])
        self.assertEqual(self.ask("PUT", f"sites/{site['id']}", {"name": "F", "labels": []}).json()["labels"], [])
        self.assertEqual(self.ask("POST", "sites", {"name": "F", "labels": ["a,b"]}).status_code, 422)


class RemovalTests(BenchTestCase):
    def test_a_site_is_removed_and_brought_back(self):
        self.keep(0)
        self.assertEqual(self.ask("DELETE", f"sites/{self.site.pk}").status_code, 204)
        self.assertEqual(self.ask("GET", "sites").json(), [])
        self.problem(self.ask("GET", f"sites/{self.site.pk}/draft"), 404, "not-found")
        self.assertEqual(self.ask("GET", "sites/removed").json()[0]["name"], "Ferry")
        self.assertEqual(due(), [])
        self.assertEqual(self.ask("POST", f"sites/{self.site.pk}/restore").json()["state"], "draft")
        self.assertEqual([deed.kind for deed in Deed.objects.all()], ["restored", "removed"])

    def test_what_stands_installed_is_said_first(self):
        self.site.place = str(self.folder / "ferry")
        (self.folder / "ferry").mkdir()
        self.site.save()
        self.keep(0)
        build = self.build()
        install_now(self.site)
        for path in (f"sites/{self.site.pk}", f"builds/{build['id']}"):
            self.problem(self.ask("DELETE", path), 409, "still-installed")
            self.assertEqual(self.ask("DELETE", f"{path}?although_installed=true").status_code, 204)
            self.ask("POST", f"{path}/restore")
        self.assertTrue(Site.objects.exists())
        self.assertEqual(Build.objects.count(), 1)

    def test_a_removed_set_keeps_its_number(self):
        self.keep(0)
        first = self.build()
        self.ask("DELETE", f"builds/{first['id']}")
        self.assertEqual(self.ask("GET", f"sites/{self.site.pk}/builds").json(), [])
        self.assertEqual(self.build()["number"], 2)
        self.ask("POST", f"builds/{first['id']}/restore")
        self.assertEqual([one["number"] for one in self.ask("GET", f"sites/{self.site.pk}/builds").json()], [2, 1])

    def test_drafts_give_way_to_one_another(self):
        self.keep(0)
        first = self.draft()
        copy = self.ask("POST", f"drafts/{first['id']}/duplicate", {"name": "Copy", "revision": 1}).json()
        self.ask("DELETE", f"drafts/{copy['id']}")
        self.assertEqual(self.draft()["id"], first["id"])
        revision = self.draft()["revision"]
        self.ask("POST", f"drafts/{first['id']}/duplicate", {"name": "Copy", "revision": revision})
        self.problem(self.ask("POST", f"drafts/{copy['id']}/restore"), 409, "name-taken")
        for draft in Draft.objects.all():
            self.ask("DELETE", f"drafts/{draft.pk}")
        self.assertIsNone(self.draft())
        self.ask("POST", f"drafts/{first['id']}/restore")
        self.assertEqual(self.draft()["id"], first["id"])


class SeveralTests(BenchTestCase):
    def test_a_recipe_and_a_plan_are_taken_over_and_can_be_undone(self):
        self.keep(0, ground="#102030")
        self.ask("PUT", f"sites/{self.site.pk}/plan", {"files": ["favicon.ico"]})
        other = Site.objects.create(name="Tide")
        taken = {"from_site_id": self.site.pk, "recipe": True, "plan": True}
        for revision in (1, 2):
            self.assertEqual(self.ask("POST", f"sites/{other.pk}/take-over", taken).status_code, 204)
            draft = self.ask("GET", f"sites/{other.pk}/draft").json()
            self.assertEqual((draft["recipe"]["framing"]["ground"], draft["revision"]), ("#102030", revision))
        planned = self.ask("GET", f"sites/{other.pk}/plan").json()["files"]
        self.assertEqual([file["name"] for file in planned], ["favicon.ico"])
        self.assertEqual(self.ask("POST", f"drafts/{draft['id']}/undo", {"revision": 2}).status_code, 200)
        back = {"from_site_id": Site.objects.create(name="Empty").pk, "recipe": True}
        self.problem(self.ask("POST", f"sites/{other.pk}/take-over", back), 422, "no-draft")

    def test_what_goes_on_is_told_in_as_many_queries_for_one_as_for_many(self):
        self.site.place = str(self.folder / "ferry")
        (self.folder / "ferry").mkdir()
        self.site.save()
        self.keep(0)
        self.build()
        install_now(self.site)
        (told,) = self.ask("GET", f"activity?site={self.site.pk}").json()
        self.assertEqual((told["build"]["state"], told["install"]["state"]), ("done", "done"))
        self.assertGreater(told["planning"]["added"], 3)
        self.assertIsNone(told["check"])
        sites = [self.site, *(Site.objects.create(name=f"Site {number}") for number in range(30))]

        def asked(count: int) -> int:
            with CaptureQueriesContext(connection) as queries:
                self.ask("GET", "activity?" + "&".join(f"site={site.pk}" for site in sites[:count]))
            return len(queries)

        self.assertEqual(asked(1), asked(31))
        self.assertEqual(self.ask("GET", "activity").status_code, 422)
