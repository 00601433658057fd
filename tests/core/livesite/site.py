"""An invented site for tests: answers from a dictionary of paths, and keeps what was asked."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from bexi.core.livesite.icon_file import look_at
from bexi.core.livesite.inspect import Once
from bexi.core.livesite.page import Page, read_page
from bexi.core.livesite.served import Served
from bexi.core.livesite.visitor import Reading

HOME = "http://merrowmouth.example/"
READING = Reading(read_page, look_at)
TYPES = {
    "html": "text/html; charset=utf-8",
    "": "text/html",
    "png": "image/png",
    "svg": "image/svg+xml",
    "ico": "image/x-icon",
    "webmanifest": "application/manifest+json",
    "xml": "application/xml",
    "pdf": "application/pdf",
}


@dataclass
class FakeSite:
    """Anything not in `files` is a 404; `headers` are sent with a path, `moved` leads from one path to another.

    As a server of files it looks at no query, unless there is a file under that very address.
    """

    files: Mapping[str, bytes]
    headers: Mapping[str, Mapping[str, str]] = field(default_factory=dict)
    moved: Mapping[str, str] = field(default_factory=dict)
    asked: list[str] = field(default_factory=list)
    at: float = 0.0

    def __call__(self, url: str) -> Served:
        path = url.removeprefix(HOME)
        self.asked.append(path)
        at, address = self.moved.get(path, path), ()
        if at != path:
            address = (HOME + at,)
        if at not in self.files:
            at = at.partition("?")[0]
        if at not in self.files:
            return Served(url, 404, {"content-type": "text/html"}, moved=address, at=self.at)
        ending = at.partition("?")[0].rpartition(".")[2] if "." in at else ""
        headers = {"content-type": TYPES.get(ending, "text/plain"), **self.headers.get(at, {})}
        return Served(url, 200, headers, self.files[at], moved=address, at=self.at)

    def once(self) -> Once:
        """The site as an inspection asks it."""
        return Once(self, READING)


def page(head: str = "", body: str = "", address: str = HOME) -> Page:
    """A page as a browser reads it."""
    return read_page(Served(address, 200, {"content-type": "text/html"}, html(head, body)))


def html(head: str = "", body: str = "") -> bytes:
    """The bytes of a page."""
    return f"<!doctype html><html><head><title>Sailings</title>{head}</head><body>{body}</body></html>".encode()
