"""Bexi behind Debian's nginx with TLS, by the very lines of the documentation."""

import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from unittest import TestCase, skipUnless

import httpx

from tests.ports import free_port_range
from tests.servers.debian import LOOPBACK, fresh_certificate, running
from tests.servers.web import nginx_with
from tests.test_docs import blocks

NAME, PASSWORD = "bexi.example", "nine-lanterns-astern"


@skipUnless(os.environ.get("BEXI_SERVERS"), "run by make servers")
class BehindProxyTests(TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        own = {"BEXI_DATA": str(self.folder / "data"), "BEXI_HOSTS": NAME, "BEXI_PROXY": "1"}
        self.environment = {**os.environ, **own, "DJANGO_SETTINGS_MODULE": "bexi.server.settings"}
        self.bexi("user", "add", "ines", "--password-stdin", said=f"{PASSWORD}\n")

    def bexi(self, *arguments: str, said: str = "") -> None:
        command = [Path(sys.executable).parent / "bexi", *arguments]
        subprocess.run(command, env=self.environment, input=said, text=True, check=True, capture_output=True)

    def test_sign_in_over_tls(self):
        port, behind = free_port_range(1), free_port_range(1)
        key = fresh_certificate(self.folder)
        server = next(block for _, block in blocks("nginx"))
        for shown, here in (
            ("listen 443 ssl", f"listen {LOOPBACK}:{port} ssl"),
            ("/etc/ssl/bexi.pem", str(key)),
            ("/etc/ssl/bexi.key", str(key)),
            ("127.0.0.1:8400", f"{LOOPBACK}:{behind}"),
        ):
            self.assertIn(shown, server)
            server = server.replace(shown, here)
        web = [sys.executable, "-m", "bexi.server.web", "--host", LOOPBACK, "--port", str(behind)]
        with (
            running(web, behind, self.environment),
            nginx_with(self.folder, server, port),
            httpx.Client(base_url=f"https://{LOOPBACK}:{port}", verify=False, headers={"Host": NAME}) as client,
        ):
            page = client.get("/")
            self.assertIn("max-age=31536000", page.headers["strict-transport-security"])
            self.assertIn("Secure", page.headers["set-cookie"])
            self.assertEqual(client.get("/api/sites").status_code, 401)
            token = page.headers["set-cookie"].partition("csrftoken=")[2].partition(";")[0]
            proof = {"X-CSRFToken": token, "Cookie": f"csrftoken={token}", "Referer": f"https://{NAME}/"}
            entered = client.post("/api/sign-in", json={"name": "ines", "password": PASSWORD}, headers=proof)
            self.assertEqual(entered.status_code, 200, entered.text)
            session = next(one for one in entered.headers.get_list("set-cookie") if one.startswith("sessionid"))
            for word in ("Secure", "HttpOnly", "SameSite=Strict"):
                self.assertIn(word, session)
            self.assertEqual(client.get("/api/sites", headers={"Cookie": session.partition(";")[0]}).status_code, 200)
            self.assertEqual(client.get("/health").json()["people"], "well")
            plain = httpx.get(f"http://{LOOPBACK}:{behind}/", headers={"Host": NAME}, trust_env=False)
            self.assertEqual((plain.status_code, plain.headers["location"]), (301, f"https://{NAME}/"))
            forged = {"Host": "elsewhere.example"}
            self.assertEqual(client.get("/", headers=forged).status_code, 400)

    def test_the_unit_is_one_that_systemd_reads(self):
        if not shutil.which("systemd-analyze"):
            self.skipTest("systemd-analyze is not here")
        unit = next(block for _, block in blocks("ini systemd"))
        file = self.folder / "bexi.service"
        here = unit.replace("/opt/bexi/bin/bexi", str(Path(sys.executable).parent / "bexi"))
        file.write_text(here.replace("User=bexi\n", ""))
        told = subprocess.run(["systemd-analyze", "verify", "--man=no", file], capture_output=True, text=True)
        self.assertEqual([line for line in told.stderr.splitlines() if "bexi.service" in line], [])
