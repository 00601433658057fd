"""When the disk that Bexi keeps its data on is full: it is told, nothing is left half done, and it goes on after."""

import errno
import io
import sqlite3
from unittest import mock

from django.core.management import call_command
from django.db import connection
from django.db.utils import OperationalError
from django.test import TransactionTestCase

from bexi.server import own_disk
from tests.pictures import plain_png
from tests.server.case import ApiCase, quiet

FULL = OSError(errno.ENOSPC, "No space left on device")


class OwnDiskTests(ApiCase, TransactionTestCase):
    def limit(self, pages: int) -> None:
        with connection.cursor() as cursor:
            cursor.execute(f"PRAGMA max_page_count = {pages}")  # SQLite's own way to be full

    def test_a_full_database_is_told_and_passes(self):
        with connection.cursor() as cursor:
            cursor.execute("VACUUM")  # else what other tests left free is filled first
            cursor.execute("PRAGMA page_count")
            self.limit(cursor.fetchone()[0])
        self.addCleanup(self.limit, 1_000_000_000)
        body = {"name": "x" * 80, "address": f"http://a.example/{'y' * 250}"}
        with quiet("bexi.server.problems", "django.request"):
            response = next(
                one for one in (self.ask("POST", "sites", body) for _ in range(500)) if one.status_code != 201
            )
            self.assertIn("is full", self.problem(response, 507, "own-disk-full"))
        self.assertEqual(self.client.get("/api/sites").status_code, 200)
        self.limit(1_000_000_000)
        self.assertEqual(self.ask("POST", "sites", body).status_code, 201)

    def test_a_file_that_cannot_be_kept_leaves_nothing(self):
        with (
            mock.patch("bexi.server.kept_files.os.fsync", side_effect=FULL),
            quiet("bexi.server.problems", "django.request"),
        ):
            self.problem(self.send(plain_png()), 507, "own-disk-full")
        self.assertEqual([path for path in (self.folder / "blobs").rglob("*") if path.is_file()], [])
        self.assertEqual(self.send(plain_png()).status_code, 201)

    def test_the_worker_waits_for_room(self):
        command = "bexi.server.machines.management.commands.work"
        full = OperationalError("database or disk is full")
        full.__cause__ = sqlite3.OperationalError("database or disk is full")
        full.__cause__.sqlite_errorcode = sqlite3.SQLITE_FULL
        told = io.StringIO()
        with (
            mock.patch(f"{command}.call_command", side_effect=[full, FULL, None]) as worked,
            mock.patch(f"{command}.worker.keep_beating"),
            mock.patch(f"{command}.attending.keep_attending"),
            mock.patch(f"{command}.time.sleep"),
        ):
            call_command("work", stdout=io.StringIO(), stderr=told)
        self.assertEqual((worked.call_count, told.getvalue().count("is full")), (3, 2))
        self.assertFalse(own_disk.is_to_blame(ValueError("other")))

    def test_a_database_that_another_program_keeps_locked_is_waited_out(self):
        busy = OperationalError("database is locked")
        busy.__cause__ = sqlite3.OperationalError("database is locked")
        busy.__cause__.sqlite_errorcode = sqlite3.SQLITE_BUSY
        command = "bexi.server.machines.management.commands.work"
        told = io.StringIO()
        with (
            mock.patch(f"{command}.call_command", side_effect=[busy, busy, None]) as worked,
            mock.patch(f"{command}.worker.keep_beating"),
            mock.patch(f"{command}.attending.keep_attending"),
            mock.patch(f"{command}.time.sleep"),
            mock.patch.dict(connection.settings_dict["OPTIONS"]),
        ):
            call_command("work", stdout=io.StringIO(), stderr=told)
            self.assertGreater(connection.settings_dict["OPTIONS"]["timeout"], 45)
        self.assertEqual((worked.call_count, told.getvalue().count("keeps Bexi's database locked")), (3, 2))
        with (
            mock.patch("bexi.server.sites.api.SiteOut.of", side_effect=busy),
            quiet("bexi.server.problems", "django.request"),
        ):
            response = self.ask("POST", "sites", {"name": "Ferry"})
        self.assertIn("locked", self.problem(response, 503, "database-busy"))
