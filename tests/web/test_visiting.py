import gzip
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from unittest import TestCase

import httpx

from bexi.core.errors import HostRefused
from bexi.core.livesite.served import Served
from bexi.web.telling import post
from bexi.web.visiting import LARGEST_ANSWER, REDIRECTS, fetch, visiting

SITE = "http://merrowmouth.example"


def answered(status: int, content: bytes = b"", **headers: str) -> httpx.Response:
    """An answer as it comes over the line, not decoded."""
    named = {name.replace("_", "-"): value for name, value in headers.items()}
    return httpx.Response(status, headers=named, stream=httpx.ByteStream(content))


class FetchingTests(TestCase):
    """Through httpx's own mock transport: no connection is opened."""

    def fetch(self, answers: dict[str, httpx.Response], path: str = "/") -> Served:
        self.asked: list[str] = []

        def answer(request: httpx.Request) -> httpx.Response:
            self.asked.append(str(request.url))
            self.assertEqual(request.headers["Accept-Encoding"], "identity")
            return answers[request.url.path]

        with httpx.Client(transport=httpx.MockTransport(answer)) as client:
            return fetch(client, SITE + path)

    def test_an_answer_is_told_as_it_came(self):
        served = self.fetch({"/": answered(404, b"gone", Content_Type="text/html")})
        self.assertEqual((served.status, served.content_type, served.body), (404, "text/html", b"gone"))

    def test_redirects_are_followed_and_the_way_is_told(self):
        away = "https://www.merrowmouth.example/home"
        answers = {"/": answered(301, Location=away), "/home": answered(200, b"home", ETag='"a"')}
        served = self.fetch(answers)
        self.assertEqual((served.body, served.moved, served.address), (b"home", (away,), away))
        self.assertEqual((served.url, served.headers["etag"]), (f"{SITE}/", '"a"'))
        self.assertGreater(served.at, 1_700_000_000)

    def test_a_circle_ends(self):
        self.assertIn("circle", self.fetch({"/": answered(302, Location="/")}).error)
        self.assertEqual(len(self.asked), REDIRECTS + 1)

    def test_endless_answers_are_cut(self):
        served = self.fetch({"/": answered(200, b"x" * (LARGEST_ANSWER + 1))})
        self.assertEqual((served.status, served.body), (0, b""))

    def test_packed_answers_are_unpacked_within_the_limit(self):
        for packed, encoding, told in (
            (gzip.compress(b"page"), "gzip", b"page"),
            (gzip.compress(b"x" * 50_000_000), "gzip", b""),
            (b"nonsense", "gzip", b""),
            (b"page", "br", b""),
        ):
            self.assertEqual(self.fetch({"/": answered(200, packed, Content_Encoding=encoding)}).body, told)

    def test_no_answer_is_told(self):
        def refuse(request: httpx.Request) -> httpx.Response:
            raise httpx.ConnectError("refused")

        with httpx.Client(transport=httpx.MockTransport(refuse)) as client:
            self.assertIn("closed the connection", fetch(client, SITE).error)

    def test_what_is_no_address_is_told(self):
        for url in (
            *(
                "file:///etc/hostname",
                "http://[::1",
                "http://a:99999/",
                "http://a:b/",
                "http://",
                "",
                "//a",
                "http://\0/",
            ),
            *(f"http://a/{'x' * 70_000}", f"http://{'x' * 300}/", "http://a\r\nHost: b/", "http://\ud800/"),
        ):
            with httpx.Client(transport=httpx.MockTransport(lambda request: answered(200))) as client:
                served = fetch(client, url)
            self.assertTrue(served.status == 200 or served.error, url)
            with visiting(1, url, lambda host, port: []) as ask:
                self.assertTrue(ask(url).error, url)

    def test_redirects_to_what_is_no_address_are_told(self):
        for location in ("http://[", "http://a:99999/", f"/{'x' * 70_000}", "\x7f", "http://" + "a" * 300):
            self.assertTrue(self.fetch({"/": answered(302, Location=location)}).error, location)


