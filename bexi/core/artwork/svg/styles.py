"""The styles of a stranger's SVG: sheets and attributes parsed as CSS (CSS Syntax 3), what is allowed written anew."""

import re
from collections.abc import Container, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any
from xml.etree.ElementTree import Element

import cssselect2
import tinycss2

from bexi.core.artwork.svg import colours
from bexi.core.artwork.svg.allowed import DRAW_NOTHING, FUNCTIONS, PROPERTIES
from bexi.core.artwork.svg.references import Names
from bexi.core.artwork.svg.transforms import plain_transform
from bexi.core.artwork.svg.variables import Variables, filled_in, varies
from bexi.core.errors import ArtworkRefused

MOST_RULES = 5000
_DEEPEST = 20
"""Functions within functions, and media within media; none that draws has so many."""
_PLAIN = re.compile(r"[\w\s#.,%+-]*")
_HARMLESS_RULES = ("charset", "namespace")
_SPACES = re.compile(r"^\s*only\b|\s+|/\*.*?\*/")
_SCREENS = ("", "all", "screen", "(prefers-color-scheme:light)", "screenand(prefers-color-scheme:light)")


@dataclass(frozen=True)
class Declaration:
    """A property and its value, written anew; tokens as they were said where its variables are not known yet."""

    name: str
    value: str | tuple[Any, ...]
    important: bool


@dataclass(frozen=True)
class Style:
    """What an element's style says, property by property, the variables it hands down, and whether that is all."""

    said: dict[str, str]
    variables: Variables
    is_whole: bool

    def without(self, names: Container[str]) -> str:
        """A style attribute that says the same, but for some properties."""
        return ";".join(f"{name}:{said}" for name, said in self.said.items() if name not in names)


def value(text: str, names: Names, variables: Variables) -> str | None:
    """The value of one property written anew, or None when it may not stand; references take their new names.

    Raises ArtworkRefused for one that points outside the file.
    """
    if _PLAIN.fullmatch(text):
        return text
    tokens = filled_in(tinycss2.parse_component_value_list(text), variables)
    return None if tokens is None else _written(tokens, names)


class Sheets:
    """The rules of all style sheets of a file, to be asked element by element."""

    def __init__(self, sheets: Iterable[str], names: Names) -> None:
        self.left_out = False
        self._matcher = cssselect2.Matcher()
        self._count = 0
        for sheet in sheets:
            self._add(tinycss2.parse_stylesheet(sheet, skip_comments=True, skip_whitespace=True), names)

    def declarations(self, element: Any) -> Iterator[Declaration]:
        """What the sheets say of an element (wrapped by cssselect2), the weakest first."""
        for _, _, _, declarations in self._matcher.match(element) if self._count else ():
            yield from declarations

    def _add(self, rules: Sequence[Any], names: Names, depth: int = 0) -> None:
        if depth > _DEEPEST:
            self.left_out = True
            return
        for rule in rules:
            if rule.type == "at-rule" and rule.lower_at_keyword == "import":
                raise outside("@import")
            if rule.type == "at-rule" and rule.lower_at_keyword == "media" and is_for_screens(rule.prelude):
                inner = tinycss2.parse_rule_list(rule.content or [], skip_comments=True, skip_whitespace=True)
                self._add(inner, names, depth + 1)
                continue
            if rule.type != "qualified-rule":
                self.left_out |= rule.type != "at-rule" or rule.lower_at_keyword not in _HARMLESS_RULES
                continue
            found, all_kept = declared(rule.content, names)
            self.left_out |= not all_kept
            try:
                selectors = cssselect2.compile_selector_list(rule.prelude)
            except cssselect2.SelectorError:
                self.left_out = True
                continue
            for selector in selectors:
                self._count += 1
                if selector.pseudo_element is None:
                    self._matcher.add_selector(selector, found)
            if self._count > MOST_RULES:
                raise ArtworkRefused(
                    "svg-too-heavy",
                    f"This SVG has more than the limit of {MOST_RULES} style rules. Export it again with plain styles.",
                )


def is_for_screens(query: str | Sequence[Any]) -> bool:
    """Whether what is written for a medium (Media Queries 4) counts on a light screen of any size."""
    said = query if isinstance(query, str) else tinycss2.serialize(query)
    return _SPACES.sub("", said).lower() in _SCREENS


