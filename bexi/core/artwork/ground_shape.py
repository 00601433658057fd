"""The shape that lies below a drawing and fills it with one flat colour: the page that a drawing program put there."""

from collections.abc import Iterator
from copy import deepcopy
from dataclasses import replace
from functools import lru_cache
from itertools import islice
from xml.etree.ElementTree import Element, tostring

import numpy as np
from defusedxml.ElementTree import fromstring

from bexi.core.artwork.pictures import Vector
from bexi.core.artwork.svg.allowed import SVG
from bexi.core.artwork.vector import render_whole
from bexi.core.pixels.light import ALPHA, Pixels

_GROUPS = frozenset(f"{{{SVG}}}{name}" for name in ("svg", "g", "switch"))
_SHAPES = frozenset(
    f"{{{SVG}}}{name}"
    for name in ("path", "rect", "circle", "ellipse", "line", "polygon", "polyline", "text", "image", "use")
)
_LOOKED_AT = 64
"""Px along the longer side."""
_FIRST = 8
"""Of so many shapes one is the ground, if any: design tools put boxes without paint before it."""
_SOLID = 250
"""Alpha of 255: a page that is a hair smaller than the drawing fills it, too."""


@lru_cache(maxsize=8)
def without_ground(vector: Vector) -> Vector:
    """The drawing without its flat ground, or one equal to it where no shape of it is that."""
    root = fromstring(vector.markup)
    for number, _ in enumerate(islice(_shapes(root), _FIRST)):
        alone = render_whole(replace(vector, markup=_parted(root, number, keep=True)), _LOOKED_AT)
        if not alone[..., ALPHA].any():
            continue
        rest = replace(vector, markup=_parted(root, number, keep=False))
        is_ground = _is_flat(alone) and render_whole(rest, _LOOKED_AT)[..., ALPHA].any()
        return without_ground(rest) if is_ground else vector  # some have two, one over the other
    return vector


def _shapes(element: Element) -> Iterator[tuple[Element, Element]]:
    """What is painted, in that order, each after what it lies in; nothing that is only defined."""
    for child in element:
        if child.tag in _GROUPS:
            yield from _shapes(child)
        elif child.tag in _SHAPES:
            yield element, child


def _parted(root: Element, number: int, keep: bool) -> str:
    """The drawing with nothing but the shape of that number, or without it."""
    part = deepcopy(root)
    for at, (parent, shape) in enumerate(list(_shapes(part))):
        if (at == number) is not keep:
            parent.remove(shape)
    return tostring(part, encoding="unicode")


def _is_flat(pixels: Pixels) -> bool:
    """Whether pixels are of one colour and solid."""
    spread = np.ptp(pixels[..., :ALPHA].reshape(-1, ALPHA), axis=0).max()
    return bool(spread <= 1 and pixels[..., ALPHA].min() >= _SOLID)
