import os
import stat
import subprocess
import sys
import tempfile
from pathlib import Path
from unittest import TestCase, mock

from django.conf import settings
from django.db import connection
from django.test import TestCase as DatabaseTestCase
from django.test import override_settings

from bexi.server import blobs
from bexi.server.demo.run import STANDIN_PORT
from bexi.server.running import WEB_PORT
from bexi.standin.host import PORTS, running
from bexi.standin.sites import SITES, reset
from tests.ports import free_port_range


class SecretKeyTests(TestCase):
    def key(self, folder: str) -> str:
        code = "from django.conf import settings; print(settings.SECRET_KEY, settings.DEBUG)"
        environment = {**os.environ, "BEXI_DATA": folder, "DJANGO_SETTINGS_MODULE": "bexi.server.settings"}
        return subprocess.run(
            [sys.executable, "-c", code], env=environment, capture_output=True, text=True, check=True
        ).stdout

    def test_made_once_kept_beside_the_data_and_private(self):
        with tempfile.TemporaryDirectory() as one, tempfile.TemporaryDirectory() as other:
            key = self.key(one)
            self.assertEqual(self.key(one), key)
            self.assertNotEqual(self.key(other), key)
            self.assertGreater(len(key.split()[0]), 50)
            self.assertTrue(key.endswith("False\n"))
            self.assertEqual(stat.S_IMODE((Path(one) / "secret-key").stat().st_mode), 0o600)


class PrivateFilesTests(TestCase):
    def test_data_is_for_its_owner_only_also_in_a_folder_that_existed(self):
        with tempfile.TemporaryDirectory() as folder:
            Path(folder).chmod(0o755)
            (Path(folder) / "bexi.sqlite3").touch(mode=0o644)
            code = (
                "import os, django; os.umask(0o022); django.setup(); from django.core.management import call_command\n"
                "from bexi.server import blobs, vault, locks; from bexi.server.machines import leases\n"
                "from bexi.hosts.secret import Secret\n"
                "call_command('migrate', verbosity=0); blobs.put(b'x'); vault.seal(Secret('sftp://a@b:22', 'x'))\n"
                "with locks.holding('x'), leases.holding('y'): pass"
            )
            environment = {**os.environ, "BEXI_DATA": folder, "DJANGO_SETTINGS_MODULE": "bexi.server.settings"}
            subprocess.run([sys.executable, "-c", code], env=environment, check=True)
            files = [path for path in Path(folder).rglob("*") if path.is_file()]
            self.assertGreater(len(files), 5)
            self.assertEqual([path for path in files if stat.S_IMODE(path.stat().st_mode) & 0o077], [])


class DatabaseSettingsTests(DatabaseTestCase):
    def test_write_ahead_log(self):
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA journal_mode")
            self.assertEqual(cursor.fetchone()[0], "wal")
        self.assertEqual(settings.DATABASES["default"]["OPTIONS"]["transaction_mode"], "IMMEDIATE")


class BlobTests(TestCase):
    def test_kept_once_by_hash(self):
        with tempfile.TemporaryDirectory() as folder, override_settings(BLOB_FOLDER=folder):
            first, again = blobs.put(b"bytes"), blobs.put(b"bytes")
            self.assertEqual((first, blobs.get(first)), (again, b"bytes"))
            self.assertEqual(sum(path.is_file() for path in Path(folder).rglob("*")), 1)
            with self.assertRaises(FileNotFoundError):
                blobs.get("0" * 64)

    def test_on_the_disk_before_anything_can_point_at_them(self):
        order = []
        with tempfile.TemporaryDirectory() as folder, override_settings(BLOB_FOLDER=folder):
            fsync, replace = os.fsync, Path.replace
            with (
                mock.patch("os.fsync", side_effect=lambda descriptor: (order.append("disk"), fsync(descriptor))),
                mock.patch.object(Path, "replace", lambda one, other: (order.append("name"), replace(one, other))),
            ):
                blobs.put(b"bytes")
        self.assertEqual(order, ["disk", "name", "disk"])


class PortTests(TestCase):
    def test_a_port_in_use_gets_a_clear_message(self):
        with tempfile.TemporaryDirectory() as folder:
            reset(Path(folder))
            port = free_port_range(PORTS)
            command = [sys.executable, "-m", "bexi.standin.main", "--folder", folder, "--port", str(port)]
            with running(Path(folder), port):
                result = subprocess.run(command, capture_output=True, text=True, check=False)
        self.assertEqual(result.returncode, 1)
        self.assertIn(f"A port from {port} to {port + len(SITES)} is in use", result.stderr)

    def test_demo_uses_the_documented_ports(self):
        self.assertEqual((WEB_PORT, STANDIN_PORT), (8400, 8410))


class CommandLineTests(TestCase):
    def test_the_installed_command_answers(self):
        command = Path(sys.executable).parent / "bexi"
        helped = subprocess.run([command, "--help"], capture_output=True, text=True, check=True).stdout
        self.assertIn("build", helped)
        refused = subprocess.run([command, "facts", "/nowhere.png"], capture_output=True, text=True, check=False)
        self.assertEqual((refused.returncode, refused.stdout), (2, ""))
        self.assertEqual(refused.stderr, "/nowhere.png cannot be read: No such file or directory.\n")
