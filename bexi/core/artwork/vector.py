"""Checking SVG files and rendering them."""

import base64
import binascii
import io
import re
import urllib.parse
from collections.abc import Iterator
from xml.etree.ElementTree import Element, ParseError, register_namespace, tostring

import numpy as np
import resvg_py
from defusedxml.common import DefusedXmlException, EntitiesForbidden
from defusedxml.ElementTree import fromstring
from PIL import Image

from bexi.core.artwork.bitmap import pixel_size
from bexi.core.artwork.limits import Limits
from bexi.core.artwork.pictures import Vector
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.light import Pixels, recoloured

SMALLEST_GRID = 1024
"""A vector has no pixels of its own: its grid is at least this many along the longer side, to frame it finely."""

_SVG = "{http://www.w3.org/2000/svg}"
register_namespace("", "http://www.w3.org/2000/svg")
register_namespace("xlink", "http://www.w3.org/1999/xlink")
_HREF = ("href", "{http://www.w3.org/1999/xlink}href")
_CSS_URL = re.compile(r"url\(\s*['\"]?\s*([^'\")\s]*)|@import", re.IGNORECASE)
_STYLESHEET = re.compile(r"<\?xml-stylesheet", re.IGNORECASE)
_LENGTH = re.compile(r"\s*([0-9]*\.?[0-9]+(?:[eE][+-]?[0-9]+)?)\s*(px|pt|pc|mm|cm|in|)\s*")
_UNIT = {
    "": 1.0,
    "px": 1.0,
    "pt": 4 / 3,
    "pc": 16.0,
    "mm": 96 / 25.4,
    "cm": 96 / 2.54,
    "in": 96.0,
}  # CSS Values 4


def check(data: bytes, limits: Limits) -> Vector:
    """A safe vector picture from SVG bytes; raises ArtworkRefused.

    Refused are files that are not well-formed XML, define entities, point outside themselves, or would grow
    beyond the limits when drawn.
    """
    try:
        root = fromstring(data)
    except EntitiesForbidden as error:
        raise ArtworkRefused(
            "svg-entities",
            "This SVG defines XML entities, which can swell to any size when read. "
            "Export it again as plain SVG, without entity definitions.",
        ) from error
    except DefusedXmlException as error:
        raise ArtworkRefused(
            "svg-external-reference",
            "This SVG draws on another file for its document type. Export it again as plain, self-contained SVG.",
        ) from error
    except (ParseError, ValueError, LookupError, RecursionError) as error:
        raise ArtworkRefused(
            "broken-picture",
            "This SVG is not well-formed XML, so it cannot be read to its end. Export or download it again.",
        ) from error
    _refuse_external(data, root)
    _refuse_heavy(root, limits)
    user_width, user_height = _own_size(root)
    enlarge = max(1.0, SMALLEST_GRID / max(user_width, user_height))
    width, height = (max(1, round(length * enlarge)) for length in (user_width, user_height))
    if width * height > limits.pixels:
        raise ArtworkRefused(
            "too-many-pixels",
            f"This SVG says it is {width} × {height} px large, more than the limit of "
            f"{limits.pixels // 1_000_000} million pixels. Give its width and height smaller values.",
        )
    root.set("width", str(width))
    root.set("height", str(height))
    if "viewBox" not in root.attrib:
        root.set("viewBox", f"0 0 {user_width:g} {user_height:g}")
    for position in ("x", "y"):
        root.attrib.pop(position, None)
    live_text = any(element.tag == f"{_SVG}text" for element in root.iter())
    vector = Vector(tostring(root, encoding="unicode"), width, height, live_text=live_text)
    render(vector, 0, 0, max(width, height), 16)  # so that a file the renderer cannot draw is refused now
    return vector


def render(vector: Vector, left: int, top: int, side: int, size: int) -> Pixels:
    """The square `(left, top, side)` over a vector picture drawn at `size` pixels: shape (size, size, 4)."""
    return _draw(vector, f"{left} {top} {side} {side}", size, size)


def render_whole(vector: Vector, longest: int) -> Pixels:
    """The whole vector picture drawn with `longest` pixels along its longer side."""
    scale = longest / max(vector.width, vector.height)
    width, height = (max(1, round(length * scale)) for length in (vector.width, vector.height))
    return _draw(vector, f"0 0 {vector.width} {vector.height}", width, height)


