"""Looking at what a site serves: its pages' icon links, the icons behind them, and whether they are what they say."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from urllib.parse import urljoin

from bexi.core.errors import HeadRefused
from bexi.core.livesite.icon_file import IconFile, flaws
from bexi.core.livesite.pages import Fetch, Served, joined, pages_from, same_host
from bexi.core.sitehead.link import HOME_SCREEN, IconLink
from bexi.core.sitehead.scan import as_text, find_head

MOST_PAGES = 40
_REMEDY = "Build the set and install it; what it replaces is kept."


@dataclass(frozen=True)
class Finding:
    """One thing looked at: whether it is well, where, the evidence, why it matters and what mends it."""

    ok: bool
    what: str
    where: str
    evidence: str
    why: str = ""
    remedy: str = ""


Look = Callable[[bytes], IconFile]
"""Finds out what an icon file is, without harm from it."""


def inspect(address: str, installed: Mapping[str, bytes], fetch: Fetch, look: Look) -> list[Finding]:
    """Everything found at a site's address.

    Looks at the home page and the pages it leads to, as a visitor would find them, at most MOST_PAGES of them.
    `installed` are the files that should be served, by path; `fetch` gets an absolute address.
    """
    home = fetch(address)
    if home.status != 200:
        return [_unreachable(home)]
    findings: list[Finding] = []
    for page in pages_from(home, fetch, MOST_PAGES):
        findings += _page(page, bool(installed))
    for path, data in installed.items():
        findings.append(_as_installed(fetch(urljoin(address, path)), data))
    seen = {urljoin(address, path) for path in installed}
    for url, link in _icon_addresses(address, home):
        if url not in seen and same_host(url, address):
            seen.add(url)
            findings += _icon(fetch(url), link, look)
    return findings


def _unreachable(home: Served) -> Finding:
    return Finding(
        False,
        "The site does not answer",
        home.url,
        home.error or f"status {home.status}",
        "Nobody can see its icon while it does not answer.",
        "Check the address, and that the site is running; then check again.",
    )


def _page(page: Served, is_installed: bool) -> Iterator[Finding]:
    if page.status != 200:
        yield Finding(False, "Page not served", page.url, page.error or f"status {page.status}")
        return
    try:
        links = find_head(as_text(page.body)).icon_links
    except HeadRefused as refusal:
        yield Finding(
            is_installed,
            "Page without a head",
            page.url,
            refusal.sentence,
            "Browsers then ask only for /favicon.ico.",
        )
        return
    declared = [link.href for link in links if link.kind == "icon"]
    if declared:
        yield Finding(True, "Page declares icons", page.url, f"{len(declared)} declared: {', '.join(declared)}")
    else:
        yield Finding(
            False,
            "Page declares no icon",
            page.url,
            "No link with rel=icon stands in its head.",
            "Browsers then fall back on /favicon.ico, phones on a scrap of the page.",
            "Build the set and install it; Bexi writes the lines into every page.",
        )


def _as_installed(served: Served, data: bytes) -> Finding:
    if served.status == 200 and served.body == data:
        evidence = f"{len(data)} bytes as installed, served as {served.content_type or 'no type'}"
        return Finding(True, "Icon file served", served.url, evidence)
    evidence = served.error or (
        f"status {served.status}" if served.status != 200 else f"{len(served.body)} bytes, other than those installed"
    )
    return Finding(
        False,
        "Icon file not as installed",
        served.url,
        evidence,
        "Visitors get something else than what was installed.",
        "Check that the site is served from the folder that was installed to; else install again.",
    )


def _icon_addresses(address: str, home: Served) -> Iterator[tuple[str, IconLink | None]]:
    try:
        links = find_head(as_text(home.body)).icon_links
    except HeadRefused:
        links = ()
    for link in links:
        if link.kind in ("icon", *HOME_SCREEN) and link.href and (url := joined(address, link.href)):
            yield url, link
    yield urljoin(address, "/favicon.ico"), None


def _icon(served: Served, link: IconLink | None, look: Look) -> Iterator[Finding]:
    if served.status != 200:
        yield Finding(
            False,
            "Icon missing",
            served.url,
            served.error or f"status {served.status}",
            "Browsers ask for it and get nothing, so they show a blank sheet.",
            "Build the set and install it.",
        )
        return
    icon = look(served.body)
    found = list(flaws(served.url, icon, link))
    for flaw in found:
        yield Finding(False, flaw.what, served.url, flaw.evidence, flaw.why, _REMEDY)
    if not found:
        yield Finding(True, "Icon served", served.url, f"{icon}, {served.content_type}")
