"""Composing the square picture of one icon from the artwork itself, never from another icon."""

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.pictures import Bitmap, Picture, Vector
from bexi.core.artwork.plate import SIDE, Plate, PlateShape, drawing
from bexi.core.artwork.vector import render
from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import NO_FINISH, Framing
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels, over, to_pixels
from bexi.core.pixels.pyramid import Pyramid


def compose(picture: Picture, frame: Frame, ground: Colour | None, sizes: Sequence[int]) -> list[Pixels]:
    """The icon at each of `sizes` px: shape (size, size, 4). Opaque when a ground is given.

    The artwork is laid on the ground as it is stored (in sRGB, as browsers do), then reduced in linear light.
    Raises FramingRefused when the frame misses the artwork.
    """
    frame.must_touch(picture.width, picture.height)
    if isinstance(picture, Bitmap):
        lights = _pyramid(picture, ground).square(frame.x, frame.y, frame.side, sizes)
        return [to_pixels(light) for light in lights]
    drawn = [render(picture, frame.x, frame.y, frame.side, size) for size in sizes]
    return [over(pixels, ground) if ground else pixels for pixels in drawn]


@lru_cache(maxsize=4)  # while a frame is dragged, picture and ground stay the same
def _pyramid(picture: Bitmap, ground: Colour | None) -> Pyramid:
    return Pyramid(picture.pixels, ground)


def square(picture: Picture, framing: Framing, opaque: bool, sizes: Sequence[int]) -> list[Pixels]:
    """The icon at each of `sizes` px under a framing, with its ground and plate: shape (size, size, 4)."""
    ground, plate = framing.ground_for(opaque), framing.plate
    below = plate.colour if plate.shape is not PlateShape.NONE else ground
    if framing.finish == NO_FINISH:
        icons = compose(picture, framing.frame, below, sizes)
    else:
        finished = (framing.finish.applied_to(icon) for icon in compose(picture, framing.frame, None, sizes))
        icons = [over(icon, below) if below else icon for icon in finished]
    return icons if plate.shape is PlateShape.NONE else [_cut_to(plate, icon, ground) for icon in icons]


def _cut_to(plate: Plate, pixels: Pixels, ground: Colour | None) -> Pixels:
    """Opaque pixels cut to the plate's shape, on the ground."""
    cut = pixels.copy()
    cut[..., 3] = plate_coverage(plate, pixels.shape[0])
    cut[cut[..., 3] == 0] = 0
    return over(cut, ground) if ground else cut


def plate_coverage(plate: Plate, size: int) -> NDArray[np.uint8]:
    """How much of each pixel a plate covers, 0 to 255, with its margin as the inset: shape (size, size)."""
    inset = SIDE * plate.margin / 100
    shape = f'<g transform="translate({inset:g} {inset:g}) scale({1 - 2 * plate.margin / 100:g})">{plate.markup()}</g>'
    outline = Vector(drawing(Plate(), shape), SIDE, SIDE)
    return render(outline, 0, 0, SIDE, size)[..., 3]


def enlargement(picture: Picture, frame: Frame, size: int) -> float | None:
    """How many times a bitmap is enlarged for an icon of `size` px; at most 1 is sharp. None for vectors."""
    return size / frame.side if isinstance(picture, Bitmap) else None
