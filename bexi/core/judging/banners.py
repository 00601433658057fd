"""A wide rectangle on paper that all of a logo lies on, as the head of a page does: a ground, no part of the logo."""

import numpy as np

from bexi.core.artwork.ink import Box, GroundKind, Ink, find_ink
from bexi.core.artwork.rims import edge_of, share_of
from bexi.core.judging.shades import evened
from bexi.core.pixels.light import Pixels

_WIDE = 1.5
"""Times as wide as high: what is less wide may be a badge or a tile."""
_PLAIN = 0.98
"""Of what lies along its edge is of its colour, corners too."""
_INSET = 2
"""Px at its edge that may be soft."""
_LEAST = 24
"""Px of its height."""


def inside_of_banner(pixels: Pixels, ink: Ink) -> Box | None:
    """What of a picture lies within the banner, if its ink is one, of one colour or of an even shade along its edge."""
    box = ink.box
    if ink.ground is not GroundKind.SOLID or box is None or box.height < _LEAST or box.width < _WIDE * box.height:
        return None
    inside = Box(box.left + _INSET, box.top + _INSET, box.right - _INSET, box.bottom - _INSET)
    within = pixels[inside.top : inside.bottom, inside.left : inside.right]
    edge = edge_of(within)
    if share_of(np.median(edge, axis=0).astype(np.uint8), edge) >= _PLAIN:
        return inside if find_ink(within).box else None  # else it is all there is
    is_apart = edge_of(ink.mask[inside.top : inside.bottom, inside.left : inside.right].view(np.uint8)).all()
    return inside if is_apart and evened(within) is not None else None
