"""The languages that templates of pages are written in: what of a file they leave out, and what they only may show.

Read are the usual engines by the marks they have in common: `{% %}` (Jinja, Django, Twig, Liquid), `{{ }}`
(Handlebars, Mustache, Go), `<% %>` (ERB, EJS, ASP, HEEx), `<? ?>` (PHP), `@` (Blade, Razor), `<!--# -->` (server-side
includes) [common practice].
"""

import re
from bisect import bisect_left
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import NamedTuple


class Span(NamedTuple):
    """A stretch of a page, in bytes; `end` lies just outside."""

    start: int
    end: int


@dataclass(frozen=True)
class Template:
    """A file as its engine sees it.

    `text` is the file, `html` the same with comments and code of the engine blanked, every other byte in its place.
    `conditions` are stretches that are shown at times only, or more than once; `blocks` those that another template
    may replace. `builds_on_another` when it only fills in what another template lays out; `has_code` when it is a
    template at all.
    """

    text: str
    html: str
    conditions: tuple[Span, ...] = ()
    blocks: tuple[Span, ...] = ()
    builds_on_another: bool = False
    has_code: bool = False


_CODE = re.compile(
    r"\{[#{%]|<%|<\?(?!xml\b)|<!--#"
    r"|@(?:\*|\{|end|extends|layout|(?:if|for|foreach|while|switch|using|lock|try|do|section)\b)"
)
_OPENS = re.compile(r"\{[#{%]|<%|<\?(?!xml\b)|<!--#|(?<![\w@.])@(?:\*|\{|[A-Za-z]+)")
_SSI = "<!--#"
_TRIM = "-~+= \t\r\n"
_WORD = re.compile(r"[#^/!>&]|[A-Za-z_]\w*")
_ENDS = re.compile(r"(?:\{%[-+~]?\s*|@)end(\w+)")
# Of paired words: those whose content is always shown, and those that another template may fill in.
_ALWAYS = {"autoescape", "spaceless", "with", "language", "localize", "localtime", "timezone", "apply"}
_REPLACEABLE = {"block", "placeholder"}
_LITERAL = re.compile(r"\{%[-+~]?\s*(comment|raw|verbatim)\b")
_ENDS_LITERAL = {word: re.compile(rf"\{{%[-+~]?\s*end{word}\b") for word in ("comment", "raw", "verbatim")}
_EXTENDING = {"extends", "layout"}
_BEGINS_PAGE = re.compile(r"<!doctype|<html[\s>]|<head[\s>]", re.I)
_GO_CONDITIONS = {"if", "range", "with"}
_RUBY_OPENS = re.compile(r"(?:if|unless|case|while|until|for|begin)\b(?!.*\bend\s*$)", re.I | re.S)
_RUBY_ENDS_OPEN = re.compile(r"\b(?:do(?:\s*\|[^|]{0,80}\|)?|then|->)$", re.I)
_RUBY_CLOSES = re.compile(r"end\b", re.I)
_PHP_OPENS = re.compile(r"(?:if|for|foreach|while|switch)\b", re.I)
_PHP_ENDS_OPEN = re.compile(r":$")
_PHP_CLOSES = re.compile(r"end(?:if|for|foreach|while|switch)\b", re.I)
_STRINGS = re.compile(r"'(?:\\.|[^'\\])*+'|\"(?:\\.|[^\"\\])*+\"|/\*.*?(?:\*/|\Z)|(?://|#)[^\r\n]*+", re.S)
_PHP = re.compile(
    r"<\?(?:'(?:\\.|[^'\\])*+'|\"(?:\\.|[^\"\\])*+\"|/\*.*?(?:\*/|\Z)|(?://|#)(?:(?!\?>)[^\r\n])*+"
    r"|<<<[ \t]*+['\"]?(\w++)['\"]?[ \t]*+\n.*?(?:\n[ \t]*+\1\b|\Z)|(?!\?>).)*+(?:\?>|\Z)",
    re.S,
)
_BRACE = re.compile(r"[{}]")
_RAZOR = re.compile(
    r"@(?:\{|(?:if|for|foreach|while|switch|using|lock|try|do)\b[^{}<@]{0,500}\{|section\s{1,9}\w{1,80}\s{0,9}\{)"
)
_RAZOR_ELSE = re.compile(r"\s{0,200}(?:else(?:\s{1,9}if\b[^{}<@]{0,500})?|catch[^{}<@]{0,200}|finally)\s{0,200}\{")


def has_code(text: str) -> bool:
    """Whether a file may be a template."""
    return _CODE.search(text) is not None


