"""Measuring a piece of an artwork, from which every framing over it takes its readings."""

from dataclasses import dataclass, replace
from functools import lru_cache
from math import ceil, floor

import numpy as np
from PIL import Image

from bexi.core.artwork.ground import on_paper
from bexi.core.artwork.ink import Box, find_ink
from bexi.core.artwork.pictures import Bitmap, Picture, Vector
from bexi.core.artwork.shapes import main_colours
from bexi.core.artwork.vector import render, render_whole
from bexi.core.framing.frame import hug
from bexi.core.framing.hand.kinds import SIDE as HAND_SIDE
from bexi.core.judging.banners import inside_of_banner
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.drawn_parts import is_drawn
from bexi.core.judging.flat import told_apart
from bexi.core.judging.lettering import rows_of
from bexi.core.judging.photographs import is_photograph
from bexi.core.judging.rows import Row
from bexi.core.judging.slits import without_slits
from bexi.core.judging.softness import softness_of
from bexi.core.judging.strokes import Widths, strokes_and_gaps
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels

SIDE = 512
"""In px a square is looked at: 32 times a tab icon, so that a tenth of its px is three of these."""
LONGEST = 1024
"""In px, at most, along the longer side of a whole artwork."""
_SMALL, _AROUND = 0.5, 0.1
"""Of a picture's longer side: ink that is smaller lies on a page; and how much of its own side is looked at around."""
_ROOM = 8
"""Px of ground laid around, so that ink at the rim is not taken for a picture's edge."""
_BESIDE = 1 / 16
"""Of a piece's longer side: so much is looked at around it."""
_ENOUGH = round(HAND_SIDE * (1 + 2 * _BESIDE))
"""Px of a piece's survey, so that the piece has as many as the drawing of a hand, which is enough of the whole one's,
too; pictures of fewer are enlarged."""
_ROUNDING = 1e-6
"""Of a px."""


@dataclass(frozen=True, eq=False)
class Survey:
    """The flat colours of a piece of artwork, with what was measured in it; lengths in px of the drawing.

    `x` and `y` are where, in artwork px, the drawing begins, `scale` how many of them one of its px is. `paper` is what
    lies around a banner whose inside alone was looked at.
    """

    drawing: Drawing
    strokes: Widths
    gaps: Widths
    rows: tuple[Row, ...]
    x: float
    y: float
    scale: float
    paper: Colour | None = None

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
    pixels: Pixels, x: float, y: float, scale: float, enlarged: int = 1, whole: Drawing | None = None
) -> Survey:
    """Measure pixels, which were enlarged so many times, of a picture or a piece of a whole."""
    told = told_apart(pixels, enlarged, whole)
    drawing = replace(told, kinds=np.pad(told.kinds, _ROOM))
    if drawing.separable and drawing.ink_box is not None:
        drawing = without_slits(drawing)
        strokes, gaps = strokes_and_gaps(drawing)
        rows = tuple(row for row in rows_of(drawing.regions, max(drawing.kinds.shape)) if not is_drawn(row, drawing))
    else:
        strokes, gaps, rows = Widths.none(), Widths.none(), ()
    return Survey(drawing, strokes, gaps, rows, x - _ROOM * scale, y - _ROOM * scale, scale)


def survey_of(picture: Picture, box: Box) -> Survey:
    """A survey fine enough for a box of the artwork: any of a photograph, of which nothing is measured.

    A little around the box is looked at, too: what ends at its edge may be a badge that goes on.
    """
    whole, inked = whole_survey(picture), _looked_at(picture).box
    shorter, longer = sorted((box.width, box.height))
    is_fine = longer * _longest(inked) >= HAND_SIDE * max(inked.width, inked.height)
    if not whole.drawing.separable or whole.drawing.shaded or shorter <= 0 or is_fine:  # only all edges tell a shade
        return whole
    aside = round(_BESIDE * longer)
    right, bottom = min(picture.width, box.right + aside), min(picture.height, box.bottom + aside)
    piece = _survey_in(picture, Box(max(0, box.left - aside), max(0, box.top - aside), right, bottom))
    return piece if piece.drawing.separable else whole  # compression blurs the colours of thin letters


@lru_cache(maxsize=4)
def whole_survey(picture: Picture) -> Survey:
    """The survey of the whole artwork, but for an empty page around it."""
    looked_at = _looked_at(picture)
    return replace(_survey_of_whole(picture, looked_at.box), paper=looked_at.paper)


def _survey_of_whole(picture: Picture, box: Box) -> Survey:
    longest = _longest(box)
    if isinstance(picture, Bitmap):
        pixels, x, y = _part(on_paper(picture), box, longest), box.left, box.top
        scale = max(box.width, box.height) / max(pixels.shape[:2])
        return _of_photograph(pixels, x, y, scale) if is_photograph(pixels) else _by_softness(pixels, x, y, scale)
    whole = Box(0, 0, picture.width, picture.height)
    if box == whole:
        pixels, left, top = _whole_drawn(picture), 0.0, 0.0
        scale = max(picture.width, picture.height) / max(pixels.shape[:2])
    else:
        pixels, left, top, scale = _drawn_in(picture, box, longest)
    return _of_photograph(pixels, left, top, scale) if is_photograph(pixels) else surveyed(pixels, left, top, scale)


