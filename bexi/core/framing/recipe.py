"""The recipe: everything chosen on the bench, as plain data from which the set is rebuilt byte for byte."""

from collections.abc import Mapping
from dataclasses import dataclass

from bexi.core.errors import FramingRefused
from bexi.core.framing.frame import Frame
from bexi.core.pixels.colour import WHITE, Colour

VERSION = 1


@dataclass(frozen=True)
class Recipe:
    """One framing for all sizes. `ground` None means clear; opaque icons then take `home_ground`."""

    frame: Frame
    ground: Colour | None = None
    home_ground: Colour = WHITE

    def ground_for(self, opaque: bool) -> Colour | None:
        """The ground under one icon: never clear when the icon must be opaque."""
        return self.ground or (self.home_ground if opaque else None)

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        return {
            "version": VERSION,
            "frame": [self.frame.x, self.frame.y, self.frame.side],
            "ground": str(self.ground) if self.ground else "clear",
            "home_ground": str(self.home_ground),
        }

    @classmethod
    def from_json(cls, data: Mapping[str, object]) -> "Recipe":
        """Read plain data; raises FramingRefused when it is not a recipe of this version."""
        if data.get("version") != VERSION:
            raise FramingRefused(
                "unknown-recipe", f"This recipe is not of version {VERSION}, the only one this Bexi reads."
            )
        frame = data.get("frame")
        if not isinstance(frame, list) or len(frame) != 3 or not all(type(number) is int for number in frame):
            raise FramingRefused("unknown-frame", "The recipe's frame is not three whole numbers x, y, side in px.")
        return cls(Frame(*frame), parse_ground(str(data.get("ground"))), Colour.parse(str(data.get("home_ground"))))


def parse_ground(text: str) -> Colour | None:
    """Read `clear` (None) or a hex colour; raises FramingRefused for an unknown ground."""
    if text == "clear":
        return None
    try:
        return Colour.parse(text)
    except FramingRefused as error:
        raise FramingRefused(
            "unknown-ground",
            f"“{text[:40]}” is not a ground: say clear, or a colour as # and six hexadecimal digits, like #16302a.",
        ) from error