@contextmanager
def speaking(*answers: list[bytes], pause: float = 0) -> Iterator[str]:
    """A server on this machine that says these pieces to one visitor after the other; gives its address."""
    with socket.create_server(("127.0.0.1", 0)) as listener:

        def serve() -> None:
            for pieces in answers:
                connection, _ = listener.accept()
                with connection:
                    connection.recv(10_000)
                    for piece in pieces:
                        time.sleep(pause)
                        try:
                            connection.sendall(piece)
                        except OSError:
                            break

        thread = threading.Thread(target=serve, daemon=True)
        thread.start()
        yield f"http://ferry.example:{listener.getsockname()[1]}/"


def here(host: str, port: int) -> list[str]:
    return ["127.0.0.1"]


WELL = b"HTTP/1.1 200 OK\r\nContent-Length: 4\r\nConnection: close\r\n\r\npage"


class VisitingTests(TestCase):
    def test_an_answer_over_a_real_connection(self):
        with speaking([WELL]) as address, visiting(10, address, here) as ask:
            self.assertEqual(ask(address).body, b"page")

    def test_a_server_that_drips_is_left_at_the_deadline(self):
        for answer in (WELL, WELL[:60] + b"\r\nX: " + b"y" * 500):
            with (
                speaking([bytes([byte]) for byte in answer], pause=0.1) as address,
                visiting(0.5, address, here) as ask,
            ):
                start = time.monotonic()
                self.assertIn("too long", ask(address).error)
                self.assertTrue(ask(address).late)  # and the next one is not begun
                self.assertLess(time.monotonic() - start, 3)

    def test_a_name_that_turns_to_a_machine_nearby_is_not_followed(self):
        leads = iter((["127.0.0.1"], ["169.254.169.254"]))
        away = b"HTTP/1.1 302 Found\r\nLocation: /latest\r\nContent-Length: 0\r\nConnection: close\r\n\r\n"
        with speaking([away]) as address, visiting(10, address, lambda host, port: next(leads)) as ask:
            self.assertIn("169.254.169.254", ask(address).error)

    def test_only_the_host_that_was_named_may_be_on_a_private_network(self):
        with speaking([WELL]) as inside:
            port = inside.rpartition(":")[2]
            away = f"HTTP/1.1 302 Found\r\nLocation: http://other.example:{port}\r\nContent-Length: 0\r\n\r\n".encode()
            with speaking([away]) as address, visiting(10, address, here) as ask:
                self.assertIn("private network", ask(address).error)
                self.assertIn("private network", ask(inside).error)
            with visiting(10, inside, here) as ask:
                self.assertEqual(ask(inside).body, b"page")

    def test_https_of_the_same_host_is_named_with_it(self):
        asked: list[tuple[str, int]] = []

        def nowhere(host: str, port: int) -> list[str]:
            asked.append((host, port))
            return ["10.0.0.1"]

        with visiting(0.2, "http://ferry.example/", nowhere) as ask:
            self.assertIn("private network", ask("http://ferry.example:8080/").error)
            self.assertIn("private network", ask("http://else.example/").error)
        self.assertEqual([port for _, port in asked], [8080, 80])


class TellingTests(TestCase):
    def test_it_is_told_once_and_a_refusal_raises(self):
        taken = b"HTTP/1.1 204 No Content\r\nConnection: close\r\n\r\n"
        with speaking([taken]) as address:
            post(address, b"{}", here)
        refused = b"HTTP/1.1 500 No\r\nContent-Length: 0\r\nConnection: close\r\n\r\n"
        with speaking([refused]) as address, self.assertRaisesRegex(OSError, "500"):
            post(address, b"{}", here)

    def test_it_goes_nowhere_that_serves_only_this_machine(self):
        with self.assertRaises(HostRefused):
            post("http://metadata.example/", b"{}", lambda host, port: ["169.254.169.254"])