@lru_cache(maxsize=2)  # 4 MB each
def _whole_drawn(picture: Vector) -> Pixels:
    return render_whole(picture, _longest(Box(0, 0, picture.width, picture.height)))


@dataclass(frozen=True)
class _LookedAt:
    """What of an artwork is looked at, and the paper around that, if it is a banner."""

    box: Box
    paper: Colour | None = None


@lru_cache(maxsize=4)
def _looked_at(picture: Picture) -> _LookedAt:
    """All; of a banner on paper what lies on that; of small ink on a page that and a little around it."""
    whole = Box(0, 0, picture.width, picture.height)
    if isinstance(picture, Bitmap):
        step = max(1, max(picture.width, picture.height) // LONGEST)
        pixels, scale = on_paper(picture).pixels[::step, ::step], float(step)
    else:
        pixels = _whole_drawn(picture)
        scale = max(picture.width, picture.height) / max(pixels.shape[:2])
    ink = find_ink(pixels)
    if banner := inside_of_banner(pixels, ink):
        return _LookedAt(_widened(banner, 0, scale, whole), ink.ground_colour)
    if ink.box is None or max(ink.box.width, ink.box.height) > _SMALL * max(pixels.shape[:2]):
        return _LookedAt(whole)
    return _LookedAt(_widened(ink.box, _AROUND * max(ink.box.width, ink.box.height) + 1, scale, whole))


def _widened(box: Box, aside: float, scale: float, whole: Box) -> Box:
    """A box so much wider all around, in px that are `scale` times as large, within the whole."""
    left, top = (max(0, int((edge - aside) * scale)) for edge in (box.left, box.top))
    right, bottom = (
        min(length, int((edge + aside) * scale))
        for edge, length in ((box.right, whole.right), (box.bottom, whole.bottom))
    )
    return Box(left, top, right, bottom)


def _of_photograph(pixels: Pixels, x: float, y: float, scale: float) -> Survey:
    kinds = np.pad(np.ones(pixels.shape[:2], dtype=np.uint8), _ROOM)
    drawing = Drawing(kinds, (None, main_colours(pixels, pixels[..., 3] > 0)[0].colour), separable=False, busy=True)
    return Survey(drawing, Widths.none(), Widths.none(), (), x - _ROOM * scale, y - _ROOM * scale, scale)


def _longest(box: Box) -> int:
    """Px along the longer side, so that the shorter one has SIDE of them, too, as far as LONGEST reaches.

    A frame around the emblem of a wide logo is then seen finely enough, wherever it is moved.
    """
    return min(LONGEST, round(SIDE * max(box.width, box.height) / min(box.width, box.height)))


@lru_cache(maxsize=8)  # each holds about 5 MB
def _survey_in(picture: Picture, box: Box) -> Survey:
    """The survey of what lies in a box of the artwork."""
    whole = whole_survey(picture).drawing
    if isinstance(picture, Bitmap):
        pixels = _part(on_paper(picture), box, _ENOUGH)
        scale = max(box.width, box.height) / max(pixels.shape[:2])
        return _by_softness(pixels, box.left, box.top, scale, whole)
    pixels, x, y, scale = _drawn_in(picture, box, _ENOUGH)
    return surveyed(pixels, x, y, scale, whole=whole)


def _drawn_in(picture: Vector, box: Box, size: int) -> tuple[Pixels, float, float, float]:
    """What of a drawing lies in a box, whose longer side `size` px are: where that begins, and how large a px is."""
    frame = hug(box, 0)
    scale = frame.side / size
    rows, columns = (
        _inside((first - start) / scale, (past - start) / scale, size)
        for start, first, past in ((frame.y, box.top, box.bottom), (frame.x, box.left, box.right))
    )
    pixels = np.ascontiguousarray(render(picture, frame.x, frame.y, frame.side, size)[rows, columns])
    return pixels, frame.x + columns.start * scale, frame.y + rows.start * scale, scale


def _inside(start: float, past: float, size: int) -> slice:
    """The whole px of a stretch: beyond the artwork a ground would not be known as one."""
    first, last = max(0, ceil(start - _ROUNDING)), min(size, floor(past + _ROUNDING))
    return slice(first, last) if first < last else slice(0, size)


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
    times = max(soft, -(-HAND_SIDE // max(pixels.shape[:2])))
    pixels = _enlarged(pixels, times, smoothly=whole is None)
    return surveyed(pixels, x, y, scale * longest / max(pixels.shape[:2]), times, whole)


def _enlarged(pixels: Pixels, times: int, smoothly: bool) -> Pixels:
    """So many times as large: smoothly to tell what is drawn, as a hairline then stays of one piece.

    What is measured in a piece keeps its px as they are, for a smooth edge between two colours has a third.
    """
    if times == 1:
        return pixels
    image = Image.fromarray(pixels).convert("RGBa")
    way = Image.Resampling.BICUBIC if smoothly else Image.Resampling.NEAREST
    return np.asarray(image.resize((times * image.width, times * image.height), way).convert("RGBA"))
