"""The first letter of a wordmark, cut out just as the wordmark draws it."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.artwork.ink import Box
from bexi.core.framing.cut import MOST_POINTS, Cut, Point
from bexi.core.judging.lettering import Row, around
from bexi.core.judging.regions import Region
from bexi.core.judging.survey import Survey
from bexi.core.pixels.colour import Colour

_ASIDE = 0.05
"""The cut runs so much of the letter's height beside it, nearer where the next letter is near."""
_WIDEST = 1.7
"""In its heights; what is wider is several letters that run into each other."""
_TRACE = 0.004
"""No more of the letter's area may be ink of others."""


@dataclass(frozen=True)
class FirstLetter:
    """The cut around a letter, the box of its ink in artwork px, and its colour."""

    cut: Cut
    box: Box
    colour: Colour


def first_letter(survey: Survey, row: Row) -> FirstLetter | None:
    """The letter that a straight row begins with, with its dots; None where it hangs together with the next one."""
    drawing = survey.drawing
    first = min(row.parts, key=lambda part: part.box.left)
    colour = drawing.colours[first.kind]
    if colour is None or first.box.width > _WIDEST * first.box.height:
        return None
    regions = [first, *(other for other in drawing.regions if _is_dot_of(other, first, row))]
    box = around([region.box for region in regions])
    aside = max(2, round(_ASIDE * box.height))
    high, wide = drawing.kinds.shape
    window = Box(
        max(0, box.left - aside), max(0, box.top - aside), min(wide, box.right + aside), min(high, box.bottom + aside)
    )
    part = np.s_[window.top : window.bottom, window.left : window.right]
    letter = np.isin(drawing.labels[part], [region.label for region in regions])
    filled = ndimage.binary_fill_holes(letter)
    others = (drawing.kinds[part] > 0) & ~filled
    away = ndimage.distance_transform_edt(~filled)
    from_others = ndimage.distance_transform_edt(~others) if others.any() else np.full(others.shape, np.inf)
    shape = (away <= aside) & (away < from_others)
    spans = _spans(shape)
    if int((_filled(spans, shape.shape) & others).sum()) > _TRACE * letter.sum():
        return None
    outline = _outline(spans, survey, window)
    edges = [[getattr(corner, axis) for corner in outline] for axis in ("x", "y")]
    cut = Cut(min(edges[0]), min(edges[1]), max(edges[0]), max(edges[1]), outline)
    return FirstLetter(cut, survey.in_artwork(box), colour)


def _is_dot_of(other: Region, letter: Region, row: Row) -> bool:
    """Whether a part is the dot or an accent above a letter."""
    middle = (other.box.left + other.box.right) / 2
    above = letter.box.top - row.height < other.box.top and other.box.bottom <= letter.box.top
    return other.kind > 0 and above and letter.box.left <= middle <= letter.box.right


def _spans(shape: NDArray[np.bool_]) -> NDArray[np.intp]:
    """Row, first and last column of the px in each row that has any: shape (rows, 3)."""
    rows = np.flatnonzero(shape.any(axis=1))
    first = shape[rows].argmax(axis=1)
    last = shape.shape[1] - shape[rows, ::-1].argmax(axis=1)
    return np.column_stack([rows, first, last])


def _filled(spans: NDArray[np.intp], size: tuple[int, ...]) -> NDArray[np.bool_]:
    columns = np.arange(size[1])
    filled = np.zeros(size, dtype=bool)
    filled[spans[:, 0]] = (columns >= spans[:, 1:2]) & (columns < spans[:, 2:])
    return filled


def _outline(spans: NDArray[np.intp], survey: Survey, window: Box) -> tuple[Point, ...]:
    """Down one side of the letter and up the other, in artwork px."""
    step = -(-len(spans) // (MOST_POINTS // 2 - 2))
    chosen = np.unique([*range(0, len(spans), step), len(spans) - 1])
    rows, left, right = spans[chosen].T
    rows = rows + np.where(chosen == len(spans) - 1, 1, 0)
    corners = [*zip(left, rows, strict=True), *zip(right[::-1], rows[::-1], strict=True)]
    scale = survey.scale
    return tuple(
        Point(round(survey.x + (window.left + x) * scale), round(survey.y + (window.top + y) * scale))
        for x, y in corners
    )
