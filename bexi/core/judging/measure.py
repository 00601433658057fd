"""What is measured of a framing, whatever size it will have: its part of a survey, on its ground and plate."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw
from scipy import ndimage

from bexi.core.artwork.ground import STRAYS
from bexi.core.artwork.ink import Box
from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.framing.compose import compose, plate_coverage
from bexi.core.framing.cut import Point
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import NO_FINISH, NO_PLATE, Framing
from bexi.core.framing.reduce import lifted
from bexi.core.judging.cut_out import with_cut_out_marks
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.regions import Kinds, Region
from bexi.core.judging.strokes import Widths
from bexi.core.judging.survey import SIDE, Survey, survey_of, surveyed, whole_survey
from bexi.core.pixels.around import lowest_around
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.oklab import distance_to

_SAME = 0.03
"""Colours nearer than this in OKLab are one ground."""
_WIDEST_GAP = 0.25
"""Ground further apart, in sides, is room, not a gap."""
_SMALL_PRINT, _REACHES = 0.12, 2 / 3
"""Of all ink: letters that are less of it; and how far what is left reaches over the whole."""
_NEARLY = 1.1
"""A frame of which a piece reaches out by no more is looked at with the whole piece, as all larger frames are."""
_LEAST_LENGTH = 0.1
"""Gaps shorter than this in all, in sides, are notches."""


@dataclass(frozen=True, eq=False)
class Lettering:
    """A line of letters: its box, 0 to 1 in the square, and the height of its capitals in sides."""

    left: float
    top: float
    right: float
    bottom: float
    height: float


@dataclass(frozen=True, eq=False)
class Measured:
    """A square drawing of a framing, SIDE px large; widths and lettering in sides of the square."""

    drawing: Drawing
    strokes: Widths
    gaps: Widths
    lettering: tuple[Lettering, ...]

    @property
    def capital(self) -> float | None:
        """The height of the smallest lettering's capitals."""
        return min((row.height for row in self.lettering), default=None)

    @cached_property
    def has_small_print(self) -> bool:
        """Whether its letters are a tagline or a year, without which the mark is told: little ink, and at its edge."""
        if not self.lettering:
            return False
        rest, whole = self.drawing.kinds.copy(), self.drawing.ink_box
        for row in self.lettering:
            beside = row.height / 3  # accents, and what hangs
            top, left = (max(0, int((place - beside) * SIDE)) for place in (row.top, row.left))
            bottom, right = (int((place + beside) * SIDE) + 1 for place in (row.bottom, row.right))
            rest[top:bottom, left:right] = 0
        left_over = replace(self.drawing, kinds=rest).ink_box
        if whole is None or left_over is None:
            return False
        share = 1 - np.count_nonzero(rest) / np.count_nonzero(self.drawing.kinds)
        return bool(share < _SMALL_PRINT and _longer(left_over) >= _REACHES * _longer(whole))


def _longer(box: Box) -> int:
    return max(box.width, box.height)


def measure(picture: Picture, framing: Framing, purpose: Purpose = Purpose.TAB) -> Measured:
    """Measure a framing; raises FramingRefused when it misses the artwork."""
    return _measured(picture, framing.plain, purpose)  # a hand is for single sizes


@lru_cache(maxsize=24)
def _measured(picture: Picture, framing: Framing, purpose: Purpose) -> Measured:
    frame, finish = framing.frame, replace(framing.finish, sharpen=0)  # which only changes pixels of small icons
    frame.must_touch(picture.width, picture.height)
    source, lift, is_inside = picture, framing.lift, framing.lift_inside
    picture, framing = lifted(picture, lift, framing.lift_inside), replace(framing, lift=None)
    whole = whole_survey(source)
    is_drawn = whole.drawing.separable
    if replace(finish, recolour=None) != NO_FINISH or purpose is Purpose.ONE_COLOUR:
        # What changes the ink itself is measured where it was made.
        (pixels,) = compose(picture, replace(framing, finish=finish), purpose, [SIDE])
        survey = surveyed(pixels, frame.x, frame.y, frame.side / SIDE)
        return _Seen(survey, frame, frame.box, (), is_drawn).measured(NO_PLATE, survey.drawing.colours[0])
    shown = _within(Box(0, 0, picture.width, picture.height), framing.cut)
    # Around a banner the paper goes, and its own ground stays.
    paper = None if lift is None or finish.recolour or whole.paper else whole.drawing.colours[0]
    looked_at = shown if _longer(shown) <= _NEARLY * frame.side else _within(shown, frame.box)
    if paper is not None and lift is not None and lift <= STRAYS and is_inside:
        survey = _off_paper(survey_of(source, looked_at), paper)
    else:
        survey = _without_paper(survey_of(picture, looked_at), paper)
    survey = _in_one_colour(survey, finish.recolour)
    outline = framing.cut.outline if framing.cut else ()
    seen = _Seen(survey, frame, shown, outline, is_drawn)
    return seen.measured(framing.plate, framing.ground_for(purpose.opaque))


