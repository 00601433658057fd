"""Drawing a plain symbol of a line-drawn set as artwork."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from bexi.core.artwork.ink import Box, find_ink
from bexi.core.artwork.pictures import Vector
from bexi.core.artwork.plate import DARK, SIDE, Plate, drawing
from bexi.core.artwork.subjects import SUBJECTS
from bexi.core.artwork.vector import render, render_whole
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.colour import Colour

GRID = 24
"""Symbols are drawn on a square of this many units with lines 2 units thick."""
_COARSE, _FINE = 2, 16
"""Px for each unit of the grid, to find lines and to measure them."""
_NOTHING = 5
_SHORTEST_BEGINNING = 3
_VARIANTS = {"off", "x", "plus", "minus", "check", "dashed", "circle", "square", "2", "big", "dot", "alert", "cog"}


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
            raise ArtworkRefused("bad-stroke", "Set the thickness of the symbol's lines between 0.5 and 4.")


def draw_symbol(symbol: Symbol, shapes: Mapping[str, SymbolShape]) -> str:
    """The symbol as SVG; raises ArtworkRefused when the set has none of that name."""
    shape = shapes.get(symbol.name)
    if shape is None:
        near = ", ".join(found.name for _, found in zip(range(5), search(symbol.name, shapes), strict=False))
        hint = f"Similar names: {near}." if near else "Search for another word."
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
    near = find_ink(render_whole(measured, room * _COARSE)).box or Box(0, 0, room * _COARSE, room * _COARSE)
    # Most of the room is empty, which takes time to draw finely.
    x, y = near.left // _COARSE - 1, near.top // _COARSE - 1
    side = max(near.right // _COARSE - x, near.bottom // _COARSE - y) + 2
    ink = find_ink(render(measured, x, y, side, side * _FINE)).box or Box(0, 0, side * _FINE, side * _FINE)
    left, right = (x + edge / _FINE - GRID / 2 for edge in (ink.left, ink.right))
    top, bottom = (y + edge / _FINE - GRID / 2 for edge in (ink.top, ink.bottom))
    return left, top, right, bottom


def search(words: str, shapes: Mapping[str, SymbolShape]) -> Iterator[SymbolShape]:
    """Symbols for every word asked: those of a subject first, then by whole words, then by how words begin.

    Of symbols found alike the plainer name comes first, so that variants follow what they vary.
    """
    asked = words.lower().split()
    if not asked:
        return
    found = [(max(_distance(word, shape) for word in asked), shape) for shape in shapes.values()]
    fitting = [one for one in found if one[0] < _NOTHING]
    yield from (shape for _, shape in sorted(fitting, key=lambda one: (one[0], *_plainness(one[1]))))


def _distance(word: str, shape: SymbolShape) -> int:
    """How far a symbol is from a word: 0 the very name or a symbol of that subject, up to _NOTHING."""
    subject = SUBJECTS.get(word, ())
    if shape.name == word or shape.name in subject:
        return 0
    parts, tags = shape.name.split("-"), [part for tag in shape.words for part in (tag, *tag.split())]
    if word in parts:
        return 1
    if word in tags:
        return 2
    begins = len(word) >= _SHORTEST_BEGINNING and not subject  # a known subject is no beginning of another word
    if begins and any(part.startswith(word) for part in parts):
        return 3
    return 4 if begins and any(tag.startswith(word) for tag in tags) else _NOTHING


def _plainness(shape: SymbolShape) -> tuple[int, int, str]:
    parts = shape.name.split("-")
    return sum(part in _VARIANTS for part in parts), len(parts), shape.name
