from contextlib import ExitStack
from datetime import timedelta
from pathlib import Path
from unittest import mock

from django.core import mail
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase
from django.utils import timezone
from PIL import Image

from bexi.core.errors import HostRefused
from bexi.core.livesite.served import Served
from bexi.server.artwork import on_site
from bexi.server.checks import api as checks_api
from bexi.server.checks import services, watching
from bexi.server.checks.models import Check, CheckState, Watch
from bexi.server.checks.starting import check_now
from bexi.server.installs import places, planning
from bexi.server.installs.starting import install_now, undo
from bexi.server.machines import attending
from bexi.server.sites.models import Site
from tests.core.livesite.site import FakeSite, html
from tests.pictures import decoded, encoded, plain_png
from tests.server.case import ApiTestCase, BenchTestCase, quiet

ADDRESS = "http://merrowmouth.example/"
ICON = '<link rel="icon" sizes="32x32" href="/i.png"><link rel="apple-touch-icon" href="/i.png">'


def answering(site: FakeSite):
    """Every check asks this invented site instead of the web."""
    visiting = mock.MagicMock()
    visiting.return_value.__enter__.return_value = site
    stack = ExitStack()
    for asking in (services, checks_api, on_site, places, planning):
        stack.enter_context(mock.patch.object(asking, "visiting", visiting))
    return stack


class CheckTests(ApiTestCase):
    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(name="Ferry", address=ADDRESS)

    def check(self, files: dict[str, bytes], **headers) -> dict:
        with answering(FakeSite(files, headers, at=timezone.now().timestamp())):
            told = self.ask("POST", f"sites/{self.site.pk}/checks")
        self.assertEqual((told.status_code, told.json()["state"]), (201, "done"), told.content)
        return self.ask("GET", f"checks/{told.json()['id']}").json()

    def test_what_is_seen_is_kept_with_its_pictures(self):
        touch = '<link rel="icon" sizes="32x32" href="/i.png"><link rel="apple-touch-icon" href="/t.png">'
        check = self.check({"": html(touch), "i.png": plain_png(32, 32), "t.png": plain_png(180, 180)})
        report = check["report"]
        self.assertEqual((report["findings"], check["summary"]["problem_count"]), ([], 0))
        fresh = report["time_line"]["distinct"][report["time_line"]["seen"][0][0]]
        self.assertEqual(set(fresh), {"blink", "gecko", "webkit", "search", "home-screen", "app"})
        address = f"/api/checks/{check['summary']['id']}/pictures/{fresh['blink']['sha256']}"
        picture = self.client.get(f"{address}?px=16")
        self.assertEqual(picture.headers["Content-Type"], "image/png")
        self.assertEqual(decoded(picture.content).shape, (32, 32, 4))
        listed = self.ask("GET", "sites").json()[0]
        self.assertEqual((listed["seen"]["sha256"], listed["state"]), (fresh["blink"]["sha256"], "empty"))

    def test_only_pictures_that_a_check_saw_are_given(self):
        check = self.check({"": html(ICON), "i.png": plain_png(32, 32)})
        secret = services.blobs.put(b"a page that was replaced")
        for name in (secret, "0" * 64, "..%2f..%2fsecret-key"):
            answer = self.client.get(f"/api/checks/{check['summary']['id']}/pictures/{name}")
            self.assertEqual(answer.status_code, 404)

    def test_of_several_sizes_in_one_file_the_one_that_fits_is_shown(self):
        several = encoded(Image.new("RGBA", (48, 48), "red"), "ICO", sizes=[(16, 16), (48, 48)])
        svg = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path d="M0 0h8v8z"/></svg>'
        files = {"": html('<link rel="icon" href="i.svg">'), "favicon.ico": several, "i.svg": svg}
        check = self.check(files)
        pictures = Check.objects.get().pictures
        sides = {}
        for name in pictures:
            for px in (16, 32, 64):
                picture = self.client.get(f"/api/checks/{check['summary']['id']}/pictures/{name}?px={px}")
                sides[name, px] = decoded(picture.content).shape[0]
        self.assertEqual(
            {tuple(sides[name, px] for px in (16, 32, 64)) for name in pictures}, {(16, 48, 48), (16, 32, 64)}
        )

    def test_what_got_worse_since_the_check_before_is_told(self):
        self.check({"": html(ICON), "i.png": plain_png(32, 32)})
        worse = self.check({"": html(ICON)})
        self.assertEqual(next((one["what"], one["better"]) for one in worse["news"]), ("No icon in tabs", False))
        self.assertEqual(self.ask("GET", "sites").json()[0]["state"], "problems")
        self.assertIn("New: no icon in tabs, 1 place", self.ask("GET", "sites").json()[0]["news"])
        better = self.check({"": html(ICON), "i.png": plain_png(32, 32)})
        self.assertTrue(all(one["better"] for one in better["news"]))
        self.assertEqual(self.ask("GET", "sites").json()[0]["news"], [])
        listed = self.ask("GET", f"sites/{self.site.pk}/checks").json()
        self.assertEqual([one["problem_count"] for one in listed], [0, 2, 0])

    def test_a_site_that_does_not_answer_is_one_finding(self):
        check = self.check({})
        self.assertEqual([one["what"] for one in check["report"]["findings"]], ["The site does not answer"])
        self.assertIsNone(check["report"]["time_line"])

    def test_it_can_be_stopped_and_left_and_come_back_to(self):
        with mock.patch("bexi.server.machines.work.Work.offer"):
            first = self.ask("POST", f"sites/{self.site.pk}/checks").json()
            again = self.ask("POST", f"sites/{self.site.pk}/checks").json()
        self.assertEqual((first["id"], first["state"], again["id"]), (again["id"], "waiting", first["id"]))
        self.ask("POST", f"checks/{first['id']}/stop")
        with answering(FakeSite({"": html(ICON)})):
            services.carry_out(Check.objects.get())
        self.assertEqual(Check.objects.get().state, CheckState.STOPPED)
        self.assertEqual(self.ask("GET", f"checks/{first['id']}").json()["report"], None)

    def test_one_that_fails_inside_says_so(self):
        def broken(url: str) -> Served:
            raise RuntimeError

        with answering(broken), quiet("django_tasks"), self.assertRaises(RuntimeError):
            services.carry_out(Check.objects.create(site=self.site))
        self.assertIn("Check again.", Check.objects.get().problem)

    def test_without_an_address_it_is_refused(self):
        Site.objects.update(address="")
        self.assertIn("address", self.problem(self.ask("POST", f"sites/{self.site.pk}/checks"), 409, "no-address"))

    def test_interrupted_ones_are_given_up(self):
        Check.objects.create(site=self.site, state=CheckState.LOOKING)
        attending.attend()
        self.assertEqual(Check.objects.get().state, CheckState.FAILED)


