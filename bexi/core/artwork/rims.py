"""What lies along the edge of a picture because it was exported or cut out a px off: it is no part of a logo."""

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.ink import CLEAR_BELOW, NEAR_GROUND
from bexi.core.pixels.light import Pixels

_DEEPEST = 6
"""Lines of px: a line of two on a screen of double density, and what compression leaves beside it."""
_SIDE_OF = 24
"""A rim is no wider than this part of the shorter side, so that a frame of a small picture is none."""
_PLAIN = 0.97


def without_rim(pixels: Pixels, enlarged: int = 1) -> Pixels:
    """A picture, which was enlarged so many times, as if its edge had fallen between two px.

    Where only the outermost lines are translucent they repeat what lies inside of them; where right inside of an edge
    there is one plain colour all around, the lines outside of it take that colour.
    """
    depths = range(1, min(_DEEPEST * enlarged, min(pixels.shape[:2]) // _SIDE_OF) + 1)
    return _without_border(_without_soft_edge(pixels, depths), depths)


def _without_soft_edge(pixels: Pixels, depths: range) -> Pixels:
    opaque = pixels[..., 3] >= 255 - CLEAR_BELOW
    if opaque.all():
        return pixels
    for depth in depths:
        if opaque[depth:-depth, depth:-depth].all():
            inside = pixels[depth:-depth, depth:-depth]
            return np.pad(inside, ((depth, depth), (depth, depth), (0, 0)), "edge")
    return pixels


def _without_border(pixels: Pixels, depths: range) -> Pixels:
    if (pixels[..., 3] < 255 - CLEAR_BELOW).any():
        return pixels
    for depth in depths:
        inside = (slice(depth, -depth), slice(depth, -depth))
        ring, next_one = edge_of(pixels[inside]), edge_of(pixels[inside][1:-1, 1:-1])
        ground = np.median(next_one, axis=0).astype(np.uint8)  # the ring may be the soft edge of the line
        if min(share_of(ground, one) for one in (ring, next_one)) >= _PLAIN > share_of(ground, edge_of(pixels)):
            plain = np.full_like(pixels, ground)
            plain[inside] = pixels[inside]
            return plain
    return pixels


def edge_of(pixels: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """The px along a picture's edge: shape (px, channels)."""
    return np.concatenate([pixels[0], pixels[-1], pixels[:, 0], pixels[:, -1]])


def share_of(colour: NDArray[np.uint8], pixels: NDArray[np.uint8]) -> float:
    """How many of some pixels are of one colour, but for the noise of compression."""
    away = np.abs(pixels.astype(np.int16) - colour.astype(np.int16))
    return float((away <= NEAR_GROUND).all(axis=1).mean())
