"""Finding the head of a page and the links in it, without disturbing a byte.

A page is scanned as Latin-1 text, which maps every byte to one character and back; so offsets are byte offsets
in any encoding that keeps ASCII (UTF-8, Windows-1252 and most others).
"""

import codecs
import html
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import NamedTuple

from bexi.core.errors import HeadRefused
from bexi.core.sitehead.link import IconLink, declared_by
from bexi.core.sitehead.snippet import BEGIN, END

LARGEST_PAGE = 8 * 1024 * 1024

# Comments and embedded code come whole, so a tag inside them is never seen. Quantifiers are possessive: no
# hostile page makes the scanner go back and forth.
_TOKEN = re.compile(
    r"(?P<comment><!--.*?(?:-->|\Z))"
    r"|<\?.*?(?:\?>|\Z)|<%.*?(?:%>|\Z)|\{%.*?(?:%\}|\Z)|\{\{.*?(?:\}\}|\Z)"
    r"|<!(?P<declaration>[^>]*+)>"
    r"|<(?P<close>/?)(?P<name>[A-Za-z][^\s/><]*+)(?P<attributes>(?:[^>\"'<]|\"[^\"]*+\"|'[^']*+'|<[?%].*?[?%]>)*+)>",
    re.DOTALL,
)
_EMBEDDED = re.compile(r"<\?.*?\?>|<%.*?%>|\{%.*?%\}|\{\{.*?\}\}", re.DOTALL)
_PLAIN_TEXT = re.compile(r"\S")
_ATTRIBUTE = re.compile(r"([^\s=/>\"']++)(?:\s*+=\s*+(?:\"([^\"]*+)\"|'([^']*+)'|([^\s\"'>]++)))?")
# Elements whose content is text, not tags (WHATWG HTML, §13.1.2 "Elements": raw text and escapable raw text).
_TEXT_ELEMENTS = {"script", "style", "title", "textarea", "noscript", "template", "iframe", "xmp"}
_ENDS_HEAD = {"body", "frameset"}
# What may stand in a head; anything else ends one whose tags are left out (WHATWG HTML, §13.2.6.4.3 and 4).
_IN_HEAD = {
    "title",
    "meta",
    "link",
    "script",
    "style",
    "base",
    "basefont",
    "bgsound",
    "noscript",
    "template",
    "noframes",
}


class Span(NamedTuple):
    """A stretch of a page, in bytes; `end` lies just outside."""

    start: int
    end: int


class Tag(NamedTuple):
    """One tag, its name in lower case; `written` is what stands between its name and its end."""

    start: int
    end: int
    name: str
    closing: bool
    written: str

    @property
    def attributes(self) -> dict[str, str]:
        """Values by names in lower case. Of two with one name the first counts (WHATWG HTML, §13.2.5.33)."""
        found = {match[1].lower(): match for match in reversed([*_ATTRIBUTE.finditer(self.written)])}
        return {name: html.unescape(match[2] or match[3] or match[4] or "") for name, match in found.items()}

    def get(self, name: str) -> str:
        """The value of an attribute, empty when it is missing."""
        return self.attributes.get(name, "")


@dataclass(frozen=True)
class Head:
    """The head of a page: the span between its tags, its tags in order, and our own marked block, if it is there."""

    inside: Span
    tags: tuple[Tag, ...]
    block: Span | None
    xhtml: bool

    @property
    def icon_tags(self) -> tuple[tuple[Tag, IconLink], ...]:
        """Tags that declare an icon, a manifest or tiles, in tree order, and what each declares."""
        declaring = (tag for tag in self.tags if tag.name in ("link", "meta") and not tag.closing)
        return tuple((tag, link) for tag in declaring if (link := declared_by(tag.name, tag.attributes)))

    @property
    def icon_links(self) -> tuple[IconLink, ...]:
        """What is declared, in tree order."""
        return tuple(link for _, link in self.icon_tags)


def as_text(page: bytes) -> str:
    """The page with one character for each byte; raises HeadRefused for UTF-16 and UTF-32 and for oversized pages."""
    if page.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        raise HeadRefused(
            "page-encoding",
            "This page is stored as UTF-16, which Bexi does not edit. Save it as UTF-8 and plan again.",
        )
    if len(page) > LARGEST_PAGE:
        raise HeadRefused(
            "page-too-large",
            f"This page is larger than {LARGEST_PAGE // 1024 // 1024} MB, too large to be a page.",
        )
    return page.decode("latin-1")