class StartTests(ApiTestCase):
    def start(self, files: dict[str, bytes]):
        with answering(FakeSite(files, {}, at=timezone.now().timestamp())):
            return self.ask("POST", "start", {"address": ADDRESS})

    def test_a_site_is_named_and_looked_at_and_its_pictures_are_ranked(self):
        mark = '<a id="logo" href="/"><svg viewBox="0 0 9 9"><circle cx="4" cy="4" r="3"/></svg></a>'
        home = html(ICON) + f"<img src=/photo.jpg>{mark}".encode()
        files = {"": home, "i.png": plain_png(32, 32)}
        site = self.start(files).json()
        self.assertEqual((site["name"], Check.objects.get().state), ("Sailings", "done"))
        self.assertEqual(self.start(files).json()["id"], site["id"])  # it is here already
        with answering(FakeSite(files, {}, at=timezone.now().timestamp())):
            pictures = self.ask("GET", f"sites/{site['id']}/pictures").json()
            self.assertEqual([one["source"] for one in pictures], ["drawn", "page", "page"])
            self.assertEqual([bool(one["why"]) for one in pictures], [True, True, False])
            taken = self.ask("POST", f"sites/{site['id']}/pictures", pictures[0])
            gone = self.ask("POST", f"sites/{site['id']}/pictures", {"source": "drawn", "place": "7"})
        self.assertTrue(taken.json()["facts"]["vector"])
        self.problem(gone, 409, "no-such-file")

    def test_an_address_without_a_page_is_told_and_nothing_is_added(self):
        self.assertIn("cannot be looked at", self.problem(self.start({"i.png": b""}), 409, "no-page"))
        self.assertFalse(Site.objects.exists())


