"""A worker that dies at any line between taking some work and finishing it leaves nothing stuck and nothing untrue.

Each point is tried in a process of its own, which is ended there as `kill -9` ends one: nothing is cleaned up.
"""

import mimetypes
import os
import sys
from collections.abc import Callable
from datetime import timedelta
from types import FrameType
from unittest import mock

from django.conf import settings
from django.db import connection
from django.test import TransactionTestCase
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.build import BuiltSet, Progress
from bexi.core.iconset.judged import JudgedIcon
from bexi.core.livesite.icon_file import look_at
from bexi.core.pixels.colour import BLACK
from bexi.hosts.asking import resolve
from bexi.server.artwork.services import add_artwork
from bexi.server.builds.models import Build, BuildRun, RunState
from bexi.server.builds.services import build_site, keep_plan
from bexi.server.builds.starting import start
from bexi.server.checks.models import Check, CheckState
from bexi.server.checks.starting import start_check
from bexi.server.drafts.services import save_draft
from bexi.server.installs.models import Install, InstallState, Planning, PlanningState
from bexi.server.installs.starting import plan_now, start_install, start_planning, start_undo
from bexi.server.machines import attending
from bexi.server.machines.work import Work
from bexi.server.sites.models import Site
from bexi.web.visiting import Deadline, transport
from tests.pictures import BLUE_DISC
from tests.server.case import ApiCase
from tests.sets import SMALL, head_lines_of

PAGE = b"<html>\n<head>\n<title>a</title>\n</head>\n<body></body>\n</html>\n"
FIRST = {"index.html": PAGE, "favicon.ico": b"old"}
_WATCHED = tuple(
    str(settings.REPOSITORY / "bexi" / part)
    for part in (
        "server/machines",
        "server/builds",
        "server/checks",
        "server/installs",
        "server/blobs",
        "installing/carry",
    )
)
_DIED = 70
QUEUED = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": ["default", "elsewhere"]}}


