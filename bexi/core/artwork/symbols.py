"""Drawing a plain symbol of a line-drawn set as artwork."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from bexi.core.artwork.ink import Box, find_ink
from bexi.core.artwork.pictures import Vector
from bexi.core.artwork.plate import DARK, SIDE, Plate, drawing
from bexi.core.artwork.vector import render_whole
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.colour import Colour

GRID = 24
"""Symbols are drawn on a square of this many units with lines 2 units thick."""
_FINE = 16


@dataclass(frozen=True)
class SymbolShape:
    """A symbol of the set: its SVG elements, and the words by which it is found."""

    name: str
    body: str
    words: tuple[str, ...]


@dataclass(frozen=True)
class Symbol:
    """A symbol in a colour. `stroke` is the thickness of its lines in units of its grid, 0.5 to 4."""

    name: str
    ink: Colour = DARK
    stroke: float = 2.0
    plate: Plate = field(default_factory=Plate)

    def __post_init__(self) -> None:
        if not 0.5 <= self.stroke <= 4:
            raise ArtworkRefused("bad-stroke", "Give the symbol's lines a thickness between 0.5 and 4.")


def draw_symbol(symbol: Symbol, shapes: Mapping[str, SymbolShape]) -> str:
    """The symbol as SVG; raises ArtworkRefused when the set has none of that name."""
    shape = shapes.get(symbol.name)
    if shape is None:
        near = ", ".join(found.name for _, found in zip(range(5), search(symbol.name, shapes), strict=False))
        hint = f"Near it are: {near}." if near else "Search for another word."
        raise ArtworkRefused("symbol-missing", f"There is no symbol called “{symbol.name[:40]}”. {hint}")
    lines = (
        f'fill="none" stroke="{symbol.ink}" stroke-width="{symbol.stroke:g}" '
        f'stroke-linecap="round" stroke-linejoin="round">{shape.body}'
    )
    left, top, right, bottom = _ink_bounds(lines)
    scale = symbol.plate.largest_scale(right - left, bottom - top)
    x, y = (SIDE / 2 - scale * (low + high) / 2 for low, high in ((left, right), (top, bottom)))
    return drawing(symbol.plate, f'<g transform="translate({x:.2f} {y:.2f}) scale({scale:.4f})" {lines}</g>')


def _ink_bounds(lines: str) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of drawn lines, in units of the grid: measured, since lines have thickness."""
    room = 2 * GRID  # thick lines may leave the grid
    measured = Vector(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{room}" height="{room}" '
        f'viewBox="{-GRID / 2:g} {-GRID / 2:g} {room} {room}"><g {lines}</g></svg>',
        room,
        room,
    )
    ink = find_ink(render_whole(measured, room * _FINE)).box or Box(0, 0, room * _FINE, room * _FINE)
    left, top, right, bottom = (edge / _FINE - GRID / 2 for edge in (ink.left, ink.top, ink.right, ink.bottom))
    return left, top, right, bottom


def search(words: str, shapes: Mapping[str, SymbolShape]) -> Iterator[SymbolShape]:
    """Symbols that every word is found in, in their name first, then in their search words."""
    asked = words.lower().split()
    named = [shape for shape in shapes.values() if all(word in shape.name for word in asked)]
    yield from sorted(named, key=lambda shape: (len(shape.name), shape.name))
    for shape in shapes.values():
        if shape not in named and all(any(word in one for one in (shape.name, *shape.words)) for word in asked):
            yield shape
