"""The two kinds of picture behind an artwork: pixels, or shapes that are drawn anew at each size."""

from dataclasses import dataclass

from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels


@dataclass(frozen=True, eq=False)
class Bitmap:
    """A decoded picture: upright, sRGB, straight alpha. `frames` are the sizes in px of all pictures in its file."""

    pixels: Pixels
    frames: tuple[tuple[int, int], ...] = ()
    animated: bool = False
    turned: bool = False
    profile: str | None = None

    @property
    def width(self) -> int:
        """Width in pixels."""
        return int(self.pixels.shape[1])

    @property
    def height(self) -> int:
        """Height in pixels."""
        return int(self.pixels.shape[0])


@dataclass(frozen=True)
class Vector:
    """A checked SVG picture. `width` and `height` are the grid it is framed on, in artwork pixels.

    `left_out` are kinds of things that the file had and the picture has not. `recolour` is the one colour that all
    its ink is drawn in, if any.
    """

    markup: str
    width: int
    height: int
    live_text: bool = False
    left_out: tuple[str, ...] = ()
    recolour: Colour | None = None


Picture = Bitmap | Vector
