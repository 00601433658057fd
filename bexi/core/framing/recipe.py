"""The recipe: everything chosen on the bench, as plain data from which the set is rebuilt byte for byte."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from bexi.core.artwork.ink import Box
from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.errors import FramingRefused
from bexi.core.formats.sizes import LARGEST_ICON
from bexi.core.framing.finish import Finish
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.pixels.colour import WHITE, Colour

VERSION = 3
_READ = (1, 2, VERSION)
NO_PLATE = Plate(margin=0)
NO_FINISH = Finish()


@dataclass(frozen=True)
class Framing:
    """How an artwork becomes a square. `ground` None means clear; opaque icons then take `home_ground`.

    `plate` is a shape of its own colour on the ground, to which the artwork is cut; its margin is the inset.
    `artwork` is the key of an artwork of its own, None for the recipe's artwork. `cut` is the box in artwork pixels
    beyond which nothing of the artwork is shown, though it lies in the frame; None shows all.
    """

    frame: Frame
    ground: Colour | None = None
    home_ground: Colour = WHITE
    plate: Plate = NO_PLATE
    artwork: str | None = None
    finish: Finish = NO_FINISH
    cut: Box | None = None

    def __post_init__(self) -> None:
        if self.cut and (self.cut.left >= self.cut.right or self.cut.top >= self.cut.bottom):
            raise FramingRefused(
                "cut-without-area", "The cut has no area. Its right and bottom lie beyond left and top."
            )

    def ground_for(self, opaque: bool) -> Colour | None:
        """The ground under one icon: never clear when the icon must be opaque."""
        return self.ground or (self.home_ground if opaque else None)

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        plate = self.plate
        return {
            "frame": [self.frame.x, self.frame.y, self.frame.side],
            "ground": str(self.ground) if self.ground else "clear",
            "home_ground": str(self.home_ground),
            "plate": [plate.shape.value, str(plate.colour), plate.radius, plate.margin],
            "artwork": self.artwork,
            "finish": self.finish.as_json(),
            "cut": [self.cut.left, self.cut.top, self.cut.right, self.cut.bottom] if self.cut else None,
        }

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> "Framing":
        """Read plain data; raises FramingRefused."""
        frame = data.get("frame")
        if not isinstance(frame, list) or len(frame) != 3 or not all(type(number) is int for number in frame):
            raise FramingRefused("unknown-frame", "The recipe's frame is not three whole numbers x, y, side in px.")
        ground, home_ground = parse_ground(str(data.get("ground"))), Colour.parse(str(data.get("home_ground")))
        return cls(
            Frame(*frame),
            ground,
            home_ground,
            _plate(data.get("plate")),
            data.get("artwork"),
            Finish.from_json(data.get("finish")),
            _cut(data.get("cut")),
        )


@dataclass(frozen=True)
class Own:
    """A framing of its own for the icons of one purpose, from `smallest` to `largest` px."""

    framing: Framing
    smallest: int = 1
    largest: int = LARGEST_ICON
    purpose: Purpose = Purpose.TAB

    def __post_init__(self) -> None:
        if not 1 <= self.smallest <= self.largest <= LARGEST_ICON:
            raise FramingRefused(
                "unknown-sizes", f"Sizes of their own reach from 1 to {LARGEST_ICON} px, the smaller one first."
            )

    def covers(self, size: int, purpose: Purpose) -> bool:
        """Whether an icon takes this framing."""
        return purpose is self.purpose and self.smallest <= size <= self.largest

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        sizes = {"smallest": self.smallest, "largest": self.largest}
        return {**sizes, "purpose": self.purpose.value, "framing": self.framing.as_json()}

    @classmethod
    def from_json(cls, data: Any) -> "Own":
        """Read plain data; raises FramingRefused. Recipes of version 1 say `home` instead of a purpose."""
        try:
            purpose = Purpose(data["purpose"] if "purpose" in data else "home" if data["home"] else "tab")
            framing = Framing.from_json(data["framing"])
            return cls(framing, int(data["smallest"]), int(data["largest"]), purpose)
        except (KeyError, TypeError, ValueError, AttributeError) as error:
            raise FramingRefused(
                "unknown-sizes", "A framing of the recipe does not say for which sizes and which purpose it is."
            ) from error


@dataclass(frozen=True)
class Recipe:
    """One framing for all sizes, and those that some sizes have of their own: the first that covers an icon counts."""

    framing: Framing
    own: tuple[Own, ...] = ()

    @classmethod
    def of(cls, frame: Frame, ground: Colour | None = None, home_ground: Colour = WHITE) -> "Recipe":
        """A recipe with one frame and ground for all sizes."""
        return cls(Framing(frame, ground, home_ground))

    def own_for(self, size: int, purpose: Purpose) -> Own | None:
        """The framing of its own that an icon has, or None when it goes with all sizes."""
        return next((own for own in self.own if own.covers(size, purpose)), None)

    def with_frame(self, frame: Frame) -> "Recipe":
        """The same recipe with another frame for all sizes."""
        return replace(self, framing=replace(self.framing, frame=frame))

    @property
    def framings(self) -> tuple[Framing, ...]:
        """All framings, the one for all sizes first."""
        return self.framing, *(own.framing for own in self.own)

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        own = [one.as_json() for one in self.own]
        return {"version": VERSION, "framing": self.framing.as_json(), "own": own}

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> "Recipe":
        """Read plain data; raises FramingRefused when it is not a recipe of this version."""
        if data.get("version") not in _READ or not isinstance(data.get("framing"), Mapping):
            raise FramingRefused(
                "unknown-recipe", f"This is not a recipe of version {VERSION}, which is the one this Bexi reads."
            )
        return cls(Framing.from_json(data["framing"]), tuple(Own.from_json(one) for one in data.get("own", [])))


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


def _cut(data: object) -> Box | None:
    if data is None:
        return None
    if not isinstance(data, list) or len(data) != 4 or not all(type(number) is int for number in data):
        raise FramingRefused(
            "unknown-cut", "The recipe's cut is not four whole numbers of px: left, top, right, bottom."
        )
    return Box(*data)


def _plate(data: object) -> Plate:
    if not isinstance(data, list) or len(data) != 4 or data[0] not in list(PlateShape):
        raise FramingRefused("unknown-plate", "The recipe's plate is not a shape, a colour, a rounding and an inset.")
    return Plate(PlateShape(data[0]), Colour.parse(str(data[1])), int(data[2]), int(data[3]))
