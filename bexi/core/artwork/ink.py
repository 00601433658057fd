"""Finding the ink: what of a picture is drawn on its ground, and where."""

from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.paper import lies_on_paper
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels

CLEAR_BELOW = 9
"""Alpha up to here (of 255) is not seen as ink."""
NEAR_GROUND = 28
"""Largest difference in a channel (of 255) by which compression noise strays from a solid ground."""


class GroundKind(StrEnum):
    """What the ink lies on."""

    CLEAR = "clear"
    SOLID = "solid"
    BUSY = "busy"
    CHECKERED = "checkered"


@dataclass(frozen=True)
class Box:
    """A rectangle in artwork pixels; `right` and `bottom` lie just outside it."""

    left: int
    top: int
    right: int
    bottom: int

    def encloses(self, other: "Box") -> bool:
        """Whether the other lies within this one, or is the same."""
        return (
            self.left <= other.left
            and self.top <= other.top
            and self.right >= other.right
            and self.bottom >= other.bottom
        )

    def meets(self, other: "Box") -> bool:
        """Whether the two have something in common; edges that touch are nothing."""
        return (
            self.left < other.right and other.left < self.right and self.top < other.bottom and other.top < self.bottom
        )

    @property
    def width(self) -> int:
        """Pixels across."""
        return self.right - self.left

    @property
    def height(self) -> int:
        """Pixels down."""
        return self.bottom - self.top


@dataclass(frozen=True, eq=False)
class Ink:
    """The ground of a picture and the box and share of what is drawn on it. `box` is None for a blank picture.

    `mask`, shape (height, width), is true where there is ink.
    """

    ground: GroundKind
    ground_colour: Colour | None
    box: Box | None
    share: float
    mask: NDArray[np.bool_]


def find_ink(pixels: Pixels) -> Ink:
    """Measure the ink of a picture.

    Clear ground: anything visible is ink. Solid ground (nine tenths of the edge within the noise of one colour):
    what differs from it; white paper, too, around a drawing that was cut out closely. Busy ground: everything.
    """
    if pixels[..., 3].min() < 255 - CLEAR_BELOW:
        return _ink(GroundKind.CLEAR, None, pixels[..., 3] >= CLEAR_BELOW)
    edge = np.concatenate([pixels[0], pixels[-1], pixels[:, 0], pixels[:, -1]])[:, :3]
    colour = np.median(edge, axis=0).astype(np.uint8)
    if np.mean(_far(edge, colour)) > 0.1:
        if not lies_on_paper(pixels):
            return _ink(GroundKind.BUSY, None, np.ones(pixels.shape[:2], dtype=bool))
        colour = np.full(3, 255, dtype=np.uint8)
    return _ink(GroundKind.SOLID, Colour(*(int(channel) for channel in colour)), _far(pixels[..., :3], colour))


def _far(colours: NDArray[np.uint8], ground: NDArray[np.uint8]) -> NDArray[np.bool_]:
    """Where a channel strays from the ground; channel by channel, which needs no copies of a large picture."""
    far = np.zeros(colours.shape[:-1], dtype=bool)
    for channel, value in enumerate(int(level) for level in ground):
        far |= colours[..., channel] > min(value + NEAR_GROUND, 255)
        far |= colours[..., channel] < max(value - NEAR_GROUND, 0)
    return far


def _ink(ground: GroundKind, colour: Colour | None, mask: NDArray[np.bool_]) -> Ink:
    rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    if not len(rows):
        return Ink(ground, colour, None, 0.0, mask)
    box = Box(int(columns[0]), int(rows[0]), int(columns[-1]) + 1, int(rows[-1]) + 1)
    return Ink(ground, colour, box, float(mask.mean()), mask)
