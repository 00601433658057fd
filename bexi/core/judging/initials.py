"""Letters of a site's name in the artwork's own colours, for where nothing of the artwork can be read."""

import unicodedata
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from bexi.core.artwork.letters import Letters, draw_letters
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.plate import DARK, Plate, PlateShape
from bexi.core.artwork.svg.checking import check
from bexi.core.errors import ArtworkRefused
from bexi.core.judging.groups import Groups, groups_of
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import WHITE, Colour, contrast

_READABLE = 4.5
"""WCAG 2.2, success criterion 1.4.3."""
_TRACKINGS = (0, 6)
"""In hundredths of the em; which of them reads best is judged."""


_MOST_LETTERS = 3
_SMALL_WORDS = frozenset((
    "a", "an", "and", "by", "for", "in", "of", "on", "the", "to", "at", "und", "der", "die", "das", "den",
    "dem", "des", "von", "vom", "zu", "zum", "zur", "im", "am", "bei", "für", "mit", "le", "la", "les", "l",
    "de", "du", "d", "et", "au", "aux", "en", "sur", "el", "los", "las", "y", "e", "i", "o", "il", "lo", "gli",
    "del", "della", "dei", "delle", "di", "da", "do", "dos", "os", "as", "het", "een", "van", "voor", "te",
    "och", "av", "på", "til", "og", "ved", "w", "z", "na",
))  # fmt: skip
"""Articles, conjunctions and short prepositions of common European languages; from memory."""


@dataclass(frozen=True)
class Drawn:
    """Letters that were drawn, and the picture of them."""

    letters: Letters
    svg: bytes
    source: Source


def initials(name: str) -> str:
    """One or two letters of a name: those its first two words begin with, small words left out."""
    return "".join(word[0] for word in _telling(name))[:2].upper()


def runs_leftwards(name: str) -> bool:
    """Whether a name is written from right to left, as its first letter with a direction is (UAX #9, rules P2, P3)."""
    directions = (unicodedata.bidirectional(one) for one in name)
    return next((one for one in directions if one in ("L", "R", "AL")), "L") != "L"


def initials_to_choose(name: str) -> list[str]:
    """Letters that may stand for a name, the likeliest first: initials, one letter, all initials, a beginning."""
    telling, every = _telling(name), _words(name)
    if not telling:
        return []
    first = telling[0]
    offered = (
        initials(name),
        first[0],
        "".join(word[0] for word in telling)[:_MOST_LETTERS],
        "".join(word[0] for word in every)[:_MOST_LETTERS],
        first[:2],
        first[:_MOST_LETTERS],
    )
    return list(dict.fromkeys(letters.upper() for letters in offered))


def _words(name: str) -> list[str]:
    cleaned = ("".join(one for one in word if unicodedata.category(one)[0] in "LN") for word in name.split())
    return [word for word in cleaned if word]


def _telling(name: str) -> list[str]:
    """The words without small ones, unless there are no others."""
    words = _words(name)
    return [word for word in words if word.casefold() not in _SMALL_WORDS] or words


def drawn_initials(name: str, groups: Groups, font_files: Sequence[bytes]) -> Iterator[Drawn]:
    """The letters in a few spacings, drawn when they are asked for; none for a name whose letters the face lacks."""
    text = initials(name)
    plate, ink = _colours(groups)
    for tracking in _TRACKINGS[: min(len(text), 2)]:
        letters = Letters(text, ink, tracking, Plate(PlateShape.ROUNDED, plate, 20, 8))
        try:
            svg = draw_letters(letters, font_files).encode()
            picture = check(svg, DEFAULT_LIMITS)
        except ArtworkRefused:
            return
        yield Drawn(letters, svg, Source(picture, groups_of(picture)))


def _colours(groups: Groups) -> tuple[Colour, Colour]:
    """The plate's and the ink's: two of the artwork's own where they can be read upon each other."""
    plate = groups.colours[0] if groups.colours else DARK
    own = next((colour for colour in groups.colours[1:] if contrast(colour, plate) >= _READABLE), None)
    return plate, own or max((WHITE, DARK), key=lambda ink: contrast(ink, plate))
