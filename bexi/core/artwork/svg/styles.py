"""The styles of a stranger's SVG: sheets and attributes parsed as CSS (CSS Syntax 3), what is allowed written anew."""

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any
from xml.etree.ElementTree import Element

import cssselect2
import tinycss2

from bexi.core.artwork.svg.allowed import DRAW_NOTHING, FUNCTIONS, PROPERTIES
from bexi.core.artwork.svg.references import Names
from bexi.core.errors import ArtworkRefused

MOST_RULES = 5000
_PLAIN = re.compile(r"[\w\s#.,%+-]*")
_HARMLESS_RULES = ("charset", "namespace")


@dataclass(frozen=True)
class Declaration:
    """One allowed property and its value, written anew."""

    name: str
    value: str
    important: bool


def value(text: str, names: Names) -> str | None:
    """The value of one property written anew, or None when it may not stand; references take their new names.

    Raises ArtworkRefused for one that points outside the file.
    """
    if _PLAIN.fullmatch(text):
        return text
    return _written(tinycss2.parse_component_value_list(text), names)


class Sheets:
    """The rules of all style sheets of a file, to be asked element by element."""

    def __init__(self, sheets: Iterable[str], names: Names) -> None:
        self.left_out = False
        self._matcher = cssselect2.Matcher()
        self._count = 0
        for sheet in sheets:
            self._add(sheet, names)

    def declarations(self, element: Any) -> Iterator[Declaration]:
        """What the sheets say of an element (wrapped by cssselect2), the weakest first."""
        for _, _, _, declarations in self._matcher.match(element) if self._count else ():
            yield from declarations

    def _add(self, sheet: str, names: Names) -> None:
        for rule in tinycss2.parse_stylesheet(sheet, skip_comments=True, skip_whitespace=True):
            if rule.type == "at-rule" and rule.lower_at_keyword == "import":
                raise outside("@import")
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


def declared(content: str | Sequence[Any], names: Names) -> tuple[list[Declaration], bool]:
    """The allowed declarations of a style attribute or of a rule's block, and whether that is all of them."""
    found, all_kept = [], True
    for one in tinycss2.parse_blocks_contents(content, skip_comments=True, skip_whitespace=True):
        written = _written(one.value, names) if one.type == "declaration" and one.lower_name in PROPERTIES else None
        if written is None:
            # What is meant for editors, and custom properties, draw nothing either.
            all_kept &= one.type == "declaration" and (one.lower_name in DRAW_NOTHING or one.lower_name.startswith("-"))
        else:
            found.append(Declaration(one.lower_name, written.strip(), one.important))
    return found, all_kept


def attribute(declarations: Iterable[Declaration]) -> str:
    """A style attribute that says the same as declarations in the order of their strength (CSS Cascade 4 §6)."""
    ordered = sorted(declarations, key=lambda one: one.important)
    return ";".join(f"{name}:{said}" for name, said in {one.name: one.value for one in ordered}.items())


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


def _written(tokens: Sequence[Any], names: Names) -> str | None:
    pieces: list[str | None] = []
    for token in tokens:
        if token.type == "url":
            pieces.append(_url(token.value, names))
        elif token.type == "function":
            pieces.append(_function(token, names))
        elif token.type in ("() block", "[] block", "{} block", "error", "at-keyword"):
            return None
        else:
            pieces.append(token.serialize())
    return None if None in pieces else "".join(filter(None, pieces))


def _function(token: Any, names: Names) -> str | None:
    if token.lower_name not in FUNCTIONS:
        return None
    if token.lower_name == "url":
        texts = [argument for argument in token.arguments if argument.type == "string"]
        return _url(texts[0].value, names) if texts else None
    inner = _written(token.arguments, names)
    return None if inner is None else f"{token.name}({inner})"


def _url(address: str, names: Names) -> str:
    target = address.strip()
    if not target.startswith("#"):
        raise outside(target)
    return f"url(#{names.of(target[1:])})"
