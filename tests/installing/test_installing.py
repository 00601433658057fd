import json
import tempfile
from dataclasses import replace
from pathlib import Path
from unittest import TestCase

from bexi.core.artwork.intake import take_in
from bexi.core.errors import HostRefused, InstallRefused
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.addresses import Addresses
from bexi.core.iconset.build import build
from bexi.core.iconset.installed_app import Display, InstalledApp
from bexi.core.iconset.plan import READY_MADE, RECOMMENDED, Plan
from bexi.core.sitehead.snippet import HeadLines
from bexi.hosts.careful import CarefulHost
from bexi.hosts.folder import FolderStorage
from bexi.installing.carry_out import PutBack, carry_out, plan_undo, put_back
from bexi.installing.plan import InstallPlan, plan_install
from bexi.installing.step import Content, Step, StepKind
from tests.installing.places import FIRST_STATE, PAGE, FailingStorage, Killed, MemoryStorage, over
from tests.pictures import BLUE_DISC

PLAN = READY_MADE["short"]


class Notes:
    """A journal in memory: what was begun, and copies of what it replaced."""

    def __init__(self, copies_of: "Notes | None" = None, stop_before: int | None = None) -> None:
        self.begun: list[Step] = []
        self.copies: dict[str, bytes] = dict(copies_of.copies) if copies_of else {}
        self._stop_before = stop_before

    def begin(self, number: int, step: Step, now: bytes | None) -> None:
        self.begun.append(step)
        if now is not None:
            self.keep(now)

    def keep(self, data: bytes) -> None:
        self.copies[Content.of(data).sha256] = data

    def stop_asked(self) -> bool:
        return self._stop_before is not None and len(self.begun) >= self._stop_before

    def copy(self, content: Content) -> bytes:
        return self.copies[content.sha256]


class InstallingTestCase(TestCase):
    """A set, a site in memory, and a journal."""

    @classmethod
    def setUpClass(cls):
        built = build(lambda key: take_in(BLUE_DISC)[1], Recipe.of(Frame(0, 0, 512)), PLAN, "Ferry")
        cls.icons = HeadLines(built.files, PLAN.addresses, built.colour)

    def setUp(self):
        self.storage = MemoryStorage(FIRST_STATE)
        self.notes = Notes()

    def plan(self) -> InstallPlan:
        return plan_install(CarefulHost(self.storage), self.icons)

    def install(self, plan: InstallPlan, storage: object = None) -> None:
        place = storage or self.storage
        carry_out(lambda stop_asked: over(place), plan.changes, plan.content, self.notes)

    def put_back(self, plan: InstallPlan, storage: object = None) -> tuple[str, ...]:
        place = storage or self.storage
        return put_back(lambda stop_asked: over(place), self.notes.begun, plan.content, self.notes, "Killed.")

    def undo(self, **decided: list[str]) -> None:
        steps = plan_undo(CarefulHost(self.storage), self.notes.begun, **decided)
        notes = Notes(self.notes)
        carry_out(
            lambda stop_asked: over(self.storage),
            steps,
            lambda step, now: notes.copy(step.after) if step.after else None,
            notes,
        )


