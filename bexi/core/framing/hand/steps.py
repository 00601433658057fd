"""What a hand does to a drawing before its edges are put on px, by name, in the order in which it is done."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels


class HandStep(StrEnum):
    """In their order: what is widened to a px is not lost."""

    THIN_OUT = "thin out"
    WIDEN = "widen"
    LEAVE_OUT = "leave out"
    SET_OFF = "set off"

    @property
    def told(self) -> str:
        """What was done, in a few words."""
        return _TOLD[self]


_TOLD = {
    HandStep.THIN_OUT: "fewer bars",
    HandStep.WIDEN: "thin strokes widened",
    HandStep.LEAVE_OUT: "smallest parts left out",
    HandStep.SET_OFF: "colours made to stand out",
}


@dataclass(frozen=True)
class StepAt:
    """A step that is done to the icon of `size` px."""

    size: int
    step: HandStep

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        return {"size_px": self.size, "step": str(self.step)}

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> "StepAt":
        """Read plain data; raises what wrong data raise."""
        if type(data["size_px"]) is not int:
            raise TypeError("not a whole number of px")
        return cls(data["size_px"], HandStep(data["step"]))


def stepped(step: HandStep, drawing: Pixels, size: int, grounds: Sequence[Colour]) -> Pixels:
    """A drawing, shape (SIDE, SIDE, 4), as one step simplifies it for an icon of `size` px.

    `grounds` are the colours on which the icon is seen. The very same drawing where the step has nothing to do.
    """
    # On demand: what measures distances takes longer to import than an icon takes to make.
    from bexi.core.framing.hand.leave_out import without_what_is_lost
    from bexi.core.framing.hand.lift_ink import set_off
    from bexi.core.framing.hand.thin_out import thinned_out
    from bexi.core.framing.hand.widen import widened

    match step:
        case HandStep.THIN_OUT:
            return thinned_out(drawing, size)
        case HandStep.WIDEN:
            return widened(drawing, size)
        case HandStep.LEAVE_OUT:
            return without_what_is_lost(drawing, size)
        case HandStep.SET_OFF:
            return set_off(drawing, grounds)
