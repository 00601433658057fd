"""Serves generated pages to browsers as their proxy, so that nothing they ask for leaves this machine."""

import threading
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from urllib.parse import urlsplit

from tests.browsers.heads import Page

_ICON_PATHS = ("/favicon.ico",)


class Served:
    """The pages by host, and what was asked for on each, in order."""

    def __init__(self, pages: Sequence[Page]) -> None:
        self.pages = {page.host: page for page in pages}
        self.asked: dict[str, list[str]] = {page.host: [] for page in pages}
        self.lock = threading.Lock()
        self.port = 0


@contextmanager
def serving(pages: Sequence[Page]) -> Iterator[Served]:
    """A proxy on the loopback address that knows these pages and nothing else."""
    served = Served(pages)
    with ThreadingHTTPServer(("127.0.0.1", 0), type("Handler", (_Handler,), {"served": served})) as server:
        served.port = server.server_port
        threading.Thread(target=server.serve_forever, daemon=True).start()
        yield served
        server.shutdown()


class _Handler(BaseHTTPRequestHandler):
    served: Served
    protocol_version = "HTTP/1.1"

    def do_CONNECT(self) -> None:
        self.send_error(403)

    def do_GET(self) -> None:
        parts = urlsplit(self.path)
        page = self.served.pages.get(parts.hostname or "")
        if page is None:
            self._answer(403, b"", "text/plain")
            return
        if parts.path == "/":
            self._answer(200, page.html.encode(), "text/html; charset=utf-8")
            return
        with self.served.lock:
            self.served.asked[page.host].append(parts.path)
        moved = parts.path.startswith("/moved")
        path = parts.path.removeprefix("/moved")
        file = page.files.get(path)
        if file is None or file.fate == "missing":
            self._answer(404, b"<!doctype html><title>Not found</title>", "text/html")
        elif file.fate == "moved" and not moved:
            self.send_response(302)
            self.send_header("Location", f"http://{page.host}/moved{path}")
            self.send_header("Content-Length", "0")
            self.end_headers()
        else:
            self._answer(200, file.bytes(page.number), file.media_type)

    def _answer(self, status: int, body: bytes, media_type: str) -> None:
        self.send_response(status)
        self.send_header("Content-Type", media_type)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, format: str, *args: object) -> None:
        """Keep the console quiet."""
