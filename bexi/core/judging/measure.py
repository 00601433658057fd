"""What is measured of a framing, whatever size it will have: its part of a survey, on its ground and plate."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.ink import Box
from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.framing.compose import compose, plate_coverage
from bexi.core.framing.frame import Frame
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import NO_FINISH, NO_PLATE, Framing
from bexi.core.judging.drawing import Drawing, Kinds
from bexi.core.judging.strokes import Widths
from bexi.core.judging.survey import SIDE, Survey, survey_of, surveyed
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.oklab import distance_to

_SAME = 0.03
"""Colours nearer than this in OKLab are one ground."""
_WIDEST_GAP = 0.25
"""Ground further apart, in sides, is room, not a gap."""
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


@lru_cache(maxsize=24)
def measure(picture: Picture, framing: Framing, purpose: Purpose = Purpose.TAB) -> Measured:
    """Measure a framing; raises FramingRefused when it misses the artwork."""
    frame, finish = framing.frame, replace(framing.finish, sharpen=0)  # which only changes pixels of small icons
    frame.must_touch(picture.width, picture.height)
    if finish != NO_FINISH or purpose is Purpose.ONE_COLOUR:
        # What changes the ink itself is measured where it was made.
        (pixels,) = compose(picture, replace(framing, finish=finish), purpose, [SIDE])
        survey = surveyed(pixels, frame.x, frame.y, frame.side / SIDE)
        shown = Box(frame.x, frame.y, frame.x + frame.side, frame.y + frame.side)
        return _Seen(survey, frame, shown).measured(NO_PLATE, survey.drawing.colours[0])
    shown = _within(Box(0, 0, picture.width, picture.height), framing.cut)
    return _Seen(survey_of(picture, frame), frame, shown).measured(framing.plate, framing.ground_for(purpose.opaque))


def _within(whole: Box, cut: Box | None) -> Box:
    if cut is None:
        return whole
    left, top = max(whole.left, cut.left), max(whole.top, cut.top)
    return Box(left, top, min(whole.right, cut.right), min(whole.bottom, cut.bottom))


@dataclass(frozen=True, eq=False)
class _Seen:
    """What a frame shows of a survey, no more than a box in artwork px."""

    survey: Survey
    frame: Frame
    shown: Box

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
        if own is not None and there.all():
            colours[0] = own
        elif own is not None and (below is None or not _alike(own, below)):
            kinds[there & (kinds == 0)] = len(colours)
            colours.append(own)
        if plated:
            kinds[kinds == 0] = len(colours)
            colours.append(colours[0])
            kinds[plate_coverage(plate, SIDE) < 128] = 0
            colours[0] = ground
        return Drawing(kinds, tuple(colours), survey.drawing.separable)

    def _kinds(self) -> tuple[Kinds, NDArray[np.bool_]]:
        """The kinds at SIDE px, and where the artwork is."""
        survey, frame, shown = self.survey, self.frame, self.shown
        steps = (np.arange(SIDE) + 0.5) * frame.side / SIDE
        rows, columns = frame.y + steps, frame.x + steps
        there = ((rows >= shown.top) & (rows < shown.bottom))[:, None] & (
            (columns >= shown.left) & (columns < shown.right)
        )
        high, wide = survey.drawing.kinds.shape
        y = np.clip(((rows - survey.y) / survey.scale).astype(np.intp), 0, high - 1)
        x = np.clip(((columns - survey.x) / survey.scale).astype(np.intp), 0, wide - 1)
        return np.where(there, survey.drawing.kinds[np.ix_(y, x)], 0).astype(np.uint8), there

    def _widths(self, widths: Widths) -> Widths:
        """Those in the frame, in sides of it."""
        survey, frame = self.survey, self.frame
        x, y = survey.x + (widths.x + 0.5) * survey.scale, survey.y + (widths.y + 0.5) * survey.scale
        seen = _within(self.shown, Box(frame.x, frame.y, frame.x + frame.side, frame.y + frame.side))
        inside = (x >= seen.left) & (x < seen.right) & (y >= seen.top) & (y < seen.bottom)
        sides = survey.scale / frame.side
        across, down = (x - frame.x) / frame.side, (y - frame.y) / frame.side
        return Widths(widths.width * sides, widths.length * sides, across, down).only(inside)

    def _lettering(self) -> Iterator[Lettering]:
        """The lines of letters of which more than half is seen."""
        survey, frame = self.survey, self.frame
        seen = _within(self.shown, Box(frame.x, frame.y, frame.x + frame.side, frame.y + frame.side))
        for row in survey.rows:
            box = survey.in_artwork(row.box)
            both = _within(box, seen)
            if 2 * max(both.width, 0) * max(both.height, 0) > box.width * box.height:
                left, right = ((edge - frame.x) / frame.side for edge in (box.left, box.right))
                top, bottom = ((edge - frame.y) / frame.side for edge in (box.top, box.bottom))
                yield Lettering(left, top, right, bottom, row.height * survey.scale / frame.side)


def _alike(one: Colour, other: Colour) -> bool:
    first, second = (np.array(colour.channels, dtype=np.uint8) for colour in (one, other))
    return bool(distance_to(first, second) < _SAME)
