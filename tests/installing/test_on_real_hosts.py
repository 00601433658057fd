"""Installing over the real protocols, on the stand-in host, with everything it can do wrong."""

import itertools
import shutil
import stat
import tempfile
from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager
from pathlib import Path
from unittest import TestCase, mock
from urllib.request import urlopen

import paramiko

from bexi.core.errors import HostRefused, InstallRefused
from bexi.core.iconset.plan import Plan
from bexi.hosts.careful import CarefulHost
from bexi.hosts.opening import Trial, opened, try_out
from bexi.hosts.place import Place, UnknownServer
from bexi.hosts.secret import Secret
from bexi.installing.carry_out import carry_out, plan_undo, put_back
from bexi.installing.plan import InstallPlan, plan_install
from bexi.standin.account import PASSWORD, USER
from bexi.standin.host import FTP_OFFSET, LOOPBACK, PORTS, SFTP_OFFSET, running
from bexi.standin.mischief import Mischief
from bexi.standin.sites import SITES, reset
from tests.installing.places import PAGE, FailingStorage, Killed
from tests.installing.test_installing import Notes
from tests.ports import free_port_range
from tests.sets import head_lines_of


def entered(place: Place, password: str = PASSWORD) -> AbstractContextManager[CarefulHost]:
    return opened(place, Secret.of(place, password))


def tried(place: Place) -> list[Trial]:
    return try_out(place, Secret.of(place, PASSWORD))


class FailsOnce:
    """Opens a place again and again; its first opening fails at operation `at`."""

    def __init__(self, place: Place, at: int, how: str) -> None:
        self._place, self._at, self._how = place, at, how
        self._failing: FailingStorage | None = None

    @contextmanager
    def __call__(self, stop_asked: Callable[[], bool]) -> Iterator[CarefulHost]:
        with opened(self._place, Secret.of(self._place, PASSWORD)) as host:
            if self._failing:
                yield host
                return
            self._failing = FailingStorage(host._storage, self._at, self._how)
            yield CarefulHost(self._failing)

    @property
    def has_failed(self) -> bool:
        return self._failing is not None and self._failing.has_failed


KINDS = {"ftp": FTP_OFFSET, "ftps": FTP_OFFSET, "sftp": SFTP_OFFSET}


class RealHostTestCase(TestCase):
    @classmethod
    def setUpClass(cls):
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.served = Path(folder.name) / "sites"
        reset(cls.served)
        cls.mischief = Mischief()
        cls.trusted: dict[str, str] = {}
        cls.enterClassContext(mock.patch("bexi.installing.carry_out.PAUSE_SECONDS", 0))
        cls.port = free_port_range(PORTS)
        cls.enterClassContext(running(cls.served, cls.port, cls.mischief))

    def setUp(self):
        self.mischief.set()
        reset(self.served)

    def place(self, kind: str, folder: str) -> Place:
        if kind == "folder":
            return Place.parse(str(self.served / folder))
        place = Place.parse(f"{kind}://{USER}@{LOOPBACK}:{self.port + KINDS[kind]}/{folder}")
        if kind not in self.trusted:
            with self.assertRaises(UnknownServer) as caught, entered(place):
                pass
            self.trusted[kind] = caught.exception.fingerprint
        return place.trusting(self.trusted[kind])

    def files(self, folder: str) -> dict[str, bytes]:
        root = self.served / folder
        return {str(path.relative_to(root)): path.read_bytes() for path in root.rglob("*") if path.is_file()}


class ConnectionTests(RealHostTestCase):
    def test_the_fingerprint_shown_is_the_one_that_the_host_publishes(self):
        with urlopen(f"http://{LOOPBACK}:{self.port}/") as page:
            published = page.read().decode()
        for kind in ("sftp", "ftps"):
            self.assertIn(f"<code>{self.place(kind, 'log').trusted}</code>", published)

    def test_everything_is_tried_and_nothing_stays_behind(self):
        before = self.files("log")
        for kind in ("folder", *KINDS):
            trials = tried(self.place(kind, "log"))
            self.assertEqual({trial.what for trial in trials if trial.works}, {trial.what for trial in trials}, trials)
            self.assertEqual(len(trials), 6)
        self.assertEqual(self.files("log"), before)

    def test_what_does_not_work_is_told(self):
        for kind in KINDS:
            place = self.place(kind, "log")
            self.mischief.set(read_only=1)
            told = {trial.what: trial.works for trial in tried(place)}
            self.mischief.set()
            self.assertEqual((told["connect"], told["list"]), (True, True))
            self.assertFalse(told["write"])

    def test_a_server_nobody_has_agreed_to_gets_no_password(self):
        for kind in ("ftps", "sftp"):
            place = Place.parse(f"{kind}://{USER}@{LOOPBACK}:{self.port + KINDS[kind]}/log")
            with self.assertRaises(UnknownServer) as caught, entered(place):
                pass
            self.assertEqual(caught.exception.code, "unknown-server")
            with self.assertRaises(UnknownServer) as caught, entered(place.trusting("SHA256:other")):
                pass
            self.assertEqual(caught.exception.code, "server-changed")

    def test_wrong_passwords_and_folders(self):
        for kind in KINDS:
            place = self.place(kind, "log")
            with self.assertRaises(HostRefused) as caught, entered(place, "wrong"):
                pass
            self.assertEqual(caught.exception.code, "wrong-secret", kind)
            self.assertNotIn("wrong", caught.exception.sentence)
            with self.assertRaises(HostRefused), entered(self.place(kind, "nowhere")):
                pass


