"""Walking through the pages of a site as a visitor would."""

from collections import deque
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from urllib.parse import urldefrag, urljoin, urlsplit

from bexi.core.errors import HeadRefused
from bexi.core.sitehead.scan import as_text, attribute_values


@dataclass(frozen=True)
class Served:
    """What a site answered. `error` is a sentence when it did not answer at all; `status` is 0 then."""

    url: str
    status: int
    content_type: str = ""
    body: bytes = b""
    error: str = ""


LONGEST_REFERENCE = 8000
"""In characters; browsers and servers take no longer addresses [common practice]."""

Fetch = Callable[[str], Served]
"""Gets an absolute address and tells what was answered."""


def pages_from(home: Served, fetch: Fetch, most: int) -> Iterator[Served]:
    """The home page and at most `most` reached from it by links on the same host, nearest first."""
    waiting, seen = deque([home]), {urldefrag(home.url).url}
    while waiting:
        page = waiting.popleft()
        yield page
        for url in _linked(page):
            if url not in seen and len(seen) < most:
                seen.add(url)
                linked = fetch(url)
                if linked.content_type.startswith("text/html") or linked.status != 200:
                    waiting.append(linked)


def _linked(page: Served) -> Iterator[str]:
    if page.status != 200:
        return
    try:
        links = attribute_values(as_text(page.body), "a", "href")
    except HeadRefused:
        return
    for link in links:
        if (url := joined(page.url, link)) and same_host(url, page.url):
            yield url


def joined(page: str, reference: str) -> str:
    """Where a reference on a page leads, without its fragment; empty when that is no address to be fetched."""
    if len(reference) > LONGEST_REFERENCE:
        return ""
    try:
        url = urldefrag(urljoin(page, reference.strip())).url
        parts = urlsplit(url)
        is_plain = parts.scheme in ("http", "https") and bool(parts.hostname) and (parts.port or 1) > 0
        is_plain = is_plain and " " not in parts.netloc
    except ValueError:  # a malformed one leads nowhere
        return ""
    return url if is_plain and url.isprintable() else ""


def same_host(one: str, other: str) -> bool:
    """Whether two addresses are of one host and port."""
    try:
        return urlsplit(one).netloc.lower() == urlsplit(other).netloc.lower()
    except ValueError:
        return False
