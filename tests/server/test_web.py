"""The web server, run for real: whoever sends slowly keeps nobody else waiting."""

import socket
import threading
import time
from contextlib import ExitStack, contextmanager
from unittest import TestCase, mock

import httpx
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.test import override_settings

from bexi.server import web
from bexi.server.proxies import TrustedProxies, was_forwarded
from tests.ports import free_port_range

HALF_HEADER = b"GET /api/sites HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Half:"
HALF_BODY = b"POST /api/sites HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 1000\r\n\r\n{"
SLOW = 24


def application(environ, start_response):
    """Tells how much of a body came, after a moment of work."""
    time.sleep(0.01)
    body = environ["wsgi.input"].read()
    start_response("200 OK", [("Content-Type", "text/plain")])
    return [f"{environ.get('CONTENT_LENGTH', '')} {len(body)}".encode()]


@contextmanager
def serving():
    """A server on a free port, in a thread."""
    port = free_port_range(1)
    server = web.make_server(application, "127.0.0.1", port)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    try:
        yield server, port
    finally:
        server.asyncore.close_all(server._map)
        server.task_dispatcher.shutdown()
        thread.join(5)


def sent(port: int, data: bytes) -> socket.socket:
    connection = socket.create_connection(("127.0.0.1", port))
    connection.sendall(data)
    return connection


class SlowClientsTests(TestCase):
    def test_half_sent_headers_and_bodies_keep_nobody_waiting(self):
        with serving() as (_, port), ExitStack() as slow, httpx.Client(trust_env=False) as client:
            for number in range(SLOW):
                slow.enter_context(sent(port, HALF_HEADER if number % 2 else HALF_BODY))
            begun = time.monotonic()
            answers = [client.get(f"http://127.0.0.1:{port}/") for _ in range(20)]
            self.assertEqual({answer.status_code for answer in answers}, {200})
            self.assertLess(time.monotonic() - begun, 5)

    def test_a_request_that_does_not_come_to_its_end_is_ended(self):
        with mock.patch.object(web, "_FIRST_SECONDS", 1.0), serving() as (_, port):
            for data in (b"", HALF_HEADER, HALF_BODY):
                with sent(port, data) as connection:
                    connection.settimeout(6)
                    begun = time.monotonic()
                    while time.monotonic() - begun < 6:  # it goes on dripping
                        try:
                            connection.sendall(b"x")
                            connection.settimeout(0.3)
                            if connection.recv(1000) == b"":
                                break
                        except TimeoutError:
                            continue
                        except OSError:
                            break
                    self.assertLess(time.monotonic() - begun, 5, data)

    def test_who_sends_much_may_take_longer(self):
        with serving() as (server, port), sent(port, HALF_BODY) as connection:
            connection.sendall(b"x" * 500)
            time.sleep(0.3)
            (channel,) = server.active_channels.values()
            since = channel.coming_since
            self.assertFalse(channel.is_too_slow(since + 30))
            self.assertTrue(channel.is_too_slow(since + 31))
            channel.request.body_bytes_received = 10 * 16 * 1024
            self.assertFalse(channel.is_too_slow(since + 39))

    def test_so_many_connections_from_one_address(self):
        with mock.patch.object(web, "MOST_FROM_ONE_ADDRESS", 5), serving() as (server, port), ExitStack() as many:
            for _ in range(12):
                many.enter_context(sent(port, HALF_HEADER))
            time.sleep(1)
            self.assertLessEqual(server.connections_from("127.0.0.1"), 5)

    def test_a_body_that_is_too_large_is_handed_on_unread(self):
        with override_settings(BODY_LIMIT=1000, SITE_ARCHIVE_LIMIT=5000), serving() as (_, port):
            with httpx.Client(trust_env=False) as client:
                told = client.post(f"http://127.0.0.1:{port}/api/artwork", content=b"x" * 900)
                self.assertEqual(told.text, "900 900")
                told = client.post(f"http://127.0.0.1:{port}/api/sites/1/site-zip", content=b"x" * 4000)
                self.assertEqual(told.text, "4000 4000")
            with sent(port, HALF_BODY.replace(b"1000", b"999999999")) as connection:
                connection.settimeout(5)
                self.assertIn(b"999999999 0", b"".join(iter(lambda: connection.recv(5000), b"")))


class ProxyTests(TestCase):
    """What a proxy says counts only from those that are named as ours."""

    def asked(self, address: str, **said: str) -> HttpRequest:
        request = HttpRequest()
        request.META = {"REMOTE_ADDR": address, **said}
        TrustedProxies(lambda request: HttpResponse())(request)
        return request

    def test_what_others_say_is_taken_out_and_noted(self):
        names = ("HTTP_X_FORWARDED_FOR", "HTTP_FORWARDED", "HTTP_X_REAL_IP", "HTTP_VIA", "HTTP_TRUE_CLIENT_IP")
        for name in names:
            request = self.asked("10.0.0.9", **{name: "1.2.3.4"})
            self.assertEqual((name in request.META, was_forwarded(request)), (False, True))
        self.assertFalse(was_forwarded(self.asked("10.0.0.9")))

    def test_what_ours_say_is_kept(self):
        from ipaddress import ip_network

        with override_settings(PROXIES=[ip_network("10.0.0.0/24")]):
            request = self.asked("10.0.0.9", HTTP_X_FORWARDED_FOR="1.2.3.4")
            self.assertEqual(request.META["HTTP_X_FORWARDED_FOR"], "1.2.3.4")
            self.assertNotIn("HTTP_X_FORWARDED_FOR", self.asked("10.0.1.9", HTTP_X_FORWARDED_FOR="1.2.3.4").META)
        self.assertEqual(settings.PROXIES, [])