class HostileListingTests(RealHostTestCase):
    """What a server lists is bounded, and odd names are told."""

    def listed(self, kind: str) -> str:
        with self.assertRaises(HostRefused) as caught, entered(self.place(kind, "log")) as host:
            list(host.files())
        return caught.exception.code

    def test_an_ftp_listing_without_end(self):
        def endless(ftp, command, callback):
            while True:
                callback(b"type=file; page.html\r\n" * 10_000)

        self.place("ftps", "log")
        with mock.patch("ftplib.FTP.retrbinary", endless):
            self.assertEqual(self.listed("ftp"), "endless-listing")

    def test_an_sftp_listing_without_end(self):
        one = paramiko.SFTPAttributes()
        one.st_mode, one.filename = stat.S_IFREG, "page.html"
        place = self.place("sftp", "log")
        with (
            mock.patch("paramiko.SFTPClient.listdir_iter", lambda *folder: itertools.repeat(one)),
            mock.patch("bexi.hosts.sftp.MOST_FILES", 1000),
            entered(place) as host,
            self.assertRaises(HostRefused) as caught,
        ):
            list(host.files())
        self.assertEqual(caught.exception.code, "endless-listing")

    def test_a_name_that_is_no_text(self):
        self.place("sftp", "log")
        odd = UnicodeDecodeError("utf-8", b"caf\xe9", 3, 4, "invalid")
        with mock.patch("paramiko.SFTPClient.listdir_iter", side_effect=odd):
            self.assertEqual(self.listed("sftp"), "odd-name")


class InstallOnRealHostsTests(RealHostTestCase):
    icons = head_lines_of()

    def opening(self, place: Place) -> AbstractContextManager[CarefulHost]:
        return entered(place)

    def put_back(self, place: Place, plan: InstallPlan, notes: Notes) -> None:
        left = put_back(lambda stop_asked: self.opening(place), notes.begun, plan.content, notes, "Killed.")
        self.assertEqual(left, ())

    def test_every_demo_site_over_every_kind_and_back_to_the_byte(self):
        for kind in ("folder", *KINDS):
            for site in SITES:
                place, before, notes = self.place(kind, site.folder), self.files(site.folder), Notes()
                with self.opening(place) as host:
                    plan = plan_install(host, self.icons)
                carry_out(lambda stop_asked, place=place: self.opening(place), plan.changes, plan.content, notes)
                after = self.files(site.folder)
                self.assertEqual(after["favicon.ico"], b"favicon.ico")
                with self.opening(place) as host:
                    self.assertEqual(plan_install(host, self.icons).changes, ())
                    steps = plan_undo(host, notes.begun)
                carry_out(
                    lambda stop_asked, place=place: self.opening(place),
                    steps,
                    lambda step, now, notes=notes: notes.copy(step.after) if step.after else None,
                    Notes(notes),
                )
                self.assertEqual(self.files(site.folder), before, (kind, site.folder))

    def test_a_fault_at_every_single_operation_on_every_kind(self):
        """Refused, written in part, and killed: the site ends in the old state or the new."""
        icons, site = head_lines_of(Plan(("favicon.ico", "icon-16.png"))), self.served / "small"
        for kind in ("folder", *KINDS):
            for how in ("refused", "part", "killed"):
                for at in range(100):
                    self._fill(site)
                    place, before, notes = self.place(kind, "small"), self.files("small"), Notes()
                    with self.opening(place) as host:
                        plan = plan_install(host, icons)
                    failing = FailsOnce(place, at, how)
                    try:
                        carry_out(failing, plan.changes, plan.content, notes)
                        with self.opening(place) as host:
                            self.assertEqual(plan_install(host, icons).changes, ())
                    except InstallRefused:
                        self.assertEqual(self.files("small"), before, (kind, how, at))
                    except Killed:
                        if notes.begun:
                            self.put_back(place, plan, notes)
                        self.assertEqual(self.files("small"), before, (kind, how, at))
                    if not failing.has_failed:
                        break
                self.assertGreater(at, 10)

    def _fill(self, site: Path) -> None:
        shutil.rmtree(site, ignore_errors=True)
        site.mkdir()
        (site / "favicon.ico").write_bytes(b"old icon")
        (site / "index.html").write_bytes(PAGE)

    def test_every_misbehaviour_ends_in_the_old_state_or_the_new(self):
        switches = (
            *({"drop_after": bytes_} for bytes_ in (1, 30, 400, 2500)),
            *({"full_after": bytes_} for bytes_ in (1, 30, 2500)),
            {"no_rename": 1},
            {"no_overwrite": 1},
            {"read_only": 1},
            {"slow": 2},
        )
        for kind in KINDS:
            place = self.place(kind, "log")
            for switch in switches:
                reset(self.served)
                before, notes = self.files("log"), Notes()
                with self.opening(place) as host:
                    plan = plan_install(host, self.icons)
                self.mischief.set(**switch)
                try:
                    carry_out(lambda stop_asked, place=place: self.opening(place), plan.changes, plan.content, notes)
                    ended = "new"
                except InstallRefused as refusal:
                    ended = refusal.code
                self.mischief.set()
                if ended == "put-back-incomplete":  # as when Bexi starts again and the host has recovered
                    self.put_back(place, plan, notes)
                with self.opening(place) as host:
                    changes = plan_install(host, self.icons).changes
                if ended == "new":
                    self.assertEqual(changes, (), (kind, switch))
                else:
                    left = {path: data for path, data in self.files("log").items() if "/.bexi-" not in f"/{path}"}
                    self.assertEqual(left, before, (kind, switch, ended))
