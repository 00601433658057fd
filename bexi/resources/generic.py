"""The plain icons that stand for no site in particular: a site's own should not be taken for one of them."""

from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.symbols import Symbol, SymbolShape, draw_symbol
from bexi.core.formats import png
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.judging.likeness import SIDE
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels
from bexi.resources import GATHERED

_NAMES = ("globe", "file", "house", "image", "link")
_INKS = {"grey": Colour(0x5F, 0x63, 0x68), "dark": Colour(0x1B, 0x24, 0x20)}
_FOLDER = "generic"


@lru_cache(maxsize=1)
def generic_icons() -> dict[str, Pixels]:
    """Their pictures at SIDE px by name, in grey and in dark."""
    return {
        f"a plain {ink} {name} icon": png.read((GATHERED / _FOLDER / f"{name}-{ink}.png").read_bytes())
        for name in _NAMES
        for ink in _INKS
    }


def draw_generic(shapes: Mapping[str, SymbolShape], gathered: Path) -> None:
    """Draw them once, since they take longer than the judging of an icon."""
    folder = gathered / _FOLDER
    folder.mkdir()
    for name in _NAMES:
        for ink, colour in _INKS.items():
            picture = check(draw_symbol(Symbol(name, colour), shapes).encode(), DEFAULT_LIMITS)
            framing = Framing(whole_artwork(picture.width, picture.height))
            (icon,) = compose(picture, framing, Purpose.TAB, [SIDE])
            (folder / f"{name}-{ink}.png").write_bytes(png.write(icon))