class InstallingTests(InstallingTestCase):
    def test_plan_tells_every_step_and_touches_nothing(self):
        plan = self.plan()
        kinds = {step.path: step.kind for step in plan.steps}
        self.assertEqual(kinds["favicon.ico"], StepKind.REPLACE)
        self.assertEqual(kinds["icon-192.png"], StepKind.ADD)
        self.assertEqual((kinds["index.html"], kinds["deep/page.htm"]), (StepKind.EDIT, StepKind.EDIT))
        self.assertNotIn("notes.txt", kinds)
        self.assertEqual([page.path for page in plan.left_alone], ["part.html"])
        self.assertIn('Replaces: <link rel="icon" href="x.gif">', plan.steps[-1].notes)
        self.assertEqual(self.storage.contents, FIRST_STATE)

    def test_files_come_first_and_pages_last(self):
        pages = [step.kind is StepKind.EDIT for step in self.plan().steps]
        self.assertEqual(pages, sorted(pages))

    def test_only_the_pages_that_are_wanted(self):
        plan = plan_install(CarefulHost(self.storage), self.icons, lambda path: path == "index.html")
        self.assertEqual([step.path for step in plan.steps if step.kind is StepKind.EDIT], ["index.html"])

    def test_pages_of_one_template_are_grouped(self):
        self.storage.contents["other.html"] = PAGE.replace(b"<title>a", b"<title>b")
        self.storage.contents["unlike.html"] = PAGE.replace(b"</title>", b"</title><base href=/>")
        groups = {step.path: step.group for step in self.plan().steps if step.kind is StepKind.EDIT}
        self.assertEqual(groups["index.html"], groups["other.html"])
        self.assertNotEqual(groups["index.html"], groups["unlike.html"])

    def test_progress_counts_the_pages(self):
        told = []
        plan_install(CarefulHost(self.storage), self.icons, watch=lambda *counts: told.append(counts))
        self.assertEqual(list(dict.fromkeys(told)), [(1, 3), (2, 3), (3, 3)])

    def test_manifest_keeps_the_sites_own_members(self):
        self.install(self.plan())
        self.assertIn(b'"name": "Rota"', self.storage.contents["site.webmanifest"])
        step = next(step for step in self.plan().steps if step.path == "site.webmanifest")
        self.assertIs(step.kind, StepKind.SAME)

    def test_a_manifest_takes_the_icons_where_it_lies(self):
        named = PAGE.replace(b"</title>", b'</title><link rel="manifest" href="%s">')
        own, map_of_a_build = b'{"name":"App","icons":[],"x":1.50}', b'{"main.js": "main.1.js"}'
        first = {
            "index.html": named % b"/app/own.json?v=3",
            "app/page.html": named % b"own.json",
            "news/a.html": PAGE,
            "app/own.json": own,
            "manifest.json": map_of_a_build,
            "other/broken.html": named % b"none.json",
        }
        self.storage = MemoryStorage(first)
        plan = self.plan()
        self.install(plan)
        contents = self.storage.contents
        self.assertTrue(contents["app/own.json"].startswith(b'{"name":"App","icons":['))
        self.assertTrue(contents["app/own.json"].endswith(b',"x":1.50}'))
        self.assertIn(b"/icon-192.png", contents["app/own.json"])
        self.assertNotIn("site.webmanifest", contents)
        self.assertEqual(contents["manifest.json"], map_of_a_build)
        self.assertEqual(
            (contents["index.html"].count(b"manifest"), contents["app/page.html"].count(b"manifest")), (1, 1)
        )
        self.assertIn(b'<link rel="manifest" href="/app/own.json?v=', contents["news/a.html"])
        self.assertIn(b'<link rel="manifest" href="/app/own.json?v=', contents["other/broken.html"])
        self.assertEqual(self.plan().changes, ())
        self.undo()
        self.assertEqual(self.storage.contents, first)

    def test_icons_named_relatively_are_found_from_a_manifest_in_a_folder(self):
        page = PAGE.replace(b"</title>", b'</title><link rel="manifest" href="app/own.json">')
        self.storage = MemoryStorage({"index.html": page, "app/own.json": b"{}"})
        relative = Plan(RECOMMENDED.files, addresses=Addresses(""))
        built = build(lambda key: take_in(BLUE_DISC)[1], Recipe.of(Frame(0, 0, 512)), relative, "Ferry")
        plan = plan_install(CarefulHost(self.storage), HeadLines(built.files, relative.addresses, built.colour))
        self.assertIn(b'"src": "../icon-192.png"', plan.files["app/own.json"])

    def test_what_is_said_of_the_app_goes_into_the_sites_own_manifest(self):
        page = PAGE.replace(b"</title>", b'</title><link rel="manifest" href="app/own.json">')
        own = b'{"name": "Rota", "display": "browser", "lang": "en"}'
        self.storage = MemoryStorage({"index.html": page, "app/own.json": own})
        app = InstalledApp("Crew", display=Display.STANDALONE, start="welcome/", id="/crew")
        built = build(
            lambda key: take_in(BLUE_DISC)[1], Recipe.of(Frame(0, 0, 512)), replace(RECOMMENDED, app=app), "Ferry"
        )
        plan = plan_install(CarefulHost(self.storage), HeadLines(built.files, RECOMMENDED.addresses, built.colour))
        members = json.loads(plan.files["app/own.json"])
        self.assertEqual(
            {name: value for name, value in members.items() if name != "icons"},
            {
                **{"name": "Rota", "lang": "en", "short_name": "Crew", "display": "standalone", "id": "/crew"},
                "start_url": "../welcome/",
            },
        )
        (step,) = (step for step in plan.steps if step.path == "app/own.json")
        self.assertIn("its short_name, start_url, id, display and icons.", " ".join(step.notes))

    def test_a_base_that_leads_elsewhere_is_told(self):
        for base, host, told in (
            (b"https://cdn.example/", "", True),
            (b"//cdn.example/x/", "ferry.example", True),
            (b"https://ferry.example/en/", "ferry.example", False),
            (b"/en/", "", False),
            (b"http://[", "", False),
        ):
            page = PAGE.replace(b"</title>", b'</title><base href="%s">' % base)
            plan = plan_install(CarefulHost(MemoryStorage({"index.html": page})), self.icons, site_host=host)
            notes = " ".join(plan.steps[-1].notes)
            self.assertEqual("would look for the icons there" in notes, told, base)
        full = replace(self.icons, addresses=Addresses("https://ferry.example/"))
        page = PAGE.replace(b"</title>", b'</title><base href="https://cdn.example/">')
        plan = plan_install(CarefulHost(MemoryStorage({"index.html": page})), full)
        self.assertEqual([note for note in plan.steps[-1].notes if "base" in note], [])

    def test_a_file_that_leads_out_over_a_link_is_left_alone_and_the_rest_goes_on(self):
        with tempfile.TemporaryDirectory() as folder:
            root = Path(folder) / "site"
            root.mkdir()
            (root / "index.html").write_bytes(PAGE)
            (root / "favicon.ico").symlink_to("/etc/hostname")
            plan = plan_install(CarefulHost(FolderStorage(root)), self.icons)
        self.assertEqual([page.path for page in plan.left_alone], ["favicon.ico"])
        self.assertIn("index.html", [step.path for step in plan.steps])

    def test_pages_of_more_kinds(self):
        for name in ("a.vue", "b.cshtml", "c.tmpl", "d.gohtml", "e.heex", "our\xa0boats.html"):
            self.storage.contents[name] = PAGE
        planned = {step.path for step in self.plan().steps}
        self.assertLessEqual({"a.vue", "b.cshtml", "c.tmpl", "d.gohtml", "e.heex", "our\xa0boats.html"}, planned)

    def test_install_then_undo_gives_back_every_byte(self):
        plan = self.plan()
        self.install(plan)
        self.assertEqual(self.storage.contents["favicon.ico"], self.icons.files[0].data)
        self.assertEqual(self.plan().changes, ())
        self.undo()
        self.assertEqual(self.storage.contents, FIRST_STATE)

    def test_a_fault_at_every_single_operation_leaves_the_old_state_or_the_new(self):
        plan = self.plan()
        self.install(plan)
        new = dict(self.storage.contents)
        for how in ("refused", "part"):
            for at in range(500):
                storage, self.notes = MemoryStorage(FIRST_STATE), Notes()
                failing = FailingStorage(storage, at, how)
                try:
                    self.install(plan, failing)
                except InstallRefused as refusal:
                    self.assertEqual(storage.contents, FIRST_STATE, (how, at, refusal.sentence))
                else:
                    self.assertEqual(storage.contents, new, (how, at))
                if not failing.has_failed:
                    break
            self.assertGreater(at, 30)

    def test_killed_at_every_single_operation_it_is_put_back_afterwards(self):
        plan = self.plan()
        for at in range(500):
            storage, self.notes = MemoryStorage(FIRST_STATE), Notes()
            try:
                self.install(plan, FailingStorage(storage, at, "killed"))
                break
            except Killed:
                if self.notes.begun:
                    self.put_back(plan, storage)
                self.assertEqual(storage.contents, FIRST_STATE, at)
        self.assertGreater(at, 30)

    def test_stopped_between_two_steps_everything_is_put_back(self):
        self.notes = Notes(stop_before=3)
        with self.assertRaises(InstallRefused) as caught:
            self.install(self.plan())
        self.assertEqual(caught.exception.code, "stopped")
        self.assertEqual((self.storage.contents, len(self.notes.begun)), (FIRST_STATE, 3))

    def test_a_place_that_never_answers_again_is_told(self):
        plan = self.plan()
        opened = []

        def opening(stop_asked):
            opened.append(1)
            return over(FailingStorage(self.storage, 30 if len(opened) == 1 else 0, "refused"))

        with self.assertRaises(InstallRefused) as caught:
            carry_out(opening, plan.changes, plan.content, self.notes)
        self.assertEqual(caught.exception.code, "put-back-incomplete")
        self.assertEqual(self.put_back(plan), ())
        self.assertEqual(self.storage.contents, FIRST_STATE)

    def test_a_site_that_changed_since_the_plan_is_not_touched(self):
        plan = self.plan()
        self.storage.contents["index.html"] = b"<head>other</head>"
        changed = dict(self.storage.contents)
        with self.assertRaises(InstallRefused) as caught:
            self.install(plan)
        self.assertEqual(caught.exception.code, "site-changed")
        self.assertEqual(self.storage.contents, changed)

    def test_undo_asks_about_files_changed_since(self):
        self.install(self.plan())
        self.storage.contents["index.html"] += b"<!-- mine -->"
        for decided, kept in (({"leave": ["index.html"]}, True), ({"over": ["index.html"]}, False)):
            before = dict(self.storage.contents)
            with self.assertRaises(InstallRefused) as caught:
                self.undo()
            self.assertEqual(caught.exception.code, "changed-since")
            self.assertEqual(self.storage.contents, before)
            self.undo(**decided)
            self.assertEqual(b"mine" in self.storage.contents["index.html"], kept)
            self.assertEqual(self.storage.contents["favicon.ico"], b"old icon")
            self.storage.contents = before


