"""A group of parts that was found in a drawing, and the badge that it may lie on."""

from dataclasses import dataclass

from bexi.core.artwork.ink import Box
from bexi.core.judging.parts import Part
from bexi.core.judging.regions import Region, around
from bexi.core.pixels.colour import Colour

STRAY = 0.02
"""Of the largest group's ink: what has less is a stray mark."""


@dataclass(frozen=True)
class Badge:
    """What an emblem may lie on, beside words: a shape of one colour, a disc or squarer."""

    colour: Colour
    is_disc: bool


@dataclass(frozen=True, eq=False)
class Found:
    """Parts that belong together, what they lie `on`, and the region of a drawing that is."""

    parts: tuple[Part, ...]
    on: Badge | None = None
    carrier: Region | None = None

    @property
    def labels(self) -> list[int]:
        """Those of all its regions."""
        return [region.label for part in self.parts for region in part.regions]

    @property
    def box(self) -> Box:
        """Around all its parts, in px of the drawing."""
        return around([part.box for part in self.parts])

    @property
    def area(self) -> int:
        """Of all its parts, in px of the drawing."""
        return sum(part.area for part in self.parts)
