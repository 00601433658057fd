from collections.abc import Iterator
from unittest import TestCase

from bexi.core.artwork.intake import take_in
from bexi.core.errors import HostRefused, InstallRefused
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.build import build
from bexi.core.iconset.plan import READY_MADE
from bexi.core.sitehead.snippet import HeadLines
from bexi.installing.carry_out import carry_out, carry_out_undo
from bexi.installing.plan import InstallPlan, StepKind, plan_install, plan_undo
from tests.pictures import BLUE_DISC

PLAN = READY_MADE["short"]
PAGE = b'<html>\n<head>\n<title>a</title>\n<link rel="icon" href="x.gif">\n</head>\n<body></body>\n</html>\n'


class MemoryHost:
    """A host in memory that fails when its `failing` runs out."""

    def __init__(self, files: dict[str, bytes]) -> None:
        self.contents = dict(files)
        self.writes_left: int | None = None
        self.stuck = False

    def files(self) -> Iterator[str]:
        return iter(sorted(self.contents))

    def read(self, path: str) -> bytes | None:
        return self.contents.get(path)

    def write(self, path: str, data: bytes) -> None:
        self._count()
        self.contents[path] = data

    def delete(self, path: str) -> None:
        self._count()
        self.contents.pop(path, None)

    def _count(self) -> None:
        if self.writes_left is None:
            return
        if self.writes_left == 0:
            if not self.stuck:
                self.writes_left = None  # it fails once, then works again
            raise HostRefused("cannot-write", "The disk is full.")
        self.writes_left -= 1


class InstallingTests(TestCase):
    @classmethod
    def setUpClass(cls):
        built = build(lambda key: take_in(BLUE_DISC)[1], Recipe.of(Frame(0, 0, 512)), PLAN, "Ferry")
        cls.icons = HeadLines(built.files, PLAN.addresses, built.colour)

    def setUp(self):
        self.before = {
            "favicon.ico": b"old icon",
            "index.html": PAGE,
            "deep/page.htm": PAGE,
            "part.html": b"<p>fragment</p>",
            "site.webmanifest": b'{"name": "Rota", "icons": []}',
            "notes.txt": b"<head></head>",
        }
        self.host = MemoryHost(self.before)

    def plan(self) -> InstallPlan:
        return plan_install(self.host, self.icons)

    def test_plan_tells_every_step_and_touches_nothing(self):
        plan = self.plan()
        kinds = {step.path: step.kind for step in plan.steps}
        self.assertEqual(kinds["favicon.ico"], StepKind.REPLACE)
        self.assertEqual(kinds["icon-192.png"], StepKind.ADD)
        self.assertEqual((kinds["index.html"], kinds["deep/page.htm"]), (StepKind.EDIT, StepKind.EDIT))
        self.assertNotIn("notes.txt", kinds)
        self.assertEqual([page.path for page in plan.left_alone], ["part.html"])
        self.assertIn('Gives way: <link rel="icon" href="x.gif">', plan.steps[-1].notes)
        self.assertEqual(self.host.contents, self.before)

    def test_files_come_first_and_pages_last(self):
        pages = [step.kind is StepKind.EDIT for step in self.plan().steps]
        self.assertEqual(pages, sorted(pages))

    def test_manifest_keeps_the_sites_own_members(self):
        carry_out(self.host, self.plan())
        self.assertIn(b'"name": "Rota"', self.host.contents["site.webmanifest"])
        self.assertIn(b"/icon-512.png", self.host.contents["site.webmanifest"])

    def test_members_of_a_manifest_of_another_name_are_kept(self):
        self.host.contents["manifest.json"] = self.host.contents.pop("site.webmanifest")
        step = next(step for step in self.plan().steps if step.path == "site.webmanifest")
        self.assertEqual(step.kind, StepKind.ADD)
        self.assertIn(b'"name": "Rota"', step.after)

    def test_install_then_undo_gives_back_every_byte(self):
        plan = self.plan()
        carry_out(self.host, plan)
        self.assertEqual(self.host.contents["favicon.ico"], self.icons.files[0].data)
        self.assertEqual(plan_install(self.host, self.icons).changes, ())
        carry_out_undo(self.host, plan_undo(plan.changes))
        self.assertEqual(self.host.contents, self.before)

    def test_failure_at_every_step_puts_everything_back(self):
        plan = self.plan()
        for allowed in range(len(plan.changes)):
            self.host.writes_left = allowed
            with self.assertRaises(InstallRefused) as caught:
                carry_out(self.host, plan)
            self.assertEqual(caught.exception.code, "put-back")
            self.assertEqual(self.host.contents, self.before, f"after {allowed} writes")

    def test_what_could_not_be_put_back_can_be_undone_later(self):
        plan = self.plan()
        self.host.writes_left, self.host.stuck = 4, True
        with self.assertRaises(InstallRefused) as caught:
            carry_out(self.host, plan)
        self.assertEqual(caught.exception.code, "put-back-incomplete")
        self.host.writes_left = None
        carry_out_undo(self.host, plan_undo(plan.changes))
        self.assertEqual(self.host.contents, self.before)

    def test_a_site_that_changed_is_not_touched(self):
        plan = self.plan()
        self.host.contents["index.html"] = PAGE.replace(b"<body>", b"<body>new")
        changed = dict(self.host.contents)
        with self.assertRaises(InstallRefused) as caught:
            carry_out(self.host, plan)
        self.assertEqual(caught.exception.code, "site-changed")
        self.assertIn("index.html", caught.exception.sentence)
        self.assertEqual(self.host.contents, changed)
        self.assertNotEqual(self.plan().fingerprint, plan.fingerprint)
