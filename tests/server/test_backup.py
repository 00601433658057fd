import hashlib
import io
import json
import sqlite3
import tarfile
import tempfile
import threading
from pathlib import Path
from unittest import TestCase, mock

from typer.testing import CliRunner

from bexi.cli import app
from bexi.server import backup


def run(*arguments: object):
    return CliRunner().invoke(app, [str(one) for one in arguments])


class BackupTests(TestCase):
    """On a data folder of its own, made by hand: the commands know nothing of Django's tables."""

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.data, self.file = self.folder / "data", self.folder / "backup.tar.gz"
        self.data.mkdir()
        self.enterContext(mock.patch.dict("os.environ"))
        self.enterContext(mock.patch("django.setup"))
        self.enterContext(mock.patch("django.core.management.call_command"))
        self.write("first")
        self.blob = self.keep(b"a page that was replaced")
        (self.data / "vault-key").write_bytes(b"key")

    def write(self, text: str) -> None:
        with sqlite3.connect(self.data / "bexi.sqlite3") as database:
            database.execute("PRAGMA journal_mode=WAL")
            database.execute("CREATE TABLE IF NOT EXISTS told (text TEXT)")
            database.execute("INSERT INTO told VALUES (?)", [text])
        database.close()

    def told(self) -> list[str]:
        with sqlite3.connect(self.data / "bexi.sqlite3") as database:
            rows = [row[0] for row in database.execute("SELECT text FROM told")]
        database.close()
        return rows

    def keep(self, data: bytes) -> Path:
        name = hashlib.sha256(data).hexdigest()
        path = self.data / "blobs" / name[:2] / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(data)
        return path

    def test_what_is_backed_up_comes_back_and_what_was_there_is_kept(self):
        result = run("backup", self.file, "--data", self.data)
        self.assertEqual(result.exit_code, 0, result.output)
        self.assertIn("1 kept files", result.stdout)
        with tarfile.open(self.file) as archive:
            self.assertNotIn("vault-key", archive.getnames())
        self.write("second")
        self.blob.unlink()
        result = run("restore", self.file, "--data", self.data)
        self.assertEqual(result.exit_code, 0, result.output)
        self.assertEqual((self.told(), self.blob.read_bytes()), (["first"], b"a page that was replaced"))
        (before,) = self.data.glob("before-restoring-*.tar.gz")
        self.assertEqual(run("restore", before, "--data", self.data).exit_code, 0)
        self.assertEqual(self.told(), ["first", "second"])

    def test_into_an_empty_folder(self):
        run("backup", self.file, "--data", self.data)
        self.data = self.folder / "elsewhere"
        self.assertEqual(run("restore", self.file, "--data", self.data).exit_code, 0)
        self.assertEqual(self.told(), ["first"])

    def test_while_it_is_written_to(self):
        over = threading.Event()

        def go_on() -> None:
            while not over.is_set():
                self.write("more")

        writer = threading.Thread(target=go_on)
        writer.start()
        try:
            results = [run("backup", self.folder / f"{number}.tar.gz", "--data", self.data) for number in range(3)]
        finally:
            over.set()
            writer.join()
        self.assertEqual([one.exit_code for one in results], [0, 0, 0])

    def test_nothing_is_written_over(self):
        self.file.write_bytes(b"mine")
        result = run("backup", self.file, "--data", self.data)
        self.assertEqual((result.exit_code, self.file.read_bytes()), (1, b"mine"))
        self.assertEqual(run("backup", self.folder / "new", "--data", self.folder / "none").exit_code, 1)

    def test_a_damaged_or_hostile_file_changes_nothing(self):
        run("backup", self.file, "--data", self.data)
        whole = self.file.read_bytes()
        evil = self.folder / "evil.tar.gz"
        for name, data in (("../outside", b"x"), ("blobs/aa/bb", b"x"), ("secret-key", b"x")):
            with tarfile.open(evil, "w:gz") as archive:
                database = (self.data / "bexi.sqlite3").read_bytes()
                members = {"bexi.sqlite3": database, name: data}
                sums = {one: hashlib.sha256(content).hexdigest() for one, content in members.items()}
                members["contents.json"] = json.dumps({"format": 1, "files": sums}).encode()
                for one, content in members.items():
                    member = tarfile.TarInfo(one)
                    member.size = len(content)
                    archive.addfile(member, io.BytesIO(content))
            result = run("restore", evil, "--data", self.data)
            self.assertIn("do not belong", result.stderr)
        for broken in (whole[:-50], whole[:200], b"", b"no archive"):
            self.file.write_bytes(broken)
            self.assertIn("no whole backup", run("restore", self.file, "--data", self.data).stderr)
        self.assertEqual(self.told(), ["first"])
        self.assertEqual(list(self.data.glob("before-restoring-*")), [])
        self.assertFalse((self.folder / "outside").exists())

    def test_a_database_that_is_damaged_inside_is_not_taken(self):
        run("backup", self.file, "--data", self.data)
        with mock.patch.object(backup.sqlite3, "connect", side_effect=sqlite3.DatabaseError("malformed")):
            result = run("restore", self.file, "--data", self.data)
        self.assertIn("could not be restored", result.stderr)
        self.assertEqual(self.told(), ["first"])
