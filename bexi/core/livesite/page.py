"""A page as a browser reads it: the address it really has, and what it declares about icons, in tree order."""

import codecs
import re
from collections.abc import Mapping
from dataclasses import dataclass

from selectolax.lexbor import LexborHTMLParser, LexborNode

from bexi.core.livesite.declared import Declared
from bexi.core.livesite.marks import Mark, marks_on
from bexi.core.livesite.served import XHTML, Served, joined
from bexi.core.sitehead.link import declared_by

MOST_DECLARED = 200
MOST_LINKS = 5000
# The encodings of the Encoding standard that pages still have, and no other codec of Python's [from memory].
_CHARSET = re.compile(
    rb"""charset\s*=\s*["']?\s*(utf-?8|windows-125\d|iso-8859-\d+|shift_jis|euc-jp|euc-kr|gbk|gb2312|gb18030|big5|koi8-[ru])""",
    re.IGNORECASE,
)
_MARKS = (
    (codecs.BOM_UTF8, "utf-8"),
    (codecs.BOM_UTF16_LE, "utf-16-le"),
    (codecs.BOM_UTF16_BE, "utf-16-be"),
)
_EMPTY = re.compile(r"<(title|script|style|head|body|template|noscript|textarea|a)\b([^<>]{0,2000}?)/>")
_INERT = ("noscript", "template")


@dataclass(frozen=True)
class Page:
    """A page of a site. `links` are the addresses its text leads to, `pictures` those of the images it shows, and
    `base` is where relative ones lead from.

    `asked` is the address that was asked for, `address` the one it really has. `trouble` says why it could not be read.
    `marks` are pictures that may be the logo, the likeliest first.
    """

    asked: str
    address: str
    base: str
    declared: tuple[Declared, ...] = ()
    links: tuple[str, ...] = ()
    pictures: tuple[str, ...] = ()
    title: str = ""
    trouble: str = ""
    marks: tuple[Mark, ...] = ()

    def of_kind(self, *kinds: str) -> tuple[Declared, ...]:
        """What it declares of these kinds and leads somewhere, in tree order."""
        return tuple(one for one in self.declared if one.kind in kinds and one.address)

    @property
    def manifest(self) -> str:
        """Where its manifest is, empty for none. The first one in tree order counts (W3C Web Application Manifest)."""
        return next((one.address for one in self.of_kind("manifest")), "")


def read_page(served: Served) -> Page:
    """A served page, parsed as the HTML standard says (by lexbor)."""
    text = _text(served)
    # As XML an element may be empty by its own tag; as HTML it would swallow what follows.
    tree = LexborHTMLParser(_EMPTY.sub(r"<\1\2></\1>", text) if served.media_type == XHTML else text)
    base = next((found for node in tree.css("base[href]") if (found := _href(node))), "")
    base = (joined(served.address, base) if base else "") or served.address
    declared: list[Declared] = []
    for node in tree.css("link[rel], meta[name]")[: 10 * MOST_DECLARED]:
        attributes = _attributes(node)
        link = declared_by(node.tag or "", attributes)
        if link and not _is_inert(node):
            address = joined(base, link.href) if link.href.strip() else ""
            declared.append(Declared(link, address, attributes.get("media", ""), _in_head(node)))
    links = _addresses(tree, base, "a[href], area[href]", "href")
    pictures = _addresses(tree, base, "img[src]", "src")
    title = tree.css_first("title")
    said = " ".join(title.text().split())[:200] if title else ""
    kept = tuple(declared[:MOST_DECLARED])
    marks = marks_on(tree, base, kept)
    return Page(served.url, served.address, base, kept, links, pictures, said, marks=marks)


def _addresses(tree: LexborHTMLParser, base: str, selector: str, attribute: str) -> tuple[str, ...]:
    """Where the attributes of some elements lead, in tree order, each address once."""
    references = [node.attributes.get(attribute) or "" for node in tree.css(selector)[:MOST_LINKS]]
    return tuple(dict.fromkeys(address for one in references if one.strip() and (address := joined(base, one))))


def _attributes(node: LexborNode) -> Mapping[str, str]:
    return {name: value or "" for name, value in node.attributes.items()}


def _href(node: LexborNode) -> str:
    return node.attributes.get("href") or ""


def _is_inert(node: LexborNode) -> bool:
    """Whether it stands where a browser with scripts does not look."""
    parent = node.parent
    while parent is not None:
        if parent.tag in _INERT:
            return True
        parent = parent.parent
    return False


def _in_head(node: LexborNode) -> bool:
    return node.parent is not None and node.parent.tag == "head"


def _text(served: Served) -> str:
    """The text of a page: by its byte order mark, its type, its own word, else UTF-8 or Windows-1252 (WHATWG HTML)."""
    body = served.body
    for mark, name in _MARKS:
        if body.startswith(mark):
            return body[len(mark) :].decode(name, "replace")
    said = _CHARSET.search(served.content_type.encode()) or _CHARSET.search(body[:1024])
    for name in (said[1].decode() if said else "", "utf-8"):
        try:
            return body.decode(name)
        except (LookupError, UnicodeDecodeError):
            continue
    return body.decode("windows-1252", "replace")