class CrashTests(ApiCase, TransactionTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        # What is read once in a process would be read again in each of these.
        mimetypes.init()
        transport(Deadline(0), resolve, "").close()

    def setUp(self):
        super().setUp()
        self.enterContext(self.settings(TASKS=QUEUED))
        self.enterContext(mock.patch("bexi.server.machines.work._OFFERED_AGAIN_AFTER", timedelta(0)))
        self.root = self.folder / "site"
        self.root.mkdir()
        self.site = Site.objects.create(name="Ferry", place=str(self.root), address="http://merrowmouth.example/")
        keep_plan(self.site, SMALL)
        save_draft(self.site, add_artwork("disc.svg", BLUE_DISC), Recipe.of(Frame(0, 0, 512)), 0)
        build_site(self.site)
        self.reset()

    def reset(self) -> None:
        for path in self.root.iterdir():
            path.unlink()
        for name, data in FIRST.items():
            (self.root / name).write_bytes(data)

    def files(self) -> dict[str, bytes]:
        return {path.name: path.read_bytes() for path in self.root.iterdir()}

    def work_off(self, die_at: int = 0) -> int:
        """What is in line is done by a process of its own, which dies at a line of this number; its exit code."""
        connection.close()
        child = os.fork()
        if child == 0:
            _work_off(die_at)
        return os.waitstatus_to_exitcode(os.waitpid(child, 0)[1])

    def recovered(self) -> None:
        """Another worker sees to what was left, and does it."""
        for _ in range(3):
            attending.attend()
            if not DBTaskResult.objects.ready().exists():
                return
            self.assertEqual(self.work_off(), 0)

    def at_every_line(self, order: Callable[[], Work], after: Callable[[Work], None], least: int) -> None:
        for number in range(1, 5000):
            work = order()
            code = self.work_off(number)
            if code == 0:
                break
            self.assertEqual(code, _DIED, number)
            self.recovered()
            work.refresh_from_db()
            self.assertTrue(work.is_over, (number, work.state))
            with self.subTest(line=number, state=work.state):
                after(work)
            DBTaskResult.objects.all().delete()
        self.assertGreater(number, least)

    def test_builds(self):
        def told_truly(run: BuildRun) -> None:
            self.assertEqual(run.state == RunState.DONE, run.build is not None, run.problem)
            self.assertEqual(run.state == RunState.FAILED, "was interrupted" in run.problem)
            self.assertEqual(Build.objects.count(), 1 + BuildRun.objects.filter(state=RunState.DONE).count())

        self.at_every_line(lambda: start(self.site), told_truly, 25)

    def test_checks(self):
        def told_truly(check: Check) -> None:
            self.assertEqual(check.state == CheckState.DONE, check.report is not None)
            self.assertEqual(check.state == CheckState.FAILED, "was interrupted" in check.problem)

        self.at_every_line(lambda: start_check(self.site), told_truly, 25)

    def test_plannings(self):
        def told_truly(planning: Planning) -> None:
            self.assertEqual(planning.state == PlanningState.DONE, planning.plan is not None)
            self.assertEqual(planning.state == PlanningState.FAILED, "Nothing has been changed" in planning.problem)
            self.assertEqual((planning.sealed, self.files()), ("", FIRST))

        self.at_every_line(lambda: start_planning(self.site), told_truly, 25)

    def test_installations(self):
        made = plan_now(self.site)

        def order() -> Install:
            self.reset()
            return start_install(made, "ines")

        def told_truly(journal: Install) -> None:
            is_done = journal.state == InstallState.DONE
            self.assertIn(journal.state, (InstallState.DONE, InstallState.PUT_BACK))
            self.assertEqual(self.files() == FIRST, not is_done, journal.problem)
            self.assertEqual(bool(journal.problem), not is_done)
            Install.objects.all().delete()

        self.at_every_line(order, told_truly, 50)

    def test_undoings(self):
        made = plan_now(self.site)

        def order() -> Install:
            Install.objects.all().delete()
            self.reset()
            done = start_install(made, "ines")
            self.work_off()
            done.refresh_from_db()
            self.installed = self.files()
            return start_undo(done, "ines")

        def told_truly(journal: Install) -> None:
            is_done = journal.state == InstallState.DONE
            self.assertEqual(self.files(), FIRST if is_done else self.installed, journal.problem)
            self.assertEqual(journal.undoes.state, InstallState.UNDONE if is_done else InstallState.DONE)

        self.at_every_line(order, told_truly, 50)


class StopTests(ApiCase, TransactionTestCase):
    """Stop always ends work, whether it was taken or not."""

    def test_what_nobody_is_at_ends_at_once(self):
        site = Site.objects.create(name="Ferry", place=str(self.folder), address="http://merrowmouth.example/")
        keep_plan(site, SMALL)
        save_draft(site, add_artwork("disc.svg", BLUE_DISC), Recipe.of(Frame(0, 0, 512)), 0)
        build = build_site(site)
        with mock.patch("bexi.server.machines.work.Work.offer"):
            for state, run_state in (("waiting", "waiting"), ("reading", "running")):
                planning = Planning.objects.create(site=site, build=build, place=site.place, pages="*", state=state)
                run = start(site)
                BuildRun.objects.filter(pk=run.pk).update(state=run_state)
                check = Check.objects.create(site=site, state="waiting" if state == "waiting" else "looking")
                for path in (f"plannings/{planning.pk}", f"build-runs/{run.pk}", f"checks/{check.pk}"):
                    self.assertIn(self.ask("POST", f"{path}/stop").status_code, (200, 202))
                for one in (planning, run, check):
                    one.refresh_from_db()
                    self.assertEqual(one.state, "stopped", one)
            journal = Install.objects.create(site=site, build=build, place=site.place)
        self.ask("POST", f"installs/{journal.pk}/stop")
        journal.refresh_from_db()
        self.assertEqual((journal.state, journal.problem), ("put-back", "You stopped it. Nothing has been changed."))

    def test_what_was_forgotten_is_offered_again_and_ordering_again_finds_it_alive(self):
        site = Site.objects.create(name="Ferry", place=str(self.folder))
        keep_plan(site, SMALL)
        save_draft(site, add_artwork("disc.svg", BLUE_DISC), Recipe.of(Frame(0, 0, 512)), 0)
        with mock.patch("bexi.server.machines.work.Work.offer"):
            dead = start(site)  # its worker died at the very moment of taking it
        BuildRun.objects.update(offered=timezone.now() - timedelta(seconds=30), ticket="gone")
        again = start(site)
        dead.refresh_from_db()
        self.assertEqual((again.state, dead.state), (RunState.DONE, RunState.DONE))


def _work_off(die_at: int) -> None:
    """Do what is in line, in this very process; never returns."""
    code = 1
    try:
        os.dup2(os.open(os.devnull, os.O_WRONLY), 2)
        with (
            mock.patch("bexi.server.checks.services._looked_at", _looked),
            mock.patch("bexi.server.builds.services._built", _made),
            mock.patch("bexi.installing.survey.look_apart", look_at),
            mock.patch("bexi.installing.carry_out.PAUSE_SECONDS", 0),
        ):
            if die_at:
                sys.settrace(_dying(die_at))
            for row in DBTaskResult.objects.ready():
                row.claim("a worker")
                row.task.call(*row.task_result.args)
                row.set_successful(None)
            sys.settrace(None)
        code = 0
    finally:
        os._exit(code)


def _dying(at: int) -> Callable[[FrameType, str, object], object]:
    """Ends this process at the line of this number of those that work on something; each line counts once."""
    seen: set[tuple[str, int]] = set()

    def lines(frame: FrameType, event: str, _: object) -> object:
        if event == "line":
            seen.add((frame.f_code.co_filename, frame.f_lineno))
            if len(seen) == at:
                os._exit(_DIED)
        return lines

    def calls(frame: FrameType, event: str, _: object) -> object:
        return lines if frame.f_code.co_filename.startswith(_WATCHED) else None

    return calls


def _made(site: Site, order: BuildRun, watch: Callable[[Progress], None]) -> tuple[BuiltSet, list[JudgedIcon]]:
    """A set of files that hold nothing but their names, which takes no time to make."""
    files = head_lines_of(SMALL).files
    for number, file in enumerate(files):
        watch(Progress(number, len(files), file.name))
    return BuiltSet(files, (), BLACK), []


def _looked(check: Check, told: Callable[[int, int], None]) -> dict[str, object]:
    """What is found at a site where all is well, without a network."""
    for number in range(3):
        told(number, 3)
    return {"report": {"findings": []}, "pictures": [], "problem_count": 0, "icon": "", "news": []}
