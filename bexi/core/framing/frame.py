"""The square frame over an artwork: inside the artwork it cuts, outside it pads."""

from dataclasses import dataclass

from bexi.core.artwork.ink import Box
from bexi.core.artwork.limits import LARGEST_SIDE
from bexi.core.errors import FramingRefused


@dataclass(frozen=True)
class Frame:
    """A square in artwork pixels, whole numbers; it may reach outside the artwork.

    Raises FramingRefused when the side is not 1 to 100,000 px or the square lies absurdly far out.
    """

    x: int
    y: int
    side: int

    def __post_init__(self) -> None:
        if self.side < 1:
            raise FramingRefused("frame-without-area", "This frame has no area. Give it a side of at least 1 px.")
        if self.side > LARGEST_SIDE or max(abs(self.x), abs(self.y)) > LARGEST_SIDE:
            raise FramingRefused(
                "frame-too-large",
                f"This frame is out of bounds. Keep its position and side within {LARGEST_SIDE:,} px.",
            )

    @property
    def box(self) -> Box:
        """The same as a rectangle."""
        return Box(self.x, self.y, self.x + self.side, self.y + self.side)

    @classmethod
    def parse(cls, text: str) -> "Frame":
        """Read `X,Y,SIDE` in whole artwork pixels; raises FramingRefused."""
        try:
            x, y, side = (int(number) for number in text.split(","))
        except ValueError:
            raise FramingRefused(
                "unknown-frame",
                f"“{text[:40]}” is not a frame: write three whole numbers X,Y,SIDE in px, like 27,80,616.",
            ) from None
        return cls(x, y, side)

    def must_touch(self, width: int, height: int) -> None:
        """Raise FramingRefused when nothing of a `width` × `height` artwork lies in this frame."""
        if self.x >= width or self.y >= height or self.x + self.side <= 0 or self.y + self.side <= 0:
            raise FramingRefused(
                "frame-misses-artwork",
                "This frame lies beside the artwork, so the icon would be empty. Move it over the picture.",
            )


def whole_artwork(width: int, height: int) -> Frame:
    """The smallest square around the artwork, centred: pads the shorter side."""
    side = max(width, height)
    return Frame((width - side) // 2, (height - side) // 2, side)


def largest_inside(width: int, height: int) -> Frame:
    """The largest square inside the artwork, centred: cuts the longer side."""
    side = min(width, height)
    return Frame((width - side) // 2, (height - side) // 2, side)


def hug(ink: Box, margin: int = 0) -> Frame:
    """The smallest square around the ink, centred on it, with a margin of so many % of the frame's side."""
    side = max(ink.width, ink.height)
    side = round(side / (1 - 2 * margin / 100))
    return Frame(ink.left + (ink.width - side) // 2, ink.top + (ink.height - side) // 2, side)


def balanced(ink: Box, centre: tuple[int, int]) -> Frame:
    """The smallest square around the ink that is centred on its centre of gravity, where the eye takes its middle."""
    reach = max(centre[0] - ink.left, ink.right - centre[0], centre[1] - ink.top, ink.bottom - centre[1])
    return Frame(centre[0] - reach, centre[1] - reach, 2 * reach)
