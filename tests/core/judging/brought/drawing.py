"""Drawing a logo in parts, each with a role, so that what an icon shows of it can be told."""

import io
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from math import cos, pi, sin
from pathlib import Path

import numpy as np
from fontTools.pens.boundsPen import BoundsPen
from fontTools.ttLib import TTFont
from PIL import Image, ImageFilter

from bexi.core.artwork.intake import take_in
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.pixels.light import Pixels
from bexi.server.demo.lettering import outlines

PACKAGES = Path(__file__).parents[4] / "frontend" / "node_modules"
LONGEST = 1200
"""Px of bitmaps, and of masks, along the longer side."""


@dataclass(frozen=True)
class Piece:
    """A part of a logo: SVG markup and what it is, such as `emblem`, `words` or `first` (the first letter)."""

    role: str
    markup: str


@dataclass(frozen=True)
class First:
    """What the first proposal should be: the roles that it `shows` whole, none of the others but `may`.

    `stands` is how: `free` on the tab, on a `plate`, or on the `own` ground of the artwork; several may be right.
    """

    shows: frozenset[str]
    stands: frozenset[str]
    may: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Brought:
    """A logo as it is brought: `fuzz` px of blur below the pieces of role `shadow`; as JPEG, with that quality.

    `worn` makes a file of it in another way.
    """

    name: str
    width: int
    height: int
    pieces: tuple[Piece, ...]
    first: First
    as_bitmap: bool = False
    jpeg: int | None = None
    fuzz: float = 0
    grain: float = 0
    worn: Callable[[Image.Image], bytes] | None = None

    @cached_property
    def picture(self) -> Picture:
        """As it is taken in."""
        if self.worn:
            return take_in(self.worn(Image.fromarray(self.drawn)))[1]
        if not (self.as_bitmap or self.jpeg or self.fuzz or self.grain):
            return check(self.svg(self.pieces), DEFAULT_LIMITS)
        pixels = self.drawn
        if self.fuzz:
            pixels = _laid(self._blurred(), pixels)
        if self.grain:
            grain = np.random.default_rng(7).normal(0, self.grain, pixels.shape[:2])[..., None]
            pixels = np.dstack([np.clip(pixels[..., :3] + grain, 0, 255).astype(np.uint8), pixels[..., 3]])
        return Bitmap(_as_jpeg(pixels, self.jpeg) if self.jpeg else pixels)

    @property
    def drawn(self) -> Pixels:
        """Its pieces as a bitmap, without a shadow."""
        return self._drawn(tuple(piece for piece in self.pieces if piece.role != "shadow"))

    def mask(self, role: str) -> np.ndarray:
        """Where the pieces of a role are, as the whole picture in its own px: shape (height, width), bool."""
        fades = (piece for piece in self.pieces if piece.markup.startswith("<linearGradient"))
        drawn = self._drawn((*fades, *(piece for piece in self.pieces if piece.role == role)))
        height, width = self.picture.height, self.picture.width
        image = Image.fromarray(drawn[..., 3]).resize((width, height), Image.Resampling.BILINEAR)
        return np.asarray(image) > 127

    @property
    def roles(self) -> set[str]:
        """Those of its pieces, without what lies below them all."""
        return {piece.role for piece in self.pieces} - {"ground", "shadow", "badge"} | self.first.shows

    def svg(self, pieces: tuple[Piece, ...]) -> bytes:
        """Some of its pieces as a file."""
        size = f'width="{self.width}" height="{self.height}" viewBox="0 0 {self.width} {self.height}"'
        body = "".join(piece.markup for piece in pieces)
        return f'<svg xmlns="http://www.w3.org/2000/svg" {size}>{body}</svg>'.encode()

    def _drawn(self, pieces: tuple[Piece, ...]) -> Pixels:
        return render_whole(check(self.svg(pieces), DEFAULT_LIMITS), LONGEST)

    def _blurred(self) -> Pixels:
        shadow = Image.fromarray(self._drawn(tuple(piece for piece in self.pieces if piece.role == "shadow")))
        return np.asarray(shadow.filter(ImageFilter.GaussianBlur(self.fuzz)))


def _laid(below: Pixels, above: Pixels) -> Pixels:
    return np.asarray(Image.alpha_composite(Image.fromarray(below), Image.fromarray(above)))


def _as_jpeg(pixels: Pixels, quality: int) -> Pixels:
    stream = io.BytesIO()
    Image.fromarray(pixels).convert("RGB").save(stream, "JPEG", quality=quality)
    return np.asarray(Image.open(stream).convert("RGBA"))


@lru_cache
def face(key: str) -> bytes:
    """A face by package, weight and style, like `lora 600 italic`."""
    package, weight, style = key.split()
    return (PACKAGES / "@fontsource" / package / "files" / f"{package}-latin-{weight}-{style}.woff").read_bytes()


