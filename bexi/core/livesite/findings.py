"""What is wrong with a site's icons, or could be better: what, where, evidence, why it matters and what mends it."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from urllib.parse import urlsplit

from bexi.core.artwork.detection import PictureFormat
from bexi.core.livesite.declared import Declared
from bexi.core.livesite.freshness import Freshness
from bexi.core.livesite.icon_file import NOT_SQUARE, TRANSPARENT, Flaw, IconFile, flaws, manifest_flaws, manifest_icons
from bexi.core.livesite.launchers import manifest_members
from bexi.core.livesite.page import Page
from bexi.core.livesite.served import Served, path_of
from bexi.core.livesite.taking import Got, Look, Taken
from bexi.core.livesite.visitor import IN_BROWSER
from bexi.core.sitehead.link import HOME_SCREEN, TILE_SETTINGS, IconLink

LONG = 30 * 24 * 3600.0
"""In seconds: an icon whose address does not change should not be kept longer than about a month [common practice]."""
_STAMP = "v="
_OF_THE_FRAMING = (TRANSPARENT, NOT_SQUARE)
_SVG_TYPES = ("image/svg+xml",)


class Action(StrEnum):
    """What mends a finding: the control that a person is led to."""

    INSTALL = "install"
    STAMP = "stamp"
    PLAN = "plan"
    BENCH = "bench"
    HEADERS = "headers"
    ADDRESS = "address"
    BY_HAND = "by-hand"


@dataclass(frozen=True)
class Finding:
    """One thing, found on all of `where`: addresses of pages or files. `wrong` is False for mere advice."""

    what: str
    evidence: str
    why: str
    remedy: str
    action: Action
    where: tuple[str, ...]
    wrong: bool = True

    @property
    def mark(self) -> tuple[str, str]:
        """By which findings of two checks are known to be the same."""
        return self.what, self.evidence


@dataclass(frozen=True)
class SeenPage:
    """A page that was looked at: what it declares and what each kind of visitor takes; `told` when it did not come."""

    address: str
    told: str = ""
    page: Page | None = None
    taken: Mapping[str, Taken] | None = None


@dataclass(frozen=True)
class SeenFile:
    """A file that was looked at: what it is by its content, how long it is fresh, whether it is as it was installed.

    `as_installed` is None for a file that was not installed.
    """

    got: Got
    fresh: Freshness
    as_installed: bool | None = None

    @property
    def address(self) -> str:
        """The address it was asked for by."""
        return self.got.served.url


_CALLED = {"blink": "most browsers", "gecko": "another family of browsers", "webkit": "one phone maker's browsers"}
_DRAWN_ON_HOME_SCREENS, _LEAST_ON_HOME_SCREENS = 180, 120
"""60 units on screens of 3 and of 2 px for each, as the maker who asks for the icon documents it [from memory]."""


def found_on(pages: Sequence[SeenPage], files: Mapping[str, SeenFile], look: Look, installed: bool) -> list[Finding]:
    """All findings, those of several pages or files together; what is wrong first."""
    found = [
        *(one for page in pages for one in _of_page(page, files, installed)),
        *(one for file in files.values() for one in _of_file(file, pages)),
        *_of_manifests(pages, look),
    ]
    return sorted(_together(found), key=lambda one: not one.wrong)


def unreachable(served: Served, page: Page | None) -> Finding:
    """The one finding of a site that does not come as a page that can be read."""
    told = served.told
    if served.status == 200:
        told = page.trouble if page else f"it is {served.media_type or 'of no known type'}, no page"
    return Finding(
        "The site does not answer" if page is None else "The home page cannot be read",
        told,
        "Nobody can see its icon while it does not answer.",
        "Check the address, and that the site is running; then check again.",
        Action.ADDRESS,
        (served.url,),
    )


def _together(found: Iterable[Finding]) -> list[Finding]:
    by_mark: dict[tuple[str, str], Finding] = {}
    for one in found:
        known = by_mark.get(one.mark)
        where = tuple(dict.fromkeys((*known.where, *one.where))) if known else one.where
        by_mark[one.mark] = replace(known or one, where=where)
    return list(by_mark.values())


def _of_page(seen: SeenPage, files: Mapping[str, SeenFile], installed: bool) -> Iterator[Finding]:
    where = (seen.address,)
    if seen.page is None or seen.taken is None:
        yield Finding(
            "Page not seen",
            seen.told,
            "Its visitors may see neither the page nor its icon.",
            "Remove the links to it, or fix the page; then check again.",
            Action.BY_HAND,
            where,
            wrong=False,
        )
        return
    blind = [by for by in IN_BROWSER if not seen.taken[by].address]
    if blind:
        why = "Tabs and bookmarks then show a blank sheet."
        whose = "every browser" if len(blind) == len(IN_BROWSER) else ", ".join(_CALLED[by] for by in blind)
        told = f"In {whose}: {seen.taken[blind[0]].why}"
        remedy = "Build the set and install it; Bexi writes the lines into every page."
        yield Finding("No icon in tabs", told, why, remedy, Action.INSTALL, where)
    elif not seen.page.of_kind("icon"):
        remedy = "Build the set and install it; Bexi writes the lines into every page."
        why = "Tabs fall back on /favicon.ico, and phones show a small picture of the page."
        yield Finding("Page declares no icon", "No link with rel=icon.", why, remedy, Action.INSTALL, where, installed)
    if not seen.taken["home-screen"].address:
        why = "Somebody who keeps the site on a home screen gets an unreadable picture."
        remedy = "Build a set with a home-screen icon and install it."
        yield Finding(
            "No home-screen icon", seen.taken["home-screen"].why, why, remedy, Action.INSTALL, where, installed
        )
    else:
        yield from _small_on_home_screens(files.get(seen.taken["home-screen"].address), where)
    if installed:
        yield from _others_win(seen.taken, files, where)
    for one in seen.page.declared:
        yield from _of_line(one, seen.page)


def _small_on_home_screens(file: SeenFile | None, where: tuple[str, ...]) -> Iterator[Finding]:
    icon = file.got.icon if file else None
    if file is None or icon is None or icon.real is PictureFormat.SVG or not icon.sides:
        return
    largest = max(min(sides) for sides in icon.sides)
    if largest < _LEAST_ON_HOME_SCREENS:
        yield Finding(
            "Small home-screen icon",
            f"{path_of(file.address)} is {largest} px, where phones draw {_DRAWN_ON_HOME_SCREENS} px",
            "It is enlarged there, so it looks soft.",
            "Build a set with a home-screen icon and install it.",
            Action.INSTALL,
            where,
            wrong=False,
        )


def _others_win(taken: Mapping[str, Taken], files: Mapping[str, SeenFile], where: tuple[str, ...]) -> Iterator[Finding]:
    """An icon that was not installed is taken all the same."""
    for by in (*IN_BROWSER, "home-screen"):
        file = files.get(taken[by].address)
        if file is not None and file.as_installed is None:
            told = f"{path_of(file.address)}, not one of the installed files"
            why = "Visitors see another icon than the one that was installed."
            remedy = (
                "Install again: it replaces earlier icon lines. If the line comes from a template, remove it there."
            )
            yield Finding("Another icon wins", told, why, remedy, Action.INSTALL, where)


def _of_line(one: Declared, page: Page) -> Iterator[Finding]:
    where = (page.address,)
    if one.kind not in ("icon", *HOME_SCREEN, "manifest"):
        return
    if not one.address:
        told = f"rel={one.kind} with “{one.link.href[:80]}”"
        remedy = "Remove the line, or install the set, which replaces earlier icon lines."
        yield Finding("Icon line that leads nowhere", told, "Browsers ignore it.", remedy, Action.INSTALL, where)
    elif not one.in_head:
        told = f"rel={one.kind} {path_of(one.address)} stands in the body"
        why = "Some browsers read it there, others do not, so visitors see different icons."
        yield Finding("Icon line outside the head", told, why, "Move the line into the head.", Action.BY_HAND, where)
    elif urlsplit(page.address).scheme == "https" and urlsplit(one.address).scheme == "http":
        told = f"{one.address} on a page that comes by https"
        why = "Browsers refuse it, or ask for it by https and may get nothing."
        remedy = "Write its address without http:, as the path from the top of the site."
        yield Finding("Icon by http on a secure page", told, why, remedy, Action.INSTALL, where)


def _of_file(file: SeenFile, pages: Sequence[SeenPage]) -> Iterator[Finding]:
    got, where = file.got, (file.address,)
    links = [one for seen in pages if seen.page for one in seen.page.declared if one.address == file.address]
    if got.served.status != 200:
        if links or file.as_installed is not None:  # others are only asked for by their names
            yield _missing(file, links)
        return
    if file.as_installed is False:
        yield Finding(
            "File not as installed",
            f"{len(got.served.body):,} bytes, other than those installed",
            "Visitors get something else than what was installed.",
            "Check that the site is served from the folder that was installed to; else install again.",
            Action.INSTALL,
            where,
        )
    if got.icon is not None and not _is_text_file(links, file.address):
        asked = {url for seen in pages for taken in (seen.taken or {}).values() for url in taken.asked}
        needed = bool(links) or file.as_installed is not None or file.address in asked
        yield from _of_icon(file, got.icon, links, needed)
    yield from _of_freshness(file)


def _missing(file: SeenFile, links: Sequence[Declared]) -> Finding:
    what = "Installed file is not served" if file.as_installed is not None else "Declared icon is missing"
    told = f"{file.got.served.told}{f', declared by {len(links)} lines' if len(links) > 1 else ''}"
    why = "Browsers ask for it and get nothing; some go on to the next best, others show a blank sheet."
    return Finding(what, told, why, "Build the set and install it.", Action.INSTALL, (file.address,))


def _is_text_file(links: Sequence[Declared], address: str) -> bool:
    is_named_so = urlsplit(address).path.endswith((".webmanifest", ".xml"))
    return is_named_so or any(one.kind in ("manifest", TILE_SETTINGS) for one in links)


def _of_icon(file: SeenFile, icon: IconFile, links: Sequence[Declared], needed: bool) -> Iterator[Finding]:
    """What is wrong with an icon file; mere advice when no browser needs it as it is."""
    said = file.got.served.media_type
    all_flaws: dict[Flaw, None] = {}
    said_of_it: list[IconLink | None] = [one.link for one in links if one.kind in ("icon", *HOME_SCREEN)]
    for link in said_of_it or [None]:
        all_flaws.update(dict.fromkeys(flaws(urlsplit(file.address).path, icon, link)))
    for flaw in all_flaws:
        remedy = "Build the set and install it; what it replaces is kept."
        if icon.real is None and said.startswith("text/html"):
            flaw = replace(flaw, what="A page instead of an icon", evidence=f"It answers with {said}")
            remedy = "Put a real file there: build the set and install it."
        of_the_set = flaw.what in _OF_THE_FRAMING and file.as_installed
        action = Action.BENCH if of_the_set else Action.INSTALL
        yield Finding(flaw.what, flaw.evidence, flaw.why, remedy, action, (file.address,), needed)
    if icon.real is PictureFormat.SVG and said not in _SVG_TYPES:
        why = "An SVG is only shown when its type says so; browsers then show another icon, or none."
        remedy = "Have the server send image/svg+xml for .svg files; the lines for it are below."
        told = f"served as {said or 'no type'}"
        yield Finding("SVG served with a wrong type", told, why, remedy, Action.HEADERS, (file.address,))
    elif icon.real is not None and said and not said.startswith("image/"):
        why = "Browsers recognise the picture and show it anyway; other programs rely on the type."
        remedy = "Have the server send the right type; the lines for it are below."
        told = f"served as {said}"
        yield Finding("Served with a wrong type", told, why, remedy, Action.HEADERS, (file.address,), wrong=False)


def _of_freshness(file: SeenFile) -> Iterator[Finding]:
    if file.fresh.seconds > LONG and _STAMP not in urlsplit(file.address).query:
        days = round(file.fresh.seconds / 86400)
        yield Finding(
            "Cached for very long under one address",
            f"{file.fresh.why}: {days} days",
            "Anyone who saw an earlier icon keeps seeing it that long, whatever you install.",
            "Let addresses change with the file in the set, build and install; or set a shorter time on the server.",
            Action.STAMP,
            (file.address,),
            wrong=False,
        )


def _of_manifests(pages: Sequence[SeenPage], look: Look) -> Iterator[Finding]:
    seen: set[str] = set()
    for page in (one.page for one in pages):
        if page is None or not page.manifest or page.manifest in seen:
            continue
        seen.add(page.manifest)
        served = look(page.manifest).served
        if served.status != 200:
            continue
        remedy = "Build a set with a manifest and install it; its other members stay as they are."
        for flaw in manifest_flaws(served.body):
            broken = manifest_icons(served.body) is None
            action = Action.INSTALL if broken else Action.PLAN
            yield Finding(flaw.what, flaw.evidence, flaw.why, remedy, action, (page.manifest,), wrong=broken)
        for member in manifest_members(page, look):
            got = look(member.address)
            if not got.works:
                told = f"it names {path_of(member.address)}: {got.trouble}"
                why = "An installed app and some phones look there for their icon and find none."
                yield Finding("Manifest names a broken icon", told, why, remedy, Action.INSTALL, (page.manifest,))
