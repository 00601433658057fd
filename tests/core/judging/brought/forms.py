"""The ways in which people bring a logo. Each form takes a symbol, words, a face and colours."""

from bexi.server.demo.lettering import outlines
from tests.core.judging.brought.drawing import (
    Brought,
    First,
    Piece,
    advance,
    around,
    box,
    disc,
    face,
    gradient,
    height_of,
    ring,
    symbol,
    text,
)

FREE, PLATE, OWN = frozenset({"free"}), frozenset({"plate"}), frozenset({"own"})
ANY = FREE | PLATE
EMBLEM = frozenset({"emblem"})
LETTER = First(frozenset({"first"}), ANY)
MARK = First(EMBLEM, ANY)
PLATED_MARK = First(EMBLEM, PLATE)


def wide(words: str, key: str, size: float) -> int:
    return round(advance(words, face(key), size))


def beside(
    name: str,
    icon: str,
    words: str,
    key: str,
    colour: str,
    ink: str = "",
    first: First = MARK,
    stroke: float = 2,
    **how,
) -> Brought:
    """The emblem left of the words."""
    pieces = [symbol(icon, 30, 40, 220, colour, stroke), *text(words, 300, 195, 130, ink or colour, key)]
    return Brought(name, 330 + wide(words, key, 130), 300, tuple(pieces), first, **how)


def right_of(name: str, icon: str, words: str, key: str, colour: str, ink: str = "", **how) -> Brought:
    """The emblem right of the words."""
    reach = wide(words, key, 130)
    pieces = [*text(words, 30, 195, 130, ink or colour, key), symbol(icon, reach + 80, 40, 220, colour)]
    return Brought(name, reach + 340, 300, tuple(pieces), MARK, **how)


def above(
    name: str, icon: str, words: str, key: str, colour: str, ink: str = "", tagline: str = "", rule: bool = False, **how
) -> Brought:
    """The emblem above the words, with a tagline or a rule below."""
    reach = max(wide(words, key, 120), 340) + 60
    pieces = [symbol(icon, reach / 2 - 160, 30, 320, colour)]
    pieces += text(words, (reach - wide(words, key, 120)) / 2, 500, 120, ink or colour, key)
    if rule:
        pieces.append(box(40, 376, reach - 80, 6, colour, "rule"))
    if tagline:
        pieces += text(tagline, (reach - wide(tagline, key, 44)) / 2, 570, 44, ink or colour, key, "tagline")
    return Brought(name, reach, 600, tuple(pieces), MARK, **how)


def words_alone(name: str, words: str, key: str, colour: str, first: First = LETTER, **how) -> Brought:
    """Nothing but words."""
    pieces = text(words, 40, 190, 170, colour, key)
    return Brought(name, 80 + wide(words, key, 170), 280, tuple(pieces), first, **how)


def two_lines(name: str, words: str, second: str, key: str, colour: str, ink: str, **how) -> Brought:
    """Two lines of words."""
    pieces = [*text(words, 40, 170, 150, colour, key), *text(second, 40, 300, 90, ink, key, "tagline")]
    return Brought(name, 80 + max(wide(words, key, 150), wide(second, key, 90)), 340, tuple(pieces), LETTER, **how)


def in_ring(name: str, icon: str, words: str, key: str, colour: str, lines: int = 1, **how) -> Brought:
    """The emblem in lettering that runs around it, with one circle line outside it or one inside it as well."""
    pieces = [symbol(icon, 270, 270, 260, colour), around(words, 400, 400, 265, 84, colour, key, 300)]
    pieces.append(ring(400, 400, 385, 10, colour))
    if lines > 1:
        pieces.append(ring(400, 400, 230, 8, colour))
    return Brought(name, 800, 800, tuple(pieces), MARK, **how)


