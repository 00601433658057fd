import hashlib
import io
import json
import os
import sqlite3
import stat
import subprocess
import sys
import tarfile
import tempfile
import threading
from pathlib import Path
from unittest import TestCase, mock

from django.test import override_settings
from typer.testing import CliRunner

from bexi.cli import app
from bexi.server import backup, locks


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
        self.enterContext(override_settings(DATA_FOLDER=self.data))
        self.enterContext(mock.patch("django.core.management.call_command"))
        self.write("first")
        self.blob = self.keep(b"a page that was replaced")
        (self.data / "vault-key").write_bytes(b"key")

    def write(self, text: str) -> None:
        with sqlite3.connect(self.data / "bexi.sqlite3") as database:
            database.execute("PRAGMA journal_mode=WAL")
            database.execute("CREATE TABLE IF NOT EXISTS told (text TEXT)")
            database.execute("CREATE TABLE IF NOT EXISTS django_migrations (app TEXT, name TEXT)")
            database.execute("INSERT INTO django_migrations VALUES ('sites', '0001_initial')")
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
        self.assertIn("the database and 1 file,", result.stdout)
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
        with override_settings(DATA_FOLDER=self.data):
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
            self.assertIn(
                "not a complete Bexi backup", run("restore", self.file, "--data", self.data).stderr, broken[:20]
            )
        self.assertEqual(self.told(), ["first"])
        self.assertEqual(list(self.data.glob("before-restoring-*")), [])
        self.assertFalse((self.folder / "outside").exists())

    def test_a_database_that_is_damaged_inside_is_not_taken(self):
        run("backup", self.file, "--data", self.data)
        with mock.patch.object(backup.sqlite3, "connect", side_effect=sqlite3.DatabaseError("malformed")):
            result = run("restore", self.file, "--data", self.data)
        self.assertIn("could not be restored", result.stderr)
        self.assertEqual(self.told(), ["first"])

    def sql(self, *statements: str) -> None:
        with sqlite3.connect(self.data / "bexi.sqlite3") as database:
            for statement in statements:
                database.execute(statement)
        database.close()

    def refused(self, file: Path, sentence: str) -> None:
        before = self.told()
        for command in (("backup", "--verify", file), ("restore", file, "--data", self.data)):
            result = run(*command)
            self.assertEqual(result.exit_code, 1, result.output)
            self.assertIn(sentence, result.stderr)
            self.assertEqual(len(result.stderr.strip().splitlines()), 1, result.stderr)
        self.assertEqual(self.told(), before)

    def packed(self, database: bytes, contents: object = None) -> Path:
        """A backup with this database, and what it says of its contents."""
        file = self.folder / "made.tar.gz"
        sums = {"format": 1, "files": {"bexi.sqlite3": hashlib.sha256(database).hexdigest()}}
        told = json.dumps(sums if contents is None else contents).encode()
        with tarfile.open(file, "w:gz") as archive:
            for name, content in (("bexi.sqlite3", database), ("contents.json", told)):
                member = tarfile.TarInfo(name)
                member.size = len(content)
                archive.addfile(member, io.BytesIO(content))
        return file

    def test_only_its_owner_can_read_it_and_what_comes_out_of_it(self):
        for umask in (0o000, 0o022, 0o027):
            before = os.umask(umask)
            try:
                made = run("backup", self.folder / f"{umask}.tar.gz", "--data", self.data)
                elsewhere = self.folder / f"data-{umask}"
                with override_settings(DATA_FOLDER=elsewhere):
                    brought = run("restore", self.folder / f"{umask}.tar.gz", "--data", elsewhere)
            finally:
                os.umask(before)
            self.assertEqual((made.exit_code, brought.exit_code), (0, 0), made.output + brought.output)
            paths = [self.folder / f"{umask}.tar.gz", elsewhere, *elsewhere.rglob("*")]
            modes = {path: stat.S_IMODE(path.stat().st_mode) for path in paths}
            self.assertEqual(set(modes.values()), {0o600, 0o700}, modes)
            with tarfile.open(self.folder / f"{umask}.tar.gz") as archive:
                self.assertEqual({member.mode for member in archive}, {0o600})

    def test_nobody_gets_in_with_what_is_in_it_and_nothing_of_now_is_kept(self):
        tables = ("django_session", "people_token", "machines_lease", "axes_accessattempt")
        for table in tables:
            self.sql(f"CREATE TABLE {table} (secret TEXT)", f"INSERT INTO {table} VALUES ('live-{table}-secret')")
        run("backup", self.file, "--data", self.data)
        with tarfile.open(self.file) as archive:
            database = archive.extractfile("bexi.sqlite3").read()
        for table in tables:
            self.assertIn(table.encode(), database)
            self.assertNotIn(f"live-{table}-secret".encode(), database)

    def test_what_was_under_way_touches_no_site_when_it_comes_back(self):
        self.sql(
            "CREATE TABLE installs_install (id INTEGER, state TEXT, sealed TEXT, problem TEXT, asks_first BOOL)",
            *(
                f"INSERT INTO installs_install VALUES ({number}, '{state}', 'x', '', 0)"
                for number, state in enumerate(("waiting", "started", "stuck", "done"))
            ),
        )
        run("backup", self.file, "--data", self.data)
        run("restore", self.file, "--data", self.data)
        with sqlite3.connect(self.data / "bexi.sqlite3") as database:
            rows = database.execute("SELECT state, asks_first, problem <> '' FROM installs_install").fetchall()
        database.close()
        self.assertEqual(rows, [("put-back", 0, 1), ("stuck", 1, 1), ("stuck", 1, 1), ("done", 0, 0)])

    def test_a_rotten_file_is_named_and_the_rest_is_saved(self):
        other = self.keep(b"another page")
        self.blob.write_bytes(b"rotten")
        result = run("backup", self.file, "--data", self.data)
        self.assertEqual(result.exit_code, 1)
        self.assertIn(f"{self.blob.name} is damaged on the disk", result.stderr)
        self.assertEqual(run("backup", "--verify", self.file).exit_code, 0)
        with tarfile.open(self.file) as archive:
            names = [Path(name).name for name in archive.getnames()]
        self.assertEqual((other.name in names, self.blob.name in names), (True, False))

    def test_a_rotten_file_in_a_backup_is_named_and_the_rest_is_restored(self):
        other = self.keep(b"another page" * 1000)
        run("backup", self.file, "--data", self.data)
        with tarfile.open(self.file) as archive:
            members = {member.name: archive.extractfile(member).read() for member in archive}
        with tarfile.open(self.file, "w:gz") as archive:
            for name, content in members.items():
                content = b"rotten" if name.endswith(self.blob.name) else content
                member = tarfile.TarInfo(name)
                member.size = len(content)
                archive.addfile(member, io.BytesIO(content))
        self.assertIn(self.blob.name, run("backup", "--verify", self.file).stderr)
        other.unlink()
        result = run("restore", self.file, "--data", self.data)
        self.assertEqual((result.exit_code, self.blob.name in result.stderr), (1, True), result.output)
        self.assertEqual((other.read_bytes(), self.told()), (b"another page" * 1000, ["first"]))

    def test_what_is_rotten_on_the_disk_is_replaced(self):
        run("backup", self.file, "--data", self.data)
        self.blob.write_bytes(b"rotten")
        self.assertEqual(run("restore", self.file, "--data", self.data).exit_code, 0)
        self.assertEqual(self.blob.read_bytes(), b"a page that was replaced")

    def test_while_bexi_runs_nothing_is_restored(self):
        run("backup", self.file, "--data", self.data)
        with locks.holding("serving"):
            result = run("restore", self.file, "--data", self.data)
        self.assertEqual((result.exit_code, "Bexi runs on" in result.stderr), (1, True))
        self.assertEqual(run("restore", self.file, "--data", self.data).exit_code, 0)

    def test_databases_that_this_bexi_cannot_take(self):
        run("backup", self.file, "--data", self.data)
        made = self.folder / "other.sqlite3"
        for statements, sentence in (
            ((), "its database is empty"),
            (("CREATE TABLE a (b)",), "not Bexi's"),
            (("CREATE TABLE django_migrations (app, name)",), "not Bexi's"),
            (
                (
                    "CREATE TABLE django_migrations (app, name)",
                    "INSERT INTO django_migrations VALUES ('sites', '0001_initial'), ('sites', '9999_later')",
                ),
                "newer Bexi (its database knows sites 9999_later)",
            ),
        ):
            made.unlink(missing_ok=True)
            with sqlite3.connect(made) as database:
                database.execute("PRAGMA user_version = 1")
                for statement in statements:
                    database.execute(statement)
            database.close()
            self.refused(self.packed(made.read_bytes()), sentence)
        self.refused(self.packed(b"no database at all"), "its database is damaged")

    def test_odd_lists_of_contents_are_refused(self):
        for contents in ([], "x", 5, {}, {"format": 1}, {"format": 1, "files": []}, {"format": 2, "files": {}}):
            self.refused(self.packed(b"x", contents), "not a complete Bexi backup")

    def test_what_is_set_aside_can_be_restored_also_when_it_was_rotten(self):
        run("backup", self.file, "--data", self.data)
        (self.data / "bexi.sqlite3").write_bytes(b"SQLite format 3\0" + bytes(5000))
        result = run("restore", self.file, "--data", self.data)
        self.assertEqual((result.exit_code, self.told()), (0, ["first"]), result.output)
        (aside,) = self.data.glob("before-restoring-*.sqlite3")
        self.assertTrue(aside.read_bytes().startswith(b"SQLite format 3"))