def declared(content: str | Sequence[Any], names: Names) -> tuple[list[Declaration], bool]:
    """The allowed declarations of a style attribute or of a rule's block, and whether that is all of them."""
    found, all_kept = [], True
    for one in tinycss2.parse_blocks_contents(content, skip_comments=True, skip_whitespace=True):
        written = _declared(one, names) if one.type == "declaration" else None
        if written is None:
            # What is meant for editors draws nothing either.
            all_kept &= one.type == "declaration" and (one.lower_name in DRAW_NOTHING or one.lower_name.startswith("-"))
        else:
            found.append(written)
    return found, all_kept


def _declared(one: Any, names: Names) -> Declaration | None:
    if one.name.startswith("--"):
        return Declaration(one.name, tuple(one.value), one.important)
    if one.lower_name not in PROPERTIES:
        return None
    said = tuple(one.value) if varies(one.value) else _said(one.lower_name, one.value, names)
    return None if said is None else Declaration(one.lower_name, said, one.important)


def settled(declarations: Iterable[Declaration], inherited: Variables, names: Names) -> Style:
    """What declarations, the weakest first, come to where an element inherits such variables (CSS Cascade 4 §6).

    Raises ArtworkRefused for one that points outside the file.
    """
    ordered = sorted(declarations, key=lambda one: one.important)
    own = {one.name: one.value for one in ordered if one.name.startswith("--") and not isinstance(one.value, str)}
    variables = {**inherited, **own} if own else inherited
    said: dict[str, str] = {}
    is_whole = True
    for one in ordered:
        if one.name not in own:
            meant = one.value if isinstance(one.value, str) else _meant(one.name, one.value, variables, names)
            is_whole &= meant is not None
            said[one.name] = meant or ""
    return Style({name: meant for name, meant in said.items() if meant}, variables, is_whole)


def _meant(name: str, tokens: Sequence[Any], variables: Variables, names: Names) -> str | None:
    filled = filled_in(tokens, variables)
    return None if filled is None else _said(name, filled, names)


def _said(name: str, tokens: Sequence[Any], names: Names) -> str | None:
    """The value of a property written anew."""
    if name == "transform":
        return plain_transform(tokens)
    if name == "d":
        return _path(tokens)
    written = _written(tokens, names)
    return None if written is None else written.strip()


def _path(tokens: Sequence[Any]) -> str | None:
    """What the function `path` of CSS Shapes says, as the attribute of that name."""
    paths = [token for token in tokens if token.type == "function" and token.lower_name == "path"]
    texts = [token.value for token in paths[0].arguments if token.type == "string"] if paths else []
    return texts[-1] if texts and _PLAIN.fullmatch(texts[-1]) else None


def outside(reference: str) -> ArtworkRefused:
    """The refusal of a reference that leads out of the file."""
    return ArtworkRefused(
        "svg-external-reference",
        f"This SVG points to something outside itself ({reference[:60]}), which is never fetched. "
        "Embed that part in the file, or export it again as a self-contained SVG.",
    )


def element_tree(root: Element) -> Any:
    """The elements of a file as selectors are matched against them, by their elements."""
    return {wrapped.etree_element: wrapped for wrapped in cssselect2.ElementWrapper.from_xml_root(root).iter_subtree()}


def _written(tokens: Sequence[Any], names: Names, depth: int = 0) -> str | None:
    if depth > _DEEPEST:
        return None
    pieces: list[str | None] = []
    for token in tokens:
        if token.type == "url":
            pieces.append(_url(token.value, names))
        elif token.type == "function":
            pieces.append(_function(token, names, depth))
        elif token.type in ("() block", "[] block", "{} block", "error", "at-keyword"):
            return None
        else:
            pieces.append(token.serialize())
    return None if None in pieces else "".join(filter(None, pieces))


def _function(token: Any, names: Names, depth: int) -> str | None:
    if token.lower_name in colours.FUNCTIONS:
        return colours.plain_colour(token)
    if token.lower_name not in FUNCTIONS:
        return None
    if token.lower_name == "url":
        texts = [argument for argument in token.arguments if argument.type == "string"]
        return _url(texts[0].value, names) if texts else None
    inner = _written(token.arguments, names, depth + 1)
    return None if inner is None else f"{token.name}({inner})"


def _url(address: str, names: Names) -> str:
    target = address.strip()
    if not target.startswith("#"):
        raise outside(target)
    return f"url(#{names.of(target[1:])})"
