import os
import socket
import subprocess
import sys
from tempfile import TemporaryDirectory
from unittest import mock

from django.conf import settings
from django.db import OperationalError
from django.test import TestCase, override_settings
from typer.testing import CliRunner

from bexi.cli import app
from bexi.server import health, locks, running
from bexi.server.people import accounts
from bexi.server.people.roles import Role
from tests.ports import free_port_range
from tests.server.case import quiet


def serve(*arguments: object):
    with (
        mock.patch.dict("os.environ"),
        mock.patch("django.setup"),
        mock.patch.object(running, "run", return_value=0) as ran,
    ):
        return CliRunner().invoke(app, ["serve", "--no-browser", *map(str, arguments)]), ran


class ServeTests(TestCase):
    def test_elsewhere_it_needs_a_name_and_an_account(self):
        for host, sentence in (
            ("0.0.0.0", "BEXI_HOSTS=bexi.example"),
            ("::", "BEXI_HOSTS=bexi.example"),
            ("ferry.example", "is not an address to listen on"),
        ):
            result, ran = serve("--host", host)
            self.assertEqual((result.exit_code, ran.called), (1, False))
            self.assertIn(sentence, result.stderr)
        with override_settings(REACHED_AS=["192.168.1.2"]), mock.patch.object(running, "taken", return_value=[]):
            result, ran = serve("--host", "192.168.1.2")
            self.assertEqual((result.exit_code, ran.called), (1, False))
            self.assertIn("bexi user add", result.stderr)
            self.assertIn("bexi user add", health.state_of_health().looked_at["people"])
            accounts.add("ines", "nine-lanterns-astern", Role.ADMINISTERS)
            result, ran = serve("--host", "192.168.1.2")
            self.assertEqual((result.exit_code, ran.called), (0, True), result.output)
            self.assertIn("unencrypted", result.stderr)

    def test_it_starts_web_and_worker_and_prints_one_address(self):
        port = free_port_range(1)
        for host, address in (("localhost", "127.0.0.1"), ("127.0.0.1", "127.0.0.1"), ("::1", "[::1]")):
            result, ran = serve("--host", host, "--port", port)
            self.assertEqual(result.exit_code, 0, result.output)
            self.assertEqual(result.stdout.count("http://"), 1)
            self.assertIn(f"http://{address}:{port}/", result.stdout)
            processes = ran.call_args[0][0]
            self.assertEqual(list(processes)[::2], ["web server 1", "background work", "work on sites 2"])
            told = ["--host", address.strip("[]"), "--port", str(port)]
            self.assertEqual(processes["web server 1"][-4:], told)

    def test_a_port_in_use_and_a_second_start_say_what_to_do(self):
        with socket.create_server(("127.0.0.1", 0)) as other:
            result, _ = serve("--port", other.getsockname()[1])
        self.assertIn("choose another with --port", result.stderr)
        with locks.holding("serving"):
            result, _ = serve("--port", free_port_range(1))
        self.assertIn("is already running on this data", result.stderr)

    def test_what_the_environment_says_wrongly_ends_with_a_sentence(self):
        with TemporaryDirectory() as data:
            told = {**os.environ, "BEXI_DATA": data, "BEXI_PROXY": "front.example"}
            ran = subprocess.run(
                [sys.executable, "-c", "from bexi.cli import app; app()", "serve", "--check"],
                env=told,
                text=True,
                capture_output=True,
            )
        self.assertEqual(ran.returncode, 1)
        self.assertRegex(ran.stderr, r"^BEXI_PROXY: 'front\.example' .*Give the addresses or networks")
        self.assertNotIn("Traceback", ran.stderr)

    def test_no_browser_is_opened_where_there_is_none(self):
        with mock.patch.dict("os.environ", clear=True), mock.patch.object(running.sys, "platform", "linux"):
            self.assertFalse(running.has_browser())


class HealthTests(TestCase):
    def setUp(self):
        self.client = self.client_class(SERVER_NAME="127.0.0.1")

    def test_all_is_looked_at_and_a_missing_worker_is_said(self):
        with mock.patch.object(health.worker, "is_alive", return_value=True):
            well = self.client.get("/health")
        self.assertEqual((well.status_code, set(well.json().values())), (200, {"well"}))
        with mock.patch.object(health.worker, "is_alive", return_value=False), quiet("django.request"):
            ill = self.client.get("/health")
        self.assertEqual(ill.status_code, 503)
        self.assertIn("is not running", ill.json()["worker"])
        self.assertEqual(ill.headers["Cache-Control"], "no-store")

    def test_who_is_elsewhere_is_told_no_more_than_that_it_is_ill(self):
        with mock.patch.object(health.worker, "is_alive", return_value=False), quiet("django.request"):
            self.assertEqual(self.client.get("/health", REMOTE_ADDR="10.0.0.9").json()["worker"], "ill")

    def test_a_database_that_is_not_there_yet_is_no_worker_either(self):
        with mock.patch.object(health.worker, "is_alive", side_effect=OperationalError("no such table")):
            self.assertIn("is not running", health.state_of_health().looked_at["worker"])

    def test_a_full_or_closed_disk_is_said(self):
        with mock.patch.object(health.shutil, "disk_usage") as usage:
            usage.return_value.free = 5 * 1024**2
            self.assertIn("only 5 MB", health.state_of_health().looked_at["disk"])
        with mock.patch.object(health.shutil, "disk_usage", side_effect=PermissionError(13, "Permission denied")):
            self.assertIn("cannot be written", health.state_of_health().looked_at["disk"])
        self.assertFalse(health.Health({"disk": "full."}).is_well)
        self.assertEqual(health.Health({"disk": ""}).lines, ["disk: well"])

    def test_hashed_files_are_kept_for_ever_and_come_packed(self):
        packed = next(settings.FRONTEND_BUILD.glob("assets/*.js.gz"))
        answer = self.client.get(f"/assets/{packed.stem}", headers={"Accept-Encoding": "gzip"})
        self.assertIn("immutable", answer.headers["Cache-Control"])
        self.assertEqual(answer.headers["Content-Encoding"], "gzip")
