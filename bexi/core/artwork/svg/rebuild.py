"""Writing an SVG anew: the elements, attributes and styles that draw, and nothing else of the file."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any
from xml.etree.ElementTree import Element, SubElement

from bexi.core.artwork.limits import Limits
from bexi.core.artwork.svg import styles
from bexi.core.artwork.svg.allowed import (
    ATTRIBUTES,
    ELEMENTS,
    GEOMETRY,
    MOST_OCTAVES,
    PRESENTATION,
    SVG,
    TEXT,
    XLINK,
    XML,
)
from bexi.core.artwork.svg.references import Embedded, Names
from bexi.core.artwork.svg.variables import Variables

_PLAIN = re.compile(r"[\w\s.,()%#;+-]*")
_HREFS = ("href", f"{{{XLINK}}}href")
_ANIMATIONS = ("animate", "animateColor", "animateMotion", "animateTransform", "set", "mpath", "discard")
_SILENT = ("title", "desc", "metadata", "style", "view", "cursor")
"""Says something about the drawing, or is read elsewhere."""
_EDITORS = "data for editors"


@dataclass(frozen=True)
class Rebuilt:
    """The new root element, what kinds of things were left out, and whether text is set in it."""

    root: Element
    left_out: tuple[str, ...]
    live_text: bool


def rebuilt(root: Element, limits: Limits) -> Rebuilt:
    """The drawing of a parsed SVG, whose nesting is known to be within the limits; `root` is not changed.

    Raises ArtworkRefused for a drawing that needs something outside the file, or more than the limits.
    """
    return _Rebuilding(root, limits).done()


class _Rebuilding:
    def __init__(self, root: Element, limits: Limits) -> None:
        self._source = root
        self._names = Names()
        self._embedded = Embedded(limits)
        self._left_out: dict[str, None] = {}
        self._new_by_id: dict[str, Element] = {}
        self._live_text = False
        written = (
            element for element in root.iter(f"{{{SVG}}}style") if styles.is_for_screens(element.get("media", ""))
        )
        sheets = ("".join(element.itertext()) for element in written)
        self._sheets = styles.Sheets(sheets, self._names)
        self._matched = styles.element_tree(root)

    def done(self) -> Rebuilt:
        new = Element(f"{{{SVG}}}svg")
        self._fill(new, self._source, "svg", {})
        for name, element in self._new_by_id.items():
            if self._names.is_known(name):
                element.set("id", self._names.of(name))
        if self._sheets.left_out:
            self._leave_out("style rules")
        return Rebuilt(new, tuple(self._left_out), self._live_text)

    def _leave_out(self, what: str) -> None:
        self._left_out[what] = None

    def _fill(self, new: Element, old: Element, name: str, inherited: Variables) -> None:
        if (own_id := old.get("id")) is not None:
            self._new_by_id.setdefault(own_id, new)  # of two with one id the first is meant (DOM, getElementById)
        self._live_text |= name == "text"
        style = self._style(old, inherited)
        for key, text in self._attributes(old, name, style.variables):
            new.set(key, text)
        as_attributes = GEOMETRY.get(name, frozenset())
        for key in sorted(as_attributes & style.said.keys()):
            new.set(key, style.said[key])
        if said := style.without(as_attributes):
            new.set("style", said)
        self._add_content(new, old, style.variables, keeps_text=name in TEXT)

    def _add_content(self, new: Element, old: Element, variables: Variables, keeps_text: bool) -> None:
        if keeps_text:
            new.text = old.text
        for child in old:
            name = self._name(child, within_text=keeps_text)
            added = None if name is None else SubElement(new, f"{{{SVG}}}{name}")
            if added is not None and name is not None:
                self._fill(added, child, name, variables)
            if keeps_text and child.tail:
                _append_text(new, added, child.tail)

    def _name(self, element: Element, within_text: bool) -> str | None:
        """The name under which an element stands in the new file; None when it does not."""
        namespace, _, name = str(element.tag).rpartition("}")
        if namespace != f"{{{SVG}":
            self._leave_out(_EDITORS if "xhtml" not in namespace else "web page content")
            return None
        if name == "a":
            self._leave_out("links")
            return "tspan" if within_text else "g"
        if name in ELEMENTS:
            return name
        if name not in _SILENT:
            kind = {"script": "scripts", "foreignObject": "web page content", "font": "fonts"}
            self._leave_out("animations" if name in _ANIMATIONS else kind.get(name, f"<{name[:30]}>"))
        return None

    def _attributes(self, old: Element, name: str, variables: Variables) -> Iterator[tuple[str, str]]:
        for key, text in old.attrib.items():
            if key in ATTRIBUTES:
                if _PLAIN.fullmatch(text):
                    yield key, _bounded(key, text)
                else:
                    self._leave_out("values that are no drawing")
            elif key in PRESENTATION:
                written = styles.value(text, self._names, variables)
                if written is None:
                    self._leave_out("values that are no drawing")
                else:
                    yield key, written
            elif key == f"{{{XML}}}space":
                yield key, text
            elif key.lower().startswith("on"):
                self._leave_out("event handlers")
        if reference := next((old.attrib[key] for key in _HREFS if key in old.attrib), None):
            yield from self._reference(reference.strip(), name)

    def _reference(self, reference: str, name: str) -> Iterator[tuple[str, str]]:
        if reference.startswith("#"):
            yield "href", f"#{self._names.of(reference[1:])}"
        elif name in ("image", "feImage") and (embedded := self._embedded.rewritten(reference)):
            yield "href", embedded
        elif name not in ("g", "tspan"):  # those were links
            raise styles.outside(reference)

    def _style(self, old: Element, inherited: Variables) -> styles.Style:
        own, all_kept = styles.declared(old.get("style", ""), self._names)
        said = [*self._sheets.declarations(self._matched[old]), *own]
        style = styles.settled(said, inherited, self._names)
        if not all_kept or not style.is_whole:
            self._leave_out("styles")
        return style


def _append_text(new: Element, last: Any, text: str) -> None:
    """Text after an element that stands, or else after what stands before it."""
    if last is None:
        last = new[-1] if len(new) else None
    if last is None:
        new.text = (new.text or "") + text
    else:
        last.tail = (last.tail or "") + text


def _bounded(key: str, text: str) -> str:
    if key != "numOctaves":
        return text
    try:
        return str(min(int(float(text)), MOST_OCTAVES))
    except (ValueError, OverflowError):
        return "1"