class WatchTests(ApiTestCase):
    def setUp(self):
        super().setUp()
        self.site = Site.objects.create(name="Ferry", address=ADDRESS)

    def watch(self, **body: str):
        return self.ask("PUT", f"sites/{self.site.pk}/watch", {"every": "day", **body})

    def test_it_is_due_when_the_latest_check_lies_long_enough_ago(self):
        self.watch()
        self.assertEqual([one.site for one in watching.due()], [self.site])
        check = Check.objects.create(site=self.site, state=CheckState.DONE)
        self.assertEqual(watching.due(), [])
        Check.objects.filter(pk=check.pk).update(created=timezone.now() - timedelta(days=1, minutes=1))
        self.assertEqual(len(watching.due()), 1)
        self.watch(every="week")
        self.assertEqual(watching.due(), [])
        self.ask("DELETE", f"sites/{self.site.pk}/watch")
        self.assertIsNone(self.ask("GET", f"sites/{self.site.pk}/watch").json())

    def test_only_a_change_for_the_worse_is_told_by_mail_and_webhook(self):
        self.watch(mail="harbour@merrowmouth.example", webhook="https://tools.merrowmouth.example/bexi")
        check = Check.objects.create(site=self.site, state=CheckState.DONE, problem_count=1)
        with mock.patch.object(watching, "post") as post:
            watching.tell(check)
            self.assertEqual((post.call_count, mail.outbox), (0, []))
            check.news = ["New: no icon in tabs, 3 places"]
            watching.tell(check)
        address, body = post.call_args[0]
        self.assertEqual(address, "https://tools.merrowmouth.example/bexi")
        self.assertIn(b'"news": ["New: no icon in tabs, 3 places"]', body)
        self.assertIn("no icon in tabs, 3 places", mail.outbox[0].body)
        self.assertEqual(mail.outbox[0].to, ["harbour@merrowmouth.example"])

    def test_what_cannot_be_told_is_said(self):
        self.watch(webhook="https://tools.merrowmouth.example/bexi")
        check = Check.objects.create(site=self.site, state=CheckState.DONE, news=["New: x, 1 place"])
        for trouble in (OSError("refused"), HostRefused("no", "No.")):
            with mock.patch.object(watching, "post", side_effect=trouble), quiet("bexi.server.checks.watching"):
                watching.tell(check)
            self.assertIn("could not be reached", Watch.objects.get().troubled)

    def test_senseless_ones_are_refused(self):
        for body in ({"every": "hour"}, {"webhook": "file:///etc/passwd"}, {"mail": "nobody"}):
            self.problem(self.watch(**body), 422, "invalid-request")


class HistoryTests(BenchTestCase):
    """What visitors saw before an installation is known from its journal."""

    def test_who_came_before_sees_the_old_icon_and_after_undoing_the_new_one(self):
        root = self.folder / "site"
        root.mkdir()
        (root / "index.html").write_bytes(html('<link rel="icon" sizes="32x32" href="/i.png">'))
        (root / "i.png").write_bytes(plain_png(32, 32))
        Site.objects.update(place=str(root), address=ADDRESS)
        self.site.refresh_from_db()
        self.keep(0)
        self.order_build()
        with self.served(root):
            done = install_now(self.site)
        line = self.seen(root)
        never, hour = line["seen"][0][0], line["seen"][line["came"].index("an hour ago")][0]
        self.assertEqual(line["distinct"][never]["blink"]["state"], "new")
        self.assertIn("favicon.ico", line["distinct"][never]["blink"]["address"])
        self.assertEqual(line["distinct"][hour]["blink"]["state"], "new")  # the page names a new address
        self.assertEqual(line["distinct"][hour]["home-screen"]["state"], "old")  # a scrap of the page stays there
        undo(done)
        line = self.seen(root)
        never = line["distinct"][line["seen"][0][0]]
        self.assertTrue(never["blink"]["address"].endswith("/i.png"))

    def served(self, root: Path) -> ExitStack:
        files = {path.relative_to(root).as_posix(): path.read_bytes() for path in root.rglob("*") if path.is_file()}
        files[""] = files["index.html"]
        return answering(FakeSite(files, at=timezone.now().timestamp()))

    def seen(self, root: Path) -> dict:
        with self.served(root):
            return check_now(self.site).report["time_line"]


class MigrationTests(TransactionTestCase):
    def test_findings_of_earlier_checks_are_kept(self):
        executor = MigrationExecutor(connection)
        executor.migrate([("checks", "0001_initial")])
        (sites,) = (leaf for leaf in executor.loader.graph.leaf_nodes() if leaf[0] == "sites")
        apps = executor.loader.project_state([("checks", "0001_initial"), sites]).apps
        site = apps.get_model("sites", "Site").objects.create(name="Ferry", address=ADDRESS)
        finding = {"what": "Icon missing", "where": f"{ADDRESS}i.png", "evidence": "404", "why": "w", "remedy": "r"}
        found = [{"ok": True, **finding}, {"ok": False, **finding}]
        apps.get_model("checks", "Check").objects.create(site=site, findings=found, problem_count=1)
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())
        kept = Check.objects.get()
        self.assertEqual((kept.state, [one.what for one in services.findings_of(kept)]), ("done", ["Icon missing"]))
