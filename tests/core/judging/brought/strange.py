"""Logos built unlike those of the forms: half-boxed, tiled, stacked, strewn and layered ones."""

from math import cos, pi, sin

from tests.core.judging.brought.drawing import Brought, First, Piece, box, disc, gradient, ring, symbol, text
from tests.core.judging.brought.forms import ANY, EMBLEM, FREE, LETTER, MARK, OWN, PLATE, wide

SANS, SERIF, HEAVY = "work-sans 700 normal", "lora 600 normal", "work-sans 800 normal"
_LEAF = '<ellipse cx="130" cy="70" rx="26" ry="56" fill="{}" transform="rotate({} 130 130)"/>'
_STAR = "l9 19 21 3-15 15 4 21-19-10-19 10 4-21-15-15 21-3z"
_BARS = (20, 6), (36, 16), (64, 6), (80, 24), (114, 10), (134, 6), (150, 16), (176, 6)
_HONEY = ("#f59e0b", "#d97706", "#b45309", "#f59e0b", "#d97706", "#b45309")


def _logo(name: str, width: int, height: int, first: First, *pieces: Piece, **how) -> Brought:
    return Brought(name, width, height, pieces, first, **how)


def _shape(path: str, fill: str, role: str = "emblem") -> Piece:
    return Piece(role, f'<path d="{path}" fill="{fill}"/>')


def _frame(x: float, y: float, width: float, height: float, colour: str, line: float) -> Piece:
    size = f'x="{x}" y="{y}" width="{width}" height="{height}" rx="20"'
    return Piece("frame", f'<rect {size} fill="none" stroke="{colour}" stroke-width="{line}"/>')


def _tiles(letters: str, colour: str) -> list[Piece]:
    """Each letter on a tile of its own; the first one is what an icon shows."""
    pieces = []
    for number, letter in enumerate(letters):
        role, left = ("more" if number else "emblem"), 20 + 150 * number
        pieces.append(box(left, 20, 130, 130, colour, role, 16))
        pieces += text(letter, left + 65 - wide(letter, SANS, 90) / 2, 118, 90, "#ffffff", SANS, role)
    return pieces


def _petals(colours: tuple[str, ...]) -> Piece:
    return Piece("emblem", "".join(_LEAF.format(one, 60 * turn) for turn, one in enumerate(colours)))


def _column(letters: str, x: float, top: float, colour: str) -> list[Piece]:
    """Letters below each other."""
    places = ((letter, top + 105 * number) for number, letter in enumerate(letters))
    return [one for a, y in places for one in text(a, x - wide(a, SANS, 90) / 2, y, 90, colour, SANS, "more")]


def _around(count: int, radius: float, colour: str) -> Piece:
    turns = (2 * pi * number / count for number in range(count))
    marks = (f'<circle cx="{125 + radius * cos(a):.1f}" cy="{125 + radius * sin(a):.1f}" r="22"/>' for a in turns)
    return Piece("emblem", f'<g fill="{colour}">{"".join(marks)}</g>')


def _cell(x: float, y: float, colour: str) -> str:
    """A hexagon that stands on a corner."""
    return f'<path d="M{x} {y - 38} l33 19 v38 l-33 19 l-33 -19 v-38 Z" fill="{colour}"/>'


def _temple(stone: str, shade: str, edge: str) -> Piece:
    """A gable on columns with dark between them."""
    columns = "".join(
        f'<path d="M{50 + 28 * n} {104 if n % 2 else 110} h28 v{106 if n % 2 else 100} h-28 Z" fill="{colour}"/>'
        for n, colour in enumerate((stone, shade) * 3 + (stone,))
    )
    gable = f'<path d="M30 96 L148 30 L266 96 Z M30 222 h236 v32 h-236 Z" fill="{stone}"/>'
    beams = f'<path d="M44 92 h208 v18 h-208 Z M44 208 h208 v16 h-208 Z" fill="{edge}"/>'
    return Piece("emblem", gable + beams + columns)


def _half_wreath(side: int) -> Piece:
    """Leaves along one side of words; 1 for the right, -1 for the left one."""
    leaf = '<ellipse cx="{0:.1f}" cy="{1:.1f}" rx="12" ry="30" transform="rotate({2:.0f} {0:.1f} {1:.1f})"/>'
    turns = [0.5 + 0.3 * number for number in range(8)]
    leaves = [
        leaf.format(320 + side * 200 * sin(turn), 190 - 180 * cos(turn), side * (turn * 180 / pi + 50))
        for turn in turns
    ]
    return Piece("wreath", f'<g fill="#a16207">{"".join(leaves)}</g>')


