"""Measuring a piece of an artwork, from which every framing over it takes its readings."""

from dataclasses import dataclass, replace
from functools import lru_cache
from math import ceil, floor

import numpy as np
from PIL import Image

from bexi.core.artwork.ink import Box
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.shapes import main_colours
from bexi.core.artwork.vector import render, render_whole
from bexi.core.framing.frame import Frame
from bexi.core.framing.hand.kinds import SIDE as HAND_SIDE
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.flat import told_apart
from bexi.core.judging.lettering import Row, rows_of
from bexi.core.judging.photographs import is_photograph
from bexi.core.judging.softness import softness_of
from bexi.core.judging.strokes import Widths, strokes_and_gaps
from bexi.core.pixels.light import Pixels

SIDE = 512
"""In px a square is looked at: 32 times a tab icon, so that a tenth of its px is three of these."""
LONGEST = 1024
"""In px, at most, along the longer side of a whole artwork."""
_ROOM = 8
"""Px of ground laid around, so that ink at the rim is not taken for a picture's edge."""
_ENOUGH = HAND_SIDE
"""A frame that holds so many px of the whole artwork's survey needs none of its own, which has so many, as the drawing
of a hand does; pictures of fewer are enlarged."""


@dataclass(frozen=True, eq=False)
class Survey:
    """The flat colours of a piece of artwork, with what was measured in it; lengths in px of the drawing.

    `x` and `y` are where, in artwork px, the drawing begins, `scale` how many of them one of its px is.
    """

    drawing: Drawing
    strokes: Widths
    gaps: Widths
    rows: tuple[Row, ...]
    x: float
    y: float
    scale: float

    def in_artwork(self, box: Box) -> Box:
        """A box of the drawing in artwork px, a px wider all around."""
        left, top = (
            int(np.floor(start + (edge - 1) * self.scale)) for start, edge in ((self.x, box.left), (self.y, box.top))
        )
        right, bottom = (
            int(np.ceil(start + (edge + 1) * self.scale)) for start, edge in ((self.x, box.right), (self.y, box.bottom))
        )
        return Box(left, top, right, bottom)


def surveyed(
    pixels: Pixels, x: float, y: float, scale: float, repeated: int = 1, whole: Drawing | None = None
) -> Survey:
    """Measure pixels, each of which was repeated so many times, of a picture or a piece of a whole."""
    told = told_apart(pixels, repeated, whole)
    drawing = replace(told, kinds=np.pad(told.kinds, _ROOM))
    if drawing.separable and drawing.ink_box is not None:
        strokes, gaps = strokes_and_gaps(drawing)
        rows = tuple(rows_of(drawing.regions, max(drawing.kinds.shape)))
    else:
        strokes, gaps, rows = Widths.none(), Widths.none(), ()
    return Survey(drawing, strokes, gaps, rows, x - _ROOM * scale, y - _ROOM * scale, scale)


def survey_of(picture: Picture, frame: Frame) -> Survey:
    """A survey of the artwork fine enough for a frame: any of a photograph, of which nothing is measured."""
    whole = whole_survey(picture)
    if not whole.drawing.separable or frame.side * _longest(picture) >= _ENOUGH * max(picture.width, picture.height):
        return whole
    return _survey_in(picture, frame)


@lru_cache(maxsize=4)
def whole_survey(picture: Picture) -> Survey:
    """The survey of the whole artwork."""
    longest = _longest(picture)
    if isinstance(picture, Bitmap):
        pixels = _part(picture, Box(0, 0, picture.width, picture.height), longest)
    else:
        pixels = render_whole(picture, longest)
    scale = max(picture.width, picture.height) / max(pixels.shape[:2])
    if is_photograph(pixels):
        return _of_photograph(pixels, scale)
    return _by_softness(pixels, 0, 0, scale) if isinstance(picture, Bitmap) else surveyed(pixels, 0, 0, scale)


def _of_photograph(pixels: Pixels, scale: float) -> Survey:
    kinds = np.pad(np.ones(pixels.shape[:2], dtype=np.uint8), _ROOM)
    drawing = Drawing(kinds, (None, main_colours(pixels, pixels[..., 3] > 0)[0].colour), separable=False, busy=True)
    return Survey(drawing, Widths.none(), Widths.none(), (), -_ROOM * scale, -_ROOM * scale, scale)


def _longest(picture: Picture) -> int:
    """Px along the longer side, so that the shorter one has SIDE of them, too, as far as LONGEST reaches.

    A frame around the emblem of a wide logo is then seen finely enough, wherever it is moved.
    """
    return min(LONGEST, round(SIDE * max(picture.width, picture.height) / min(picture.width, picture.height)))


@lru_cache(maxsize=8)  # each holds about 5 MB
def _survey_in(picture: Picture, frame: Frame) -> Survey:
    """The survey of what lies in a frame."""
    whole = whole_survey(picture).drawing
    if isinstance(picture, Bitmap):
        left, top = max(0, frame.x), max(0, frame.y)
        right, bottom = min(picture.width, frame.x + frame.side), min(picture.height, frame.y + frame.side)
        pixels = _part(picture, Box(left, top, right, bottom), _ENOUGH)
        return _by_softness(pixels, left, top, max(right - left, bottom - top) / max(pixels.shape[:2]), whole)
    scale = frame.side / _ENOUGH
    rows, columns = _inside(frame.y, picture.height, scale), _inside(frame.x, picture.width, scale)
    pixels = np.ascontiguousarray(render(picture, frame.x, frame.y, frame.side, _ENOUGH)[rows, columns])
    return surveyed(pixels, frame.x + columns.start * scale, frame.y + rows.start * scale, scale, whole=whole)


def _inside(start: int, length: int, scale: float) -> slice:
    """Which of a frame's px lie in the artwork: beyond it a ground would not be known as one."""
    first, past = max(0, ceil(-start / scale)), min(_ENOUGH, floor((length - start) / scale))
    return slice(first, past) if first < past else slice(0, _ENOUGH)


def _part(picture: Bitmap, box: Box, longest: int) -> Pixels:
    """Of a bitmap what lies in a box, `longest` px along its longer side at most."""
    part = picture.pixels[box.top : box.bottom, box.left : box.right]
    step = max(1, max(box.width, box.height) // (2 * longest))  # a first step without a filter is near enough for areas
    pixels = np.ascontiguousarray(part[::step, ::step])
    if max(pixels.shape[:2]) > longest:
        image = Image.fromarray(pixels)
        image.thumbnail((longest, longest), Image.Resampling.BOX)
        pixels = np.asarray(image)
    return pixels


def _by_softness(pixels: Pixels, x: float, y: float, scale: float, whole: Drawing | None = None) -> Survey:
    """Of a piece of a bitmap, looked at only as finely as its edges are, and enlarged where it has few px."""
    soft, longest = softness_of(pixels), max(pixels.shape[:2])
    if soft > 1:
        pixels = np.asarray(Image.fromarray(pixels).reduce(soft))
    repeated = max(soft, -(-_ENOUGH // max(pixels.shape[:2])))
    pixels = pixels.repeat(repeated, axis=0).repeat(repeated, axis=1)
    return surveyed(pixels, x, y, scale * longest / max(pixels.shape[:2]), repeated, whole)
