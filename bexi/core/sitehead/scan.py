"""Finding the head of a page and the links in it, without disturbing a byte.

A page is scanned as Latin-1 text, which maps every byte to one character and back; so offsets are byte offsets
in any encoding that keeps ASCII (UTF-8, Windows-1252 and most others).
"""

import codecs
import html
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import NamedTuple

from bexi.core.errors import HeadRefused
from bexi.core.sitehead.link import IconLink, declared_by
from bexi.core.sitehead.snippet import BEGIN, END
from bexi.core.sitehead.templates import Span, Template, read

LARGEST_PAGE = 8 * 1024 * 1024

# Comments come whole, so a tag inside them is never seen; where they end, and what is an attribute, is as the tokenizer
# of WHATWG HTML has it (§13.2.5). A tag that is never ended takes the rest of the page with it. Quantifiers are
# possessive: no hostile page makes the scanner go back and forth.
_VALUE = r"(?:\"(?P<double>[^\"]*+)\"|'(?P<single>[^']*+)'|(?P<plain>(?![\"'])[^\s>]*+))"
_NAME = r"=?[^\s/>=]*+"
_ONE = rf"(?:[\s/]++|(?!>){_NAME}(?:\s*+=\s*+{re.sub('[?]P<[a-z]+>', '?:', _VALUE)}|(?!\s*+=)))"
_TOKEN = re.compile(
    r"(?P<comment><!--(?:-?>|.*?(?:--!?>|\Z)))|<\?.*?(?:\?>|\Z)|<!(?P<declaration>[^>]*+)>|</[^A-Za-z>][^>]*+>"
    rf"|<(?P<close>/?)(?P<name>[A-Za-z][^\s/>]*+)(?P<attributes>{_ONE}*+)>|</?[A-Za-z].*",
    re.DOTALL,
)
_COMMENT_ENDS = re.compile(r"--!?>")
_SCRIPT_PART = re.compile(r"<!--(?:-?>)?|-->|<(?P<close>/?)script(?=[\s/>])", re.IGNORECASE)
_SAYS_XHTML = re.compile(r"<!DOCTYPE[^>]*XHTML|<html\b[^>]*\sxmlns\s*=|\A(?:\xef\xbb\xbf)?\s*<\?xml\b", re.IGNORECASE)
_EARLY = 4000
"""In bytes: what a page is, it says at its beginning."""
_PLAIN_TEXT = re.compile(r"\S")
_BOM = "\xef\xbb\xbf"
_ATTRIBUTE = re.compile(rf"(?P<name>=?[^\s/>=]++)(?:\s*+=\s*+{_VALUE})?")
# Elements whose content is text, not tags (WHATWG HTML, §13.1.2 "Elements": raw text and escapable raw text).
_TEXT_ELEMENTS = {"script", "style", "title", "textarea", "noscript", "template", "iframe", "xmp"}
_ENDS_HEAD = {"body", "frameset"}
_BEHIND_HEAD = {
    *("base", "basefont", "bgsound", "link", "meta", "noframes", "script", "style", "template", "title", "head"),
}
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
        found = {match["name"].lower(): match for match in reversed([*_ATTRIBUTE.finditer(self.written)])}
        values = {name: match["double"] or match["single"] or match["plain"] or "" for name, match in found.items()}
        return {name: html.unescape(value) for name, value in values.items()}

    def get(self, name: str) -> str:
        """The value of an attribute, empty when it is missing."""
        return self.attributes.get(name, "")