def badge(
    name: str, icon: str, words: str, key: str, plate: str, ink: str, shape: str = "disc", ground: Piece | None = None
) -> Brought:
    """The emblem on a shape of its own, with words around it or none."""
    fill = plate if ground is None else "url(#fade)"
    below = disc(400, 400, 390, fill, "badge") if shape == "disc" else box(10, 10, 780, 780, fill, "badge", 120)
    pieces = [below, symbol(icon, 220, 220, 360, ink)] if not words else [below, symbol(icon, 270, 270, 260, ink)]
    if words:
        pieces.append(around(words, 400, 400, 280, 84, ink, key, 300))
        first = First(EMBLEM, PLATE | OWN, frozenset({"badge"}))
    else:
        first = First(EMBLEM, FREE | OWN | PLATE, frozenset({"badge"}))
    return Brought(name, 800, 800, (*([ground] if ground else []), *pieces), first)


def tile(name: str, icon: str, plate: str, ink: str, fade: tuple[str, str, float, float] | None = None) -> Brought:
    """A square that is full to its edges."""
    pieces = [gradient("fade", *fade)] if fade else []
    pieces += [box(0, 0, 800, 800, "url(#fade)" if fade else plate, "badge"), symbol(icon, 160, 160, 480, ink)]
    return Brought(name, 800, 800, tuple(pieces), First(EMBLEM, OWN | FREE | PLATE, frozenset({"badge"})))


def on_ground(name: str, icon: str, words: str, key: str, colour: str, ground: str, first: First, **how) -> Brought:
    """Emblem and words on a ground that fills the picture."""
    reach = 400 + wide(words, key, 130)
    pieces = [box(0, 0, reach, 380, ground, "ground"), symbol(icon, 60, 80, 220, colour)]
    pieces += text(words, 340, 235, 130, colour, key)
    return Brought(name, reach, 380, tuple(pieces), first, as_bitmap=True, **how)


def monogram(name: str, letters: str, key: str, colour: str, inside: str = "") -> Brought:
    """Two letters in a circle line, or on a disc."""
    pieces = [ring(400, 400, 370, 36, colour, "emblem") if not inside else disc(400, 400, 390, colour, "emblem")]
    reach, high = wide(letters, key, 340), height_of(letters[0], key, 340)
    pieces += text(letters, 400 - reach / 2, 400 + high / 2, 340, inside or colour, key, "emblem")
    return Brought(name, 800, 800, tuple(pieces), First(EMBLEM, FREE | PLATE | OWN))


def in_word(name: str, icon: str, words: str, number: int, key: str, colour: str, mark: str) -> Brought:
    """A symbol in the place of one letter of the word."""
    before, after = words[:number], words[number + 1 :]
    start = 40 + wide(before, key, 170)
    pieces = [*text(before, 40, 190, 170, colour, key), symbol(icon, start + 4, 66, 128, mark)]
    pieces += text(after, start + 140, 190, 170, colour, key, "tagline")
    first = First(EMBLEM, ANY)
    return Brought(name, start + 180 + wide(after, key, 170), 280, tuple(pieces), first)


def framed_in_line(name: str, icon: str, words: str, key: str, colour: str) -> Brought:
    """Emblem and words in a frame line."""
    reach = 400 + wide(words, key, 130)
    line = f'<rect x="10" y="10" width="{reach - 20}" height="360" fill="none" stroke="{colour}" stroke-width="8"/>'
    pieces = [Piece("rule", line), symbol(icon, 60, 80, 220, colour), *text(words, 340, 235, 130, colour, key)]
    return Brought(name, reach, 380, tuple(pieces), MARK)


def with_stray(name: str, icon: str, words: str, key: str, colour: str) -> Brought:
    """A small TM behind the words."""
    reach = wide(words, key, 130)
    pieces = [symbol(icon, 30, 40, 220, colour), *text(words, 300, 195, 130, colour, key)]
    pieces += text("TM", 306 + reach, 130, 34, colour, key, "stray")
    return Brought(name, 380 + reach, 300, tuple(pieces), MARK)


