"""Words as outlines, so that the demo's SVG artwork needs no font on the machine that shows it."""

import io

from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen
from fontTools.ttLib import TTFont


def outlines(text: str, font_file: bytes, x: float, baseline: float, size: float) -> str:
    """The `d` of an SVG path that shows `text` from `x` on a baseline, `size` px to the em."""
    font = TTFont(io.BytesIO(font_file))
    glyphs, character_map = font.getGlyphSet(), font.getBestCmap()
    scale = size / font["head"].unitsPerEm
    commands = []
    for character in text:
        glyph = glyphs[character_map[ord(character)]]
        pen = SVGPathPen(glyphs, ntos=lambda number: f"{number:.1f}".rstrip("0").rstrip("."))
        glyph.draw(TransformPen(pen, (scale, 0, 0, -scale, x, baseline)))
        commands.append(pen.getCommands())
        x += glyph.width * scale
    return "".join(commands)