def _draw(vector: Vector, view: str, width: int, height: int) -> Pixels:
    # A nested <svg> is clipped to its own size (SVG 2, §8.5), so what lies outside the artwork stays clear.
    framed = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" viewBox="{view}" '
        f'preserveAspectRatio="none">{vector.markup}</svg>'
    )
    try:
        png = resvg_py.svg_to_bytes(svg_string=framed, skip_system_fonts=True)
    except ValueError as error:
        raise ArtworkRefused(
            "broken-picture", "This SVG cannot be drawn: it is not valid. Export it again as plain SVG."
        ) from error
    pixels = np.asarray(Image.open(io.BytesIO(png)).convert("RGBA"), dtype=np.uint8)
    return recoloured(pixels, vector.recolour) if vector.recolour else pixels


def _own_size(root: Element) -> tuple[float, float]:
    """Width and height in CSS px: from the attributes, else the view box, else 300 × 150 (CSS 2.2, §10.3.2)."""
    box = [float(number) for number in re.findall(r"[-+]?[0-9]*\.?[0-9]+(?:[eE][-+]?[0-9]+)?", root.get("viewBox", ""))]
    box_width, box_height = (box[2], box[3]) if len(box) == 4 and min(box[2:]) > 0 else (0.0, 0.0)
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


def _length(text: str | None) -> float | None:
    match = _LENGTH.fullmatch(text or "")
    return float(match[1]) * _UNIT[match[2]] or None if match else None


def _refuse_external(data: bytes, root: Element) -> None:
    outside = next(_external_references(data, root), None)
    if outside is not None:
        raise ArtworkRefused(
            "svg-external-reference",
            f"This SVG points to something outside itself ({outside[:60]}), which is never fetched. "
            "Embed that part in the file, or export it again as a self-contained SVG.",
        )


def _external_references(data: bytes, root: Element) -> Iterator[str]:
    if _STYLESHEET.search(data[:4096].decode("latin-1")):
        yield "an external style sheet"
    for element in root.iter():
        if element.tag != f"{_SVG}a":
            yield from (
                element.attrib[name] for name in _HREF if name in element.attrib and not _inside(element.attrib[name])
            )
        for text in (
            (element.text or "", *element.attrib.values()) if element.tag == f"{_SVG}style" else element.attrib.values()
        ):
            for match in _CSS_URL.finditer(text):
                if match[1] is None or not _inside(match[1]):
                    yield match[1] or "@import"


def _inside(reference: str) -> bool:
    """Whether a reference stays in the file: a fragment, or an embedded bitmap."""
    return reference.startswith("#") or bool(
        re.match(r"data:image/(?:png|jpe?g|gif|webp)[;,]", reference, re.IGNORECASE)
    )


def _refuse_heavy(root: Element, limits: Limits) -> None:
    elements, depth = _weigh(root)
    if elements > limits.svg_elements or depth > limits.svg_depth:
        raise ArtworkRefused(
            "svg-too-heavy",
            f"Drawing this SVG takes more than the limit of {limits.svg_elements} elements, {limits.svg_depth} deep. "
            "Simplify it; an icon cannot show that much detail.",
        )
    for element in root.iter():
        for name in _HREF:
            if element.attrib.get(name, "").startswith("data:"):
                _refuse_heavy_bitmap(element.attrib[name], limits)


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


def _refuse_heavy_bitmap(reference: str, limits: Limits) -> None:
    head, _, body = reference.partition(",")
    try:
        data = base64.b64decode(body) if head.endswith(";base64") else urllib.parse.unquote_to_bytes(body)
        width, height = pixel_size(data)
    except (OSError, ValueError, binascii.Error):
        raise ArtworkRefused(
            "broken-picture", "A bitmap embedded in this SVG cannot be read. Export the SVG again."
        ) from None
    if width * height > limits.pixels:
        raise ArtworkRefused(
            "too-many-pixels",
            f"This SVG embeds a bitmap of {width} × {height} px, more than the limit of "
            f"{limits.pixels // 1_000_000} million pixels. Embed a smaller one.",
        )
