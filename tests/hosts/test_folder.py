import os
import tempfile
import threading
import time
from contextlib import suppress
from pathlib import Path
from unittest import TestCase, skipIf

from bexi.core.errors import HostRefused
from bexi.hosts.careful import CarefulHost
from bexi.hosts.folder import FolderStorage


class FolderTests(TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.outside = Path(folder.name)
        self.root = self.outside / "site"
        (self.root / "pages").mkdir(parents=True)
        (self.root / ".hidden").mkdir()
        (self.root / ".hidden/secret.html").write_bytes(b"no")
        (self.root / "pages/a.html").write_bytes(b"a")
        (self.root / "index.html").write_bytes(b"i")
        (self.outside / "private.txt").write_bytes(b"private")
        self.host = CarefulHost(FolderStorage(self.root))

    def test_lists_files_without_hidden_folders(self):
        self.assertEqual(list(self.host.files()), ["index.html", "pages/a.html"])

    def test_writes_reads_and_deletes(self):
        self.host.write("favicon.ico", b"\0\1")
        self.assertEqual(self.host.read("favicon.ico"), b"\0\1")
        self.host.delete("favicon.ico")
        self.host.delete("favicon.ico")
        self.assertIsNone(self.host.read("favicon.ico"))
        self.assertEqual(sorted(path.name for path in self.root.iterdir()), [".hidden", "index.html", "pages"])

    def test_replacing_keeps_the_permissions(self):
        (self.root / "index.html").chmod(0o640)
        self.host.write("index.html", b"new")
        self.assertEqual((self.root / "index.html").stat().st_mode & 0o777, 0o640)

    def test_paths_that_climb_out_are_refused(self):
        (self.root / "link").symlink_to(self.outside)
        for path in ("../private.txt", "/etc/passwd", "pages/../../private.txt", "link/private.txt", "", "a\\b", "a\0"):
            for act in (self.host.read, self.host.delete, lambda path: self.host.write(path, b"")):
                with self.assertRaises(HostRefused) as caught:
                    act(path)
                self.assertEqual(caught.exception.code, "path-outside")
        self.assertEqual((self.outside / "private.txt").read_bytes(), b"private")

    def test_links_that_lead_out_are_not_listed(self):
        (self.root / "out.html").symlink_to(self.outside / "private.txt")
        self.assertNotIn("out.html", list(self.host.files()))

    def test_a_link_inside_stays_a_link_and_its_page_is_listed_once(self):
        (self.root / "home.html").symlink_to("pages/a.html")
        (self.root / "own.html").symlink_to(".hidden/secret.html")  # the one name of a page kept elsewhere
        self.assertEqual(list(self.host.files()), ["index.html", "own.html", "pages/a.html"])
        for link, target in (("home.html", "pages/a.html"), ("own.html", ".hidden/secret.html")):
            self.host.write(link, b"new")
            self.assertTrue((self.root / link).is_symlink())
            self.assertEqual((self.root / target).read_bytes(), b"new")

    def test_names_with_a_no_break_space_are_names(self):
        self.host.write("our\xa0boats.html", b"b")
        self.assertIn("our\xa0boats.html", list(self.host.files()))

    def test_missing_folder_is_refused(self):
        with self.assertRaises(HostRefused) as caught:
            FolderStorage(self.root / "nowhere")
        self.assertEqual(caught.exception.code, "no-such-folder")

    @skipIf(os.geteuid() == 0, "root may write anywhere")
    def test_no_permission_is_told(self):
        self.root.chmod(0o500)
        with self.assertRaises(HostRefused):
            self.host.write("favicon.ico", b"")

    def test_missing_folder_inside_is_told_and_leaves_nothing(self):
        with self.assertRaises(HostRefused) as caught:
            self.host.write("nowhere/favicon.ico", b"")
        self.assertEqual(caught.exception.code, "cannot-write")

    def test_a_pipe_is_not_waited_for(self):
        os.mkfifo(self.root / "favicon.ico")
        for act in (self.host.read, lambda path: self.host._storage.put(path, b"x")):
            with self.assertRaises(HostRefused):
                act("favicon.ico")

    def test_links_within_and_in_circles(self):
        (self.root / "deep").symlink_to("pages")
        (self.root / "absolute.html").symlink_to(self.root / "pages/a.html")
        (self.root / "up.html").symlink_to("pages/../index.html")
        (self.root / "round").symlink_to("round")
        for path, data in (("deep/a.html", b"a"), ("absolute.html", b"a"), ("up.html", b"i")):
            self.assertEqual(self.host.read(path), data, path)
        for path in ("round", "round/a.html"):
            with self.assertRaises(HostRefused):
                self.host.read(path)


class RacingTests(TestCase):
    """Folders and links are swapped as fast as can be while Bexi works there: nothing outside is reached."""

    SECONDS = 4

    def test_nothing_outside_is_read_or_written(self):
        with tempfile.TemporaryDirectory() as folder:
            outside, root = Path(folder) / "outside", Path(folder) / "site"
            for place in (outside, root / "deep"):
                place.mkdir(parents=True)
                (place / "page.html").write_bytes(b"private" if place == outside else b"page")
            over = threading.Event()
            swapper = threading.Thread(target=self.swap, args=(root, outside, over))
            swapper.start()
            tries, failed = 0, []
            try:
                end = time.monotonic() + self.SECONDS
                while time.monotonic() < end:
                    tries += 1
                    failed += self.reached(root)
            finally:
                over.set()
                swapper.join()
            self.assertEqual(failed, [])
            self.assertGreater(tries, 200)
            self.assertEqual([path.name for path in outside.iterdir()], ["page.html"])
            self.assertEqual((outside / "page.html").read_bytes(), b"private")

    @staticmethod
    def swap(root: Path, outside: Path, over: threading.Event) -> None:
        deep, aside = root / "deep", root / "aside"
        while not over.is_set():
            with suppress(OSError):
                deep.rename(aside)
                deep.symlink_to(outside)
                deep.unlink()
                aside.rename(deep)

    @staticmethod
    def reached(root: Path) -> list[bytes]:
        """What was read of the outside."""
        host = CarefulHost(FolderStorage(root))
        found = []
        with suppress(HostRefused, OSError):
            found.append(host.read("deep/page.html"))
        with suppress(HostRefused, OSError):
            host.write("deep/page.html", b"page")
        with suppress(HostRefused, OSError):
            host.delete("deep/other.html")
        with suppress(HostRefused, OSError):
            found += [b"private" for path in host.files() if "outside" in path]
        return [data for data in found if data == b"private"]
