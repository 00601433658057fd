"""The lines for web servers, on the servers themselves: Apache httpd 2.4, nginx and Caddy 2 as Debian has them."""

import os
import tempfile
from pathlib import Path
from unittest import TestCase, skipUnless

import httpx

from bexi.core.livesite.server_lines import RULES_FILE, lines_for_servers, with_rules
from tests.pictures import plain_png
from tests.servers.web import apache, caddy, nginx

NAMES = ["favicon.ico", "icon-16.png", "icon.svg", "site.webmanifest"]
TYPES = {
    "favicon.ico": "image/vnd.microsoft.icon",
    "icon-16.png": "image/png",
    "icon.svg": "image/svg+xml",
    "site.webmanifest": "application/manifest+json",
}


@skipUnless(os.environ.get("BEXI_SERVERS"), "run by make servers")
class WebServerTests(TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.folder.chmod(0o755)
        self.served = self.folder / "served"
        self.served.mkdir()
        for name in (*NAMES, "photo.png"):
            (self.served / name).write_bytes(plain_png())

    def lines(self, program: str, stamped: bool) -> str:
        made = lines_for_servers(NAMES, stamped)
        return "\n".join(next(one.lines for one in made if one.program == program))

    def check(self, address: str, stamped: bool) -> None:
        with httpx.Client(trust_env=False) as client:
            for name in NAMES:
                plain, marked = client.get(address + name), client.get(f"{address}{name}?v=12345678")
                self.assertEqual(plain.status_code, 200, plain.text)
                self.assertEqual(plain.headers["content-type"], TYPES[name])
                self.assertEqual(plain.headers["cache-control"], "max-age=86400")
                for_ever = "max-age=31536000, immutable"
                self.assertEqual(marked.headers["cache-control"], for_ever if stamped else "max-age=86400")
            self.assertNotIn("cache-control", client.get(f"{address}photo.png").headers)

    def test_apache_by_its_rules_file(self):
        rules = b"# the site's own\r\nAddType text/x-tide .tide\r\n"
        for stamped in (False, True):
            (self.served / RULES_FILE).write_bytes(with_rules(rules, NAMES, stamped))
            with apache(self.folder, self.served) as address:
                self.check(address, stamped)

    def test_nginx(self):
        for stamped in (False, True):
            with nginx(self.folder, self.served, self.lines("nginx", stamped)) as address:
                self.check(address, stamped)

    def test_caddy(self):
        for stamped in (False, True):
            with caddy(self.folder, self.served, self.lines("Caddy", stamped)) as address:
                self.check(address, stamped)