@dataclass(frozen=True)
class Head:
    """The head of a page: the span between its tags, its tags in order, and our own marked block, if it is there.

    A browser's head ends at `limit`, which may come before its closing tag. `behind` are tags that stand between the
    closing tag and the body, which a browser takes for part of the head, too. `base` is where relative addresses lead
    from, as it is written.
    """

    inside: Span
    limit: int
    tags: tuple[Tag, ...]
    block: Span | None
    xhtml: bool
    template: Template
    behind: tuple[Tag, ...] = ()

    @property
    def base(self) -> str:
        """The first `<base href>`, empty when there is none."""
        every = (*self.tags, *self.behind)
        return next((tag.get("href") for tag in every if tag.name == "base" and tag.get("href")), "")

    def place_from(self, position: int) -> int:
        """The first place at or after this one where lines stand in the head whatever the template decides.

        Raises HeadRefused when there is none.
        """
        template = self.template
        for barred in (template.conditions + template.blocks, template.conditions):
            place = _past(barred, position)
            if place <= self.limit and not self._within_text(place):
                return place
        raise HeadRefused(
            "conditional-head",
            "Its head, or the place for the lines in it, stands inside a condition of the template, so they would be "
            "there at times only. Put them in by hand, outside every condition.",
        )

    def is_conditional(self, position: int) -> bool:
        """Whether what stands here is there at times only."""
        return any(start < position < end for start, end in self.template.conditions)

    def _within_text(self, place: int) -> bool:
        """Whether this is inside a tag, in the text of a script or the like, or in a comment that has no end."""
        html = self.template.html
        comment = html.rfind("<!--", 0, place)
        if comment >= 0 and not _COMMENT_ENDS.search(html, comment + 2):
            return True
        last = next((tag for tag in reversed(self.tags) if tag.start < place), None)
        return last is not None and (place < last.end or (last.name in _TEXT_ELEMENTS and not last.closing))

    @property
    def icon_tags(self) -> tuple[tuple[Tag, IconLink], ...]:
        """Tags that declare an icon, a manifest or tiles, in tree order, and what each declares."""
        every = (*self.tags, *self.behind)
        declaring = (tag for tag in every if tag.name in ("link", "meta") and not tag.closing)
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
    template = read(text)
    if template.builds_on_another:
        raise HeadRefused(
            "part-of-layout",
            f"This template builds on another one, whose head is edited instead.{_told_of_icons(template)}",
        )
    opening, xhtml = _opening(template)
    if opening is None:
        return _implied_head(text, template, xhtml)
    if xhtml and opening.written.endswith("/"):
        raise HeadRefused("empty-head", "Its head is written as <head/>. Write <head></head>, then plan again.")
    return _gathered(text, template, opening.end, xhtml)


def _opening(template: Template) -> tuple[Tag | None, bool]:
    """The tag that opens the head, if there is one, and whether the page is XHTML."""
    xhtml = _is_xhtml(template)
    for token in _tokens(template):
        if isinstance(token, Tag) and token.name == "head" and not token.closing:
            return token, xhtml
    return None, xhtml


def _is_xhtml(template: Template) -> bool:
    """Whether a page says of itself that it is XHTML, where `<script/>` is a whole element."""
    return _SAYS_XHTML.search(template.html, 0, _EARLY) is not None


def _gathered(text: str, template: Template, start: int, xhtml: bool) -> Head:
    """The head that is opened just before `start`.

    It ends where a browser ends it (WHATWG HTML, §13.2.6.4.4): at its closing tag, or before whatever cannot be in one.
    What stands between that and a closing tag further down is looked at, too.
    """
    position, end, limit = start, None, None
    tags: list[Tag] = []
    behind: list[Tag] = []
    marks: dict[str, list[Span]] = {BEGIN: [], END: []}
    for token in _tokens(template, start):
        name = token.name if isinstance(token, Tag) else ""
        if end is not None:  # behind the closing tag
            if _ends_what_is_behind(template.html[position : token.start], token):
                break
            if isinstance(token, Tag):
                behind.append(token)
            position = token.end
            continue
        if limit is None and _ends_head(template.html[position : token.start], token):
            limit = position
        if name in _ENDS_HEAD:
            end = token.start
            break
        if name == "head" and isinstance(token, Tag) and token.closing:
            end, position = token.start, token.end
            continue
        if name == "head":
            raise HeadRefused("two-heads", "This page opens <head> twice, so the right place is unclear.")
        if isinstance(token, Tag):
            tags.append(token)
        elif (comment := text[token.start : token.end]) in marks:
            marks[comment].append(token)
        position = token.end
    if limit is None:
        # Text behind the last tag ends the head, too; else it goes on to its end.
        limit = position if end is None and _PLAIN_TEXT.search(template.html, position) else end or len(text.rstrip())
    end = limit if end is None else end
    inside = tuple(tag for tag in tags if tag.start < end)
    block = _block(marks[BEGIN], marks[END])
    return Head(Span(start, end), min(limit, end), inside, block, xhtml, template, tuple(behind))


def _ends_what_is_behind(text_before: str, token: Tag | Span) -> bool:
    """Whether the body begins (WHATWG HTML, §13.2.6.4.6): before anything that could not stand in a head."""
    if not isinstance(token, Tag):
        return bool(_PLAIN_TEXT.search(text_before))
    closes_text = token.closing and token.name in _TEXT_ELEMENTS
    if not closes_text and _PLAIN_TEXT.search(text_before):
        return True
    if token.closing:
        return token.name in ("body", "html", "br")
    return token.name not in _BEHIND_HEAD


