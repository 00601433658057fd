"""A worker that dies at any line between taking some work and finishing it leaves nothing stuck and nothing untrue.

A process of its own stands still at each line: what lies on the disk then is what `kill -9` leaves there, as nothing is
cleaned up. Lines that leave the same are one case.
"""

import mimetypes
import os
import signal
import sys
from collections.abc import Callable, Iterator
from datetime import timedelta
from itertools import groupby
from pathlib import Path
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
        "hosts",
    )
)
Left = dict[Path, bytes]
"""What lies on the disk: each file and what it holds."""
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
        for name, data in FIRST.items():
            (self.root / name).write_bytes(data)

    def files(self) -> dict[str, bytes]:
        return {path.name: path.read_bytes() for path in self.root.iterdir()}

    def work_off(self) -> None:
        """What is in line is done by a process of its own."""
        connection.close()
        child = os.fork()
        if child == 0:
            _work_off()
        self.assertEqual(os.waitstatus_to_exitcode(os.waitpid(child, 0)[1]), 0)

    def left_at_lines(self) -> Iterator[Left]:
        """What a process that does what is in line leaves, should it end at one line or the next."""
        connection.close()
        child = os.fork()
        if child == 0:
            sys.settrace(_standing_still)
            _work_off()
        while os.WIFSTOPPED(status := os.waitpid(child, os.WUNTRACED)[1]):
            yield self.on_disk()
            os.kill(child, signal.SIGCONT)
        self.assertEqual(os.waitstatus_to_exitcode(status), 0)

    def on_disk(self) -> Left:
        database = Path(str(connection.settings_dict["NAME"]))
        files = (*database.parent.glob(f"{database.name}*"), *self.folder.rglob("*"))
        return {path: path.read_bytes() for path in files if path.is_file() and not path.name.endswith("-shm")}

    def put_on_disk(self, left: Left) -> None:
        connection.close()
        for path in self.on_disk():
            path.unlink()
        for path, data in left.items():
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_bytes(data)

    def recovered(self) -> None:
        """Another worker sees to what was left, and does it."""
        for _ in range(3):
            attending.attend()
            if not DBTaskResult.objects.ready().exists():
                return
            self.work_off()

    def at_every_line(self, work: Work, after: Callable[[Work], None], lines: int, least: int) -> None:
        """More than `lines` lines are passed, and leave more than `least` cases."""
        cases, counts = zip(*((left, len(list(its))) for left, its in groupby(self.left_at_lines())), strict=True)
        self.assertGreater(sum(counts), lines)
        self.assertGreater(len(cases), least)
        for number, left in enumerate(cases):
            self.put_on_disk(left)
            self.recovered()
            work.refresh_from_db()
            with self.subTest(case=number, state=work.state):
                self.assertTrue(work.is_over)
                after(work)

    def test_builds(self):
        def told_truly(run: BuildRun) -> None:
            self.assertEqual(run.state == RunState.DONE, run.build is not None, run.problem)
            self.assertEqual(run.state == RunState.FAILED, "was interrupted" in run.problem)
            self.assertEqual(Build.objects.count(), 1 + BuildRun.objects.filter(state=RunState.DONE).count())

        self.at_every_line(start(self.site), told_truly, 100, 10)

    def test_checks(self):
        def told_truly(check: Check) -> None:
            self.assertEqual(check.state == CheckState.DONE, check.report is not None)
            self.assertEqual(check.state == CheckState.FAILED, "was interrupted" in check.problem)

        self.at_every_line(start_check(self.site), told_truly, 50, 5)

    def test_plannings(self):
        def told_truly(planning: Planning) -> None:
            self.assertEqual(planning.state == PlanningState.DONE, planning.plan is not None)
            self.assertEqual(planning.state == PlanningState.FAILED, "Nothing has been changed" in planning.problem)
            self.assertEqual((planning.sealed, self.files()), ("", FIRST))

        self.at_every_line(start_planning(self.site), told_truly, 1000, 12)

    def test_installations(self):
        def told_truly(journal: Install) -> None:
            is_done = journal.state == InstallState.DONE
            self.assertIn(journal.state, (InstallState.DONE, InstallState.PUT_BACK))
            self.assertEqual(self.files() == FIRST, not is_done, journal.problem)
            self.assertEqual(bool(journal.problem), not is_done)

        self.at_every_line(start_install(plan_now(self.site), "ines"), told_truly, 1000, 30)

    def test_undoings(self):
        done = start_install(plan_now(self.site), "ines")
        self.work_off()
        done.refresh_from_db()
        installed = self.files()

        def told_truly(journal: Install) -> None:
            is_done = journal.state == InstallState.DONE
            self.assertEqual(self.files(), FIRST if is_done else installed, journal.problem)
            self.assertEqual(journal.undoes.state, InstallState.UNDONE if is_done else InstallState.DONE)

        self.at_every_line(start_undo(done, "ines"), told_truly, 1000, 30)


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


def _work_off() -> None:
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
            for row in DBTaskResult.objects.ready():
                row.claim("a worker")
                row.task.call(*row.task_result.args)
                row.set_successful(None)
        code = 0
    finally:
        os._exit(code)


def _standing_still(frame: FrameType, event: str, _: object) -> Callable[..., object] | None:
    """Traces the lines of what works on something: stops this process at each."""
    if event == "call" and not frame.f_code.co_filename.startswith(_WATCHED):
        return None
    if event == "line":
        os.kill(os.getpid(), signal.SIGSTOP)
    return _standing_still


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
