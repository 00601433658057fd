"""Rendering checked SVG pictures."""

import io
import math
import re
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
import resvg_py
from PIL import Image

from bexi.core.artwork.pictures import Vector
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.light import Pixels, recoloured

NUMBER = re.compile(r"[-+]?[0-9]*\.?[0-9]+(?:[eE][-+]?[0-9]+)?")


@lru_cache(maxsize=24)  # purposes share it, and a ladder is built as it was seen; 1 MB each at 512 px, at most 4
def render(vector: Vector, left: int, top: int, side: int, size: int) -> Pixels:
    """The square `(left, top, side)` over a vector picture drawn at `size` pixels: shape (size, size, 4), read-only."""
    if vector.recolour:
        pixels = recoloured(render(replace(vector, recolour=None), left, top, side, size), vector.recolour)
    else:
        within = min(left, top) >= 0 and left + side <= vector.width and top + side <= vector.height
        pixels = _draw(vector, _View(left, top, side, side), size, size, within)
    pixels.flags.writeable = False
    return pixels


def render_whole(vector: Vector, longest: int) -> Pixels:
    """The whole vector picture drawn with `longest` pixels along its longer side."""
    scale = longest / max(vector.width, vector.height)
    width, height = (max(1, round(length * scale)) for length in (vector.width, vector.height))
    pixels = _draw(vector, _View(0, 0, vector.width, vector.height), width, height, within=True)
    return recoloured(pixels, vector.recolour) if vector.recolour else pixels


@dataclass(frozen=True)
class _View:
    """What is seen of a picture, in artwork px."""

    x: float
    y: float
    width: float
    height: float


def _draw(vector: Vector, view: _View, width: int, height: int, within: bool) -> Pixels:
    """Draw what is seen of a picture in its own colours; `within` says that nothing outside the artwork is."""
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
    return np.ascontiguousarray(drawn[above:, before:])


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
    x, y, width, height = map(float, NUMBER.findall(box[1])) if box else (0.0, 0.0, 1.0, 1.0)
    return max(0.0, x) * vector.width / width, max(0.0, y) * vector.height / height
