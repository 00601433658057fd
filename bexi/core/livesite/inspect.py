"""Looking at what a site serves: its pages, the icons behind them, and what each kind of visitor takes."""

import hashlib
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from urllib.parse import urljoin

from bexi.core.livesite.findings import Finding, SeenFile, SeenPage, found_on, unreachable
from bexi.core.livesite.freshness import freshness
from bexi.core.livesite.launchers import manifest_members
from bexi.core.livesite.page import Page
from bexi.core.livesite.served import Fetch, Served
from bexi.core.livesite.taking import Got
from bexi.core.livesite.visitor import Reading, takers
from bexi.core.livesite.walk import Walk
from bexi.core.sitehead.link import HOME_SCREEN, TILE_SETTINGS

MOST_PAGES = 40
MOST_FILES = 150
_LOOKED_AT = ("icon", *HOME_SCREEN, "mask-icon", "manifest", TILE_SETTINGS)

Progress = Callable[[int, int], None]
"""Told how many of how many things are looked at; it may raise to stop."""


@dataclass(frozen=True)
class Report:
    """What was seen of a site. `left` are pages that were known of and not looked at, `files_left` so many files.

    `address` is the one its home page really has.
    """

    address: str
    pages: tuple[SeenPage, ...]
    files: tuple[SeenFile, ...]
    findings: tuple[Finding, ...]
    left: tuple[str, ...] = ()
    files_left: int = 0

    @property
    def wrong(self) -> int:
        """How many findings are more than advice."""
        return sum(finding.wrong for finding in self.findings)


@dataclass
class Once:
    """Gets each address once, and looks into each answer once."""

    fetch: Fetch
    reading: Reading
    answers: dict[str, Served] = field(default_factory=dict)
    looked: dict[str, Got] = field(default_factory=dict)

    def get(self, url: str) -> Served:
        """What is served there."""
        if url not in self.answers:
            self.answers[url] = self.fetch(url)
        return self.answers[url]

    def look(self, url: str) -> Got:
        """The same, looked into as an icon."""
        if url not in self.looked:
            served = self.get(url)
            self.looked[url] = Got(served, self.reading.icon(served.body) if served.status == 200 else None)
        return self.looked[url]


def inspect(
    address: str,
    once: Once,
    installed: Mapping[str, bytes],
    edited: Sequence[str] = (),
    most: int = MOST_PAGES,
    told: Progress = lambda done, total: None,
) -> Report:
    """Everything found at a site's address: its home page, and at most `most` pages in all.

    `installed` are the files that should be served and `edited` the pages that were, both by path from the top.
    """
    walk = Walk(address, once.get, once.reading.page, most, tuple(urljoin(address, path) for path in edited))
    pages: list[SeenPage] = []
    for visited in walk:
        if not pages and (visited.page is None or visited.page.trouble):
            return Report(address, (), (), (unreachable(visited.served, visited.page),))
        pages.append(_seen(visited.served, visited.page, once))
        told(len(pages), most)
    should = {urljoin(address, path): data for path, data in installed.items()}
    declared = list(dict.fromkeys(_files(pages, once)))
    stamped = {_unstamped(url) for url in declared} - set(declared)
    addresses = list(dict.fromkeys((*(url for url in should if url not in stamped), *declared)))
    looked_at = [url for url in addresses[:MOST_FILES] if not once.look(url).served.late]
    files = {url: _file(url, once, should.get(_unstamped(url))) for url in looked_at}
    findings = found_on(pages, files, once.look, bool(installed))
    told(most, most)
    left = tuple(sorted(walk.left))
    files_left = len(addresses) - len(files)
    return Report(pages[0].address, tuple(pages), tuple(files.values()), tuple(findings), left, files_left)


def _seen(served: Served, page: Page | None, once: Once) -> SeenPage:
    if page is None or page.trouble:
        return SeenPage(served.url, page.trouble if page else served.told)
    return SeenPage(page.address, "", page, {taken.by: taken for taken in takers(page, once.look)})


def _files(pages: Sequence[SeenPage], once: Once) -> Iterator[str]:
    """The address of every file that pages declare, that somebody asks for by name, or that a manifest names."""
    for seen in pages:
        if seen.page:
            yield from (one.address for one in seen.page.of_kind(*_LOOKED_AT))
            yield from (url for taken in (seen.taken or {}).values() for url in taken.asked)
            yield from (member.address for member in manifest_members(seen.page, once.look))
    if pages:
        yield urljoin(pages[0].address, "/favicon.ico")


def _unstamped(url: str) -> str:
    """The address without its query: a mark of the content, or whatever else a server of files does not look at."""
    return url.partition("?")[0]


def _file(url: str, once: Once, should: bytes | None) -> SeenFile:
    got = once.look(url)
    fresh = freshness(got.served.status, got.served.headers, got.served.at)
    return SeenFile(got, fresh, None if should is None else got.served.status == 200 and got.served.body == should)


def sha256(body: bytes) -> str:
    """The name under which bytes are kept, hexadecimal."""
    return hashlib.sha256(body).hexdigest()
