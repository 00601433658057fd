"""The recipe: everything chosen on the bench, as plain data from which the set is rebuilt byte for byte."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from bexi.core.artwork.plate import Plate
from bexi.core.artwork.treatment import LARGEST_TOLERANCE
from bexi.core.errors import FramingRefused
from bexi.core.formats.sizes import LARGEST_ICON
from bexi.core.framing.cut import Cut
from bexi.core.framing.finish import Finish
from bexi.core.framing.frame import Frame
from bexi.core.framing.hand.drawn import BY_HAND
from bexi.core.framing.hand.held import MOST_HELD, HeldEdge
from bexi.core.framing.hand.steps import HandStep, StepAt
from bexi.core.framing.older_recipes import OLDER, brought_up
from bexi.core.framing.purpose import Purpose
from bexi.core.pixels.colour import WHITE, Colour

VERSION = 8
NO_PLATE = Plate(margin=0)
NO_FINISH = Finish()


@dataclass(frozen=True)
class Framing:
    """How an artwork becomes a square. `ground` None means clear; opaque icons then take `home_ground`.

    `plate` is a shape of its own colour on the ground, to which the artwork is cut; its margin is the inset.
    `artwork` is the key of an artwork of its own, None for the recipe's artwork. `cut` is that of the artwork beyond
    which nothing is shown, though it lies in the frame; None shows all. `lift` is the tolerance in OKLab by which a
    bitmap's flat ground is lifted, None to keep it, `lift_inside` whether where ink encloses it, too. `by_hand` are the
    sizes in px of tab icons that are drawn by hand, some of BY_HAND; `held` are edges in those that somebody put on px
    of their own, `steps` what is done to the drawing before.
    """

    frame: Frame
    ground: Colour | None = None
    home_ground: Colour = WHITE
    plate: Plate = NO_PLATE
    artwork: str | None = None
    finish: Finish = NO_FINISH
    cut: Cut | None = None
    lift: float | None = None
    lift_inside: bool = False
    by_hand: tuple[int, ...] = ()
    held: tuple[HeldEdge, ...] = ()
    steps: tuple[StepAt, ...] = ()

    def __post_init__(self) -> None:
        if self.lift is not None and not 0 < self.lift <= LARGEST_TOLERANCE:
            raise FramingRefused(
                "bad-tolerance", f"A tolerance lies above 0 and at most at {LARGEST_TOLERANCE}; {self.lift} does not."
            )
        if not {*self.by_hand, *(one.size for one in self.steps)} <= set(BY_HAND):
            raise FramingRefused("not-by-hand", f"Only icons of {_listed(BY_HAND)} px can be drawn by hand.")
        if len(self.held) > MOST_HELD or not {one.size for one in self.held} <= set(BY_HAND):
            raise FramingRefused(
                "held-elsewhere",
                f"At most {MOST_HELD} edges can be held, in icons that can be drawn by hand: {_listed(BY_HAND)} px.",
            )
        if len(set(self.steps)) < len(self.steps):
            raise FramingRefused("step-twice", "A step of the hand is named twice for one size. Name each once.")

    def steps_at(self, size: int) -> frozenset[HandStep]:
        """What a hand does to the drawing of a tab's icon of `size` px."""
        return frozenset(one.step for one in self.steps if one.size == size and size in self.by_hand)

    def ground_for(self, opaque: bool) -> Colour | None:
        """The ground under one icon: never clear when the icon must be opaque."""
        return self.ground or (self.home_ground if opaque else None)

    @property
    def plain(self) -> "Framing":
        """The same with no icon drawn by hand."""
        return replace(self, by_hand=(), held=(), steps=())

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        return {
            "frame": {"x_px": self.frame.x, "y_px": self.frame.y, "side_px": self.frame.side},
            "ground": str(self.ground) if self.ground else "clear",
            "home_ground": str(self.home_ground),
            "plate": self.plate.as_json(),
            "artwork": self.artwork,
            "finish": self.finish.as_json(),
            "cut": self.cut.as_json() if self.cut else None,
            "lift_tolerance": self.lift,
            "lift_inside": self.lift_inside,
            "by_hand_px": list(self.by_hand),
            "held_edges": [one.as_json() for one in self.held],
            "hand_steps": [one.as_json() for one in self.steps],
        }

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> "Framing":
        """Read plain data as `as_json` writes it; raises FramingRefused."""
        try:
            frame, lift = data["frame"], data["lift_tolerance"]
            return cls(
                Frame(_whole(frame["x_px"]), _whole(frame["y_px"]), _whole(frame["side_px"])),
                parse_ground(str(data["ground"])),
                Colour.parse(str(data["home_ground"])),
                Plate.from_json(data["plate"]),
                data["artwork"],
                Finish.from_json(data["finish"]),
                Cut.from_json(data["cut"]) if data["cut"] is not None else None,
                float(lift) if lift is not None else None,
                bool(data["lift_inside"]),
                tuple(_whole(size) for size in data["by_hand_px"]),
                tuple(HeldEdge.from_json(one) for one in data["held_edges"]),
                tuple(StepAt.from_json(one) for one in data["hand_steps"]),
            )
        except (KeyError, TypeError, ValueError, AttributeError) as error:
            raise FramingRefused(
                "unknown-framing", "A framing of the recipe is incomplete: the documentation says what belongs in it."
            ) from error


def _listed(numbers: tuple[int, ...]) -> str:
    return f"{', '.join(map(str, numbers[:-1]))} and {numbers[-1]}"


def _whole(number: object) -> int:
    if type(number) is not int:
        raise TypeError("not a whole number of px")
    return number


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
                "unknown-sizes", f"Sizes of their own must lie between 1 and {LARGEST_ICON} px, the smaller one first."
            )

    def covers(self, size: int, purpose: Purpose) -> bool:
        """Whether an icon takes this framing."""
        return purpose is self.purpose and self.smallest <= size <= self.largest

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        sizes = {"smallest_px": self.smallest, "largest_px": self.largest}
        return {**sizes, "purpose": self.purpose.value, "framing": self.framing.as_json()}

    @classmethod
    def from_json(cls, data: Any) -> "Own":
        """Read plain data; raises FramingRefused."""
        try:
            framing = Framing.from_json(data["framing"])
            return cls(framing, _whole(data["smallest_px"]), _whole(data["largest_px"]), Purpose(data["purpose"]))
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
    def plain(self) -> "Recipe":
        """The same with no icon drawn by hand."""
        own = tuple(replace(one, framing=one.framing.plain) for one in self.own)
        return Recipe(self.framing.plain, own)

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
        """Read plain data of this version or an older one; raises FramingRefused."""
        data = brought_up(data) if data.get("version") in OLDER else data
        if data.get("version") != VERSION or not isinstance(data.get("framing"), Mapping):
            raise FramingRefused(
                "unknown-recipe", f"This is not a recipe of version {VERSION} or older, which this Bexi reads."
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
