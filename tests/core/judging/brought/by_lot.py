"""Logos drawn by lot: any symbol of four open sets, made-up words, any face that ships, any way of setting them.

Nobody chose them for what they are like. The sets: Fluent UI System Icons, Octicons, Heroicons and Lucide (npm).
"""

import re
from colorsys import hsv_to_rgb
from functools import cache
from pathlib import Path
from random import Random

from tests.core.judging.brought.drawing import PACKAGES, Brought, Piece, box, disc, height_of, text
from tests.core.judging.brought.forms import LETTER, MARK, wide

_SETS = (
    "@fluentui/svg-icons/icons/*_48_filled.svg",
    "@fluentui/svg-icons/icons/*_48_regular.svg",
    "@fluentui/svg-icons/icons/*_48_color.svg",
    "@primer/octicons/build/svg/*-24.svg",
    "heroicons/24/solid/*.svg",
    "heroicons/24/outline/*.svg",
    "lucide-static/icons/*.svg",
)
_ONSETS, _VOWELS, _CODAS = "b c d f g h k l m n p r s t v w z br tr st pl sh gr", "aeiou", "nlrstmx"
_FACES = tuple(
    f"{face} {weight} {style}"
    for face in ("atkinson-hyperlegible-next", "barlow", "barlow-condensed", "lora", "nunito", "rubik", "work-sans")
    for weight, style in ((400, "normal"), (600, "normal"), (700, "italic"), (800, "normal"))
    if (PACKAGES / "@fontsource" / face / "files" / f"{face}-latin-{weight}-{style}.woff").exists()
)


@cache
def _symbols(pattern: str) -> tuple[Path, ...]:
    return tuple(sorted(PACKAGES.glob(pattern)))


def by_lot(seed: int) -> Brought:
    """The logo of a number, the same every time."""
    lot = Random(seed)
    way = lot.choice(("left", "left", "right", "above", "divided", "on a disc", "two lines", "word", "alone"))
    key, size, ink = lot.choice(_FACES), lot.uniform(90, 150), _colour(lot)
    word, mark = _word(lot), ink if lot.random() < 0.4 else _colour(lot)
    capital, margin = height_of("H", key, size), lot.uniform(5, 60)
    side, room = capital * lot.uniform(1.2, 3), lot.uniform(0.15, 0.5)
    reach, high = wide(word, key, size), max(side, 1.8 * capital)
    base = margin + high / 2 + capital / 2
    width, height = 2 * margin + side + room * side + reach, 2 * margin + high + capital / 2
    if way == "word":
        return _filed(lot, seed, way, 2 * margin + reach, height, text(word, margin, base, size, ink, key), LETTER)
    if way == "alone":
        return _filed(lot, seed, way, 2 * margin + side, 2 * margin + side, [_symbol(lot, margin, margin, side, mark)])
    if way == "above":
        width = 2 * margin + max(side, reach)
        pieces = [_symbol(lot, (width - side) / 2, margin, side, mark)]
        pieces += text(word, (width - reach) / 2, margin + side + 1.5 * capital, size, ink, key)
        return _filed(lot, seed, way, width, 2 * margin + side + 2 * capital, pieces)
    x = margin + reach + room * side if way == "right" else margin
    y = margin + (high - side) / 2
    words_at = margin if way == "right" else margin + side + room * side
    if way == "on a disc":
        pieces = [disc(x + side / 2, y + side / 2, side / 2, mark, "emblem")]
        pieces.append(_symbol(lot, x + 0.22 * side, y + 0.22 * side, 0.56 * side, "#ffffff"))
    else:
        pieces = [_symbol(lot, x, y, side, mark)]
    if way == "divided":
        pieces.append(box(words_at, margin, 4, high, ink, "rule"))
        words_at, width = words_at + room * side, width + room * side
    pieces += text(word, words_at, base, size, ink, key)
    if way == "two lines":
        second = _word(lot)
        pieces += text(second, words_at, base + 1.6 * capital, size, ink, key, "more")
        width = max(width, words_at + wide(second, key, size) + margin)
        height += 1.6 * capital
    return _filed(lot, seed, way, width, height, pieces)


def _filed(lot: Random, seed: int, way: str, width: float, height: float, pieces: list[Piece], first=MARK) -> Brought:
    """As a drawing, a PNG, or a JPEG on white, whose edge may lie between two px."""
    kind = lot.choice(("svg", "png", "jpeg"))
    ground = [box(0, 0, width, height, "#ffffff", "ground")] if kind == "jpeg" else []
    how = {"jpeg": lot.choice((60, 85, 92))} if kind == "jpeg" else {"as_bitmap": kind == "png"}
    name = f"{seed}: {way}, {kind}"
    return Brought(name, round(width), round(height), (*ground, *pieces), first, **how)


def _word(lot: Random) -> str:
    """At least three letters: two alone are a monogram."""
    syllables = (lot.choice(_ONSETS.split()) + lot.choice(_VOWELS) for _ in range(lot.choice((2, 2, 3))))
    word = "".join(syllables) + lot.choice(("", lot.choice(_CODAS)))
    return lot.choice((word, word.capitalize(), word.capitalize(), word.upper()))


def _colour(lot: Random) -> str:
    channels = hsv_to_rgb(lot.random(), lot.uniform(0.4, 1), lot.uniform(0.25, 0.75))
    return "#{:02x}{:02x}{:02x}".format(*(round(255 * channel) for channel in channels))


def _symbol(lot: Random, x: float, y: float, side: float, colour: str) -> Piece:
    svg = lot.choice(_symbols(lot.choice(_SETS))).read_text()
    head, _, rest = svg[svg.index("<svg") :].partition(">")
    grid = float(re.search(r'viewBox="0 0 ([\d.]+)', head)[1])
    painting = {"fill": "currentColor", **dict(re.findall(r'(fill|stroke|stroke-[a-z]+)="([^"]+)"', head))}
    how = " ".join(f'{name}="{value}"' for name, value in painting.items())
    body = f'<g transform="translate({x} {y}) scale({side / grid})" {how}>{rest[: rest.rindex("</svg>")]}</g>'
    return Piece("emblem", re.sub("#0F172A|#212121|currentColor", colour, body))
