"""Twenty logos invented for the tests: what of each is the emblem and what are words is drawn apart."""

import io
from dataclasses import dataclass
from functools import lru_cache
from math import cos, pi, sin

import numpy as np
from fontTools.ttLib import TTFont

from bexi.core.artwork.ink import Box, find_ink
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.resources import face_files, symbol_shapes
from bexi.server.demo.lettering import outlines


@dataclass(frozen=True)
class Logo:
    """`emblem` and `words` are SVG, each alone; the picture is both, on a ground where one is given."""

    name: str
    width: int
    height: int
    emblem: str
    words: str
    ground: str = ""
    as_bitmap: bool = False
    noise: int = 0

    @property
    def picture(self) -> Picture:
        """The whole logo as it is taken in."""
        vector = check(self.svg, DEFAULT_LIMITS)
        if not self.as_bitmap:
            return vector
        pixels = render_whole(vector, 1200)
        if self.noise:
            grain = np.random.default_rng(7).normal(0, self.noise, pixels.shape[:2])[..., None]
            colours = np.clip(pixels[..., :3] + grain, 0, 255).astype(np.uint8)
            pixels = np.concatenate([colours, pixels[..., 3:]], axis=-1)
        return Bitmap(pixels)

    @property
    def svg(self) -> bytes:
        """The whole logo as a file."""
        return self.svg_of(self.ground + self.words + self.emblem)

    def box_of(self, part: str) -> Box:
        """Around one part, in px of the whole picture."""
        whole = self.picture
        drawn = render_whole(check(self.svg_of(part), DEFAULT_LIMITS), max(whole.width, whole.height))
        box = find_ink(drawn).box
        assert box is not None
        return box

    def svg_of(self, body: str) -> bytes:
        size = f'width="{self.width}" height="{self.height}" viewBox="0 0 {self.width} {self.height}"'
        return f'<svg xmlns="http://www.w3.org/2000/svg" {size}>{body}</svg>'.encode()


def words(text: str, x: float, baseline: float, size: float, fill: str, weight: int = 700, face: str = "rubik") -> str:
    return f'<path fill="{fill}" d="{outlines(text, latin(face, weight), x, baseline, size)}"/>'


@lru_cache
def latin(face: str, weight: int) -> bytes:
    """The part of a face with the letters of English."""
    return next(
        data for data in face_files(face, weight) if {*map(ord, "AFaz")} <= {*TTFont(io.BytesIO(data)).getBestCmap()}
    )


def symbol(name: str, x: float, y: float, side: float, colour: str, stroke: float = 2) -> str:
    body = symbol_shapes()[name].body
    return (
        f'<g transform="translate({x} {y}) scale({side / 24})" fill="none" stroke="{colour}" stroke-width="{stroke}" '
        f'stroke-linecap="round" stroke-linejoin="round">{body}</g>'
    )


def in_ring(text: str, x: float, y: float, radius: float, size: float, fill: str, turn: float = 300) -> str:
    """Letters around a circle, one turned copy each."""
    placed = []
    for number, letter in enumerate(text):
        angle = -turn / 2 + turn * number / (len(text) - 1)
        if letter != " ":
            drawn = words(letter, -size / 3, 0, size, fill)
            at = f"translate({x + radius * sin(angle * pi / 180):.1f} {y - radius * cos(angle * pi / 180):.1f})"
            placed.append(f'<g transform="{at} rotate({angle:.1f})">{drawn}</g>')
    return "".join(placed)


def disc(x: float, y: float, radius: float, fill: str) -> str:
    return f'<circle cx="{x}" cy="{y}" r="{radius}" fill="{fill}"/>'


def rectangle(x: float, y: float, width: float, height: float, fill: str) -> str:
    return f'<rect x="{x}" y="{y}" width="{width}" height="{height}" fill="{fill}"/>'


WORDS_ALONE = (
    '<svg xmlns="http://www.w3.org/2000/svg" width="900" height="200">'
    + words("Quayside Books", 20, 130, 110, "#1d4ed8")
    + "</svg>"
).encode()
_BUSY = (
    '<linearGradient id="sky" x2="0" y2="1"><stop offset="0" stop-color="#cfe3ee"/>'
    '<stop offset="1" stop-color="#9fc0d4"/></linearGradient><rect width="1000" height="500" fill="url(#sky)"/>'
    + "".join(f'<circle cx="{n * 83 % 1000}" cy="{n * 57 % 500}" r="{9 + n % 7}" fill="#b7d3e2"/>' for n in range(40))
)

