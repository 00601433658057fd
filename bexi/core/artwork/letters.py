"""Drawing one to three letters as outlines, optically centred and as large as their plate allows."""

import io
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from threading import Lock

from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.recordingPen import DecomposingRecordingPen, RecordingPen
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen
from fontTools.ttLib import TTFont

from bexi.core.artwork.plate import DARK, SIDE, Plate, drawing
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.colour import Colour

MOST_LETTERS = 3
_one_at_a_time = Lock()
"""A font reads its tables when they are asked for, which two threads must not do at once."""


@dataclass(frozen=True)
class Letters:
    """One to three characters. `tracking` is extra room between them, in hundredths of the em, -20 to 50."""

    text: str
    ink: Colour = DARK
    tracking: int = 0
    plate: Plate = field(default_factory=Plate)

    def __post_init__(self) -> None:
        if not 1 <= len(self.characters) <= MOST_LETTERS:
            raise ArtworkRefused("letter-count", f"Write one to {MOST_LETTERS} letters; more cannot be read at 16 px.")
        if not -20 <= self.tracking <= 50:
            raise ArtworkRefused("bad-tracking", "Set the tracking between -20 and 50.")

    @property
    def characters(self) -> str:
        """The text composed (Unicode NFC), without white space."""
        return "".join(unicodedata.normalize("NFC", self.text).split())


def draw_letters(letters: Letters, font_files: Sequence[bytes]) -> str:
    """The letters as SVG. `font_files` are the parts of one face, each with some of its characters.

    Raises ArtworkRefused naming a character that no part has.
    """
    with _one_at_a_time:
        outline = _line(letters, [_font(data) for data in font_files])
    bounds = BoundsPen(None)
    outline.replay(bounds)
    if bounds.bounds is None:
        raise ArtworkRefused("letter-without-ink", "These characters are invisible. Type letters or digits.")
    left, bottom, right, top = bounds.bounds
    scale = letters.plate.largest_scale(right - left, top - bottom)
    # Centred by the ink: what the eye sees, not the room the type reserves.
    place = (scale, 0, 0, -scale, SIDE / 2 - scale * (left + right) / 2, SIDE / 2 + scale * (top + bottom) / 2)
    path = SVGPathPen(None, ntos=lambda number: f"{number:.2f}".rstrip("0").rstrip("."))
    outline.replay(TransformPen(path, place))
    return drawing(letters.plate, f'<path fill="{letters.ink}" d="{path.getCommands()}"/>')


def _line(letters: Letters, fonts: Sequence[TTFont]) -> RecordingPen:
    """All glyphs side by side, in units of an em of 1000."""
    outline = RecordingPen()
    x = 0.0
    for character in letters.characters:
        font = next((font for font in fonts if ord(character) in font.getBestCmap()), None)
        if font is None:
            raise ArtworkRefused(
                "letter-missing",
                f"This font has no “{character}” (U+{ord(character):04X}). Choose another font, or another letter.",
            )
        glyphs = font.getGlyphSet()
        name = font.getBestCmap()[ord(character)]
        scale = 1000 / font["head"].unitsPerEm
        glyph = DecomposingRecordingPen(glyphs)  # accented letters are made of two glyphs
        glyphs[name].draw(glyph)
        glyph.replay(TransformPen(outline, (scale, 0, 0, scale, x, 0)))
        x += glyphs[name].width * scale + 10 * letters.tracking
    return outline


@lru_cache(maxsize=16)
def _font(data: bytes) -> TTFont:
    return TTFont(io.BytesIO(data))
