"""Who sees what, by when they came: a site as it was at any moment, and visitors who return to it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from urllib.parse import unquote, urljoin, urlsplit

from bexi.core.livesite.freshness import changed_at, freshness
from bexi.core.livesite.served import Fetch, Served
from bexi.core.livesite.visitor import ICON_STORE_SECONDS, IN_BROWSER, Reading, Shown, Visitor

HOUR, DAY, WEEK = 3600.0, 86400.0, 604800.0
AGO: Mapping[str, float | None] = {"first-visit": None, "hour": HOUR, "day": DAY, "week": WEEK}
"""How long ago a visitor came for the first time; None has never come."""
_INDEX = "index.html"
_MISSING = 404


@dataclass(frozen=True)
class SiteChange:
    """The files of the site changed at this moment, in seconds since 1970.

    `before` are their bytes until then by path from the top folder, None for one that was not there.
    """

    at: float
    before: Mapping[str, bytes | None]


@dataclass(frozen=True)
class Past:
    """A site through time: what it serves now, and what was changed, the latest change first.

    `fetch` gets what is served now, each address once.
    """

    address: str
    fetch: Fetch
    changes: Sequence[SiteChange] = ()

    def at(self, moment: float) -> Fetch:
        """What gets addresses as the site served them at a moment; what is not known of then says so."""
        return lambda url: self._served(url, moment)

    def _served(self, url: str, moment: float) -> Served:
        now = replace(self.fetch(url), at=moment)
        path = path_of(self.address, url)
        was = [change.before[path] for change in self.changes if change.at > moment and path in change.before]
        if was:
            before = was[-1]
            if before is None:
                return Served(url, _MISSING, at=moment)
            return replace(now, status=200, body=before, error="", moved=())
        changed = changed_at(now.headers)
        unknown = now.status == 200 and not now.is_page and changed is not None and changed > moment
        return replace(now, body=b"", known=False) if unknown and not self.changes else now

    def changed(self, addresses: Sequence[str]) -> float | None:
        """When the site was changed last: as it is recorded, else as the server says of these addresses."""
        if self.changes:
            return max(change.at for change in self.changes)
        told = [changed_at(self.fetch(url).headers) for url in addresses]
        return max((moment for moment in told if moment is not None), default=None)


def path_of(address: str, url: str) -> str:
    """The path of a file from the top folder by its address; empty for one elsewhere."""
    top = urljoin(address, ".")
    if not url.startswith(top):
        return ""
    path = unquote(urlsplit(url[len(top) :]).path)
    return path + _INDEX if path.endswith("/") or not path else path


def seen_by(past: Past, reading: Reading, now: float, ago: float | None) -> Mapping[str, Shown]:
    """What a visitor sees at `now` who came for the first time `ago` seconds before; None for a first visit."""
    visitor = Visitor(reading)
    if ago is not None:
        visitor.visit(past.address, past.at(now - ago), now - ago)
    return visitor.visit(past.address, past.at(now), now)


def certain_from(past: Past, reading: Reading, changed: float) -> float:
    """The moment from which every returning browser shows what a fresh one shows, in seconds since 1970.

    It is that of whoever came just before the site was changed, the worst case.
    """
    came = changed - 1
    first = Visitor(reading)
    first.visit(past.address, past.at(came), came)
    spans = {ICON_STORE_SECONDS, *(_fresh_for(served) for served in first.cache.values())}
    moments = sorted({changed, *(came + span for span in spans if span > 0)})
    certain = changed
    for moment in moments:
        if not _all_new(past, reading, came, moment):
            certain = next((later for later in moments if later > moment), moment)
    return certain


def _fresh_for(served: Served) -> float:
    return freshness(served.status, served.headers, served.at).seconds


def _all_new(past: Past, reading: Reading, came: float, now: float) -> bool:
    returning = seen_by(past, reading, now, now - came)
    fresh = seen_by(past, reading, now, None)
    return all(same(returning[kind], fresh[kind]) for kind in IN_BROWSER)


def same(one: Shown, other: Shown) -> bool:
    """Whether two are the same to the eye."""
    return one.body == other.body and (one.served is None or one.served.known)
