"""What is left of an artwork: a box of it, or a shape in that box."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw

from bexi.core.artwork.ink import Box
from bexi.core.artwork.limits import LARGEST_SIDE
from bexi.core.errors import FramingRefused

MOST_POINTS = 200
_FINE, _MOST_DRAWN = 4, 4096**2
"""Times finer the shape is drawn than the px it covers, and the px it is drawn in at most."""


@dataclass(frozen=True)
class Point:
    """In artwork px."""

    x: int
    y: int


@dataclass(frozen=True)
class Cut(Box):
    """A box in artwork px, and the corners of a shape in it beyond which nothing is left; none for all of it.

    Raises FramingRefused when it has no area, or lies absurdly far out.
    """

    outline: tuple[Point, ...] = ()

    def __post_init__(self) -> None:
        if self.left >= self.right or self.top >= self.bottom:
            raise FramingRefused(
                "cut-without-area", "The cut has no area. Its right and bottom must lie beyond its left and top."
            )
        corners = (length for corner in self.outline for length in (corner.x, corner.y))
        if max(map(abs, (self.left, self.top, self.right, self.bottom, *corners))) > LARGEST_SIDE:
            raise FramingRefused("cut-too-large", f"This cut is out of bounds. Keep it within {LARGEST_SIDE:,} px.")
        if self.outline and not 3 <= len(self.outline) <= MOST_POINTS:
            raise FramingRefused("unknown-cut", f"The shape of a cut has 3 to {MOST_POINTS} corners, or none.")

    @classmethod
    def to(cls, box: Box) -> "Cut":
        """All of a box."""
        return cls(box.left, box.top, box.right, box.bottom)

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        edges = {"left_px": self.left, "top_px": self.top, "right_px": self.right, "bottom_px": self.bottom}
        return {**edges, "outline": [{"x_px": corner.x, "y_px": corner.y} for corner in self.outline]}

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> "Cut":
        """Read plain data; raises FramingRefused."""
        try:
            edges = [data[f"{edge}_px"] for edge in ("left", "top", "right", "bottom")]
            outline = tuple(Point(corner["x_px"], corner["y_px"]) for corner in data["outline"])
        except (KeyError, TypeError, AttributeError) as error:
            raise _unknown() from error
        corners = (length for corner in outline for length in (corner.x, corner.y))
        if not all(type(length) is int for length in (*edges, *corners)):
            raise _unknown()
        return cls(edges[0], edges[1], edges[2], edges[3], outline)

    @property
    def path(self) -> str:
        """The shape as the data of an SVG path."""
        return "M" + "L".join(f"{corner.x} {corner.y}" for corner in self.outline) + "z"

    def coverage(self, box: Box) -> NDArray[np.uint8]:
        """How much of each px of a box the shape covers, 0 to 255: shape (height, width)."""
        fine = max(1, min(_FINE, math.isqrt(_MOST_DRAWN // (box.width * box.height))))
        mask = Image.new("L", (box.width * fine, box.height * fine))
        corners = [((one.x - box.left) * fine, (one.y - box.top) * fine) for one in self.outline]
        ImageDraw.Draw(mask).polygon(corners, fill=255)
        return np.asarray(mask.resize((box.width, box.height), Image.Resampling.BOX))


def _unknown() -> FramingRefused:
    return FramingRefused("unknown-cut", "The recipe's cut does not say in whole px where it begins and ends.")
