"""The plate under drawn artwork, and the room it leaves for the ink."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.colour import WHITE, Colour, contrast

SIDE = 1024
"""Drawn artwork is a square of this many units."""
DARK = Colour(0x16, 0x30, 0x2A)


class PlateShape(StrEnum):
    """The outline of a plate."""

    NONE = "none"
    SQUARE = "square"
    ROUNDED = "rounded"
    DISC = "disc"


@dataclass(frozen=True)
class Plate:
    """A plate that fills the square. `radius` rounds its corners, `margin` is its free rim, both in % of the side."""

    shape: PlateShape = PlateShape.NONE
    colour: Colour = WHITE
    radius: int = 20
    margin: int = 8

    def __post_init__(self) -> None:
        if not 0 <= self.radius <= 50 or not 0 <= self.margin <= 40:
            raise ArtworkRefused("bad-plate", "Give the plate a rounding of 0 to 50 % and a margin of 0 to 40 %.")

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        percents = {"radius_percent": self.radius, "inset_percent": self.margin}
        return {"shape": self.shape.value, "colour": str(self.colour), **percents}

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> "Plate":
        """Read plain data; raises KeyError, TypeError or ValueError."""
        shape, colour = PlateShape(data["shape"]), Colour.parse(data["colour"])
        return cls(shape, colour, int(data["radius_percent"]), int(data["inset_percent"]))

    def markup(self) -> str:
        """The plate as SVG markup; empty for none."""
        fill = f'fill="{self.colour}"'
        match self.shape:
            case PlateShape.NONE:
                return ""
            case PlateShape.SQUARE:
                return f'<rect width="{SIDE}" height="{SIDE}" {fill}/>'
            case PlateShape.ROUNDED:
                return f'<rect width="{SIDE}" height="{SIDE}" rx="{SIDE * self.radius / 100:g}" {fill}/>'
            case PlateShape.DISC:
                return f'<circle cx="{SIDE // 2}" cy="{SIDE // 2}" r="{SIDE // 2}" {fill}/>'

    def largest_scale(self, width: float, height: float) -> float:
        """How much ink of this size can be enlarged until it touches the rim the plate leaves."""
        free = SIDE * (1 - 2 * self.margin / 100)
        if self.shape is PlateShape.DISC:
            return free / math.hypot(width, height)
        return free / max(width, height)

    def contrast_with(self, ink: Colour) -> float | None:
        """WCAG contrast of ink on this plate; None without a plate."""
        return None if self.shape is PlateShape.NONE else contrast(ink, self.colour)


def drawing(plate: Plate, ink: str) -> str:
    """A square SVG of a plate and the ink on it."""
    head = f'<svg xmlns="http://www.w3.org/2000/svg" width="{SIDE}" height="{SIDE}" viewBox="0 0 {SIDE} {SIDE}">'
    return f"{head}{plate.markup()}{ink}</svg>\n"
