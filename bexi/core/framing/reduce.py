"""The artwork in a frame at the size of an icon, from the artwork itself, never from another icon."""

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.ink import Box
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.treatment import lift
from bexi.core.artwork.vector import CUT, render, unclipped
from bexi.core.errors import FramingRefused
from bexi.core.framing.cut import Cut
from bexi.core.framing.frame import Frame
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels, over, recoloured, to_pixels
from bexi.core.pixels.reduction import Reduction


def reduced(picture: Picture, frame: Frame, ground: Colour | None, sizes: Sequence[int]) -> list[Pixels]:
    """The artwork at each of `sizes` px: shape (size, size, 4). Opaque when a ground is given.

    The artwork is laid on the ground as it is stored (in sRGB, as browsers do), then reduced in linear light.
    Raises FramingRefused when the frame misses the artwork.
    """
    frame.must_touch(picture.width, picture.height)
    if isinstance(picture, Bitmap):
        lights = _reduction(picture, ground).square(frame.x, frame.y, frame.side, sizes)
        return [to_pixels(light) for light in lights]
    drawn = [render(picture, frame.x, frame.y, frame.side, size) for size in sizes]
    return [over(pixels, ground) if ground else pixels for pixels in drawn]


@lru_cache(maxsize=2)
def in_one_colour(picture: Picture, colour: Colour | None) -> Picture:
    """The picture with all its ink in one colour, if one is given."""
    if colour is None:
        return picture
    if isinstance(picture, Bitmap):
        return replace(picture, pixels=recoloured(picture.pixels, colour))
    return replace(picture, recolour=colour)


def lifted(picture: Picture, tolerance: float | None, inside: bool) -> Picture:
    """The picture without its flat ground, if a tolerance is given."""
    return picture if tolerance is None else _lifted(picture, tolerance, inside)


_lifted = lru_cache(maxsize=2)(lift)


@lru_cache(maxsize=4)  # the sizes of one purpose share the levels of what is left
def cut_to(picture: Picture, cut: Cut | None, frame: Frame) -> tuple[Picture, Frame]:
    """The picture with nothing left outside a box, and the frame as it lies on that picture."""
    if cut is None:
        return picture, frame
    left, top = max(cut.left, 0), max(cut.top, 0)
    right, bottom = min(cut.right, picture.width), min(cut.bottom, picture.height)
    if left >= right or top >= bottom:
        raise FramingRefused("cut-misses-artwork", "The cut lies beside the artwork, so the icon would be empty.")
    if isinstance(picture, Bitmap):
        pixels = picture.pixels[top:bottom, left:right]
        if cut.outline:
            pixels = _within(pixels, cut.coverage(Box(left, top, right, bottom)))
        return replace(picture, pixels=pixels), Frame(frame.x - left, frame.y - top, frame.side)
    # A nested <svg> is clipped to its own size (SVG 2, §8.5).
    window = f'x="{left}" y="{top}" width="{right - left}" height="{bottom - top}"'
    view = f'viewBox="{left} {top} {right - left} {bottom - top}"'
    whole = f'width="{picture.width}" height="{picture.height}" viewBox="0 0 {picture.width} {picture.height}"'
    artwork = unclipped(picture.markup)  # all of the cut lies within it
    inner = f"<svg {window} {view}>{artwork}</svg>"
    if cut.outline:
        inner = f'<clipPath id="{CUT}"><path d="{cut.path}"/></clipPath><g clip-path="url(#{CUT})">{artwork}</g>'
    return replace(picture, markup=f'<svg xmlns="http://www.w3.org/2000/svg" {whole}>{inner}</svg>'), frame


def _within(pixels: Pixels, coverage: NDArray[np.uint8]) -> Pixels:
    """Pixels with only so much left of each, 0 to 255."""
    left = pixels.copy()
    left[..., 3] = (pixels[..., 3].astype(np.uint16) * coverage + 127) // 255
    left[left[..., 3] == 0] = 0
    return left


@lru_cache(maxsize=4)  # while a frame is dragged, picture and ground stay the same
def _reduction(picture: Bitmap, ground: Colour | None) -> Reduction:
    return Reduction(picture.pixels, ground)


def enlargement(picture: Picture, frame: Frame, size: int) -> float | None:
    """How many times a bitmap is enlarged for an icon of `size` px; at most 1 is sharp. None for vectors."""
    return size / frame.side if isinstance(picture, Bitmap) else None