class PuttingBackLooksFirstTests(InstallingTestCase):
    """Killed in the middle; before it is put back, somebody changes files."""

    def killed_at(self, at: int) -> InstallPlan:
        plan = self.plan()
        with self.assertRaises(Killed):
            self.install(plan, FailingStorage(self.storage, at, "killed"))
        return plan

    def test_what_an_author_wrote_since_is_kept_at_every_single_operation(self):
        mine = b"<html><head><title>rewritten</title></head></html>"
        for at in range(20, 500):
            self.setUp()
            try:
                plan = self.killed_at(at)
            except AssertionError:
                break
            if not self.notes.begun:
                continue
            last = self.notes.begun[-1]
            self.storage.contents[last.path] = mine
            left = self.put_back(plan)
            others = {path: data for path, data in self.storage.contents.items() if path != last.path}
            self.assertEqual(self.storage.contents[last.path], mine, at)
            self.assertEqual(left, (last.path,))
            first = {path: data for path, data in FIRST_STATE.items() if path != last.path}
            self.assertEqual(others, first, at)
        self.assertGreater(at, 35)

    def test_a_file_that_somebody_removed_is_not_brought_back(self):
        plan = self.killed_at(36)
        path = self.notes.begun[-1].path
        self.storage.contents.pop(path, None)
        left = self.put_back(plan)
        self.assertEqual(path in self.storage.contents, False)
        self.assertEqual(left, (path,) if path in FIRST_STATE else ())

    def test_half_of_what_was_written_is_ours_and_a_copy_of_it_is_kept(self):
        plan = self.plan()
        self.install(plan)
        page = self.storage.contents["index.html"]
        for half in (page[: len(page) // 2], b"", PAGE[:20]):
            self.storage.contents["index.html"] = half
            self.assertEqual(self.put_back(plan), ())
            self.assertEqual(self.storage.contents, FIRST_STATE)
            self.assertIn(half, self.notes.copies.values())
            self.storage, self.notes = MemoryStorage(FIRST_STATE), Notes()
            self.install(plan)

    def test_the_word_names_what_was_changed(self):
        changed_by_others = {"site.webmanifest", "favicon.ico"}

        class Edited(MemoryStorage):
            def put(self, path, data):
                if path.startswith("deep/"):
                    self.contents |= dict.fromkeys(changed_by_others, b"mine")
                    raise HostRefused("host-failed", "The line went dead.")
                super().put(path, data)

        self.storage = Edited(FIRST_STATE)
        with self.assertRaises(PutBack) as caught:
            self.install(self.plan())
        self.assertEqual(set(caught.exception.left), changed_by_others)
        self.assertIn("put back, but 2 files were changed by somebody since: ", caught.exception.sentence)
        for path in changed_by_others:
            self.assertEqual(self.storage.contents[path], b"mine")
