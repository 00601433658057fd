"""Pictures of a page that may be the site's logo, the likeliest first; the order is a guess [common practice]."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from urllib.parse import urlsplit

from selectolax.lexbor import LexborHTMLParser, LexborNode

from bexi.core.livesite.declared import Declared
from bexi.core.livesite.served import joined

MOST_MARKS = 60
MOST_MARKUP = 200_000
"""Characters of a drawing in the page itself."""
_LARGE = 96
_MOST_ANCESTORS = 12
_NAMED = re.compile(r"logo|brand|emblem|wordmark", re.IGNORECASE)
_NAMING = ("class", "id", "alt", "src", "aria-label", "title")
_SVG = "http://www.w3.org/2000/svg"


@dataclass(frozen=True)
class Mark:
    """A picture at an address, or drawn in the page itself (`markup`, an SVG document); `likely` from 0 to 100."""

    likely: int
    why: str
    address: str = ""
    markup: str = ""


def marks_on(tree: LexborHTMLParser, base: str, declared: Sequence[Declared]) -> tuple[Mark, ...]:
    """The pictures of a parsed page, the likeliest first, each once; addresses are resolved against `base`."""
    found = [*_declared(declared), *_drawn(tree, base), *_shown(tree, base), *_shared(tree, base)]
    found.sort(key=lambda mark: -mark.likely)
    once = {(mark.address, mark.markup): mark for mark in reversed(found)}
    return tuple(mark for mark in found if once[mark.address, mark.markup] is mark)[:MOST_MARKS]


def _declared(declared: Sequence[Declared]) -> Iterator[Mark]:
    for one in declared:
        if not one.address:
            continue
        if one.kind == "icon" and one.address.lower().partition("?")[0].endswith(".svg"):
            yield Mark(40, "the icon it declares, as SVG", one.address)
        elif one.kind.startswith("apple-touch-icon"):
            yield Mark(25, "its home-screen icon", one.address)
        elif one.kind == "icon":
            yield Mark(24 if max(one.sides, default=0) >= _LARGE else 12, "an icon it declares", one.address)


def _drawn(tree: LexborHTMLParser, base: str) -> Iterator[Mark]:
    for node in tree.css("svg")[: 4 * MOST_MARKS]:
        likely, why = _standing(node, base)
        markup = node.html or ""
        if likely < 30 or len(markup) > MOST_MARKUP:  # small signs of menus and links are drawn so, too
            continue
        if "xmlns" not in node.attributes:
            markup = markup.replace("<svg", f'<svg xmlns="{_SVG}"', 1)
        yield Mark(min(100, likely + 5), f"drawn {why}", markup=markup)


def _shown(tree: LexborHTMLParser, base: str) -> Iterator[Mark]:
    for node in tree.css("img[src]")[: 4 * MOST_MARKS]:
        source = node.attributes.get("src") or ""
        if source.strip() and (address := joined(base, source)):
            likely, why = _standing(node, base)
            yield Mark(likely, f"shown {why}", address)


def _shared(tree: LexborHTMLParser, base: str) -> Iterator[Mark]:
    """The picture for whoever shares the page (the Open Graph protocol, og:image)."""
    for node in tree.css('meta[property="og:image"]'):
        if address := joined(base, node.attributes.get("content") or ""):
            yield Mark(20, "its picture for sharing", address)


def _standing(node: LexborNode, base: str) -> tuple[int, str]:
    """How likely a picture is the logo by its name and its place, and in words."""
    named = any(_NAMED.search(node.attributes.get(name) or "") for name in _NAMING)
    in_header = in_home_link = False
    parent, most = node.parent, _MOST_ANCESTORS
    while parent is not None and most:
        words = f"{parent.attributes.get('class') or ''} {parent.attributes.get('id') or ''}"
        named = named or bool(_NAMED.search(words))
        in_header = in_header or parent.tag == "header" or parent.attributes.get("role") == "banner"
        in_home_link = in_home_link or (parent.tag == "a" and _leads_home(parent, base))
        parent, most = parent.parent, most - 1
    if named:
        return 60 if in_header or in_home_link else 50, "and named like a logo"
    if in_home_link:
        return 45, "in a link to the home page"
    return (30, "in the page's header") if in_header else (5, "on the page")


def _leads_home(link: LexborNode, base: str) -> bool:
    address = joined(base, link.attributes.get("href") or "#")
    home, there = urlsplit(base), urlsplit(address)
    return (there.netloc, there.path or "/", there.query) == (home.netloc, "/", "") and not there.fragment
