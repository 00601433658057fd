"""Composing the square picture of one icon from the artwork itself, never from another icon."""

from collections.abc import Sequence

from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.vector import render
from bexi.core.framing.frame import Frame
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels, over, to_pixels
from bexi.core.pixels.resample import resample


def compose(picture: Picture, frame: Frame, ground: Colour | None, sizes: Sequence[int]) -> list[Pixels]:
    """The icon at each of `sizes` px: shape (size, size, 4). Opaque when a ground is given.

    The artwork is laid on the ground as it is stored (in sRGB, as browsers do), then reduced in linear light.
    Raises FramingRefused when the frame misses the artwork.
    """
    frame.must_touch(picture.width, picture.height)
    if isinstance(picture, Bitmap):
        lights = resample(picture.pixels, frame.x, frame.y, frame.side, sizes, ground)
        return [to_pixels(light) for light in lights]
    drawn = [render(picture, frame.x, frame.y, frame.side, size) for size in sizes]
    return [over(pixels, ground) if ground else pixels for pixels in drawn]


def enlargement(picture: Picture, frame: Frame, size: int) -> float | None:
    """How many times a bitmap is enlarged for an icon of `size` px; at most 1 is sharp. None for vectors."""
    return size / frame.side if isinstance(picture, Bitmap) else None
