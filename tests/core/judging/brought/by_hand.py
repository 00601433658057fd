"""A contact sheet: each logo's first proposal at 16 and 32 px, plainly reduced and by hand, as squares of pixels."""

from collections.abc import Sequence
from dataclasses import replace

from PIL import Image, ImageDraw

from bexi.core.framing.compose import compose, moves_in
from bexi.core.framing.purpose import Purpose
from tests.core.judging.brought.drawing import Brought
from tests.core.judging.brought.looking import first_of, in_few_colours

_TIMES = {16: 6, 32: 4}
_TAB = "#f1f3f4"
COLUMNS = 3


def side_by_side(logos: Sequence[Brought]) -> Image.Image:
    """Those of which an edge was moved, COLUMNS beside each other."""
    tiles = [tile for logo in logos if (tile := _tile(logo))]
    wide, high = tiles[0].size
    sheet = Image.new("RGB", (COLUMNS * (wide + 6), -(-len(tiles) // COLUMNS) * (high + 4)), "white")
    for number, tile in enumerate(tiles):
        sheet.paste(tile, (number % COLUMNS * (wide + 6), number // COLUMNS * (high + 4)))
    return in_few_colours(sheet)


def _tile(logo: Brought) -> Image.Image | None:
    picture = logo.picture
    framing = first_of(logo).framing
    moved = {size: moves_in(picture, framing, size).count for size in _TIMES}
    if not any(moved.values()):
        return None
    tile = Image.new("RGB", (4 + 2 * (16 * 6 + 4) + 2 * (32 * 4 + 4), 150), "#c8c8c8")
    left = 4
    for size, times in _TIMES.items():
        for by_hand in ((), (size,)):
            (icon,) = compose(picture, replace(framing, by_hand=by_hand), Purpose.TAB, [size])
            cell = Image.new("RGBA", (size, size), _TAB)
            cell.alpha_composite(Image.fromarray(icon))
            tile.paste(cell.resize((size * times, size * times), Image.Resampling.NEAREST), (left, 4))
            left += size * times + 4
    told = f"{logo.name}: {moved[16]} and {moved[32]} edges moved"
    ImageDraw.Draw(tile).text((4, 136), told, fill="black")
    return tile
