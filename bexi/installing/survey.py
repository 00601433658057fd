"""What a site has by way of icons before anything is installed, and what is wrong with it."""

import hashlib
import mimetypes
import posixpath
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from html import escape
from urllib.parse import quote, unquote, urljoin, urlsplit

from bexi.core.errors import HostRefused
from bexi.core.livesite.engines import BLINK
from bexi.core.livesite.icon_file import IconFile, flaws, manifest_flaws, manifest_icons
from bexi.core.livesite.page import read_page
from bexi.core.livesite.served import Served
from bexi.core.livesite.taking import Got
from bexi.core.sitehead.link import HOME_SCREEN, TILE_SETTINGS, IconLink, located
from bexi.core.sitehead.snippet import HeadLines
from bexi.core.sitehead.templates import has_code
from bexi.hosts.protocol import Host
from bexi.sandbox.icons import look_apart

MOST_LINES = 100
"""So many different lines are looked at; a site has a few, unless each page has icons of its own."""
_MOST_HEADS = 2000
_SOMEWHERE = "https://site.invalid/"
_GONE = 404
_MISSING = "missing", ("There is no such file, so browsers ask and get nothing.",)
# Files that browsers, phones and older systems ask for by name, or that sites usually have [common practice].
_CONVENTIONAL = ("favicon.ico", *(f"{name}.png" for name in HOME_SCREEN), "browserconfig.xml")
_CONVENTIONAL += ("site.webmanifest", "manifest.webmanifest")  # manifest.json may be the map of some build


@dataclass(frozen=True)
class Found:
    """A file, or an icon that pages declare. `pages` is how many declare it, 0 for a file that none does.

    `path` is where the file is from the top folder, or the address as it was declared; `kind` what it is declared as.
    """

    path: str
    kind: str
    pages: int
    evidence: str
    problems: tuple[str, ...]


@dataclass(frozen=True)
class _Line:
    path: str
    link: IconLink