class ProcessTests(TestCase):
    """The commands as a person starts them: nothing is set up for them."""

    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def bexi(self, *arguments: object, data: str = "data") -> subprocess.CompletedProcess[str]:
        environment = {name: value for name, value in os.environ.items() if not name.startswith(("BEXI_", "DJANGO_"))}
        return subprocess.run(
            [sys.executable, "-c", "from bexi.cli import app; app()", *map(str, arguments)],
            env={**environment, "BEXI_DATA": str(self.folder / data)},
            capture_output=True,
            text=True,
        )

    def test_there_and_back(self):
        file = self.folder / "backup.tar.gz"
        for command, told in (
            (("user", "list"), ""),
            (("backup", file), "read back and found intact"),
            (("backup", "--verify", file), "the database and 0 files, all intact"),
            (("restore", file), "Restored from"),
            (("key",), "="),
        ):
            done = self.bexi(*command)
            self.assertEqual((done.returncode, done.stderr), (0, ""), command)
            self.assertIn(told, done.stdout)
        self.assertEqual(self.bexi("backup", "--verify", file, data="none").returncode, 0)
        self.assertFalse((self.folder / "none").exists())

    def test_a_data_folder_that_cannot_be_used_is_told(self):
        (self.folder / "file").write_bytes(b"")
        for command in (("user", "list"), ("serve", "--check"), ("work",), ("restore", self.folder / "file")):
            done = self.bexi(*command, data="file")
            self.assertEqual(done.returncode, 1)
            self.assertIn("The data folder cannot be used", done.stderr)
            self.assertNotIn("Traceback", done.stderr)
