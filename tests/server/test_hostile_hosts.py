"""Hostile servers through planning, installing, undoing and recovery: nothing hangs, nothing is said wrongly."""

import threading
import time
from contextlib import AbstractContextManager, ExitStack
from dataclasses import replace
from unittest import mock

from django.db import connection
from django.test import TransactionTestCase

from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.hosts.patience import Patience
from bexi.hosts.place import CLEAR_TEXT, Place
from bexi.server.artwork.services import add_artwork
from bexi.server.builds.services import build_site, keep_plan
from bexi.server.drafts.services import save_draft
from bexi.server.installs import planning, reaching, services
from bexi.server.installs.models import Attempt, Install, InstallState, Planning, PlanningState
from bexi.server.machines import attending
from bexi.server.sites.models import Site
from tests.hosts.hostile import PASSWORD, Mood, hostile_ftp, hostile_sftp, wait_for
from tests.pictures import BLUE_DISC
from tests.server.case import ApiCase, ApiTestCase
from tests.sets import SMALL

PAGE = b"<html>\n<head>\n<title>a</title>\n</head>\n<body></body>\n</html>\n"
FIRST = {"index.html": PAGE, "favicon.ico": b"old"}


class HostileCase(ApiCase):
    """A built site on a server that may misbehave."""

    def setUp(self):
        super().setUp()
        self.enterContext(mock.patch("bexi.installing.carry_out.PAUSE_SECONDS", 0))
        self.enterContext(mock.patch("bexi.server.installs.reaching.MOST_ATTEMPTS", 10_000))
        self.site = Site.objects.create(name="Ferry")
        keep_plan(self.site, SMALL)
        self.mood = Mood(files=dict(FIRST))

    def at(self, server: AbstractContextManager[Place]) -> Place:
        place = self.enterContext(server)
        Site.objects.filter(pk=self.site.pk).update(place=str(place), trusted=place.trusted)
        self.site.refresh_from_db()
        save_draft(self.site, add_artwork("disc.svg", BLUE_DISC), Recipe.of(Frame(0, 0, 512)), 0)
        build_site(self.site)
        return place

    def given(self) -> dict[str, str]:
        return {"secret": PASSWORD, "place": self.site.place}

    def planned(self) -> Planning:
        told = self.ask("POST", f"sites/{self.site.pk}/plannings", self.given()).json()
        return Planning.objects.get(pk=told["id"])

    def in_line(self) -> Install:
        made = self.planned()
        with mock.patch("bexi.server.machines.work.Work.offer"):
            told = self.ask("POST", f"sites/{self.site.pk}/installs", {**self.given(), "planning_id": made.pk}).json()
        return Install.objects.get(pk=told["id"])

    def shortly(self, seconds: float = 1.5) -> None:
        """From now on places are given little time."""
        short = Patience(4 * seconds, seconds)
        self.enterContext(mock.patch.object(services.reaching, "patience", lambda stop: short.until(stop)))


class StopTests(HostileCase, TransactionTestCase):
    def stopped_within_three_seconds(self, work, stop: str) -> None:
        def run() -> None:
            try:
                work()
            finally:
                connection.close()

        thread = threading.Thread(target=run)
        thread.start()
        time.sleep(1.5)
        self.assertTrue(thread.is_alive())
        self.assertEqual(self.ask("POST", stop).status_code, 202)
        wait_for(lambda: not thread.is_alive(), 3)

    def test_planning_is_stopped_while_a_server_drips(self):
        for server, command in ((hostile_ftp, "RETR"), (hostile_ftp, "MLSD"), (hostile_sftp, "readdir")):
            self.mood = Mood(files=dict(FIRST), drips={command})
            self.site = Site.objects.create(name=command)
            self.at(server(self.mood))
            with mock.patch("bexi.server.machines.work.Work.offer"):
                made = self.planned()
            self.stopped_within_three_seconds(lambda made=made: planning.carry_out(made), f"plannings/{made.pk}/stop")
            made.refresh_from_db()
            self.assertEqual((made.state, made.sealed), (PlanningState.STOPPED, ""), command)

    def test_installing_is_stopped_before_it_has_changed_anything(self):
        self.at(hostile_ftp(self.mood))
        journal = self.in_line()
        self.mood.drips = {"RETR"}
        self.stopped_within_three_seconds(lambda: services.run(journal), f"installs/{journal.pk}/stop")
        journal.refresh_from_db()
        self.assertEqual((journal.state, self.mood.files), (InstallState.PUT_BACK, FIRST))
        self.assertIn("You stopped it. Nothing has been changed.", journal.problem)