def _ends_head(text_before: str, token: Tag | Span) -> bool:
    if not isinstance(token, Tag):
        return bool(_PLAIN_TEXT.search(text_before))
    closes_text = token.closing and token.name in _TEXT_ELEMENTS
    if not closes_text and _PLAIN_TEXT.search(text_before):
        return True
    return token.name not in (*_IN_HEAD, "head", *_ENDS_HEAD) and not (token.closing and token.name != "html")


def _implied_head(text: str, template: Template, xhtml: bool) -> Head:
    """The head of a page that leaves its tags out, as HTML allows; raises HeadRefused for what is no whole page."""
    start = position = len(_BOM) if text.startswith(_BOM) else 0
    tags: list[Tag] = []
    marks: dict[str, list[Span]] = {BEGIN: [], END: []}
    whole = False
    for token in _tokens(template, start):
        name = token.name if isinstance(token, Tag) else ""
        if name != "html" and _ends_head(template.html[position : token.start], token):
            break
        if name in _ENDS_HEAD:
            break
        if name == "html" or (text[token.start : token.start + 2] == "<!" and text[token.start + 2] != "-"):
            whole, start = True, token.end if not tags else start
        elif isinstance(token, Tag):
            tags.append(token)
        elif text[token.start : token.end] in marks:
            marks[text[token.start : token.end]].append(token)
        position = token.end
    if not whole and (template.has_code or not any(tag.name == "title" for tag in tags)):
        raise HeadRefused(
            "no-head",
            "This is a part of a page, without a head of its own. What builds the head around it is edited instead."
            f"{_told_of_icons(template)}",
        )
    return Head(Span(start, position), position, tuple(tags), _block(marks[BEGIN], marks[END]), xhtml, template)


def _told_of_icons(template: Template) -> str:
    """A sentence on icon lines in a file that is not edited: they go on counting."""
    tags = (token for token in _tokens(template) if isinstance(token, Tag) and token.name == "link")
    declared = [link.href for tag in tags if (link := declared_by("link", tag.attributes))]
    return f" It declares {', '.join(declared[:3])} itself; take that out by hand, or it may win." if declared else ""


def _past(barred: Iterable[Span], position: int) -> int:
    """The first place at or after this one that lies in none of the stretches."""
    for start, end in sorted(barred):
        if start < position < end:
            position = end
    return position


def _block(begins: list[Span], ends: list[Span]) -> Span | None:
    if not begins and not ends:
        return None
    if len(begins) != 1 or len(ends) != 1 or begins[0].start > ends[0].start:
        raise HeadRefused(
            "broken-block",
            "The marks around the icon lines here are no longer a pair. Remove the leftover mark and plan again.",
        )
    return Span(begins[0].start, ends[0].end)


def _tokens(template: Template, position: int = 0) -> Iterator[Tag | Span]:
    """Tags as they are written, and comments and declarations as plain spans, in order."""
    text, xhtml = template.html, _is_xhtml(template)
    while match := _TOKEN.search(text, position):
        position = match.end()
        if match["name"] is None:
            if match["comment"] is not None or match["declaration"] is not None:
                yield Span(match.start(), match.end())
            continue
        name = match["name"].lower()
        closing = bool(match["close"])
        start, end = match.span("attributes")
        yield Tag(match.start(), match.end(), name, closing, template.text[start:end])
        if name in _TEXT_ELEMENTS and not closing and not (xhtml and match["attributes"].endswith("/")):
            position = _end_of_text(text, position, name)


def _end_of_text(text: str, position: int, name: str) -> int:
    """Where the closing tag of an element begins whose content is text; the end of the page without one."""
    if name != "script":
        closer = re.compile(rf"</{re.escape(name)}(?=[\s/>])", re.IGNORECASE).search(text, position)
        return closer.start() if closer else len(text)
    escaped = doubly = False  # as the states of script data are called (WHATWG HTML, §13.2.5.15 to 31)
    for part in _SCRIPT_PART.finditer(text, position):
        said = part[0].lower()
        if said == "<!--":
            escaped = True
        elif said.startswith("<!--") or said == "-->":
            escaped = doubly = False
        elif part["close"]:
            if not doubly:
                return part.start()
            doubly = False
        else:
            doubly = escaped
    return len(text)
