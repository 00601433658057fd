"""Checking SVG files: what comes out is safe to draw, and holds nothing but the drawing."""

import math
import re
from collections.abc import Iterator
from xml.etree.ElementTree import Element, register_namespace, tostring

from bexi.core.artwork.bitmap import too_many_pixels
from bexi.core.artwork.limits import Limits
from bexi.core.artwork.pictures import Vector
from bexi.core.artwork.svg.allowed import SVG, XLINK
from bexi.core.artwork.svg.lengths import CSS_PX
from bexi.core.artwork.svg.parsing import parsed
from bexi.core.artwork.svg.rebuild import rebuilt
from bexi.core.artwork.svg.styles import outside
from bexi.core.artwork.vector import NUMBER, render
from bexi.core.errors import ArtworkRefused

SMALLEST_GRID = 1024
"""A vector has no pixels of its own: its grid is at least this many along the longer side, to frame it finely."""

register_namespace("", SVG)
_HREF = ("href", f"{{{XLINK}}}href")
_CSS_URL = re.compile(r"url\(\s*['\"]?\s*([^'\")\s]*)", re.IGNORECASE)
_STYLESHEET = re.compile(r"<\?xml-stylesheet", re.IGNORECASE)
_LENGTH = re.compile(r"\s*([0-9]*\.?[0-9]+(?:[eE][+-]?[0-9]+)?)\s*(px|pt|pc|mm|cm|in|)\s*")


def check(data: bytes, limits: Limits) -> Vector:
    """A safe vector picture from SVG bytes, written anew with nothing in it but the drawing; raises ArtworkRefused.

    Refused are files that are not well-formed XML, define more than short entities, draw on something outside
    themselves, or would grow beyond the limits when drawn.
    """
    root = parsed(data)
    if _STYLESHEET.search(data[:4096].decode("latin-1")):
        raise outside("an external style sheet")
    _refuse_heavy(root, limits)
    made = rebuilt(root, limits)
    _refuse_heavy(made.root, limits)  # once more: its style sheets may reuse parts, too
    _set_size(made.root, limits)
    width, height = int(made.root.attrib["width"]), int(made.root.attrib["height"])
    markup = tostring(made.root, encoding="unicode")
    vector = Vector(markup, width, height, live_text=made.live_text, left_out=made.left_out)
    render(vector, 0, 0, max(width, height), 16)  # so that a file the renderer cannot draw is refused now
    return vector


def _set_size(root: Element, limits: Limits) -> None:
    """Give the root the size of the grid it is framed on, and a view box; raises ArtworkRefused."""
    own_width, own_height = _own_size(root)
    if max(own_width, own_height) > limits.side:
        raise too_many_pixels("This SVG says it is larger than can be framed, or has", limits)
    enlarge = max(1.0, SMALLEST_GRID / max(own_width, own_height))
    width, height = (max(1, round(length * enlarge)) for length in (own_width, own_height))
    if width * height > limits.pixels:
        raise too_many_pixels(f"This SVG says it is {width} × {height} px large,", limits)
    root.set("width", str(width))
    root.set("height", str(height))
    if not _view_box(root):
        root.set("viewBox", f"0 0 {own_width:g} {own_height:g}")
    for unused in ("x", "y", "overflow"):  # a picture ends where it ends
        root.attrib.pop(unused, None)
    if style := root.attrib.pop("style", ""):
        root.set("style", ";".join(said for said in style.split(";") if not said.startswith("overflow")))


def _own_size(root: Element) -> tuple[float, float]:
    """Width and height in CSS px: from the attributes, else the view box, else 300 × 150 (CSS 2.2, §10.3.2)."""
    box_width, box_height = _view_box(root) or (0.0, 0.0)
    width, height = _length(root.get("width")), _length(root.get("height"))
    if width and height:
        return width, height
    if not box_width:
        return width or 300.0, height or 150.0
    if width:
        return width, width * box_height / box_width
    if height:
        return height * box_width / box_height, height
    return box_width, box_height


def _view_box(root: Element) -> tuple[float, float] | None:
    """Width and height of a sound view box (SVG 2 §8.6); any other counts as none."""
    box = [float(number) for number in NUMBER.findall(root.get("viewBox", ""))]
    return (box[2], box[3]) if len(box) == 4 and all(map(math.isfinite, box)) and min(box[2:]) > 0 else None


def _length(text: str | None) -> float | None:
    match = _LENGTH.fullmatch(text or "")
    return float(match[1]) * CSS_PX[match[2]] or None if match else None


def _refuse_heavy(root: Element, limits: Limits) -> None:
    elements, depth = _weigh(root)
    if elements > limits.svg_elements or depth > limits.svg_depth:
        raise ArtworkRefused(
            "svg-too-heavy",
            f"Drawing this SVG takes more than the limit of {limits.svg_elements} elements, {limits.svg_depth} deep. "
            "Simplify it; an icon cannot show that much detail.",
        )


def _weigh(root: Element) -> tuple[int, int]:
    """How many elements are drawn, and how deep, when every reuse (`use`, patterns, masks) is followed.

    A loop counts once; the renderer ends it, too.
    """
    by_id = {element.attrib["id"]: element for element in root.iter() if "id" in element.attrib}
    weighed: dict[Element, tuple[int, int]] = {}
    # Post-order without recursion: a hostile file may nest deeper than Python's stack.
    stack: list[tuple[Element, bool]] = [(root, False)]
    open_elements: set[Element] = set()
    while stack:
        element, seen = stack.pop()
        parts = [*element, *(by_id[target] for target in _targets(element) if target in by_id)]
        if seen:
            weights = [weighed.get(part, (0, 0)) for part in parts]
            deepest = max((depth for _, depth in weights), default=0)
            weighed[element] = 1 + sum(count for count, _ in weights), 1 + deepest
            open_elements.discard(element)
        elif element not in weighed and element not in open_elements:
            open_elements.add(element)
            stack.append((element, True))
            stack.extend((part, False) for part in parts)
    return weighed[root]


def _targets(element: Element) -> Iterator[str]:
    for name, value in element.attrib.items():
        if name in _HREF and value.startswith("#"):
            yield value[1:]
        for match in _CSS_URL.finditer(value):
            if match[1] and match[1].startswith("#"):
                yield match[1][1:]
