"""Walking through the pages of a site as a visitor would, and by its site map."""

import posixpath
import re
from collections import deque
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from urllib.parse import urljoin, urlsplit
from xml.etree.ElementTree import ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from bexi.core.livesite.page import Page
from bexi.core.livesite.served import Fetch, Served, joined, same_host

MOST_MAPS = 5
"""Site maps read (sitemaps.org protocol: an index names further ones)."""
_NO_PAGE = re.compile(
    r"\.(?:7z|apk|atom|avif?|bmp|css|csv|dmg|docx?|exe|gif|gz|ico|ics|iso|jpe?g|m?js|json|mov|mp[34]|od[pst]|ogg|pdf|png"
    r"|pptx?|rar|rss|svg|tar|tiff?|ttf|txt|wav|web[mp]|woff2?|xlsx?|xml|zip)",
    re.IGNORECASE,
)
"""Endings of files that a link leads to and that are no pages [common practice]."""


@dataclass(frozen=True)
class Visited:
    """A page that was asked for: the answer, and the page, None when it did not come as one."""

    served: Served
    page: Page | None


@dataclass
class Walk:
    """The pages of a site, nearest first, each once: those linked, those named besides, those of the site map.

    `left` are the addresses of pages that were known of and not asked for, when the walk is over.
    """

    address: str
    fetch: Fetch
    read: Callable[[Served], Page]
    most: int
    also: Iterable[str] = ()
    left: set[str] = field(default_factory=set)

    def __iter__(self) -> Iterator[Visited]:
        """At most `most` pages, the home page first."""
        home = self._visited(self.fetch(self.address))
        yield home
        if home.page is None:
            return
        seen = {self.address, home.page.address}
        waiting = deque([*home.page.links, *self.also])
        count = 1
        mapped = False
        while waiting or not mapped:
            if not waiting:
                waiting.extend(self._of_maps(home.page.address))
                mapped = True
                continue
            url = waiting.popleft()
            if url in seen or not self._may_be_page(url, home.page.address):
                continue
            seen.add(url)
            if count >= self.most:
                self.left.add(url)
                continue
            served = self.fetch(url)
            if served.late:
                self.left.add(url)
                continue
            visited = self._visited(served)
            if visited.page is None and visited.served.status == 200:
                continue  # something else than a page
            if visited.page:
                if visited.page.address != url and visited.page.address in seen:
                    continue
                seen.add(visited.page.address)
                waiting.extend(visited.page.links)
            count += 1
            yield visited

    def _visited(self, served: Served) -> Visited:
        return Visited(served, self.read(served) if served.is_page else None)

    def _may_be_page(self, url: str, home: str) -> bool:
        is_file = _NO_PAGE.fullmatch(posixpath.splitext(urlsplit(url).path)[1])
        return not is_file and (same_host(url, home) or same_host(url, self.address))

    def _of_maps(self, home: str) -> list[str]:
        """The pages that the site's maps name."""
        maps, found = deque([urljoin(home, "/sitemap.xml")]), list[str]()
        for _ in range(MOST_MAPS):
            if not maps:
                break
            served = self.fetch(maps.popleft())
            if served.status != 200:
                continue
            for kind, url in _named_in(served.body):
                (maps if kind == "sitemap" else found).append(url)
        return found


def _named_in(body: bytes) -> Iterator[tuple[str, str]]:
    """What a site map names (sitemaps.org protocol): "sitemap" or "url", and its address."""
    try:
        root = fromstring(body, forbid_dtd=True)
    except (ParseError, DefusedXmlException, ValueError):
        return
    for entry in root:
        for one in entry:
            if one.tag.rpartition("}")[2] == "loc" and (url := joined("http://none.invalid/", one.text or "")):
                yield entry.tag.rpartition("}")[2], url