class InstallTests(HostileCase, ApiTestCase):
    def test_cut_at_each_command_it_ends_in_the_old_state_or_the_new(self):
        for server, commands in (
            (hostile_ftp, ("PASS", "CWD", "MLSD", "RETR", "STOR", "RNFR", "RNTO", "PASV")),
            (hostile_sftp, ("realpath", "opendir", "readdir", "open", "read", "write", "extended")),
        ):
            self.site = Site.objects.create(name=server.__name__)
            keep_plan(self.site, SMALL)
            self.mood = Mood(files=dict(FIRST))
            self.at(server(self.mood))
            for command in commands:
                self.cut_at(command)

    def cut_at(self, command: str) -> None:
        self.mood.files = dict(FIRST)
        journal = self.in_line()
        self.mood.cuts = {command}
        services.run(journal)
        self.mood.cuts = set()
        journal.refresh_from_db()
        self.assertIn(journal.state, (InstallState.PUT_BACK, InstallState.STUCK), command)
        if journal.state == InstallState.STUCK:
            self.assertIn("Bexi tries again", journal.problem)
            self.ask("POST", f"installs/{journal.pk}/put-back", self.given())
        journal.refresh_from_db()
        self.assertEqual((journal.state, journal.sealed), (InstallState.PUT_BACK, ""), command)
        self.assertEqual({name: data for name, data in self.mood.files.items() if ".bexi" not in name}, FIRST)

    def test_odd_replies_at_each_command_are_told_and_change_nothing(self):
        self.at(hostile_ftp(self.mood))
        self.shortly()
        for command in ("220", "PASS", "CWD", "PASV"):
            self.mood.says = {command: b"5 \xe4\xff\0\r\n"}
            made = self.planned()
            self.assertEqual((made.state, made.plan), (PlanningState.FAILED, None), command)
            self.assertTrue(made.problem.endswith("."), made.problem)
            self.mood.says = {}
        done = self.in_line()
        services.run(done)
        done.refresh_from_db()
        self.assertEqual(done.state, InstallState.DONE)
        for command in ("220", "CWD", "PASV"):
            self.mood.says = {command: b"5 \xe4\xff\0\r\n"}
            answer = self.ask("POST", f"installs/{done.pk}/undo", self.given())
            self.problem(answer, 409, "host-failed")
            answer = self.ask("POST", f"installs/{done.pk}/versions", {**self.given(), "path": "index.html"})
            self.problem(answer, 409, "host-failed")
        self.mood.says = {}
        self.assertEqual(self.ask("POST", f"installs/{done.pk}/undo", self.given()).json()["state"], "done")
        self.assertEqual(self.mood.files, FIRST)


class RecoveryTests(HostileCase, ApiTestCase):
    """An installation whose worker is gone, on a server that misbehaves when it is to be put back."""

    def interrupted(self) -> Install:
        journal = self.in_line()
        steps = list(journal.steps.all())
        data = services._contents(journal)(steps[0].step, b"old")
        services.blobs.put(b"old")
        self.mood.files[steps[0].path] = data
        Install.objects.filter(pk=journal.pk).update(state=InstallState.STARTED, begun=1)
        return journal

    def test_one_that_cannot_be_recovered_keeps_no_other_and_is_tried_later(self):
        self.at(hostile_ftp(self.mood))
        self.shortly()
        stuck = self.interrupted()
        self.mood.drips = {"RETR"}
        root = self.folder / "other"
        root.mkdir()
        (root / "index.html").write_bytes(PAGE)
        other = Site.objects.create(name="Other", place=str(root))
        keep_plan(other, SMALL)
        build = self.site.builds.first()
        good = Install.objects.create(site=other, build=build, place=str(root), state=InstallState.STARTED)
        attending.attend()
        for journal in (stuck, good):
            journal.refresh_from_db()
        self.assertEqual((stuck.state, good.state), (InstallState.STUCK, InstallState.PUT_BACK))
        self.assertIsNotNone(stuck.again_at)
        told = self.ask("GET", f"sites/{self.site.pk}/installs").json()[0]
        self.assertIn("Bexi tries again", told["problem"])
        self.assertIsNotNone(told["again_at"])
        with mock.patch("bexi.server.installs.services.put_back") as again:
            attending.attend()
        self.assertFalse(again.called)  # not before its time
        self.mood.drips, first_pause = set(), stuck.again_at
        Install.objects.filter(pk=stuck.pk).update(again_at=stuck.created)
        attending.attend()
        stuck.refresh_from_db()
        self.assertEqual((stuck.state, stuck.tries, self.mood.files), (InstallState.PUT_BACK, 2, FIRST))
        self.assertGreater(stuck.again_at, first_pause)

    def test_whatever_a_library_raises_then_is_noted(self):
        self.at(hostile_ftp(self.mood))
        for error in (UnicodeDecodeError("utf-8", b"\xe4", 0, 1, "x"), ValueError("odd"), RuntimeError("odd")):
            self.mood.files = dict(FIRST)
            journal = self.interrupted()
            with mock.patch("ftplib.FTP.retrbinary", side_effect=error):
                attending.attend()
            journal.refresh_from_db()
            self.assertEqual(journal.state, InstallState.STUCK)
            self.ask("POST", f"installs/{journal.pk}/put-back", self.given())
            journal.refresh_from_db()
            self.assertEqual((journal.state, self.mood.files), (InstallState.PUT_BACK, FIRST))

    def test_what_an_author_wrote_meanwhile_stays_and_can_be_undone_later(self):
        self.at(hostile_ftp(self.mood))
        journal = self.in_line()
        services.run(journal)
        Install.objects.filter(pk=journal.pk).update(state=InstallState.STARTED)
        self.mood.files["index.html"] = b"mine"
        attending.attend()
        journal.refresh_from_db()
        self.assertEqual((journal.state, self.mood.files["index.html"]), (InstallState.PUT_BACK, b"mine"))
        self.assertIn("put back, but 1 file was changed by somebody since: index.html", journal.problem)
        told = self.ask("GET", f"sites/{self.site.pk}/installs").json()[0]
        self.assertEqual(told["left"], ["index.html"])
        changed = self.ask("POST", f"installs/{journal.pk}/undo", self.given())
        self.problem(changed, 409, "changed-since")
        undone = self.ask("POST", f"installs/{journal.pk}/undo", {**self.given(), "over": ["index.html"]}).json()
        self.assertEqual((undone["state"], self.mood.files), ("done", FIRST), undone)
        told = self.ask("GET", f"sites/{self.site.pk}/installs").json()
        self.assertEqual([one["left"] for one in told], [[], []])

    def test_after_a_long_time_nothing_is_touched_without_being_asked(self):
        self.at(hostile_ftp(self.mood))
        journal = self.interrupted()
        changed = dict(self.mood.files)
        Install.objects.filter(pk=journal.pk).update(changed="2026-01-01T00:00:00Z")
        for _ in range(2):
            attending.attend()
            journal.refresh_from_db()
            self.assertEqual((journal.state, journal.asks_first, self.mood.files), ("stuck", True, changed))
        self.assertIn("put it back here", journal.problem)
        self.ask("POST", f"installs/{journal.pk}/put-back", self.given())
        journal.refresh_from_db()
        self.assertEqual((journal.state, self.mood.files), (InstallState.PUT_BACK, FIRST))


