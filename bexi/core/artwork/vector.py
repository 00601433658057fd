"""Checking SVG files and rendering them."""

import io
import math
import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from xml.etree.ElementTree import Element, register_namespace, tostring

import numpy as np
import resvg_py
from PIL import Image

from bexi.core.artwork.bitmap import too_many_pixels
from bexi.core.artwork.limits import Limits
from bexi.core.artwork.pictures import Vector
from bexi.core.artwork.svg.allowed import SVG, XLINK
from bexi.core.artwork.svg.lengths import CSS_PX
from bexi.core.artwork.svg.parsing import parsed
from bexi.core.artwork.svg.rebuild import rebuilt
from bexi.core.artwork.svg.styles import outside
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.light import Pixels, recoloured

SMALLEST_GRID = 1024
"""A vector has no pixels of its own: its grid is at least this many along the longer side, to frame it finely."""

register_namespace("", SVG)
_HREF = ("href", f"{{{XLINK}}}href")
_CSS_URL = re.compile(r"url\(\s*['\"]?\s*([^'\")\s]*)", re.IGNORECASE)
_NUMBER = re.compile(r"[-+]?[0-9]*\.?[0-9]+(?:[eE][-+]?[0-9]+)?")
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


@lru_cache(maxsize=24)  # purposes share it, and a ladder is built as it was seen; 1 MB each at 512 px, at most 4
def render(vector: Vector, left: int, top: int, side: int, size: int) -> Pixels:
    """The square `(left, top, side)` over a vector picture drawn at `size` pixels: shape (size, size, 4), read-only."""
    within = min(left, top) >= 0 and left + side <= vector.width and top + side <= vector.height
    pixels = _draw(vector, _View(left, top, side, side), size, size, within)
    pixels.flags.writeable = False
    return pixels


def render_whole(vector: Vector, longest: int) -> Pixels:
    """The whole vector picture drawn with `longest` pixels along its longer side."""
    scale = longest / max(vector.width, vector.height)
    width, height = (max(1, round(length * scale)) for length in (vector.width, vector.height))
    return _draw(vector, _View(0, 0, vector.width, vector.height), width, height, within=True)


@dataclass(frozen=True)
class _View:
    """What is seen of a picture, in artwork px."""

    x: float
    y: float
    width: float
    height: float


def _draw(vector: Vector, view: _View, width: int, height: int, within: bool) -> Pixels:
    """Draw what is seen of a picture; `within` says that nothing outside the artwork is."""
    # A nested <svg> is clipped to its own size (SVG 2, §8.5), so what lies outside the artwork stays clear. Where
    # nothing outside is seen that would only take time: half of it all [measured].
    markup = unclipped(vector.markup) if within else vector.markup
    x, y = _origin(vector)
    is_layered = _layers(markup) >= _LAYERS
    before = _room(view.x + x, view.width, width) if is_layered else 0
    above = _room(view.y + y, view.height, height) if is_layered else 0
    across, down = view.width / width, view.height / height
    seen = (view.x - before * across, view.y - above * down, view.width + before * across, view.height + above * down)
    box = " ".join(f"{number:.12g}" for number in seen)
    framed = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width + before}" height="{height + above}" viewBox="{box}" '
        f'preserveAspectRatio="none">{markup}</svg>'
    )
    try:
        png = resvg_py.svg_to_bytes(svg_string=framed, skip_system_fonts=True)
    except (KeyboardInterrupt, SystemExit, MemoryError):
        raise
    except BaseException as error:  # a panic of the renderer is no Exception
        raise ArtworkRefused(
            "broken-picture", "This SVG cannot be drawn: it is not valid. Export it again as plain SVG."
        ) from error
    drawn = np.asarray(Image.open(io.BytesIO(png)).convert("RGBA"), dtype=np.uint8)
    pixels = np.ascontiguousarray(drawn[above:, before:])
    return recoloured(pixels, vector.recolour) if vector.recolour else pixels


def unclipped(markup: str) -> str:
    """A document that is drawn over its own size, too, when it stands in another."""
    return markup.replace("<svg ", '<svg overflow="visible" ', 1)


_LAYERS = 3
_REACH = 1
"""The renderer loses what lies in three layers (clips, opacities, nested pictures) when one of them begins further to
the left of, or above, what is drawn than twice the length of that [measured]; shapes may begin outside the picture."""
_MOST_ROOM = 2048
CUT = "cut"
"""The name of a clip that is cut around a part; no artwork has it: names in artwork are changed when it is taken in."""
_CLIPPED = re.compile(r'<svg (?![^>]*\boverflow="visible")')
_LAYERING = re.compile(
    rf"opacity|mask|filter|blend|isolation|clip-path(?!=\"url\(#{CUT}\))|<(?:image|use|symbol|pattern|marker)\b"
)


@lru_cache(maxsize=16)
def _layers(markup: str) -> int:
    """In how many layers a shape of a document may lie; of those that artwork brings itself it is not known."""
    if _LAYERING.search(markup):
        return _LAYERS
    return len(_CLIPPED.findall(markup)) + (f"url(#{CUT})" in markup)


def _room(before: float, length: float, pixels: int) -> int:
    """So many px have to be drawn before `pixels` of a `length`, when the picture begins `before` that."""
    room = math.ceil((before * pixels / length - _REACH * pixels) / (_REACH + 1))
    return min(max(room, 0), _MOST_ROOM)


@lru_cache(maxsize=16)
def _origin(vector: Vector) -> tuple[float, float]:
    """How far from its first px its shapes may begin: an icon that shows a part of a drawing holds all of it."""
    start = vector.markup[: vector.markup.find(">")]
    box = re.search(r'viewBox="([^"]*)"', start)
    x, y, width, height = map(float, _NUMBER.findall(box[1])) if box else (0.0, 0.0, 1.0, 1.0)
    return max(0.0, x) * vector.width / width, max(0.0, y) * vector.height / height


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
    box = [float(number) for number in _NUMBER.findall(root.get("viewBox", ""))]
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
