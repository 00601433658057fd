"""Putting the icon lines into a page: one marked block, every byte outside it as before."""

import hashlib
import re
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

from bexi.core.errors import HeadRefused
from bexi.core.sitehead.link import IconLink
from bexi.core.sitehead.scan import Head, Tag, as_text, find_head
from bexi.core.sitehead.snippet import HeadLines, marked
from bexi.core.sitehead.templates import Span, has_code

_OF_THE_PAGE = re.compile(
    r"<title[^>]*>.*?</title\s*>|<meta[^>]*(?:description|og:|keywords)[^>]*>|<link[^>]*canonical[^>]*>",
    re.IGNORECASE | re.DOTALL,
)


MOST_DECLARED = 200
"""Icon lines in one head; a real one has a dozen."""
_LONGEST_HEAD = 64 * 1024
"""In bytes; longer heads are not kept to be used again."""
_PLAIN_TITLE = re.compile(r"<title>([^<\r\n]*)</title>", re.IGNORECASE)
_HEAD_END = re.compile(r"</head\s*>", re.IGNORECASE)
_BODY_FOLLOWS = re.compile(r"\s*<body[\s>]", re.IGNORECASE)
_ENDS_LINE = re.compile(r"[ \t]*(\r\n|\r|\n|\Z)")
_BLANK = re.compile(r"[ \t]*")
_HEAD_TAG = re.compile(r"<head[\s>]", re.IGNORECASE)
_NEXT_INDENT = re.compile(r"[^\r\n]*(?:\r\n|\r|\n)([ \t]+)<(?!/)")


class Edit(NamedTuple):
    """A stretch of a page, in bytes, and what comes in its place."""

    start: int
    end: int
    text: bytes


@dataclass(frozen=True)
class HeadEdit:
    """A page and what changes in it, in order.

    `removed` are the icon lines of others that give way, `stays` those that do not, `declared` is all that others
    declare in its head;
    `had_block` tells whether the block of Bexi was there already. `template` is the same for pages whose heads are
    the same but for their titles; hexadecimal. `base` is where relative addresses on the page lead from.
    """

    before: bytes
    edits: tuple[Edit, ...]
    removed: tuple[str, ...]
    declared: tuple[IconLink, ...]
    had_block: bool
    template: str
    base: str = ""
    stays: tuple[str, ...] = ()

    @property
    def after(self) -> bytes:
        """The page with its changes."""
        pieces, position = [], 0
        for start, end, text in self.edits:
            pieces += [self.before[position:start], text]
            position = end
        return b"".join([*pieces, self.before[position:]])

    @property
    def size_after(self) -> int:
        """Bytes of the page with its changes."""
        return len(self.before) + sum(len(text) - (end - start) for start, end, text in self.edits)

    @property
    def is_same(self) -> bool:
        """Whether the page is already as it should be."""
        return all(self.before[start:end] == text for start, end, text in self.edits)


def edit_head(page: bytes, icons: HeadLines, path: str = "") -> HeadEdit:
    """The page with the icon lines of a set in its head, in place of all earlier ones.

    `path` is where the page lies, from the top folder.

    Raises HeadRefused when the head cannot be found for sure. Editing an edited page changes nothing.
    """
    text = as_text(page)
    return _edited(page, text, find_head(text), icons, path)


class HeadEditor:
    """Edits page after page for one set.

    The pages of a site share a head but for the title; so what was found for one head is used again for all that
    differ from it in nothing else.
    """

    def __init__(self, icons: HeadLines) -> None:
        self.icons = icons
        self._untitled_edit = lru_cache(maxsize=64)(self._find_untitled_edit)

    def edit(self, page: bytes, path: str) -> HeadEdit:
        """See edit_head."""
        text = as_text(page)
        title = _PLAIN_TITLE.search(text)
        end = _HEAD_END.search(text, title.end(), _LONGEST_HEAD) if title else None
        if title and end and _BODY_FOLLOWS.match(text, end.end()):  # else what is behind has a say in it
            start, length = title.start(1), len(title[1])
            untitled = text[:start] + text[title.end(1) : end.end()]
            if found := self._untitled_edit(untitled, start, self._seen_from(path, untitled)):
                moved = (
                    edit if edit.end <= start else Edit(edit.start + length, edit.end + length, edit.text)
                    for edit in found.edits
                )
                removed, declared, had_block = found.removed, found.declared, found.had_block
                return HeadEdit(
                    page, tuple(moved), removed, declared, had_block, found.template, found.base, found.stays
                )
        return _edited(page, text, find_head(text), self.icons, path)

    @staticmethod
    def _seen_from(path: str, head: str) -> str:
        """A page whose head is edited alike: of the same depth, in the same folder where it names a manifest."""
        folder = path.rpartition("/")[0]
        return path if not folder or "manifest" in head.lower() else "/" * path.count("/")

    def _find_untitled_edit(self, untitled: str, title: int, path: str) -> HeadEdit | None:
        """The edit of a head whose title, at this place, is cut out.

        None when it is no title or head after all, or when what follows the head has a say in it.
        """
        if has_code(untitled):
            return None
        try:
            head = find_head(untitled)
            is_title = any(tag.name == "title" and not tag.closing and tag.end == title for tag in head.tags)
            if is_title and _HEAD_END.match(untitled, head.inside.end):
                return _edited(untitled.encode("latin-1"), untitled, head, self.icons, path)
        except HeadRefused:
            pass  # the page itself is refused in its turn
        return None


