import http.client
import tempfile
from pathlib import Path
from unittest import TestCase

from bexi.standin.host import LOOPBACK, PORTS, running
from bexi.standin.sites import reset
from tests.ports import free_port_range


class StandInTestCase(TestCase):
    """A running host with its sites in their first state."""

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.served = Path(folder.name)
        reset(self.served)
        self.port = free_port_range(PORTS)
        context = running(self.served, self.port)
        self.log = context.__enter__()
        self.addCleanup(context.__exit__, None, None, None)

    def ask(
        self, port_offset: int, path: str, method: str = "GET", headers: dict[str, str] | None = None, body: str = ""
    ):
        connection = http.client.HTTPConnection(LOOPBACK, self.port + port_offset, timeout=5)
        self.addCleanup(connection.close)
        connection.request(method, path, body or None, headers or {})
        response = connection.getresponse()
        return response, response.read()


class StandInTests(StandInTestCase):
    def test_serves_files_with_types_and_caching(self):
        # Usual types of common servers; RFC 9110 validators; RFC 9111 max-age.
        response, body = self.ask(3, "/favicon.ico")
        self.assertEqual((response.status, response.headers["Content-Type"]), (200, "image/x-icon"))
        self.assertEqual(response.headers["Cache-Control"], "max-age=31536000")
        self.assertEqual(body[:3], b"\xff\xd8\xff")  # the renamed JPEG
        again, body = self.ask(3, "/favicon.ico", headers={"If-None-Match": response.headers["ETag"]})
        self.assertEqual((again.status, body), (304, b""))

    def test_pages_are_put_together_from_shared_parts(self):
        _, body = self.ask(2, "/swap.html")
        self.assertIn(b"<title>Crew rota</title>", body)
        self.assertNotIn(b"#include", body)

    def test_nothing_outside_a_site_is_served(self):
        (self.served / "merrowmouth/out.html").symlink_to("/etc/hostname")
        for path in ("/../crew/rota.css", "/%2e%2e/crew/rota.css", "//etc/hostname", "/out.html", "/nowhere", "/a%00b"):
            self.assertEqual(self.ask(1, path)[0].status, 404, path)

    def test_log_tells_what_was_asked_for(self):
        self.ask(1, "/ferry.css")
        self.ask(1, "/missing.png")
        told = [(request["site"], request["path"], request["status"]) for request in self.log.as_json()]
        self.assertEqual(told, [("merrowmouth", "/ferry.css", 200), ("merrowmouth", "/missing.png", 404)])
        self.assertIn(b"/missing.png", self.ask(0, "/")[1])

    def test_the_button_resets_the_sites(self):
        page = self.served / "merrowmouth/index.html"
        first = page.read_bytes()
        page.write_bytes(b"spoiled")
        (self.served / "merrowmouth/new.txt").write_bytes(b"x")
        elsewhere, _ = self.ask(0, "/reset", "POST", {"Origin": "http://else.example"})
        self.assertEqual((elsewhere.status, page.read_bytes()), (403, b"spoiled"))
        self.assertEqual(self.ask(0, "/reset", "POST")[0].status, 303)
        self.assertEqual(page.read_bytes(), first)
        self.assertFalse((self.served / "merrowmouth/new.txt").exists())