class SiteSurvey:
    """Takes note of what each page declares, in memory that does not grow with their number."""

    def __init__(self, host: Host, watch: Callable[[], None] = lambda: None) -> None:
        """`watch` is called before each file is looked at, and may raise to stop."""
        self._host = host
        self._watch = watch
        self._heads: Counter[tuple[str, tuple[IconLink, ...]]] = Counter()
        self._bare = 0
        self._icons: dict[bytes, IconFile] = {}

    def add(self, page: str, declared: tuple[IconLink, ...], has_block: bool) -> None:
        """A page and what it declares outside the block that Bexi placed."""
        if declared:
            head = page.rpartition("/")[0], declared
            if head in self._heads or len(self._heads) < _MOST_HEADS:
                self._heads[head] += 1
        elif not has_block:
            self._bare += 1

    def found(self) -> Iterator[Found]:
        """What there is: what pages declare first, then files that are found by their names."""
        lines, outdone = self._counted()
        for line, pages in lines.items():
            evidence, problems = self._looked_at(line.path, line.link) or _MISSING
            if outdone[line]:
                told = f"On {some_pages(outdone[line])} most browsers take another icon of the same size instead."
                problems += (told,)
            yield Found(line.path, line.link.kind, pages, evidence, problems)
        if self._bare:
            told = "Browsers then fall back on /favicon.ico, phones on a small picture of the page."
            yield Found("", "", self._bare, "declare no icon", (told,))
        declared = {line.path for line in lines}
        for name in _CONVENTIONAL:
            if name not in declared and (looked_at := self._looked_at(name, None)):
                yield Found(name, "", 0, *looked_at)

    def named(self, icons: HeadLines) -> tuple[set[str], set[str]]:
        """Paths that pages name as icons and name no more once these lines are in place, and those that stay named."""
        gone: set[str] = set()
        stay: set[str] = set()
        for folder, declared in self._heads:
            for link in declared:
                path = located(folder, link.href)
                if "://" not in path and not has_code(path):
                    (gone if icons.replaces(link, posixpath.join(folder, "page")) else stay).add(path)
        return gone - stay, stay

    def _counted(self) -> tuple[Counter[_Line], Counter[_Line]]:
        """On how many pages each line stands, and on how many another one after it wins."""
        lines: Counter[_Line] = Counter()
        outdone: Counter[_Line] = Counter()
        for (folder, declared), pages in self._heads.items():
            here = list(dict.fromkeys(_Line(located(folder, link.href), link) for link in declared))
            for line in here:
                if line not in lines and len(lines) >= MOST_LINES:
                    continue
                lines[line] += pages
                rivals = [other.path for other in here if line.link.kind == "icon" and _are_rivals(line, other)]
                if rivals and self._shown_of(folder, declared) in rivals:
                    outdone[line] += pages
        return lines, outdone

    def shown(self) -> str | None:
        """The path of the icon that most browsers show on most pages; empty for none, None where nobody can tell."""
        most, pages = max(self._heads.items(), key=lambda one: one[1], default=(("", ()), 0))
        folder, declared = most if pages >= self._bare else ("", ())
        return self._shown_of(folder, declared)

    def _shown_of(self, folder: str, declared: tuple[IconLink, ...]) -> str | None:
        """The same of one head, by the rule that the live check goes by."""
        if any(has_code(link.href) for link in declared):
            return None
        address = urljoin(_SOMEWHERE, quote(posixpath.join(folder, "page.html")))
        head = "".join(_as_link(link) for link in declared)
        page = read_page(Served(address, 200, {"content-type": "text/html"}, head.encode()))
        taken = BLINK.take(page, self._look).address
        if not taken:
            return ""
        return unquote(urlsplit(taken).path).lstrip("/") if taken.startswith(_SOMEWHERE) else None

    def _look(self, url: str) -> Got:
        """A file as a visitor would get it."""
        path = unquote(urlsplit(url).path).lstrip("/")
        try:
            data = self._host.read(path) if url.startswith(_SOMEWHERE) else None
        except HostRefused:
            data = None
        if data is None:
            return Got(Served(url, _GONE))
        kind = mimetypes.guess_type(path)[0] or "application/octet-stream"
        return Got(Served(url, 200, {"content-type": kind}, data), self._icon(data))

    def _icon(self, data: bytes) -> IconFile:
        """What a file is by its content, looked into once."""
        key = hashlib.sha256(data).digest()
        if key not in self._icons:
            self._icons[key] = look_apart(data)
        return self._icons[key]

    def _looked_at(self, path: str, link: IconLink | None) -> tuple[str, tuple[str, ...]] | None:
        """What there is, and sentences on what is wrong with it; None when there is no such file."""
        if "://" in path:
            return "a full address; the live check looks at it", ()
        if has_code(path):
            return "named by code of the template; the live check looks at it", ()
        self._watch()
        try:
            data = self._host.read(path)
        except HostRefused as refusal:
            return "not read", (refusal.sentence,)
        if data is None:
            return None
        if path.endswith(".webmanifest") or (link and link.kind == "manifest"):
            problems = [f"{flaw.what}: {flaw.evidence}. {flaw.why}" for flaw in manifest_flaws(data)]
            return f"manifest, {len(data):,} bytes", (*problems, *self._missing_icons(path, data))
        if path.endswith(".xml") or (link and link.kind == TILE_SETTINGS):
            return f"tile settings, {len(data):,} bytes", ()
        icon = self._icon(data)
        return str(icon), tuple(f"{flaw.what}: {flaw.evidence}. {flaw.why}" for flaw in flaws(path, icon, link))

    def _missing_icons(self, manifest: str, data: bytes) -> Iterator[str]:
        for icon in (manifest_icons(data) or [])[:MOST_LINES]:
            path = located(posixpath.dirname(manifest), str(icon.get("src", "")))
            if "://" not in path and self._is_missing(path):
                yield f"It names {path}, which is not there."

    def _is_missing(self, path: str) -> bool:
        try:
            return self._host.read(path) is None
        except HostRefused:  # then nobody can tell
            return False


def _are_rivals(one: _Line, other: _Line) -> bool:
    return other.link.kind == "icon" and other.path != one.path and other.link.sizes == one.link.sizes


def _as_link(link: IconLink) -> str:
    href, media_type, sizes = (escape(text) for text in (link.href, link.media_type, link.sizes))
    return f'<link rel="{link.kind}" href="{href}" type="{media_type}" sizes="{sizes}">'


def some_pages(count: int) -> str:
    """A number of pages, in words."""
    return "1 page" if count == 1 else f"{count:,} pages"