class AttemptTests(HostileCase, ApiTestCase):
    def connect(self, **body: object):
        return self.ask("POST", f"sites/{self.site.pk}/connection", {**self.given(), **body})

    def test_five_a_minute_for_each_place(self):
        place = self.at(hostile_ftp(self.mood))
        self.mood.says = {"PASS": b"530 no\r\n"}
        with mock.patch("bexi.server.installs.reaching.MOST_ATTEMPTS", 5):
            for _ in range(5):
                self.assertFalse(self.connect().json()["works"])
            self.assertIn("Try again in", self.problem(self.connect(), 429, "too-many-attempts"))
            plan = self.ask("POST", f"sites/{self.site.pk}/plannings", self.given())
            self.problem(plan, 429, "too-many-attempts")
            self.assertEqual(len(self.mood.logins), 5)
            Attempt.objects.update(at="2026-01-01T00:00:00Z")
            self.assertEqual(self.connect().status_code, 200)
        self.assertEqual(place.trusted, CLEAR_TEXT)

    def test_one_at_a_time_for_each_place(self):
        self.at(hostile_ftp(self.mood))
        with reaching.attempting(Place.parse(self.site.place)):
            self.problem(self.connect(), 429, "attempt-under-way")
        self.assertEqual(self.mood.logins, [])
        self.assertEqual(self.connect().status_code, 200)

    def test_few_threads_of_a_web_process_wait_for_places(self):
        self.at(hostile_ftp(self.mood))
        place = Place.parse(self.site.place)
        with ExitStack() as others:
            for port in range(1, 6):
                others.enter_context(reaching.attempting(replace(place, port=port)))
            self.problem(self.connect(), 429, "many-places")
        self.assertEqual(self.connect().status_code, 200)

    def test_a_place_that_somebody_changed_meanwhile_gets_nothing(self):
        place = self.at(hostile_ftp(self.mood))
        given = self.given()
        other = Mood(files=dict(FIRST))
        elsewhere = self.enterContext(hostile_ftp(other))
        Site.objects.filter(pk=self.site.pk).update(place=str(elsewhere), trusted=elsewhere.trusted)
        for path in ("connection", "plannings"):
            answer = self.ask("POST", f"sites/{self.site.pk}/{path}", given)
            self.problem(answer, 409, "place-changed")
        self.assertEqual((other.logins, self.mood.logins), ([], []))
        Site.objects.filter(pk=self.site.pk).update(place=str(place))

        def moved(*tried):
            Site.objects.filter(pk=self.site.pk).update(place=str(elsewhere))
            return []

        with mock.patch("bexi.server.installs.places.try_out", side_effect=moved):
            answer = self.ask("POST", f"sites/{self.site.pk}/connection", {**given, "keep": True})
        self.problem(answer, 409, "place-changed")
        self.assertFalse(hasattr(Site.objects.get(pk=self.site.pk), "kept_secret"))

    def test_starting_asks_no_place(self):
        """What a worker sees to first talks to no host, so none keeps Bexi from starting."""
        self.at(hostile_ftp(self.mood))
        Install.objects.create(site=self.site, build=self.site.builds.first(), place=self.site.place, state="started")
        with mock.patch("bexi.server.installs.models.Install.offer_putting_back") as offered:
            attending.attend()
        self.assertTrue(offered.called)
        self.assertEqual(self.mood.asked, [])