def read(text: str) -> Template:
    """What an engine makes of a file; a file without code is all HTML."""
    return _Reading(text).done() if has_code(text) else Template(text, text)


class Code(NamedTuple):
    """One piece of code: its engine's opening mark, and what stands between the marks."""

    mark: str
    start: int
    end: int
    inner: str


@dataclass
class _Reading:
    text: str
    blanked: list[Span] = field(default_factory=list)
    conditions: list[Span] = field(default_factory=list)
    blocks: list[Span] = field(default_factory=list)
    ends: set[str] = field(default_factory=set)
    open: dict[str, list[tuple[int, str]]] = field(default_factory=dict)
    absent: set[str] = field(default_factory=set)
    razor_end: int = 0
    builds_on_another: bool = False

    @property
    def never(self) -> int:
        """The end of what is never closed: no place in the file lies behind it."""
        return len(self.text) + 1

    def done(self) -> Template:
        self.ends = set(_ENDS.findall(self.text))
        for code in self._pieces():
            self._follow(code)
        for waiting in self.open.values():
            for start, kind in waiting:
                self._region(kind, start, self.never)
        found = bool(self.blanked or self.conditions or self.builds_on_another)
        return Template(
            self.text,
            self._html(),
            tuple(map(self._whole, self.conditions)),
            tuple(self.blocks),
            self.builds_on_another,
            found,
        )

    def _whole(self, condition: Span) -> Span:
        """With all of the code in whose middle it ends: there is no place for anything within."""
        at = bisect_left(self.blanked, condition.end, key=lambda code: code.start) - 1
        if at >= 0 and condition.end < self.blanked[at].end:
            return Span(condition.start, self.blanked[at].end)
        return condition

    def _html(self) -> str:
        pieces, position = [], 0
        for start, end in self.blanked:
            pieces += [self.text[position:start], re.sub(r"[^\r\n]", " ", self.text[start:end])]
            position = end
        return "".join([*pieces, self.text[position:]])

    def _pieces(self) -> Iterator[Code]:
        position = 0
        while match := _OPENS.search(self.text, position):
            start, mark = match.start(), match[0] if match[0] == _SSI else match[0][:2]
            if mark == "{%" and (end := self._literal(start)):
                position = end
                continue
            is_word = mark[0] == "@" and mark != "@*"
            end = match.end() if is_word else self._end(start, mark)
            if end is None:  # it never ends, so it is no code at all
                position = match.end()
                continue
            position = end
            if not is_word:
                self.blanked.append(Span(start, end))
            if mark not in ("{#", "@*"):
                yield Code("@" if is_word else mark, start, end, self.text[start:end])

    def _literal(self, start: int) -> int | None:
        """The end of a stretch that the engine leaves out, or gives out as it stands; None when it never ends."""
        match = _LITERAL.match(self.text, start)
        word = match[1] if match else ""
        begin = self._after("%}", start) if word and word not in self.absent else None
        closing = _ENDS_LITERAL[word].search(self.text, begin) if begin else None
        end = self._after("%}", closing.start()) if closing else None
        if begin is None or closing is None or end is None:
            self.absent.add(word)
            return None
        kept = (end, end) if word == "comment" else (begin, closing.start())
        self.blanked += [Span(start, kept[0]), Span(kept[1], end)]
        return end

    def _end(self, start: int, mark: str) -> int | None:
        """Where a piece ends that opens here."""
        text = self.text
        match mark:
            case "<?":
                code = _PHP.match(text, start)
                return code.end() if code else None
            case "{#":
                return self._after("#}", start)
            case "@*":
                return self._after("*@", start)
            case "<!--#":
                return self._after("-->", start)
            case "<%":
                return self._after("--%>" if text.startswith(("<%--", "<%!--"), start) else "%>", start)
            case "{%":
                return self._after("%}", start)
        opening = text[start + 2 : start + 8].lstrip("-~ ")
        if opening.startswith("/*"):
            closed = self._after("*/", start)
            return closed and self._after("}}", closed - 1)
        if opening.startswith("!--") or text.startswith("{{--", start):
            closed = self._after("--", start + 5)
            while closed is not None and not text.startswith(("}}", "~}}"), closed):
                closed = self._after("--", closed - 2)
            return closed and self._after("}}", closed - 1)
        return self._after("}}}" if text.startswith("{{{", start) else "}}", start)

    def _after(self, closing: str, start: int) -> int | None:
        if closing in self.absent:
            return None
        found = self.text.find(closing, start + 1)
        if found < 0:
            self.absent.add(closing)  # looked for once, not again and again: no file makes this slow
            return None
        return found + len(closing)

    def _follow(self, code: Code) -> None:
        inner = code.inner
        match code.mark:
            case "{%":
                self._paired(code, inner[2:-2].strip(_TRIM))
            case "{{":
                self._braced(code, inner.strip("{}").strip(_TRIM))
            case "<%":
                self._embedded(code, inner[2:-2].strip("=-_! \t\r\n"), _RUBY_OPENS, _RUBY_ENDS_OPEN, _RUBY_CLOSES)
            case "<?":
                body = inner[2:].removesuffix("?>").strip().removeprefix("php").strip()
                self._embedded(code, body, _PHP_OPENS, _PHP_ENDS_OPEN, _PHP_CLOSES)
            case "<!--#":
                self._included(code, inner.removeprefix(_SSI).removesuffix("-->").strip())
            case "@":
                self._at(code)

    def _paired(self, code: Code, inner: str) -> None:
        word = _WORD.match(inner)
        name = word[0] if word else ""
        if name in _EXTENDING:
            self._extend(code)
        elif name.startswith("end"):
            self._close(code)
        elif name in self.ends:
            self._open(code, "block" if name in _REPLACEABLE else "always" if name in _ALWAYS else "condition")

    def _braced(self, code: Code, inner: str) -> None:
        word = _WORD.match(inner)
        name = word[0] if word else ""
        if name in ("#", "^") and len(inner) > 1:
            self._open(code, "condition")
        elif name == "/" or name == "end":
            self._close(code)
        elif name in _GO_CONDITIONS and len(inner) > len(name):
            self._open(code, "condition")
        elif name in ("define", "block") and f'{name} "' in inner:
            self._open(code, "always" if name == "define" else "block")

    def _embedded(
        self, code: Code, body: str, opens: re.Pattern[str], ends_open: re.Pattern[str], closes: re.Pattern[str]
    ) -> None:
        """Statements of a programming language: blocks in braces, or between words."""
        plain = _STRINGS.sub("", body).strip()
        depth = 0
        for brace in re.findall(r"[{}]", plain):
            if brace == "{":
                depth += 1
            elif depth:
                depth -= 1
            else:
                self._close(code)
        for _ in range(depth):
            self._open(code, "condition")
        if "{" in plain or "}" in plain:
            return
        begins, ends = opens.match(plain[:200]) is not None, ends_open.search(plain[-100:]) is not None
        if closes.match(plain):
            self._close(code)
        elif (begins and ends) if code.mark == "<?" else (begins or ends):
            self._open(code, "condition")

    def _included(self, code: Code, inner: str) -> None:
        """Server-side includes: `if` … `endif`; what else they do stands where they stand."""
        word = _WORD.match(inner)
        if word and word[0] == "if":
            self._open(code, "condition")
        elif word and word[0] == "endif":
            self._close(code)

    def _at(self, code: Code) -> None:
        word = code.inner[1:]
        if word in _EXTENDING and self.text.startswith("(", code.end):
            self._extend(code)
        elif word.startswith("end"):
            self._close(code)
        elif word != "section" and word in self.ends:
            self._open(code, "condition")
        elif code.start >= self.razor_end and (match := _RAZOR.match(self.text, code.start)):
            self.razor_end = self._closed_brace(match.end())
            self.conditions.append(Span(code.start, self.razor_end))

    def _extend(self, code: Code) -> None:
        """Engines take this at the top of a file only; behind the beginning of a page it is but written about."""
        self.builds_on_another = self.builds_on_another or not _BEGINS_PAGE.search(self.text, 0, code.start)

    def _closed_brace(self, position: int) -> int:
        """Where a block ends whose brace was opened just before here, with every `else` of it."""
        depth = 1
        for brace in _BRACE.finditer(self.text, position):
            if brace.start() < position:
                continue
            depth += 1 if brace[0] == "{" else -1
            if depth == 0:
                more = _RAZOR_ELSE.match(self.text, brace.end())
                if more is None:
                    return brace.end()
                position, depth = more.end(), 1
        return self.never

    def _open(self, code: Code, kind: str) -> None:
        self.open.setdefault(code.mark, []).append((code.start, kind))

    def _close(self, code: Code) -> None:
        waiting = self.open.get(code.mark)
        if waiting:
            start, kind = waiting.pop()
            self._region(kind, start, code.end)

    def _region(self, kind: str, start: int, end: int) -> None:
        if kind == "condition":
            self.conditions.append(Span(start, end))
        elif kind == "block":
            self.blocks.append(Span(start, end))