def text(words: str, x: float, baseline: float, size: float, fill: str, key: str, role: str = "words") -> list[Piece]:
    """A line of letters; its first one is a piece of its own when the role is `words`."""
    font = face(key)
    path = '<path fill="{}" d="{}"/>'
    if role != "words":
        return [Piece(role, path.format(fill, outlines(words, font, x, baseline, size)))]
    beyond = x + advance(words[0], font, size)
    return [
        Piece("first", path.format(fill, outlines(words[0], font, x, baseline, size))),
        Piece("words", path.format(fill, outlines(words[1:], font, beyond, baseline, size))),
    ]


def advance(words: str, font_file: bytes, size: float) -> float:
    """How far a line of letters reaches."""
    font = TTFont(io.BytesIO(font_file))
    glyphs, characters = font.getGlyphSet(), font.getBestCmap()
    return sum(glyphs[characters[ord(one)]].width for one in words) * size / font["head"].unitsPerEm


def height_of(letter: str, key: str, size: float) -> float:
    """Of a letter above the baseline."""
    font = TTFont(io.BytesIO(face(key)))
    glyphs = font.getGlyphSet()
    pen = BoundsPen(glyphs)
    glyphs[font.getBestCmap()[ord(letter)]].draw(pen)
    return pen.bounds[3] * size / font["head"].unitsPerEm


@lru_cache
def shapes(name: str) -> tuple[float, str]:
    """The side of the grid and the shapes of a symbol: `tree` of lucide, `solid/bolt` of heroicons."""
    if "/" in name:
        kind, _, file = name.partition("/")
        svg = (PACKAGES / "heroicons" / "24" / kind / f"{file}.svg").read_text()
    else:
        svg = (PACKAGES / "lucide-static" / "icons" / f"{name}.svg").read_text()
    inner = svg[svg.index(">", svg.index("<svg")) + 1 : svg.rindex("</svg>")]
    return 24, inner.replace("#0F172A", "currentColor").replace('stroke-width="1.5"', "")


def symbol(name: str, x: float, y: float, side: float, colour: str, stroke: float = 2, role: str = "emblem") -> Piece:
    """A symbol in a square."""
    grid, body = shapes(name)
    painted = body.replace("currentColor", colour)
    fill = f'fill="{colour}"' if name.startswith("solid/") else f'fill="none" stroke="{colour}"'
    at = f'transform="translate({x} {y}) scale({side / grid})" stroke-width="{stroke}"'
    return Piece(role, f'<g {at} {fill} stroke-linecap="round" stroke-linejoin="round">{painted}</g>')


def around(words: str, x: float, y: float, radius: float, size: float, fill: str, key: str, turn: float) -> Piece:
    """Letters around a circle, centred above its middle."""
    font = face(key)
    widths = [advance(one, font, size) + 0.06 * size for one in words]
    angle = -sum(widths) / 2 / radius if turn == 0 else -turn * pi / 360
    step = 0.0 if turn == 0 else (turn * pi / 180 - sum(widths) / radius) / max(len(words) - 1, 1)
    placed = []
    for letter, wide in zip(words, widths, strict=True):
        angle += wide / radius / 2
        drawn = f'<path fill="{fill}" d="{outlines(letter, font, -wide / 2, 0, size)}"/>' if letter != " " else ""
        at = f"translate({x + radius * sin(angle):.1f} {y - radius * cos(angle):.1f}) rotate({angle * 180 / pi:.1f})"
        placed.append(f'<g transform="{at}">{drawn}</g>')
        angle += wide / radius / 2 + step
    return Piece("words", "".join(placed))


def box(x: float, y: float, width: float, height: float, fill: str, role: str, rounding: float = 0) -> Piece:
    """A rectangle."""
    size = f'x="{x}" y="{y}" width="{width}" height="{height}" rx="{rounding}"'
    return Piece(role, f'<rect {size} fill="{fill}"/>')


def disc(x: float, y: float, radius: float, fill: str, role: str) -> Piece:
    """A disc."""
    return Piece(role, f'<circle cx="{x}" cy="{y}" r="{radius}" fill="{fill}"/>')


def ring(x: float, y: float, radius: float, width: float, colour: str, role: str = "ring") -> Piece:
    """A circle line."""
    line = f'fill="none" stroke="{colour}" stroke-width="{width}"'
    return Piece(role, f'<circle cx="{x}" cy="{y}" r="{radius}" {line}/>')


def gradient(name: str, start: str, end: str, x: float = 0, y: float = 1) -> Piece:
    """A gradient to fill with as `url(#name)`, from left to right, from top to bottom, or slanted."""
    stops = f'<stop offset="0" stop-color="{start}"/><stop offset="1" stop-color="{end}"/>'
    return Piece("ground", f'<linearGradient id="{name}" x1="0" y1="0" x2="{x}" y2="{y}">{stops}</linearGradient>')


def as_role(pieces: list[Piece], role: str) -> Iterator[Piece]:
    """The same under another role."""
    return (replace(piece, role=role) for piece in pieces)