def find_head(text: str) -> Head:
    """The real head of a page; raises HeadRefused when there is none, or when it cannot be told for sure."""
    start = end = None
    tags: list[Tag] = []
    marks: dict[str, list[Span]] = {BEGIN: [], END: []}
    xhtml = False
    for token in _tokens(text):
        if not isinstance(token, Tag):
            comment = text[token.start : token.end]
            if start is not None and comment in marks:
                marks[comment].append(token)
            xhtml = xhtml or (comment.startswith("<!") and "XHTML" in comment[:200] and not comment.startswith("<!--"))
        elif token.name == "html" and not token.closing:
            xhtml = xhtml or bool(token.get("xmlns"))
        elif token.name == "head":
            if token.closing:
                end = token.start
                break
            if start is not None:
                raise HeadRefused("two-heads", "This page opens <head> twice, so the right place cannot be told.")
            start = token.end
        elif start is not None and token.name in _ENDS_HEAD:
            end = token.start
            break
        elif start is not None:
            tags.append(token)
    if start is None:
        return _implied_head(text, xhtml)
    if end is None:
        raise HeadRefused("open-head", "The <head> of this file is never closed, so its end cannot be told.")
    block = _block(marks[BEGIN], marks[END])
    return Head(Span(start, end), tuple(tags), block, xhtml)


def _implied_head(text: str, xhtml: bool) -> Head:
    """The head of a page that leaves its tags out, as HTML allows; raises HeadRefused for what is no whole page."""
    start = position = 0
    tags: list[Tag] = []
    marks: dict[str, list[Span]] = {BEGIN: [], END: []}
    whole = False
    for token in _tokens(text):
        name = token.name if isinstance(token, Tag) else ""
        closes_text = isinstance(token, Tag) and token.closing and name in _TEXT_ELEMENTS
        if not closes_text and _PLAIN_TEXT.search(_EMBEDDED.sub("", text[position : token.start])):
            break
        if isinstance(token, Tag) and name not in (*_IN_HEAD, "html"):
            break
        if name == "html" or (text[token.start : token.start + 2] == "<!" and text[token.start + 2] != "-"):
            whole, start = True, token.end if not tags else start
        elif isinstance(token, Tag):
            tags.append(token)
        elif text[token.start : token.end] in marks:
            marks[text[token.start : token.end]].append(token)
        position = token.end
    if not whole and not any(tag.name == "title" for tag in tags):
        raise HeadRefused(
            "no-head",
            "This is a part of a page, without a head of its own. What builds the head around it is edited instead.",
        )
    return Head(Span(start, position), tuple(tags), _block(marks[BEGIN], marks[END]), xhtml)


def attribute_values(text: str, element: str, attribute: str) -> list[str]:
    """The values of an attribute of every element of a name, in order: where `a` leads by `href`, say."""
    tags = (token for token in _tokens(text) if isinstance(token, Tag))
    return [tag.get(attribute) for tag in tags if tag.name == element and tag.get(attribute)]


def _block(begins: list[Span], ends: list[Span]) -> Span | None:
    if not begins and not ends:
        return None
    if len(begins) != 1 or len(ends) != 1 or begins[0].start > ends[0].start:
        raise HeadRefused(
            "broken-block",
            "The marks around the icon lines here are no longer a pair. Remove the leftover mark and plan again.",
        )
    return Span(begins[0].start, ends[0].end)


def _tokens(text: str) -> Iterator[Tag | Span]:
    """Tags, and comments and declarations as plain spans, in order."""
    position = 0
    while match := _TOKEN.search(text, position):
        position = match.end()
        if match["name"] is None:
            if match["comment"] is not None or match["declaration"] is not None:
                yield Span(match.start(), match.end())
            continue
        name = match["name"].lower()
        closing = bool(match["close"])
        yield Tag(match.start(), match.end(), name, closing, match["attributes"])
        if name in _TEXT_ELEMENTS and not closing and not match["attributes"].endswith("/"):
            closer = re.compile(rf"</{re.escape(name)}(?=[\s/>])", re.IGNORECASE).search(text, position)
            position = closer.start() if closer else len(text)
