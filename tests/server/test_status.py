from pathlib import Path

from django.db import connection
from django.test.utils import CaptureQueriesContext

from bexi.server.builds.models import Build, BuildFile
from bexi.server.checks.starting import check_now
from bexi.server.demo.load import load_demo
from bexi.server.drafts.models import Draft
from bexi.server.installs.models import Install
from bexi.server.installs.starting import install_now, undo
from bexi.server.sites.models import Site
from bexi.server.sites.status import SiteState, state_of
from bexi.standin.host import PORTS, running
from tests.ports import free_port_range
from tests.server.case import ApiTestCase, BenchTestCase


class StateTests(BenchTestCase):
    def setUp(self):
        super().setUp()
        self.root = self.folder / "site"
        self.root.mkdir()
        (self.root / "index.html").write_bytes(b"<html><head><title>a</title></head><body></body></html>")
        Site.objects.update(place=str(self.root))
        self.site.refresh_from_db()

    def assert_state(self, state: SiteState) -> None:
        self.assertEqual(state_of(Site.objects.get()), state)

    def test_one_honest_state_at_each_point_of_the_work(self):
        self.assert_state(SiteState.EMPTY)
        self.keep(0)
        self.assert_state(SiteState.DRAFT)
        self.order_build()
        self.assert_state(SiteState.BUILT)
        done = install_now(self.site)
        self.assert_state(SiteState.INSTALLED)
        self.keep(1, ground="#123456")
        self.assert_state(SiteState.DRAFT)
        self.keep(2)
        self.assert_state(SiteState.INSTALLED)
        undo(done)
        self.assert_state(SiteState.BUILT)


class ListTests(BenchTestCase):
    """Lists ask a number of questions that does not grow with them."""

    def queries(self, path: str) -> int:
        with CaptureQueriesContext(connection) as asked:
            self.assertEqual(self.client.get(f"/api/{path}").status_code, 200)
        return len(asked)

    def test_sites_builds_and_installations(self):
        self.keep(0)
        build = self.site.builds.get(pk=self.build()["id"])
        paths = ("sites", f"sites/{self.site.pk}/builds", f"sites/{self.site.pk}/installs", "artwork")
        Install.objects.create(site=self.site, build=build, place="/first", state="done")
        few = [self.queries(path) for path in paths]
        for number in range(12):
            site = Site.objects.create(name=f"site {number}")
            copy = Draft.objects.create(site=site, artwork=build.artwork, recipe=build.recipe)
            copy.beside.add(build.artwork)
            for state in ("done", "put-back"):
                Install.objects.create(site=self.site, build=build, place=f"/{number}", state=state)
            again = Build.objects.get(pk=build.pk)
            again.pk, again.number = None, number + 2
            again.save()
            BuildFile.objects.create(
                build=again, position=0, name="favicon.ico", sha256=build.files.first().sha256, size=1
            )
        many = [self.queries(path) for path in paths]
        self.assertEqual(many, few)
        self.assertLess(max(many), 15)


class DemoTests(ApiTestCase):
    def test_demo_opens_on_three_points_of_the_work_and_each_site_can_be_installed(self):
        port = free_port_range(PORTS)
        served = self.folder / "sites"
        load_demo(served, port)
        states = {site.name: state_of(site) for site in Site.objects.all()}
        self.assertEqual(
            states,
            {
                "Merrowmouth Ferry": SiteState.DRAFT,
                "Crew rota": SiteState.VERIFIED,
                "Harbour log": SiteState.PROBLEMS,
                "Tide tables": SiteState.PROBLEMS,
                "Ferry shop": SiteState.PROBLEMS,
            },
        )
        self.assertIn(b'"name": "Crew rota"', (served / "crew/site.webmanifest").read_bytes())
        self.assertEqual(self.ask("GET", "artwork").json()["total"], 8)
        with running(served, port):
            self.install_and_undo(Site.objects.get(name="Merrowmouth Ferry"), pages=12)

    def install_and_undo(self, site: Site, pages: int) -> None:
        root = Path(site.place)
        before = {path: path.read_bytes() for path in root.rglob("*") if path.is_file()}
        done = install_now(site)
        self.assertEqual(done.steps.filter(kind="edit").count(), pages)
        self.assertEqual(check_now(site).problem_count, 0)
        undo(done)
        self.assertEqual({path: path.read_bytes() for path in root.rglob("*") if path.is_file()}, before)