LOGOS = (
    Logo(
        "beside",
        1200,
        400,
        disc(200, 200, 150, "#14532d") + '<path fill="#fde68a" d="M120 250l80-140 80 140z"/>',
        words("Fernhollow", 400, 240, 120, "#14532d"),
    ),
    Logo(
        "beside, two lines",
        1200,
        420,
        symbol("anchor", 40, 60, 300, "#1e3a5f", 2.4),
        words("Tarn Mill", 400, 200, 110, "#1e3a5f") + words("Boats and Sails", 404, 310, 70, "#50708f"),
    ),
    Logo(
        "one above the other",
        700,
        760,
        rectangle(200, 40, 140, 300, "#b3261e") + rectangle(370, 140, 130, 200, "#e2572b"),
        words("Brickyard", 60, 560, 120, "#3b1512"),
    ),
    Logo(
        "words above",
        800,
        800,
        symbol("tree-pine", 220, 330, 380, "#166534", 2),
        words("Pinewater", 70, 200, 130, "#166534", 800),
    ),
    Logo(
        "in a ring",
        800,
        800,
        symbol("fish", 230, 230, 340, "#0f4c5c", 2.4),
        in_ring("LOWER QUAY FISH MARKET", 400, 400, 310, 74, "#0f4c5c"),
    ),
    Logo(
        "in a ring with outlines",
        800,
        800,
        symbol("sailboat", 250, 240, 300, "#5b2333", 2.2),
        in_ring("SANDBANK SAILING", 400, 400, 290, 80, "#5b2333")
        + '<circle cx="400" cy="400" r="385" fill="none" stroke="#5b2333" stroke-width="14"/>',
    ),
    Logo(
        "badge with letters in it",
        800,
        800,
        disc(400, 400, 150, "#f2b84b"),
        in_ring("NORTH GATE BAKERY", 400, 400, 290, 84, "#ffffff"),
        ground=disc(400, 400, 390, "#7c2d12"),
    ),
    Logo(
        "on white",
        1100,
        500,
        disc(230, 250, 160, "#2563a8") + '<path fill="#ffffff" d="M150 200h160l-80 120z"/>',
        words("Ringway", 450, 300, 130, "#16324f"),
        ground=rectangle(0, 0, 1100, 500, "#ffffff"),
        as_bitmap=True,
    ),
    Logo(
        "on a dark ground",
        1100,
        500,
        symbol("lamp", 80, 90, 320, "#fde68a", 2.4),
        words("Lanternlit", 430, 300, 120, "#e5e7eb"),
        ground=rectangle(0, 0, 1100, 500, "#111827"),
        as_bitmap=True,
    ),
    Logo(
        "on a busy ground",
        1000,
        500,
        disc(220, 250, 150, "#8a1538") + '<path fill="#ffffff" d="M140 300l80-140 80 140z"/>',
        words("Overmoor", 420, 300, 120, "#8a1538", 800),
        ground=_BUSY,
        as_bitmap=True,
    ),
    Logo(
        "thin",
        1300,
        400,
        '<g fill="none" stroke="#374151" stroke-width="7"><circle cx="200" cy="200" r="140"/>'
        '<path d="M90 250q110-140 220 0M200 60v280"/></g>',
        words("Slatefield", 420, 240, 110, "#374151", 600, "nunito"),
    ),
    Logo(
        "pale",
        1200,
        420,
        disc(210, 210, 150, "#dbe7dd") + disc(210, 210, 80, "#b7cdbb"),
        words("Mistwood", 420, 260, 120, "#c3d3c6"),
    ),
    Logo(
        "dark",
        1200,
        420,
        '<path fill="#0b1410" d="M60 340l150-270 150 270zM210 150l60 110h-120z" fill-rule="evenodd"/>',
        words("Coldpeak", 440, 270, 120, "#0b1410", 800),
    ),
    Logo(
        "very wide",
        2600,
        260,
        rectangle(40, 40, 180, 180, "#0f766e") + disc(130, 130, 50, "#f0fdfa"),
        words("Harrowdale Walking and Mountain Club", 290, 170, 120, "#134e4a"),
    ),
    Logo(
        "several parts: figure and bag",
        1100,
        560,
        disc(180, 90, 50, "#3f3f8f")
        + '<path fill="#3f3f8f" d="M140 160h90l40 140-30 10-30-70-10 90 60 150h-50l-55-130-40 130h-50l55-170z"/>'
        + rectangle(285, 310, 80, 70, "#e08e2b"),
        words("Wayfarer", 470, 330, 130, "#3f3f8f"),
    ),
    Logo(
        "several parts: tiles",
        1100,
        420,
        "".join(rectangle(60 + 150 * x, 60 + 150 * y, 125, 125, "#7e22ce") for x, y in ((0, 0), (1, 0), (0, 1))),
        words("Tilework", 440, 260, 130, "#3b0764", 800),
    ),
    Logo(
        "several parts: sun with rays",
        1200,
        480,
        disc(230, 240, 90, "#d97706")
        + "".join(
            f'<rect x="218" y="70" width="24" height="60" rx="12" fill="#d97706" transform="rotate({turn} 230 240)"/>'
            for turn in range(0, 360, 45)
        ),
        words("Noonside", 470, 290, 120, "#7c4a03"),
    ),
    Logo(
        "a tall emblem whose square reaches over the words",
        900,
        700,
        '<path fill="#155e75" d="M90 40h90v620H90zM60 40h150v60H60z"/>' + rectangle(60, 620, 150, 40, "#155e75"),
        words("Beacon", 260, 360, 130, "#155e75"),
    ),
    Logo(
        "words in another colour, grainy",
        1200,
        420,
        '<path fill="#be185d" d="M210 60c120 0 160 100 150 160s-70 140-150 140-150-80-150-150 60-150 150-150z"/>',
        words("Plumbarrow", 430, 260, 110, "#4b5563"),
        ground=rectangle(0, 0, 1200, 420, "#fdfcf8"),
        as_bitmap=True,
        noise=3,
    ),
    Logo(
        "note with its sharp",
        1100,
        520,
        '<g fill="#1d4ed8"><ellipse cx="170" cy="380" rx="90" ry="66"/><rect x="226" y="80" width="34" height="300"/>'
        '<rect x="300" y="90" width="16" height="130"/><rect x="346" y="90" width="16" height="130"/>'
        '<rect x="280" y="116" width="104" height="18"/><rect x="280" y="170" width="104" height="18"/></g>',
        words("Quietchord", 450, 320, 110, "#1e3a8a"),
    ),
)
TALL = next(logo for logo in LOGOS if logo.name.startswith("a tall emblem"))