@lru_cache(maxsize=8)
def _off_paper(survey: Survey, paper: Colour) -> Survey:
    """A survey on paper, all of which is lifted: what that leaves of a tint beside the ink is too faint to be any."""
    drawing = survey.drawing
    kinds = np.where(np.isin(drawing.kinds, _in_colour(drawing, paper)), np.uint8(0), drawing.kinds)
    return replace(survey, drawing=replace(drawing, kinds=kinds, colours=(None, *drawing.colours[1:])))


@lru_cache(maxsize=8)
def _without_paper(survey: Survey, paper: Colour | None) -> Survey:
    """The same without what a lifted ground leaves inside an "o", which is seen, but is no part of the letter."""
    drawing = survey.drawing
    left = [] if paper is None else _in_colour(drawing, paper)
    if not left:
        return survey
    kinds = np.where(np.isin(drawing.kinds, left), np.uint8(0), drawing.kinds)
    marked = with_cut_out_marks(replace(drawing, kinds=kinds, colours=(paper, *drawing.colours[1:])))
    return replace(survey, drawing=replace(marked, colours=(None, *marked.colours[1:])))


def _in_colour(drawing: Drawing, colour: Colour) -> list[int]:
    """The kinds of ink that have a colour."""
    inks = enumerate(drawing.colours[1:], 1)
    return [kind for kind, ink in inks if ink is not None and _alike(ink, colour)]


def _in_one_colour(survey: Survey, colour: Colour | None) -> Survey:
    """The same with all ink of one colour, if one is given; a solid ground of its own takes it, too."""
    if colour is None:
        return survey
    drawing = survey.drawing
    own = drawing.colours[0] and colour
    return replace(survey, drawing=replace(drawing, colours=(own, *(colour for _ in drawing.colours[1:]))))


def _within(whole: Box, cut: Box | None) -> Box:
    if cut is None:
        return whole
    left, top = max(whole.left, cut.left), max(whole.top, cut.top)
    return Box(left, top, min(whole.right, cut.right), min(whole.bottom, cut.bottom))


