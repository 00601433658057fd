"""How the framing for all sizes becomes that of a purpose which has none of its own."""

import math
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.ink import CLEAR_BELOW, GroundKind, Ink, find_ink
from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.plate import PlateShape
from bexi.core.artwork.shapes import main_colours
from bexi.core.framing.cut import Cut
from bexi.core.framing.cut_off import SAFE_RADIUS
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import NO_PLATE, Framing
from bexi.core.framing.reduce import cut_to, lifted, reduced
from bexi.core.pixels.colour import BLACK, Colour, contrast
from bexi.core.pixels.light import LINEAR, Pixels

_MEASURED_AT = 256
_LEAST_CONTRAST = 3.0
"""Colours that differ this much are told apart (WCAG 2.2, success criterion 1.4.11)."""
_LEAST_SHARE = 0.05
_LUMINANCE = np.array([0.2126, 0.7152, 0.0722], dtype=np.float32)  # WCAG 2.2, "relative luminance"


@lru_cache(maxsize=8)  # all sizes and files of a purpose share it, and a draft asks again and again
def inside_safe_circle(picture: Picture, framing: Framing) -> Framing:
    """A framing for a maskable icon: full-bleed ground, and the frame so far out that all ink is in the safe circle.

    A plate gives way to a ground of its colour; a picture with a solid ground of its own gives that colour. A picture
    that fills its square without a ground, a photograph, say, stays as it is: its corners may be cut. What the framing
    cut away stays away.
    """
    ink, reach = _ink_in(*cut_to(lifted(picture, framing.lift, framing.lift_inside), framing.cut, framing.frame))
    plated = framing.plate.colour if framing.plate.shape is not PlateShape.NONE else None
    ground = plated or framing.ground or ink.ground_colour or framing.home_ground
    frame, cut = framing.frame, framing.cut
    if ink.ground is not GroundKind.BUSY and reach > SAFE_RADIUS:
        side = math.ceil(frame.side * reach / SAFE_RADIUS)
        aside = (side - frame.side) // 2
        frame, cut = Frame(frame.x - aside, frame.y - aside, side), _within(frame, cut)
    return replace(framing, frame=frame, ground=ground, plate=NO_PLATE, cut=cut)


def _within(frame: Frame, cut: Cut | None) -> Cut:
    """What a frame shows of an artwork that is cut already."""
    right, bottom = frame.x + frame.side, frame.y + frame.side
    if cut is None:
        return Cut(frame.x, frame.y, right, bottom)
    left, top = max(frame.x, cut.left), max(frame.y, cut.top)
    return Cut(left, top, min(right, cut.right), min(bottom, cut.bottom), cut.outline)


def _ink_in(picture: Picture, frame: Frame) -> tuple[Ink, float]:
    """The ink in a frame, and how far it reaches from the middle, in sides of the frame."""
    (pixels,) = reduced(picture, frame, None, [_MEASURED_AT])
    covered = pixels[..., 3] >= CLEAR_BELOW
    rows, columns = np.flatnonzero(covered.any(axis=1)), np.flatnonzero(covered.any(axis=0))
    if not len(rows):
        return find_ink(pixels), 0.0
    top, left = int(rows[0]), int(columns[0])
    ink = find_ink(pixels[top : rows[-1] + 1, left : columns[-1] + 1])
    y, x = np.nonzero(ink.mask)
    if not len(y):
        return ink, 0.0
    middle = (_MEASURED_AT - 1) / 2
    return ink, float(np.hypot(y + top - middle, x + left - middle).max() + 0.5) / _MEASURED_AT


@dataclass(frozen=True)
class Shades:
    """How a picture becomes one colour: what has luminance `full` stays, what has luminance `hollow` becomes clear.

    In between the coverage follows the luminance. `hollow` None keeps all that is there. Both 0 to 1, linear.
    """

    full: float
    hollow: float | None = None

    def coverage(self, pixels: Pixels) -> NDArray[np.float32]:
        """Of each pixel, 0 to 1, not counting its alpha."""
        if self.hollow is None:
            return np.ones(pixels.shape[:-1], dtype=np.float32)
        luminance = (np.take(LINEAR, pixels[..., :3]) * _LUMINANCE).sum(axis=-1)  # a product would round by its kernel
        coverage: NDArray[np.float32] = np.clip((self.hollow - luminance) / (self.hollow - self.full), 0, 1)
        return coverage

    def applied_to(self, pixels: Pixels) -> Pixels:
        """The picture as black whose alpha carries the shape."""
        result = np.empty_like(pixels)
        result[..., :3] = BLACK.channels
        result[..., 3] = np.rint(pixels[..., 3] * self.coverage(pixels))
        return result


def shades_of(pixels: Pixels) -> Shades:
    """How a picture is best told in one colour.

    What lies on a solid ground of its own becomes the shape. Else, if the main colour holds another that stands out
    from it, that one is cut out of it; a picture without such a colour keeps its whole outline.
    """
    ink = find_ink(pixels)
    colours = main_colours(pixels, ink.mask)
    if not colours:
        return Shades(0.0)
    main = colours[0].colour
    if ink.ground_colour and contrast(ink.ground_colour, main) > 1:
        return Shades(main.luminance, ink.ground_colour.luminance)
    outstanding = (one.colour for one in colours[1:] if one.share >= _LEAST_SHARE and _stands_out(one.colour, main))
    hollow = next(outstanding, None)
    return Shades(main.luminance, hollow.luminance if hollow else None)


def _stands_out(colour: Colour, main: Colour) -> bool:
    return contrast(colour, main) >= _LEAST_CONTRAST
