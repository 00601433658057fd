"""Icons of a few px as a hand draws them: the long straight edges of a drawing on whole px, nothing moved by more."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.framing.frame import Frame
from bexi.core.framing.hand.edges import Edge, Outlines, outlines_of
from bexi.core.framing.hand.grid import on_grid
from bexi.core.framing.hand.held import Axis, Grip, HeldEdge, grips_of, held_in
from bexi.core.framing.hand.kinds import SIDE
from bexi.core.framing.hand.warp import pieces_of, summed, warped
from bexi.core.framing.reduce import reduced
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels, over, to_light

BY_HAND = (16, 24, 32, 48)
"""In px: icons of a tab that can be drawn by hand. SIDE is a multiple of each."""
_MOVED = 0.05
"""In px: where no edge is further from the grid, the drawing lies on it."""
_ENOUGH = 3
"""Px of a bitmap for each of the icon's; with fewer there is nothing to move."""


@dataclass(frozen=True)
class Moves:
    """The edges of a drawing across and down, and the px of the icon that each goes to."""

    edges: tuple[tuple[Edge, ...], tuple[Edge, ...]]
    px: tuple[tuple[float, ...], tuple[float, ...]]

    @property
    def count(self) -> int:
        """How many edges move."""
        both = (zip(edges, px, strict=True) for edges, px in zip(self.edges, self.px, strict=True))
        return sum(abs(edge.place - px) > _MOVED for axis in both for edge, px in axis)


def drawn_by_hand(
    picture: Picture,
    frame: Frame,
    ground: Colour | None,
    sizes: Sequence[int],
    by_hand: Sequence[int],
    held: tuple[HeldEdge, ...] = (),
) -> list[Pixels]:
    """The artwork at each of `sizes` px, as `reduced` makes it, but for those `by_hand` whose edges are moved.

    A drawing whose edges lie on px already is the same byte for byte, and so are photographs. `held` are edges that
    somebody put on px of their own.
    """
    moves = {size: moves_of(picture, frame, size, held) for size in sizes if size in by_hand}
    moved = {size: move for size, move in moves.items() if move.count}
    plain = iter(reduced(picture, frame, ground, [size for size in sizes if size not in moved]))
    return [_moved(picture, frame, ground, size, moved[size]) if size in moved else next(plain) for size in sizes]


@lru_cache(maxsize=32)
def moves_of(picture: Picture, frame: Frame, size: int, held: tuple[HeldEdge, ...] = ()) -> Moves:
    """Where the edges of what a frame shows go to in an icon of `size` px; of those `held` they that are of it."""
    outlines = _outlines(picture, frame) if size in BY_HAND and _is_fine(picture, frame, size) else None
    if outlines is None:
        return Moves(((), ()), ((), ()))
    across, down = (tuple(one.edges(size)) for one in outlines)
    moved = on_grid(across, down, size)
    own = [[one for one in held if one.size == size and one.axis is axis] for axis in Axis]
    return Moves((across, down), (held_in(across, moved[0], own[0]), held_in(down, moved[1], own[1])))


def grips_in(moves: Moves, size: int, held: Sequence[HeldEdge]) -> list[Grip]:
    """The edges of an icon that can be taken hold of, across first."""
    return [
        grip
        for axis, edges, px in zip(Axis, moves.edges, moves.px, strict=True)
        for grip in grips_of(axis, edges, px, size, [one for one in held if one.size == size and one.axis is axis])
    ]


def _is_fine(picture: Picture, frame: Frame, size: int) -> bool:
    return not isinstance(picture, Bitmap) or frame.side >= _ENOUGH * size


@lru_cache(maxsize=8)
def _outlines(picture: Picture, frame: Frame) -> tuple[Outlines, Outlines] | None:
    return outlines_of(drawing_of(picture, frame))


@lru_cache(maxsize=2)  # 4.7 MB each; all sizes of a framing are made of one
def _sums(picture: Picture, frame: Frame, ground: Colour | None) -> NDArray[np.float64]:
    drawing = drawing_of(picture, frame)  # laid as a browser lays a clear icon that large, its soft edges too
    return summed(to_light(over(drawing, ground) if ground else drawing))


@lru_cache(maxsize=4)
def drawing_of(picture: Picture, frame: Frame) -> Pixels:
    """The drawing that a hand works on, whatever it is laid on: shape (SIDE, SIDE, 4)."""
    if isinstance(picture, Bitmap) and frame == Frame(0, 0, SIDE) and picture.width == picture.height == SIDE:
        return picture.pixels
    return reduced(picture, frame, None, [SIDE])[0]


def _moved(picture: Picture, frame: Frame, ground: Colour | None, size: int, moves: Moves) -> Pixels:
    across, down = (
        pieces_of([edge.place for edge in edges], px, size, SIDE)
        for edges, px in zip(moves.edges, moves.px, strict=True)
    )
    return warped(_sums(picture, frame, ground), across, down)
