"""The plain icons that stand for no site in particular: a site's own should not be taken for one of them."""

from functools import lru_cache

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.symbols import Symbol, draw_symbol
from bexi.core.artwork.vector import check
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.judging.likeness import SIDE
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels
from bexi.resources import symbol_shapes

_NAMES = ("globe", "file", "house", "image", "link")
_INKS = (Colour(0x5F, 0x63, 0x68), Colour(0x1B, 0x24, 0x20))


@lru_cache(maxsize=1)
def generic_icons() -> dict[str, Pixels]:
    """Their pictures at SIDE px by name, in grey and in dark."""
    return {f"a plain {name} icon": _drawn(name, ink) for name in _NAMES for ink in _INKS}


def _drawn(name: str, ink: Colour) -> Pixels:
    picture = check(draw_symbol(Symbol(name, ink), symbol_shapes()).encode(), DEFAULT_LIMITS)
    (icon,) = compose(picture, Framing(whole_artwork(picture.width, picture.height)), Purpose.TAB, [SIDE])
    return icon