def shadowed(name: str, icon: str, words: str, key: str, colour: str, fuzz: float, shadow: str) -> Brought:
    """Emblem and words with a soft shadow or a glow below."""
    pieces = [symbol(icon, 30, 40, 220, colour), *text(words, 300, 195, 130, colour, key)]
    below = [symbol(icon, 36, 50, 220, shadow, role="shadow"), *text(words, 306, 205, 130, shadow, key, "shadow")]
    return Brought(name, 340 + wide(words, key, 130), 310, (*below, *pieces), MARK, fuzz=fuzz)


def flag(name: str, colours: tuple[str, ...], down: bool) -> Brought:
    """Stripes to the edges, which belong together."""
    share = 600 / len(colours)
    stripes = [
        box(0, round(n * share), 600, round(share) + 1, one, "emblem")
        if down
        else box(round(n * share), 0, round(share) + 1, 600, one, "emblem")
        for n, one in enumerate(colours)
    ]
    return Brought(name, 600, 600, tuple(stripes), First(EMBLEM, FREE | OWN))


def several(name: str, shapes: str, words: str, key: str, ink: str) -> Brought:
    """A mark of several parts beside words."""
    pieces = [Piece("emblem", shapes), *text(words, 400, 240, 130, ink, key)]
    return Brought(name, 440 + wide(words, key, 130), 400, tuple(pieces), MARK)


def seal(name: str, icon: str, words: str, key: str, colour: str, pale: str) -> Brought:
    """A disc with the words around a smaller disc that holds the emblem."""
    pieces = [disc(300, 300, 290, colour, "badge"), disc(300, 300, 190, pale, "emblem")]
    letters = around(words, 300, 300, 218, 56, pale, key, 300)
    return Brought(name, 600, 600, (*pieces, letters, symbol(icon, 180, 180, 240, colour)), PLATED_MARK)


def in_two_colours(name: str, first: str, second: str, key: str, colours: tuple[str, str]) -> Brought:
    """Words that run into each other, each in a colour of its own."""
    reach = advance(first, face(key), 150)
    pieces = *text(first, 30, 200, 150, colours[0], key), *text(second, 30 + reach, 200, 150, colours[1], key, "rest")
    return Brought(name, 60 + wide(first + second, key, 150), 280, pieces, LETTER)


def overlapping(name: str, colours: tuple[str, str], words: str, key: str, ink: str) -> Brought:
    """Two discs that shine through each other beside the words."""
    markup = '<circle cx="{}" cy="150" r="100" fill="{}" fill-opacity=".75"/>'
    discs = "".join(markup.format(x, colour) for x, colour in zip((130, 240), colours, strict=True))
    pieces = (Piece("emblem", discs), *text(words, 390, 195, 130, ink, key))
    return Brought(name, 420 + wide(words, key, 130), 300, pieces, MARK)


def cut_out_of_tile(name: str, letter: str, key: str, colour: str) -> Brought:
    """A letter through which one sees what the tile lies on."""
    left = 200 - advance(letter, face(key), 280) / 2
    data = outlines(letter, face(key), left, 200 + height_of(letter, key, 280) / 2, 280)
    tile = f'<path fill="{colour}" fill-rule="evenodd" d="M0 0H400V400H0Z{data}"/>'
    return Brought(name, 400, 400, (Piece("emblem", tile),), First(EMBLEM, OWN))


def pill(name: str, icon: str, words: str, key: str, colour: str, ink: str) -> Brought:
    """The emblem and the words on one long badge."""
    reach = wide(words, key, 110)
    pieces = box(10, 10, reach + 400, 240, colour, "badge", 120), symbol(icon, 100, 55, 150, ink, 2.4)
    return Brought(name, reach + 420, 260, (*pieces, *text(words, 290, 168, 110, ink, key)), PLATED_MARK)