def _edited(page: bytes, text: str, head: Head, icons: HeadLines, path: str) -> HeadEdit:
    others = [(tag, link) for tag, link in head.icon_tags if not _within(tag, head.block)]
    if len(others) > MOST_DECLARED:
        raise HeadRefused(
            "too-many-icons",
            f"This page declares more than {MOST_DECLARED} icons. Remove those nobody needs and plan again.",
        )
    foreign = [tag for tag, link in others if icons.replaces(link, path)]
    gone_tags = set(foreign)
    keeps_manifest = any(link.kind == "manifest" and not icons.replaces(link, path) for _, link in others)
    lines = marked(icons.lines(path, head.xhtml, with_manifest=not keeps_manifest))
    newline = _newline(text[: head.inside.end])
    stays = head.block is not None and not head.is_conditional(head.block.start)
    gone: list[Tag | Span] = [*foreign]
    if head.block and not stays:
        gone.append(head.block)
    spans = [(_removal(text, one), "") for one in gone]
    if head.block and stays:
        spans.append((head.block, _laid_out(text, head.block.start, lines, newline)))
    else:
        spans.append(_new_block(text, head, foreign, lines, newline))
    return HeadEdit(
        page,
        tuple(sorted(Edit(*span, change.encode("latin-1")) for span, change in spans)),
        tuple(_readable(text[link.start : link.end]) for link in foreign),
        tuple(link for _, link in others),
        head.block is not None,
        _template(text, head),
        head.base,
        tuple(_readable(text[tag.start : tag.end]) for tag, _ in others if tag not in gone_tags),
    )


def _template(text: str, head: Head) -> str:
    """A hash of the head without its title, its own block and what is said of this page alone."""
    inside = text[head.inside.start : head.block.start if head.block else head.inside.end]
    rest = text[head.block.end : head.inside.end] if head.block else ""
    common = _OF_THE_PAGE.sub("", inside + rest)
    return hashlib.sha256(" ".join(common.split()).encode()).hexdigest()[:16]


def _within(tag: Tag, block: Span | None) -> bool:
    return block is not None and block.start <= tag.start < block.end


def _new_block(text: str, head: Head, foreign: list[Tag], lines: list[str], newline: str) -> tuple[Span, str]:
    """Where a block goes that is not there yet, and its text.

    It stands where the first earlier icon link stood, else after the last link; but never before the title or
    the character set, which a browser must meet early (WHATWG HTML, §4.2.5.4).
    """
    early = [tag.end for tag in head.tags if _is_early(tag) and tag.end <= head.limit]
    earliest = early[-1] if early else head.inside.start
    if foreign and earliest <= foreign[0].start <= head.limit:
        line = _line_of(text, foreign[0])
        start = line.start if line else foreign[0].start
        if head.place_from(start) == start:
            return Span(start, start), _before(text, foreign[0], line, lines, newline)
    gone = set(foreign)
    links = [tag.end for tag in head.tags if tag.name == "link" and tag not in gone and tag.end <= head.limit]
    anchor = head.place_from(max([earliest, *links]))
    return Span(anchor, anchor), _after(text, anchor, lines, newline)


def _is_early(tag: Tag) -> bool:
    if tag.name == "title":
        return tag.closing
    return tag.name == "meta" and (tag.get("charset") != "" or tag.get("http-equiv").lower() == "content-type")


def _before(text: str, tag: Tag, line: Span | None, lines: list[str], newline: str) -> str:
    if line is None:
        return "".join(lines)
    indent = text[line.start : tag.start]
    return "".join(f"{indent}{each}{newline}" for each in lines)


def _after(text: str, anchor: int, lines: list[str], newline: str) -> str:
    """Lines of their own below the anchor when it ends its line, else the bare tags behind it."""
    if not _ENDS_LINE.match(text, anchor):
        return "".join(lines)
    indent = _indent(text, anchor)
    return "".join(f"{newline}{indent}{each}" for each in lines)


def _laid_out(text: str, start: int, lines: list[str], newline: str) -> str:
    """The lines as a block that begins at `start` is laid out already: one below the other, or in one line."""
    if text[start:].split("-->", 1)[1].startswith("<"):
        return "".join(lines)
    return f"{newline}{_indent(text, start)}".join(lines)


def _indent(text: str, position: int) -> str:
    start = max(text.rfind("\n", 0, position), text.rfind("\r", 0, position)) + 1
    match = _BLANK.match(text, start)
    indent = match[0] if match else ""
    # The bare <head> line is indented less than what stands in it.
    if _HEAD_TAG.match(text, start + len(indent)):
        inner = _NEXT_INDENT.match(text, start)
        return inner[1] if inner else indent
    return indent


def _newline(text: str) -> str:
    """The line end that most lines have."""
    counts = {"\r\n": text.count("\r\n")}
    counts["\n"] = text.count("\n") - counts["\r\n"]
    counts["\r"] = text.count("\r") - counts["\r\n"]
    return max(counts, key=lambda ending: (counts[ending], ending == "\n"))


def _line_of(text: str, tag: Tag | Span) -> Span | None:
    """The whole line of a tag with its line end, when nothing else stands on it."""
    start = max(text.rfind("\n", 0, tag.start), text.rfind("\r", 0, tag.start)) + 1
    rest = _ENDS_LINE.match(text, tag.end)
    if text[start : tag.start].strip(" \t") or not rest or not rest[1]:
        return None
    return Span(start, rest.end())


def _removal(text: str, tag: Tag | Span) -> Span:
    return _line_of(text, tag) or Span(tag.start, tag.end)


def _readable(text: str) -> str:
    raw = text.encode("latin-1")
    try:
        return raw.decode()
    except UnicodeDecodeError:
        return raw.decode("cp1252", errors="replace")