@dataclass(frozen=True, eq=False)
class _Seen:
    """What a frame shows of a survey, no more than a box in artwork px, and in it a shape, if that has corners.

    `is_drawn` is false for a piece of a photograph, whatever the piece alone looks like.
    """

    survey: Survey
    frame: Frame
    shown: Box
    shape: tuple[Point, ...]
    is_drawn: bool

    def measured(self, plate: Plate, ground: Colour | None) -> Measured:
        """On a plate, and on a ground."""
        lettering = tuple(self._lettering())
        gaps = self._widths(self.survey.gaps)
        near = gaps.width <= _WIDEST_GAP
        gaps = gaps.only(near) if gaps.length[near].sum() >= _LEAST_LENGTH else Widths.none()
        return Measured(self._drawing(plate, ground), self._widths(self.survey.strokes), gaps, lettering)

    def _drawing(self, plate: Plate, ground: Colour | None) -> Drawing:
        survey, plated = self.survey, plate.shape is not PlateShape.NONE
        kinds, there = self._kinds()
        own, *inks = survey.drawing.colours
        below = plate.colour if plated else ground
        colours: list[Colour | None] = [below, *inks]
        opacities = list(survey.drawing.opacities or (1.0,) * len(colours))
        for kind, ink in enumerate(inks, 1):
            if below is not None and ink is not None and _alike(ink, below):
                kinds[_cut_through(kinds == kind, there)] = 0  # goes on as what lies below
        if below is not None:  # then what is translucent has one colour, whatever the icon stands on
            colours = [below, *replace(survey.drawing, colours=(below, *inks)).seen_on(below)[1:]]
            opacities = [1.0] * len(colours)
        if own is not None and there.all():
            colours[0] = own
        elif own is not None and (below is None or not _alike(own, below)):
            kinds[there & (kinds == 0)] = len(colours)
            colours.append(own)
            opacities.append(1.0)
        if plated:
            kinds[kinds == 0] = len(colours)
            colours.append(colours[0])
            opacities.append(1.0)
            kinds[plate_coverage(plate, SIDE) < 128] = 0
            colours[0] = ground
        told = survey.drawing
        return Drawing(kinds, tuple(colours), told.separable and self.is_drawn, told.busy, tuple(opacities))

    def _kinds(self) -> tuple[Kinds, NDArray[np.bool_]]:
        """The kinds at SIDE px, and where the artwork is."""
        survey, frame, shown = self.survey, self.frame, self.shown
        steps = (np.arange(SIDE) + 0.5) * frame.side / SIDE
        rows, columns = frame.y + steps, frame.x + steps
        there = ((rows >= shown.top) & (rows < shown.bottom))[:, None] & (
            (columns >= shown.left) & (columns < shown.right)
        )
        there &= self._in_shape
        high, wide = survey.drawing.kinds.shape
        y = np.clip(((rows - survey.y) / survey.scale).astype(np.intp), 0, high - 1)
        x = np.clip(((columns - survey.x) / survey.scale).astype(np.intp), 0, wide - 1)
        return np.where(there, survey.drawing.kinds[np.ix_(y, x)], 0).astype(np.uint8), there

    @cached_property
    def _in_shape(self) -> NDArray[np.bool_]:
        """Where in the square the shape is: shape (SIDE, SIDE)."""
        if not self.shape:
            return np.ones((SIDE, SIDE), dtype=bool)
        scale = SIDE / self.frame.side
        drawn = Image.new("1", (SIDE, SIDE))
        corners = [((corner.x - self.frame.x) * scale, (corner.y - self.frame.y) * scale) for corner in self.shape]
        ImageDraw.Draw(drawn).polygon(corners, fill=1)
        return np.asarray(drawn)

    def _widths(self, widths: Widths) -> Widths:
        """Those in the frame, in sides of it."""
        survey, frame = self.survey, self.frame
        x, y = survey.x + (widths.x + 0.5) * survey.scale, survey.y + (widths.y + 0.5) * survey.scale
        seen = _within(self.shown, frame.box)
        inside = (x >= seen.left) & (x < seen.right) & (y >= seen.top) & (y < seen.bottom)
        sides = survey.scale / frame.side
        across, down = (x - frame.x) / frame.side, (y - frame.y) / frame.side
        row, column = (np.clip((place * SIDE).astype(np.intp), 0, SIDE - 1) for place in (down, across))
        inside &= self._in_shape[row, column]
        return Widths(widths.width * sides, widths.length * sides, across, down).only(inside)

    def _lettering(self) -> Iterator[Lettering]:
        """The lines of letters of which more than half are seen."""
        survey, frame = self.survey, self.frame
        for row in survey.rows:
            if 2 * sum(map(self._is_seen, row.parts)) > len(row.parts):
                box = survey.in_artwork(row.box)
                left, right = ((edge - frame.x) / frame.side for edge in (box.left, box.right))
                top, bottom = ((edge - frame.y) / frame.side for edge in (box.top, box.bottom))
                yield Lettering(left, top, right, bottom, row.height * survey.scale / frame.side)

    def _is_seen(self, part: Region) -> bool:
        """Whether the middle of a part lies in the frame, and in what is left of the artwork."""
        survey, frame, box = self.survey, self.frame, part.box
        x = survey.x + (box.left + box.right) / 2 * survey.scale
        y = survey.y + (box.top + box.bottom) / 2 * survey.scale
        shown = _within(self.shown, frame.box)
        if not (shown.left <= x < shown.right and shown.top <= y < shown.bottom):
            return False
        row, column = (int((place - start) / frame.side * SIDE) for place, start in ((y, frame.y), (x, frame.x)))
        return bool(self._in_shape[min(row, SIDE - 1), min(column, SIDE - 1)])


def _cut_through(ink: NDArray[np.bool_], there: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """The pieces of some ink that a cut goes through, which leaves only what is `there`."""
    at_cut = ink & ~lowest_around(there, 3)
    if not at_cut.any():
        return at_cut
    labels, count = ndimage.label(ink, structure=np.ones((3, 3)))
    reached = np.zeros(count + 1, dtype=bool)
    reached[np.unique(labels[at_cut])] = True
    pieces: NDArray[np.bool_] = reached[labels]
    return pieces


def _alike(one: Colour, other: Colour) -> bool:
    first, second = (np.array(colour.channels, dtype=np.uint8) for colour in (one, other))
    return bool(distance_to(first, second) < _SAME)
