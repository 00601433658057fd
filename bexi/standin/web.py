"""Serving one site's folder over HTTP as a common rented host does."""

import email.utils
import hashlib
import re
import time
from http import HTTPStatus
from http.server import BaseHTTPRequestHandler
from pathlib import Path
from urllib.parse import unquote, urlsplit

from bexi.standin.mischief import Mischief
from bexi.standin.requests_log import Request, RequestLog
from bexi.standin.sites import YEAR, DemoSite

# What common servers send by a file's ending; image/x-icon is theirs, not IANA's [common practice].
_TYPES = {
    ".html": "text/html",
    ".css": "text/css",
    ".png": "image/png",
    ".svg": "image/svg+xml",
    ".jpg": "image/jpeg",
    ".gif": "image/gif",
    ".ico": "image/x-icon",
    ".webmanifest": "application/manifest+json",
    ".json": "application/json",
    ".txt": "text/plain",
}
_PAGE = ".html"
_SENT_ON = "sent-on"
# Server-side includes, as Apache's mod_include reads them.
_INCLUDE = re.compile(rb'<!--#include virtual="([^"]+)" -->')


class SiteHandler(BaseHTTPRequestHandler):
    """Answers GET and HEAD from `root`; subclasses set the four attributes."""

    site: DemoSite
    root: Path
    log: RequestLog
    mischief: Mischief
    protocol_version = "HTTP/1.1"
    server_version = "StandIn/1"
    sys_version = ""

    def do_GET(self) -> None:
        """Answer with a file, 304 when the visitor has it, or 404."""
        time.sleep(self.mischief.slow_web / 1000)
        to = self._sent_on()
        if to:
            self._send(HTTPStatus.FOUND, b"", "text/html", {"Location": to})
            return
        file = self._file()
        if file is None:
            self._send(HTTPStatus.NOT_FOUND, b"<!doctype html><title>Not found</title><p>Not found", "text/html", {})
            return
        data = self._page(file) if file.suffix == _PAGE else file.read_bytes()
        etag = f'"{hashlib.sha256(data).hexdigest()[:16]}"'
        seconds = YEAR if self.mischief.cache_year else self.site.cache_seconds
        headers = {
            "ETag": etag,
            "Last-Modified": email.utils.formatdate(file.stat().st_mtime, usegmt=True),
            "Cache-Control": "no-cache" if file.suffix == _PAGE else f"max-age={seconds}",
        }
        content_type = self._type(file.suffix.lower())
        if self.headers.get("If-None-Match") == etag:
            self._send(HTTPStatus.NOT_MODIFIED, b"", content_type, headers)
        else:
            self._send(HTTPStatus.OK, data, content_type, headers)

    def _sent_on(self) -> str:
        """Where a visitor is sent on to, empty for nowhere."""
        path, _, query = self.path.partition("?")
        if self.mischief.send_on and _SENT_ON not in query:
            return f"{path}?{query}&{_SENT_ON}" if query else f"{path}?{_SENT_ON}"
        return self.site.moved.get(path, "")

    def _type(self, ending: str) -> str:
        if self.mischief.wrong_type and ending not in (_PAGE, ".css"):
            return "text/plain"
        return self.site.types.get(ending) or _TYPES.get(ending, "application/octet-stream")

    do_HEAD = do_GET  # noqa: N815

    def log_message(self, format: str, *args: object) -> None:
        """Keep the console quiet: requests are in the log."""

    def _file(self) -> Path | None:
        path = unquote(urlsplit(self.path).path)
        if "\0" in path:
            return None
        is_icon = self.mischief.page_for_icon and path == "/favicon.ico"
        return self._inside("" if is_icon else path) or (self._inside("") if self.site.answers_all else None)

    def _inside(self, path: str) -> Path | None:
        """The file at a path of the site, if there is one."""
        file = (self.root / path.lstrip("/")).resolve()
        if file.is_dir():
            file /= "index.html"
        return file if file.is_file() and file.is_relative_to(self.root.resolve()) else None

    def _page(self, file: Path) -> bytes:
        def included(match: re.Match[bytes]) -> bytes:
            part = (self.root / match[1].decode("latin-1").lstrip("/")).resolve()
            return part.read_bytes() if part.is_file() and part.is_relative_to(self.root.resolve()) else b""

        return _INCLUDE.sub(included, file.read_bytes())

    def _send(self, status: HTTPStatus, body: bytes, content_type: str, headers: dict[str, str]) -> None:
        now = email.utils.formatdate(usegmt=True)
        self.log.add(Request(now, self.site.folder, self.path, status.value, content_type, len(body)))
        self.send_response(status)
        self.send_header("Content-Type", content_type)
        for name, value in headers.items():
            self.send_header(name, value)
        if status is not HTTPStatus.NOT_MODIFIED:
            self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        if self.command != "HEAD":
            self.wfile.write(body)