def _person(x: float, head: float, top: float, colour: str) -> Piece:
    shoulders = (
        f'<path d="M{x - head - 4} {top + 70} h{2 * head + 8} v40 a{head + 4} {head + 4} 0 0 1 -{2 * head + 8} 0 Z"/>'
    )
    return Piece("emblem", f'<g fill="{colour}"><circle cx="{x}" cy="{top}" r="{head}"/>{shoulders}</g>')


STRANGE: tuple[Brought, ...] = (
    _logo(
        *("between two words", 1000, 200, MARK),
        *text("NORTH", 20, 140, 120, "#1e3a5f", SANS),
        symbol("solid/globe-alt", 470, 35, 130, "#c2410c"),
        *text("SOUND", 640, 140, 120, "#1e3a5f", SANS, "more"),
    ),
    _logo(
        *("word in a frame line", 640, 200, LETTER),
        _frame(10, 10, 620, 180, "#b91c1c", 10),
        *text("LANTERN", 60, 135, 110, "#b91c1c", SANS),
    ),
    _logo(
        *("stamp of two lines", 640, 360, LETTER),
        *(_frame(15, 15, 610, 330, "#991b1b", 10), _frame(35, 35, 570, 290, "#991b1b", 4)),
        *text("SALTHOUSE", 60, 170, 90, "#991b1b", SANS),
        *text("No. 7 QUAY", 140, 270, 60, "#991b1b", SANS, "tagline"),
    ),
    _logo(
        *("half of the word in a box", 640, 180, First(frozenset({"badge", "emblem"}), ANY)),
        box(0, 10, 235, 160, "#ea580c", "badge", 20),
        *text("my", 25, 120, 110, "#ffffff", SANS, "emblem"),
        *text("grove", 250, 120, 110, "#1f2937", SANS, "more"),
    ),
    _logo(
        *("four quarters and a Q", 800, 240, MARK),
        *(box(20, 20, 95, 95, "#ef4444", "emblem"), box(125, 20, 95, 95, "#22c55e", "emblem")),
        *(box(20, 125, 95, 95, "#3b82f6", "emblem"), box(125, 125, 95, 95, "#eab308", "emblem")),
        *text("Quartet", 260, 160, 120, "#374151", SANS),
    ),
    _logo("letter tiles", 620, 170, MARK, *_tiles("WREN", "#1d4ed8")),
    _logo(
        *("cube of three faces, white", 760, 220, MARK),
        symbol("solid/cube", 20, 20, 180, "#ffffff"),
        *text("Blanche", 230, 150, 130, "#ffffff", SANS),
    ),
    _logo(
        *("emblem of strokes", 760, 240, MARK),
        symbol("outline/finger-print", 20, 20, 200, "#111827", 1.2),
        *text("Signet", 260, 160, 130, "#111827", SANS),
    ),
    _logo(
        *("small ornament", 700, 240, LETTER),
        *text("Orchard", 30, 170, 150, "#7c2d12", SERIF),
        symbol("solid/sparkles", 600, 20, 70, "#f59e0b", role="ornament"),
    ),
    _logo(
        *("stripe of three colours", 760, 260, LETTER),
        *(box(20, 20, 240, 26, "#dc2626", "stripe"), box(260, 20, 240, 26, "#fbbf24", "stripe")),
        box(500, 20, 240, 26, "#16a34a", "stripe"),
        *text("Bandeau", 60, 210, 150, "#111827", SANS),
    ),
    _logo(
        *("letters below each other", 160, 760, MARK),
        symbol("solid/musical-note", 10, 10, 140, "#6d28d9"),
        *_column("TEMPO", 80, 260, "#6d28d9"),
    ),
    _logo(
        *("brackets", 640, 190, First(frozenset({"first"}), ANY)),
        *text("[", 30, 125, 120, "#4338ca", SANS, "bracket"),
        *text("studio", 90, 125, 120, "#4338ca", SANS),
        *text("]", 90 + wide("studio", SANS, 120), 125, 120, "#4338ca", SANS, "bracket"),
    ),
    _logo(
        *("drop capital", 720, 240, First(frozenset({"first"}), ANY)),
        *text("G", 20, 200, 240, "#7f1d1d", "playfair-display 700 normal", "first"),
        *text("ardens", 220, 110, 80, "#1f2937", SERIF, "more"),
        *text("of the Fell", 220, 190, 70, "#1f2937", SERIF, "more"),
    ),
    _logo(
        *("emblem of two shades in a ring", 480, 520, First(EMBLEM, ANY, frozenset({"ring"}))),
        ring(240, 200, 180, 12, "#14532d"),
        _shape("M90 290 L190 150 L240 220 L300 130 L390 290 Z", "#14532d"),
        disc(150, 110, 26, "#f59e0b", "emblem"),
        *text("FELLSIDE", 20, 490, 90, "#14532d", SANS),
    ),
    _logo(
        *("sphere with a fade", 760, 260, First(EMBLEM, ANY)),
        gradient("fade", "#7dd3fc", "#0c4a6e", 1, 1),
        disc(130, 130, 105, "url(#fade)", "emblem"),
        *text("Orbly", 270, 175, 140, "#0c4a6e", SANS),
    ),
    _logo(
        *("petals of six colours", 760, 260, MARK),
        _petals(("#e11d48", "#f97316", "#eab308", "#22c55e", "#0ea5e9", "#8b5cf6")),
        *text("Corolla", 270, 170, 120, "#374151", SANS),
    ),
    _logo(
        *("layers of a flame", 420, 520, MARK),
        _shape("M210 20 C320 130 340 220 290 300 C250 360 170 360 130 300 C80 220 120 130 210 20 Z", "#dc2626"),
        _shape("M210 130 C280 200 280 260 250 310 C225 340 190 340 170 310 C140 260 150 200 210 130 Z", "#f97316"),
        *text("Embers", 20, 480, 105, "#7f1d1d", SANS),
    ),
    _logo(
        *("word on a banner below a star", 620, 340, First(EMBLEM, ANY)),
        symbol("solid/star", 230, 10, 150, "#ca8a04"),
        _shape("M10 190 H610 L570 250 L610 310 H10 L50 250 Z", "#1e3a8a", "banner"),
        *text("GRANDSTAND", 90, 275, 64, "#ffffff", SANS),
    ),
    _logo(
        *("ring of dots", 760, 250, MARK),
        _around(8, 90, "#0d9488"),
        *text("Dotwell", 270, 165, 120, "#134e4a", SANS),
    ),
    _logo(
        *("hard shadow", 620, 200, MARK),
        *(symbol("solid/bolt", 28, 28, 160, "#111827"), symbol("solid/bolt", 18, 18, 160, "#facc15")),
        *text("Zapp", 200, 140, 130, "#111827", SANS),
    ),
    _logo(
        *("emblem and word on a card", 760, 380, First(EMBLEM, PLATE, frozenset({"badge"}))),
        box(30, 30, 700, 320, "#1d4ed8", "badge", 48),
        symbol("solid/truck", 90, 90, 200, "#ffffff"),
        *text("Haulden", 320, 225, 85, "#ffffff", SANS),
    ),
    _logo(
        *("boxed letter beside its word", 720, 220, First(frozenset({"badge", "emblem"}), ANY)),
        box(20, 20, 180, 180, "#e11d48", "badge", 36),
        *text("P", 68, 160, 150, "#ffffff", SANS, "emblem"),
        *text("Parable", 230, 155, 120, "#1f2937", SANS, "more"),
    ),
    _logo(
        *("two weights", 660, 180, LETTER),
        *text("north", 30, 125, 120, "#0f766e", "work-sans 400 normal"),
        *text("field", 350, 125, 120, "#0f766e", HEAVY, "more"),
    ),
    _logo(
        *("cells of three colours on the line of the word", 760, 250, MARK),
        Piece("emblem", "".join(map(_cell, (70, 145, 107, 182, 145, 70), (70, 70, 135, 135, 200, 200), _HONEY))),
        *text("Comb", 270, 170, 140, "#451a03", SANS),
    ),
    _logo(
        *("word in a speech bubble", 520, 360, First(frozenset({"first"}), PLATE, frozenset({"badge"}))),
        _shape("M20 20 H500 V260 H200 L120 340 V260 H20 Z", "#0284c7", "badge"),
        *text("chatter", 70, 170, 105, "#ffffff", SANS),
    ),
    _logo(
        *("landscape to the edges", 400, 400, First(EMBLEM, FREE | OWN)),
        *(box(0, 0, 400, 400, "#0c4a6e", "emblem"), disc(290, 110, 50, "#fde68a", "emblem")),
        _shape("M0 320 L130 180 L220 270 L300 200 L400 300 V400 H0 Z", "#14532d"),
        _shape("M0 400 V350 L90 300 L200 360 L400 340 V400 Z", "#052e16"),
        as_bitmap=True,
    ),
    _logo(
        *("nested squares", 760, 250, First(EMBLEM, FREE)),
        *(box(20, 20, 210, 210, "#1e3a8a", "emblem"), box(60, 60, 130, 130, "#ffffff", "emblem")),
        box(95, 95, 60, 60, "#f97316", "emblem"),
        *text("Kernel", 260, 170, 130, "#1e3a8a", SANS),
    ),
    _logo(
        *("wreath around words", 640, 420, First(frozenset({"first"}), ANY)),
        *(_half_wreath(1), _half_wreath(-1)),
        *text("BEST", 320 - wide("BEST", SANS, 90) / 2, 180, 90, "#1f2937", SANS),
        *text("MEADOW", 320 - wide("MEADOW", SANS, 60) / 2, 250, 60, "#1f2937", SANS, "more"),
    ),
    _logo(
        *("heads and shoulders", 820, 240, MARK),
        *(
            _person(60, 26, 52, "#2563eb"),
            _person(130, 32, 45, "#2563eb"),
            _person(200, 26, 52, "#2563eb"),
        ),
        *text("Gatherly", 260, 160, 125, "#1e3a8a", "nunito 700 normal"),
    ),
    _logo(
        *("dots before the word", 700, 200, LETTER),
        *(disc(40 + 45 * number, 140, 16, "#0891b2", "dots") for number in range(3)),
        *text("more", 170, 150, 150, "#0f172a", SANS),
    ),
    _logo(
        *("disc with a long shadow", 420, 420, First(EMBLEM, FREE)),
        disc(210, 210, 200, "#10b981", "emblem"),
        _shape("M150 280 L290 130 L395 235 A195 195 0 0 1 300 380 Z", "#047857"),
        symbol("solid/map-pin", 110, 100, 220, "#ffffff"),
    ),
    _logo(
        *("words that a dot divides", 900, 200, LETTER),
        *text("fog", 20, 150, 130, "#1f2937", SANS),
        disc(300, 112, 13, "#1f2937", "dots"),
        *text("mill", 340, 150, 130, "#1f2937", SANS, "more"),
    ),
    _logo(
        *("two names side by side", 1100, 220, MARK),
        symbol("rocket", 20, 20, 180, "#ea580c", 2.4),
        *text("Launchly", 220, 145, 100, "#ea580c", SANS),
        symbol("x", 690, 80, 60, "#9ca3af", 3, "times"),
        symbol("solid/cloud", 780, 30, 160, "#2563eb", role="other"),
        *text("Nim", 950, 145, 90, "#2563eb", SANS, "more"),
    ),
    _logo(
        *("tile with a sheen", 420, 420, First(EMBLEM, FREE)),
        *(box(10, 10, 400, 400, "#1d4ed8", "emblem", 80), box(10, 10, 400, 200, "#567ae2", "emblem", 80)),
        symbol("solid/envelope", 90, 90, 240, "#ffffff"),
    ),
    _logo(
        *("orbit across the word", 760, 280, First(frozenset({"first"}), ANY, frozenset({"orbit"}))),
        *text("Orbita", 90, 180, 150, "#1e3a8a", SANS),
        Piece(
            "orbit",
            '<ellipse cx="330" cy="140" rx="310" ry="70" fill="none" stroke="#f97316" stroke-width="8"'
            ' transform="rotate(-12 330 140)"/>',
        ),
    ),
    _logo(
        *("temple beside a name", 1000, 280, MARK),
        _temple("#ccd6dd", "#292f33", "#9aaab4"),
        *text("Dadacot", 300, 205, 132, "#0a5c54", HEAVY),
    ),
    _logo(
        *("drawing in a fine ring", 440, 440, First(EMBLEM, ANY)),
        *(ring(220, 220, 206, 8, "#12263a"), disc(220, 220, 90, "#ffcc4d", "emblem")),
        *(disc(190, 200, 14, "#65471b", "emblem"), disc(250, 200, 14, "#65471b", "emblem")),
        _shape("M170 240 h100 a50 40 0 0 1 -100 0 Z", "#65471b"),
    ),
    _logo(
        *("pale tile with a drawing", 420, 420, First(EMBLEM, FREE)),
        *(box(10, 10, 400, 400, "#ffe0e0", "emblem", 70), disc(210, 220, 110, "#ffcc4d", "emblem")),
        *(disc(170, 200, 14, "#272b2b", "emblem"), disc(250, 200, 14, "#272b2b", "emblem")),
        _shape("M150 260 h120 a60 40 0 0 1 -120 0 Z", "#c1694f"),
    ),
    _logo(
        *("light and shade on letters", 860, 260, LETTER),
        *(*text("SHOBE", 37, 187, 160, "#cccccc", HEAVY), *text("SHOBE", 43, 193, 160, "#333333", HEAVY)),
        *text("SHOBE", 40, 190, 160, "#12263a", HEAVY),
    ),
    _logo(
        *("light and shade, compressed", 860, 260, LETTER),
        *(box(0, 0, 860, 260, "#ffffff", "ground"), *text("WAPLA", 37, 187, 160, "#cccccc", HEAVY)),
        *(*text("WAPLA", 43, 193, 160, "#333333", HEAVY), *text("WAPLA", 40, 190, 160, "#0b7d3e", HEAVY)),
        jpeg=85,
    ),
    _logo(
        *("logo on a page", 2480, 3508, MARK),
        *(box(0, 0, 2480, 3508, "#ffffff", "ground"), symbol("solid/building-library", 1100, 1400, 90, "#c2410c")),
        *text("Library", 1200, 1467, 60, "#c2410c", SERIF),
    ),
    _logo(
        *("registered mark", 900, 260, MARK),
        symbol("rocket", 20, 30, 200, "#7a1f2b", 2.2),
        *(ring(238, 44, 15, 3, "#7a1f2b", "sign"), *text("R", 231, 52, 21, "#7a1f2b", SANS, "sign")),
        *text("Launchly", 270, 170, 110, "#7a1f2b", SANS),
    ),
    _logo(
        *("year at both sides", 640, 480, MARK),
        *(*text("19", 60, 190, 60, "#14532d", SERIF, "year"), *text("86", 510, 190, 60, "#14532d", SERIF, "year")),
        symbol("leaf", 200, 40, 240, "#14532d", 2.2),
        *text("HOLLOW", 320 - wide("HOLLOW", SERIF, 100) / 2, 420, 100, "#14532d", SERIF),
    ),
    _logo(
        *("letters cut through", 860, 240, LETTER),
        *(box(0, 0, 860, 240, "#ffffff", "ground"), *text("BROGUE", 40, 170, 150, "#0f172a", HEAVY)),
        box(0, 112, 860, 10, "#ffffff", "ground"),
        jpeg=90,
    ),
    _logo(
        *("exclamation in another colour", 760, 220, LETTER),
        *(*text("stevet", 40, 150, 130, "#0a5c54", SANS), *text("!", 480, 150, 130, "#e07a10", SANS, "more")),
        as_bitmap=True,
    ),
    _logo(
        *("struck word", 760, 240, First(frozenset({"first"}), ANY, frozenset({"line"}))),
        *(*text("robust", 40, 165, 150, "#0b7d3e", SANS), box(25, 112, 560, 14, "#7a1f2b", "line")),
    ),
    _logo(
        *("bars beside a word", 860, 220, MARK),
        *(box(x, 30, width, 160, "#1c7ed6", "emblem") for x, width in _BARS),
        *text("MEMIT", 240, 150, 110, "#1c7ed6", SANS),
    ),
    _logo(
        *("five stars above a name", 620, 260, LETTER),
        Piece("stars", "".join(f'<path d="M{60 + 62 * turn} 20{_STAR}" fill="#f59e0b"/>' for turn in range(5))),
        *text("Dumuhim", 40, 210, 110, "#c8102e", SANS),
    ),
    _logo(
        *("symbol after one letter", 720, 240, MARK),
        *(*text("b", 30, 165, 140, "#1f2937", SERIF), symbol("solid/cloud", 120, 60, 120, "#e07a10")),
        *text("rezir", 255, 165, 140, "#1f2937", SERIF, "more"),
    ),
    _logo(
        *("block of two lines", 520, 260, First(frozenset({"first"}), ANY)),
        *text("GESATIT", 30, 110, 104, "#e07a10", SANS),
        *text("HAVO", 30, 236, 156, "#9ca3af", SANS, "more"),
    ),
)
