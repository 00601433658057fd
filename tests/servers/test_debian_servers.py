"""Installing and undoing on the servers that Debian ships, run for real: `make servers`."""

import os
import tempfile
from collections.abc import Callable
from pathlib import Path
from unittest import TestCase, skipUnless

from bexi.core.errors import HostRefused
from bexi.hosts.opening import opened, try_out
from bexi.hosts.place import ClearText, Place, UnknownServer
from bexi.hosts.secret import Secret
from bexi.installing.carry_out import carry_out, plan_undo
from bexi.installing.plan import plan_install
from bexi.standin.sites import reset
from tests.installing.test_installing import Notes
from tests.servers.debian import PASSWORD, proftpd, sshd, vsftpd
from tests.sets import head_lines_of


def trusting(place: Place, secret: str) -> Place:
    """The place once its server's key, or clear text, was agreed to."""
    try:
        try_out(place, Secret.of(place, secret))
    except UnknownServer as unknown:
        return place.trusting(unknown.fingerprint)
    return place


@skipUnless(os.environ.get("BEXI_SERVERS"), "run by `make servers`")
class DebianServersTests(TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.folder.chmod(0o755)
        reset(self.folder / "home")
        self.served = self.folder / "home/log"
        self.settings = self.folder / "settings"
        self.settings.mkdir()

    def files(self) -> dict[str, bytes]:
        return {str(path): path.read_bytes() for path in self.served.rglob("*") if path.is_file()}

    def assert_installs_and_undoes(self, place: Place, secret: str) -> None:
        place = trusting(place, secret)
        self.assertEqual([trial.said for trial in try_out(place, Secret.of(place, secret)) if not trial.works], [])
        before, notes = self.files(), Notes()
        with opened(place, Secret.of(place, secret)) as host:
            plan = plan_install(host, head_lines_of())
        self.assertGreater(len(plan.changes), 8)
        opening: Callable = lambda stop_asked: opened(place, Secret.of(place, secret))  # noqa: E731
        carry_out(opening, plan.changes, plan.content, notes)
        installed = self.files()
        self.assertNotEqual(installed, before)
        with opened(place, Secret.of(place, secret)) as host:
            self.assertEqual(plan_install(host, head_lines_of()).changes, ())
            undoing = plan_undo(host, notes.begun)
        carry_out(opening, undoing, lambda step, now: notes.copy(step.after) if step.after else None, Notes(notes))
        self.assertEqual(self.files(), before)

    def test_openssh(self):
        with sshd(self.settings, self.served) as (place, key):
            self.assert_installs_and_undoes(place, key)

    def test_openssh_links(self):
        outside = self.folder / "private.txt"
        outside.write_bytes(b"private")
        (self.served / "favicon.ico").unlink()
        (self.served / "favicon.ico").symlink_to(outside)
        (self.served / "shared.png").write_bytes(b"old")
        (self.served / "apple-touch-icon.png").symlink_to("shared.png")
        with sshd(self.settings, self.served) as (place, key):
            place = trusting(place, key)
            with opened(place, Secret.of(place, key)) as host:
                plan = plan_install(host, head_lines_of())
                self.assertEqual(
                    [page.path for page in plan.left_alone if "over a link" in page.reason], ["favicon.ico"]
                )
                self.assertNotIn("favicon.ico", [step.path for step in plan.steps])
                host.write("apple-touch-icon.png", b"new")
                with self.assertRaises(HostRefused):
                    host.read("favicon.ico")
        self.assertTrue((self.served / "apple-touch-icon.png").is_symlink())
        self.assertEqual((self.served / "shared.png").read_bytes(), b"new")
        self.assertEqual(outside.read_bytes(), b"private")

    def test_proftpd_in_clear_text_asks_first(self):
        with proftpd(self.settings, self.served) as (place, _):
            with self.assertRaises(ClearText), opened(place, Secret.of(place, PASSWORD)):
                pass
            self.assert_installs_and_undoes(place, PASSWORD)

    def test_proftpd_over_tls_takes_up_the_session(self):
        for number, protocol in enumerate(("TLSv1.2", "TLSv1.3")):
            settings = self.settings / str(number)
            settings.mkdir()
            with self.subTest(protocol), proftpd(settings, self.served, protocol) as (_, place):
                self.assert_installs_and_undoes(place, PASSWORD)
            self.assertIn(protocol, (settings / "tls.log").read_text())

    def test_vsftpd_over_tls_takes_up_the_session(self):
        with vsftpd(self.settings, self.served) as place:
            self.assert_installs_and_undoes(place, "nobody@ferry.example")

    def test_a_place_is_found_from_where_the_account_begins(self):
        for make in (proftpd, sshd):
            settings = self.settings / make.__name__
            settings.mkdir()
            with make(settings, self.served) as (given, other):
                secret = other if isinstance(other, str) else PASSWORD
                place = trusting(Place.parse(str(given).replace(str(self.served), "/log")), secret)
                if make is sshd:  # its account begins in the home of whoever runs this
                    with self.assertRaises(HostRefused), opened(place, Secret.of(place, secret)):
                        pass
                    continue
                with opened(place, Secret.of(place, secret)) as host:
                    self.assertIn("index.html", list(host.files()))
                    self.assertIn(f"{self.served}, from where this account begins, was taken", host.place_note)
