"""A visitor's browser: what it keeps of a site, and what it shows on coming back.

It keeps answers as long as they are fresh (RFC 9111), and icons in a store of its own for about a week; the latter is
[from memory] and stands for all engines. A page's icon is taken by the rules of each engine.
"""

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from hashlib import sha256

from bexi.core.livesite.engines import ENGINES
from bexi.core.livesite.freshness import freshness
from bexi.core.livesite.icon_file import IconFile
from bexi.core.livesite.launchers import app, home_screen, search
from bexi.core.livesite.page import Page
from bexi.core.livesite.served import Fetch, Served
from bexi.core.livesite.taking import Got, Look, Taken

ICON_STORE_SECONDS = 7 * 24 * 3600.0
"""How long a browser goes on showing an icon from its own store, without asking the site [from memory]."""
IN_BROWSER = tuple(engine.name for engine in ENGINES)
KINDS = (*IN_BROWSER, "search", "home-screen", "app")
"""Whoever shows an icon of a site: three engines' tabs and bookmarks, a search result, a phone, an installed app."""
_STAYS = {"home-screen": math.inf, "app": 24 * 3600.0}
"""How long a device shows the icon that was put on it, whatever the site says: until it is put there anew, or until the
system looks at the manifest again, about once a day [from memory]."""


@dataclass(frozen=True)
class Shown:
    """What one kind shows: the icon that was taken, and the answer whose bytes are shown; None for no icon."""

    taken: Taken
    served: Served | None

    @property
    def body(self) -> bytes | None:
        """The bytes shown, None for none."""
        return self.served.body if self.served else None


@dataclass(frozen=True)
class Reading:
    """How pages and icons are looked into; hostile ones are looked into elsewhere."""

    page: Callable[[Served], Page]
    icon: Callable[[bytes], IconFile]


def takers(page: Page, look: Look) -> Iterator[Taken]:
    """What each of KINDS takes from a page."""
    yield from (engine.take(page, look) for engine in ENGINES)
    yield from (search(page, look), home_screen(page, look), app(page, look))


def remembering(reading: Reading) -> Reading:
    """The same, looking into equal bytes once."""
    pages: dict[tuple[str, str, bytes], Page] = {}
    icons: dict[bytes, IconFile] = {}

    def page(served: Served) -> Page:
        key = served.address, served.content_type, sha256(served.body).digest()
        if key not in pages:
            pages[key] = reading.page(served)
        return pages[key]

    def icon(body: bytes) -> IconFile:
        key = sha256(body).digest()
        if key not in icons:
            icons[key] = reading.icon(body)
        return icons[key]

    return Reading(page, icon)


@dataclass
class Visitor:
    """A browser with its cache and its icon store, by address, and what was put on devices, by kind and address."""

    reading: Reading
    cache: dict[str, Served] = field(default_factory=dict)
    icons: dict[str, Served] = field(default_factory=dict)
    devices: dict[tuple[str, str], tuple[Shown, float]] = field(default_factory=dict)

    def visit(self, address: str, fetch: Fetch, now: float) -> Mapping[str, Shown]:
        """What each of KINDS shows after a visit to this page at `now`, in seconds since 1970."""
        page = self.page(address, fetch, now)
        if page is None:
            return {kind: Shown(Taken(kind, "", "the page does not load"), None) for kind in KINDS}
        seen: dict[str, Got] = {}

        def look(url: str) -> Got:
            if url not in seen:
                seen[url] = self._got(self._icon(url, fetch, now))
            return seen[url]

        taken = takers(page, look)
        shown = {one.by: Shown(one, look(one.address).served if one.address else None) for one in taken}
        return shown | {kind: self._on_device(kind, address, shown[kind], now) for kind in _STAYS}

    def _on_device(self, kind: str, address: str, taken: Shown, now: float) -> Shown:
        """What a device shows: the icon that was put there on an earlier visit, as long as it stays."""
        kept = self.devices.get((kind, address))
        if kept and now - kept[1] < _STAYS[kind]:
            return kept[0]
        self.devices[kind, address] = taken, now
        return taken

    def page(self, address: str, fetch: Fetch, now: float) -> Page | None:
        """A page, as kept while it is fresh, else as it comes; None when it does not come as a page."""
        served = self._get(address, fetch, now)
        return self.reading.page(served) if served.is_page else None

    def _get(self, url: str, fetch: Fetch, now: float) -> Served:
        kept = self.cache.get(url)
        if kept and now - kept.at < freshness(kept.status, kept.headers, kept.at).seconds:
            return kept
        served = fetch(url)
        if served.status and freshness(served.status, served.headers, served.at).kept:
            self.cache[url] = served
        else:
            self.cache.pop(url, None)
        return served

    def _icon(self, url: str, fetch: Fetch, now: float) -> Served:
        """An icon from the store of icons, else from the cache or the site. Only what works is put into the store."""
        kept = self.icons.get(url)
        if kept and now - kept.at < ICON_STORE_SECONDS:
            return kept
        served = self._get(url, fetch, now)
        if self._got(served).works:
            self.icons[url] = served
        return served

    def _got(self, served: Served) -> Got:
        return Got(served, self.reading.icon(served.body) if served.status == 200 and served.known else None)
