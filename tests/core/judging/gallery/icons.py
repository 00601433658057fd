"""The icons of the gallery: ours, drawn by kind on a square of 512, each at a size in px on one of the tabs."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from math import cos, pi, sin

import numpy as np
from PIL import Image, ImageFilter

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.svg.checking import check
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.framing.tabs import TABS
from bexi.core.judging.judge import judge
from bexi.core.judging.readings import Judgement
from bexi.core.pixels.light import Pixels
from bexi.server.demo.lettering import outlines
from tests.core.judging.brought.drawing import PACKAGES, advance, face

_SIDE = 512
_SYMBOLS = PACKAGES / "lucide-static" / "icons"
BRANDS = (
    *("#1a5fb4", "#c01c28", "#813d9c", "#0b7285", "#d6336c", "#495057"),
    *("#2f9e44", "#e8590c", "#f5c211", "#12b886", "#99c1f1", "#1b2420"),
)


@dataclass(frozen=True)
class Icon:
    """One icon: SVG markup on a square of 512, or a bitmap of its own, at `size` px on the tab of that name."""

    name: str
    body: str
    size: int = 16
    tab: str = "light"
    bitmap: Pixels | None = None

    @cached_property
    def picture(self) -> Picture:
        """As it is taken in."""
        if self.bitmap is not None:
            return Bitmap(self.bitmap)
        svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {_SIDE} {_SIDE}">{self.body}</svg>'
        return check(svg.encode(), DEFAULT_LIMITS)

    @cached_property
    def pixels(self) -> Pixels:
        """As it is built."""
        return compose(self.picture, self._framing, Purpose.TAB, [self.size])[0]

    def judged(self) -> Judgement:
        """On its tab alone."""
        grounds = {self.tab: TABS[self.tab]}
        return judge(self.picture, self._framing, [self.pixels], Purpose.TAB, grounds)[0]

    @property
    def _framing(self) -> Framing:
        return Framing(whole_artwork(self.picture.width, self.picture.height))


def gallery() -> Iterator[Icon]:
    """All of them, kind by kind."""
    for kind in (
        _symbols,
        _letters,
        _plates,
        _fades,
        _halos,
        _translucent,
        _rings,
        _tiles,
        _textures,
        _words,
        _lockups,
        _faint,
        _small,
        _photographs,
    ):
        yield from kind()


def _symbol(name: str, ink: str, stroke: float = 2, room: float = 24) -> str:
    markup = (_SYMBOLS / f"{name}.svg").read_text()
    inner = markup[markup.index(">", markup.index("<svg")) + 1 : markup.rindex("</svg>")]
    scale = (_SIDE - 2 * room) / 24
    pen = f'fill="none" stroke="{ink}" stroke-width="{stroke}" stroke-linecap="round" stroke-linejoin="round"'
    return f'<g transform="translate({room} {room}) scale({scale})" {pen}>{inner}</g>'


def _line(words: str, ink: str, key: str, height: float = 320, widest: float = 480, middle: float = 256) -> str:
    """A line of letters in the middle, as large as it may be."""
    font = face(key)
    size = min(height / 0.7, height / 0.7 * widest / advance(words, font, height / 0.7))
    left = _SIDE / 2 - advance(words, font, size) / 2
    return f'<path fill="{ink}" d="{outlines(words, font, left, middle + 0.35 * size, size)}"/>'


def _plate(ink: str, radius: float = 90) -> str:
    return f'<rect width="512" height="512" rx="{radius}" fill="{ink}"/>'


def _disc(ink: str, radius: float = 190, more: str = "") -> str:
    return f'<circle cx="256" cy="256" r="{radius}" fill="{ink}" {more}/>'


def _ring(ink: str, radius: float, width: float) -> str:
    return f'<circle cx="256" cy="256" r="{radius}" fill="none" stroke="{ink}" stroke-width="{width}"/>'


def _bar(x: float, y: float, wide: float, high: float, ink: str) -> str:
    return f'<rect x="{x:.2f}" y="{y:.2f}" width="{wide:.2f}" height="{high:.2f}" fill="{ink}"/>'


def _fade(way: str, first: str, last: str) -> str:
    stops = f'<stop offset="0" stop-color="{first}"/><stop offset="1" stop-color="{last}"/>'
    if way == "radial":
        return f'<radialGradient id="g">{stops}</radialGradient>'
    across, down = {"across": (1, 0), "down": (0, 1), "slanted": (1, 1)}[way]
    return f'<linearGradient id="g" x1="0" y1="0" x2="{across}" y2="{down}">{stops}</linearGradient>'


def _symbols() -> Iterator[Icon]:
    for name, ink in (
        *(("house", "#1a5fb4"), ("heart", "#c01c28"), ("leaf", "#15803d"), ("camera", "#1b2420")),
        *(("bell", "#813d9c"), ("anchor", "#0b7285"), ("bus", "#7c2d12"), ("gift", "#9d174d")),
    ):
        yield Icon(f"symbol {name}", _symbol(name, ink))
    for stroke in (0.25, 0.5, 1, 1.5):
        yield Icon(f"house, stroke {stroke} of 24", _symbol("house", "#1b2420", stroke))
        yield Icon(f"star, stroke {stroke} of 24, dark", _symbol("star", "#ffffff", stroke), tab="dark")
    for name in ("fingerprint", "qr-code", "keyboard", "calendar-days"):
        yield Icon(f"fine {name}", _symbol(name, "#1b2420", 1.2))
        yield Icon(f"fine {name} at 32", _symbol(name, "#1b2420", 1.2), 32)


def _letters() -> Iterator[Icon]:
    for letter in "MWNE&8S4":
        yield Icon(f"bold {letter}", _line(letter, "#1b2420", "rubik 700 normal", 400))
    for letter in "MWR3":
        yield Icon(f"thin {letter}", _line(letter, "#333333", "work-sans 400 normal", 400))
        yield Icon(f"italic serif {letter}", _line(letter, "#7c2d12", "lora 500 italic", 400))
    for letter in "gQa":
        yield Icon(f"hand {letter}", _line(letter, "#1a5fb4", "pacifico 400 normal", 330))
    yield Icon("bold M dark on dark", _line("M", "#1b2420", "rubik 700 normal", 400), tab="dark")
    yield Icon("bold W white on dark", _line("W", "#ffffff", "rubik 700 normal", 400), tab="dark")
    yield Icon("two letters HS", _line("HS", "#1a5fb4", "rubik 700 normal", 400))
    yield Icon("three letters ABC", _line("ABC", "#c01c28", "rubik 700 normal", 400))


def _plates() -> Iterator[Icon]:
    for number, brand in enumerate(BRANDS):
        ink = "#1b2420" if brand in ("#f5c211", "#99c1f1") else "#ffffff"
        letter = "MWNERKSBAHGT"[number]
        tab = ("light", "dark")[number % 2]
        yield Icon(f"{letter} on {brand}, {tab}", _plate(brand) + _line(letter, ink, "rubik 700 normal"), tab=tab)
    for brand, ink in (
        *(("#f5c211", "#ffffff"), ("#12b886", "#ffffff"), ("#99c1f1", "#ffffff"), ("#2a6fdb", "#2f86d0")),
        *(("#1b2420", "#3a4540"), ("#c01c28", "#813d9c"), ("#ffffff", "#f5c211"), ("#e8590c", "#f5c211")),
    ):
        yield Icon(f"E in {ink} on {brand}", _plate(brand) + _line("E", ink, "rubik 700 normal"))
    yield Icon("house on disc", _disc("#0b7285", 256) + _symbol("house", "#ffffff", 2, 110))
    yield Icon("heart on disc, dark", _disc("#c01c28", 256) + _symbol("heart", "#ffffff", 2.4, 110), tab="dark")
    yield Icon("fine fish on plate", _plate("#1a5fb4") + _symbol("fish", "#ffffff", 0.8, 90))
    yield Icon("very fine bird on plate", _plate("#1a5fb4") + _symbol("bird", "#ffffff", 0.3, 90))
    yield Icon("plain plate", _plate("#813d9c"))
    yield Icon("plain disc, dark", _disc("#f5c211", 240), tab="dark")


def _fades() -> Iterator[Icon]:
    for way in ("across", "down", "slanted", "radial"):
        defs = f"<defs>{_fade(way, '#3b86e0', '#3a2a8a')}</defs>"
        yield Icon(f"M on a fade {way}", defs + _plate("url(#g)") + _line("M", "#ffffff", "rubik 700 normal"))
        defs = f"<defs>{_fade(way, '#ff8a3d', '#c2185b')}</defs>"
        yield Icon(f"disc that fades {way}", defs + _disc("url(#g)"))
    for way in ("across", "down"):
        defs = f"<defs>{_fade(way, '#ffffff', '#1b2420')}</defs>"
        yield Icon(
            f"white to black {way}, white letter", defs + _plate("url(#g)") + _line("A", "#ffffff", "rubik 700 normal")
        )
        defs = f"<defs>{_fade(way, '#15803d', '#d9f99d')}</defs>"
        yield Icon(f"letter that fades {way}", defs + _line("B", "url(#g)", "rubik 700 normal", 400))


def _halos() -> Iterator[Icon]:
    shadow = (
        '<filter id="s" x="-30%" y="-30%" width="160%" height="160%">'
        '<feDropShadow dx="0" dy="10" stdDeviation="14" flood-opacity="0.45"/></filter>'
    )
    glow = (
        '<filter id="s" x="-30%" y="-30%" width="160%" height="160%">'
        '<feGaussianBlur in="SourceAlpha" stdDeviation="20"/><feMerge><feMergeNode/>'
        '<feMergeNode in="SourceGraphic"/></feMerge></filter>'
    )
    for name, effect in (("shadow", shadow), ("glow", glow)):
        wrap = f'<defs>{effect}</defs><g filter="url(#s)">{{}}</g>'
        yield Icon(f"disc with a {name}", wrap.format(_disc("#d63a2f")))
        yield Icon(f"letter with a {name}", wrap.format(_line("K", "#2e7d32", "rubik 700 normal", 340)))
        yield Icon(f"symbol with a {name}", wrap.format(_symbol("anchor", "#1a5fb4", 2.4, 50)))
        yield Icon(f"pale letter with a {name}", wrap.format(_line("K", "#f4f1e8", "rubik 700 normal", 340)))


def _translucent() -> Iterator[Icon]:
    for percent in (8, 15, 30, 45, 60, 80):
        ink = f'<g opacity="{percent / 100}">{{}}</g>'
        yield Icon(f"letter at {percent} %", ink.format(_line("R", "#000000", "rubik 700 normal", 400)))
        yield Icon(f"ring at {percent} %, dark", ink.format(_ring("#ffffff", 190, 80)), tab="dark")


def _rings() -> Iterator[Icon]:
    for width in (3, 6, 10, 16, 32, 60):
        yield Icon(f"ring {width} wide", _ring("#b00020", 220, width))
    yield Icon("letter in a fine ring", _ring("#1a5fb4", 240, 5) + _line("G", "#1a5fb4", "rubik 700 normal", 230))
    yield Icon("letter in a bold ring", _ring("#1a5fb4", 230, 40) + _line("G", "#1a5fb4", "rubik 700 normal", 230))
    for many in (2, 4, 7):
        rings = "".join(_ring("#1b2420", 30 + 200 * (n + 0.5) / many, 100 / many) for n in range(many))
        yield Icon(f"{many} rings in each other", rings)
    for teeth in (8, 40):
        spokes = "".join(
            f'<path stroke="#495057" stroke-width="{900 / teeth}" '
            f'd="M256 256L{256 + 240 * cos(2 * pi * n / teeth):.1f} {256 + 240 * sin(2 * pi * n / teeth):.1f}"/>'
            for n in range(teeth)
        )
        yield Icon(f"wheel of {teeth} spokes", spokes + _ring("#495057", 230, 30))


def _tiles() -> Iterator[Icon]:
    flags = {
        "three bars": [(0, 0, 171, 512, "#0b7285"), (171, 0, 170, 512, "#fff4d6"), (341, 0, 171, 512, "#813d9c")],
        "three rows": [(0, 0, 512, 171, "#2b1d3a"), (0, 171, 512, 170, "#12b886"), (0, 341, 512, 171, "#f4a261")],
        "cross": [(0, 0, 512, 512, "#5b2a6e"), (140, 0, 112, 512, "#c8e06a"), (0, 200, 512, 112, "#c8e06a")],
        "alike rows": [(0, 0, 512, 256, "#1a5fb4"), (0, 256, 512, 256, "#1c62b8")],
        "nearly alike rows": [(0, 0, 512, 256, "#1a5fb4"), (0, 256, 512, 256, "#3a7fd4")],
    }
    for name, bars in flags.items():
        yield Icon(f"flag, {name}", "".join(_bar(*bar) for bar in bars))
    for many, size in ((2, 16), (4, 16), (8, 16), (16, 16), (32, 16), (16, 32)):
        side = 512 / many
        yield Icon(
            f"checker of {many} at {size}",
            "".join(
                _bar(side * x, side * y, side, side, "#111111" if (x + y) % 2 else "#f4c430")
                for x in range(many)
                for y in range(many)
            ),
            size,
        )
    yield Icon(
        "four tiles",
        "".join(
            _bar(30 + 236 * x, 30 + 236 * y, 216, 216, ink)
            for (x, y), ink in zip(
                ((0, 0), (1, 0), (0, 1), (1, 1)), ("#5b2a6e", "#0b7285", "#f4a261", "#495057"), strict=True
            )
        ),
    )


def _textures() -> Iterator[Icon]:
    for many in (3, 5, 8, 12, 24):
        step = 512 / (2 * many - 1)
        yield Icon(f"{many} upright bars", "".join(_bar(2 * n * step, 20, step, 472, "#1b2420") for n in range(many)))
    for many in (3, 6, 12):
        step = 512 / many
        yield Icon(
            f"{many} x {many} dots",
            "".join(
                f'<circle cx="{step * (x + 0.5)}" cy="{step * (y + 0.5)}" r="{0.3 * step}" fill="#0b7285"/>'
                for x in range(many)
                for y in range(many)
            ),
        )
    rows = "".join(_bar(60, 60 + 62 * n, (392, 300, 350, 240, 392, 310, 200)[n], 24, "#333333") for n in range(7))
    yield Icon("a page of seven lines", rows)
    yield Icon("a page of seven lines at 32", rows, 32)
    yield Icon("three lines", "".join(_bar(60, 100 + 120 * n, 392, 60, "#333333") for n in range(3)))


def _words() -> Iterator[Icon]:
    for word in ("OK", "FOX", "MILL", "BAKERY", "FERNHOLLOW"):
        for size in (16, 32):
            yield Icon(f"word {word} at {size}", _line(word, "#1b2420", "rubik 700 normal", 400, 500), size)
    yield Icon("hand word at 16", _line("Marlow", "#813d9c", "pacifico 400 normal", 300, 490))
    yield Icon("hand word at 32", _line("Marlow", "#813d9c", "pacifico 400 normal", 300, 490), 32)
    yield Icon("condensed word at 16", _line("PORT", "#c01c28", "barlow-condensed 600 normal", 400, 500))


def _lockups() -> Iterator[Icon]:
    def lockup(size: float) -> str:
        emblem = f'<g transform="translate(140 40) scale(0.45)">{_disc("#e8590c", 250)}</g>'
        return emblem + _line("Harrow", "#333333", "rubik 600 normal", size, 480, 400)

    yield Icon("emblem above a word", lockup(110))
    yield Icon("emblem above a word at 32", lockup(110), 32)
    beside = f'<g transform="translate(0 180) scale(0.3)">{_symbol("leaf", "#15803d", 3)}</g>'
    beside += f'<g transform="translate(80 0)">{_line("Fern", "#15803d", "rubik 700 normal", 110, 300)}</g>'
    yield Icon("emblem beside a word", beside)
    tag = _line("M", "#1a5fb4", "rubik 700 normal", 300, 480, 200) + _line(
        "since 1904", "#1a5fb4", "work-sans 400 normal", 50, 460, 450
    )
    yield Icon("letter above a tagline", tag)
    badge = _disc("#7c2d12", 250) + _ring("#ffffff", 220, 6) + _symbol("anchor", "#ffffff", 2.2, 130)
    yield Icon("badge with a fine ring", badge)
    yield Icon("badge with a fine ring, dark", badge, tab="dark")


def _faint() -> Iterator[Icon]:
    for ink, tab in (
        *(("#f3e7c9", "light"), ("#f5c211", "light"), ("#fff3a0", "light"), ("#c8c8c8", "light")),
        *(("#999999", "light"), ("#777777", "light"), ("#2b3a35", "dark"), ("#3d4a46", "dark")),
        *(("#5a6a64", "dark"), ("#813d9c", "dark"), ("#1a5fb4", "dark"), ("#99c1f1", "dark")),
    ):
        yield Icon(f"house in {ink}, {tab}", _symbol("house", ink, 2.4), tab=tab)
    two = _bar(20, 20, 236, 472, "#ffffff") + _bar(256, 20, 236, 472, "#1b2420")
    yield Icon("half white, half black", two)
    yield Icon("half white, half black, dark", two, tab="dark")


def _small() -> Iterator[Icon]:
    for side in (8, 24, 48, 96, 160):
        yield Icon(
            f"square of {side} in the middle", _clear() + _bar(256 - side / 2, 256 - side / 2, side, side, "#c01c28")
        )
    for size in (60, 120, 240):
        yield Icon(f"letter {size} high in the middle", _clear() + _line("R", "#1a5fb4", "rubik 700 normal", size))
    yield Icon(
        "symbol in a third",
        _clear() + f'<g transform="translate(170 170) scale(0.33)">{_symbol("bell", "#1b2420")}</g>',
    )


def _clear() -> str:
    return '<rect width="512" height="512" fill="none"/>'


def _photographs() -> Iterator[Icon]:
    for seed in range(4):
        rng = np.random.default_rng(seed)
        noise = Image.fromarray(rng.integers(0, 256, (512, 512, 3), dtype=np.uint8))
        layers = [np.asarray(noise.filter(ImageFilter.GaussianBlur(blur)), dtype=float) for blur in (2, 9, 40)]
        mixed = sum(
            (layer - layer.mean()) / layer.std() * weight for layer, weight in zip(layers, (18, 26, 34), strict=True)
        )
        pixels = np.full((512, 512, 4), 255, dtype=np.uint8)
        pixels[..., :3] = np.clip(128 + mixed, 0, 255)
        for size in (16, 32):
            yield Icon(f"photograph {seed} at {size}", "", size, bitmap=pixels)
