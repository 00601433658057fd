"""Pictures that a site has already, in its folder or on its pages, to take in from there."""

from collections.abc import Iterator, Mapping
from typing import Literal
from urllib.parse import urljoin

from ninja import Schema

from bexi.core.artwork.detection import PictureFormat
from bexi.core.artwork.treatment import AS_IT_IS
from bexi.core.errors import HostRefused
from bexi.core.livesite.page import Page
from bexi.core.livesite.served import same_host
from bexi.core.livesite.walk import Walk
from bexi.hosts.opening import opened
from bexi.hosts.place import Place
from bexi.hosts.secret import Secret
from bexi.sandbox import in_sandbox
from bexi.sandbox.measuring import measure_file
from bexi.sandbox.pages import read_page_apart
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.services import add_artwork
from bexi.server.sites.models import Site
from bexi.web.visiting import visiting

MOST_PICTURES = 200
MOST_PAGES = 12
MOST_SECONDS = 30
LIKELY = 10
"""From then on a picture is named among those that may be the logo."""
_ENDINGS = tuple(ending for known in PictureFormat for ending in known.endings)


class PictureOnSite(Schema):
    """A picture by its path below the site's folder, its address, or its number among the marks of the home page.

    `why` says in words why it may be the logo; empty when nothing speaks for it.
    """

    source: Literal["folder", "page", "drawn"]
    place: str
    why: str = ""


def pictures_on(site: Site) -> list[PictureOnSite]:
    """Those that may be its logo, the likeliest first, then what its folder and pages have besides.

    Raises HostRefused when the folder is wrong.
    """
    shown = list(_on_pages(site))
    in_folder = {urljoin(site.address, picture.place): picture for picture in _in_folder(site)}
    found = [_nearest(picture, in_folder) for picture in shown if picture.why]
    found += [*in_folder.values(), *(_nearest(picture, in_folder) for picture in shown)]
    once: dict[tuple[str, str], PictureOnSite] = {}
    for picture in found:
        once.setdefault((picture.source, picture.place), picture)
    return list(once.values())[:MOST_PICTURES]


def _nearest(shown: PictureOnSite, in_folder: Mapping[str, PictureOnSite]) -> PictureOnSite:
    """The same picture in the folder, where it is there: that needs no asking."""
    near = in_folder.get(shown.place) if shown.source == "page" else None
    return PictureOnSite(source="folder", place=near.place, why=shown.why) if near else shown


def add_from_site(site: Site, picture: PictureOnSite) -> Artwork:
    """Take in a picture of the site; raises HostRefused or ArtworkRefused."""
    name = "drawn-on-the-page.svg" if picture.source == "drawn" else picture.place.rsplit("/", 1)[-1]
    return add_artwork(name, _bytes(site, picture), origin=f"{site.name}: {picture.place}"[:500])


def thumbnail(site: Site, picture: PictureOnSite) -> bytes:
    """A small PNG of a picture of the site; raises HostRefused or ArtworkRefused."""
    return in_sandbox(measure_file, picture.place, _bytes(site, picture), AS_IT_IS).thumbnail


def _in_folder(site: Site) -> Iterator[PictureOnSite]:
    place = _folder(site)
    if place:
        with opened(place, Secret.of(place, "")) as host:
            for path in host.files():
                if path.lower().endswith(_ENDINGS):
                    yield PictureOnSite(source="folder", place=path)


def _folder(site: Site) -> Place | None:
    """The site's folder, when it lives in one on this machine."""
    place = Place.parse(site.place) if site.place else None
    return place if place and not place.is_remote else None


def _on_pages(site: Site) -> Iterator[PictureOnSite]:
    """Pictures shown on the home page and those it leads to; a site that does not answer still has its folder."""
    if not site.address:
        return
    with visiting(MOST_SECONDS, site.address) as ask:
        for number, visited in enumerate(Walk(site.address, ask, read_page_apart, MOST_PAGES)):
            if visited.page:
                yield from _shown_on(visited.page, site, is_home=number == 0)


def _shown_on(page: Page, site: Site, is_home: bool) -> Iterator[PictureOnSite]:
    for number, mark in enumerate(page.marks if is_home else ()):
        if mark.markup:
            yield PictureOnSite(source="drawn", place=str(number), why=mark.why)
        elif same_host(mark.address, site.address):
            yield PictureOnSite(source="page", place=mark.address, why=mark.why if mark.likely >= LIKELY else "")
    for address in page.pictures:
        if same_host(address, site.address):
            yield PictureOnSite(source="page", place=address)


def _bytes(site: Site, picture: PictureOnSite) -> bytes:
    if picture.source == "drawn":
        return _drawn(site, picture.place)
    if picture.source == "page":
        if not same_host(picture.place, site.address):
            raise HostRefused("address-outside", "This address is not on the site, so Bexi will not fetch it.")
        return _fetched(picture.place)
    place, data = _folder(site), None
    if place:
        with opened(place, Secret.of(place, "")) as host:
            data = host.read(picture.place)
    if data is None:
        raise HostRefused("no-such-file", f"{picture.place} is not in the site's folder any more.")
    return data


def _drawn(site: Site, number: str) -> bytes:
    with visiting(MOST_SECONDS, site.address) as ask:
        page = read_page_apart(ask(site.address))
    mark = dict(enumerate(page.marks)).get(int(number)) if number.isdecimal() else None
    if mark is None or not mark.markup:
        raise HostRefused("no-such-file", "This drawing is not on the site's home page any more. Look again.")
    return mark.markup.encode()


def _fetched(address: str) -> bytes:
    with visiting(MOST_SECONDS, address) as ask:
        served = ask(address)
    if served.status != 200:
        raise HostRefused("not-served", served.error or f"{address} is not served: status {served.status}.")
    return served.body
