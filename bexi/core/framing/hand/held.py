"""Edges that somebody took hold of: the hand's last word on the px that one comes to lie on."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from bexi.core.errors import FramingRefused
from bexi.core.framing.hand.edges import APART, Edge

MOST_HELD = 64
_SAME = 0.25
"""In px: an edge that is held is the one that lies so near to where it lay."""


class Axis(StrEnum):
    """Along which an edge moves: `across` is from left to right."""

    ACROSS = "across"
    DOWN = "down"


@dataclass(frozen=True)
class HeldEdge:
    """The edge that lies at `place` along an axis in an icon of `size` px, and the px that it was put on.

    Raises FramingRefused when either lies outside the icon.
    """

    size: int
    axis: Axis
    place: float
    px: int

    def __post_init__(self) -> None:
        if not (0 <= self.place <= self.size and 0 <= self.px <= self.size):
            raise FramingRefused("held-outside", f"An edge of an icon of {self.size} px lies at 0 to {self.size} px.")

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        return {"size_px": self.size, "axis": str(self.axis), "place_px": self.place, "put_on_px": self.px}

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> "HeldEdge":
        """Read plain data; raises FramingRefused, or what wrong data raise."""
        size, px = data["size_px"], data["put_on_px"]
        if type(size) is not int or type(px) is not int:
            raise TypeError("not a whole number of px")
        return cls(size, Axis(data["axis"]), float(data["place_px"]), px)


@dataclass(frozen=True)
class Grip:
    """An edge that can be taken hold of: where it lies in the drawing, where in the icon, and how far it can go.

    `place` and `px` in px of the icon; `least` and `most` leave room for the edges on either side. `is_held` tells
    that somebody has moved it.
    """

    axis: Axis
    place: float
    px: float
    least: int
    most: int
    is_held: bool


def held_in(edges: Sequence[Edge], px: Sequence[float], held: Sequence[HeldEdge]) -> tuple[float, ...]:
    """The px of all edges of an axis, those that are held as far as the others leave room."""
    moved = list(px)
    for one in held:
        number = _number_of(edges, one)
        if number is not None:
            least, most = _room(edges, moved, number, one.size)
            if least <= most:
                moved[number] = float(min(max(one.px, least), most))
    return tuple(moved)


def grips_of(axis: Axis, edges: Sequence[Edge], px: Sequence[float], size: int, held: Sequence[HeldEdge]) -> list[Grip]:
    """Those of all edges of an axis."""
    moved = {_number_of(edges, one) for one in held}
    rooms = [_room(edges, px, number, size) for number in range(len(edges))]
    return [
        Grip(axis, round(edge.place, 2), at, min(least, math.floor(at)), max(most, math.ceil(at)), number in moved)
        for number, (edge, at, (least, most)) in enumerate(zip(edges, px, rooms, strict=True))
    ]


def _number_of(edges: Sequence[Edge], held: HeldEdge) -> int | None:
    away = [abs(edge.place - held.place) for edge in edges]
    nearest = min(range(len(edges)), key=away.__getitem__, default=None)
    return nearest if nearest is not None and away[nearest] < _SAME else None


def _room(edges: Sequence[Edge], px: Sequence[float], number: int, size: int) -> tuple[int, int]:
    """The first and the last whole px that an edge may lie on, so that none passes or meets its neighbours."""
    least, most = 0, size
    if number:
        is_apart = edges[number].place - edges[number - 1].place > APART
        least = math.floor(px[number - 1]) + 1 if is_apart else math.ceil(px[number - 1])
    if number + 1 < len(edges):
        is_apart = edges[number + 1].place - edges[number].place > APART
        most = math.ceil(px[number + 1]) - 1 if is_apart else math.floor(px[number + 1])
    return least, most
