"""Cutting some regions of a drawing out along their own shape, where others lie in their box."""

from collections.abc import Collection

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.artwork.ink import Box
from bexi.core.framing.cut import MOST_POINTS, Cut, Point
from bexi.core.judging.regions import around
from bexi.core.judging.survey import Survey

_TRACE = 0.004
"""No more than this share of the regions' area may be ink of others."""

_BESIDE = 3
"""In px of the drawing: a box in artwork px is wider by one, and soft edges take two."""


def lie_alone(survey: Survey, labels: Collection[int], beneath: Collection[int] = ()) -> bool:
    """Whether no ink of others lies in the box of some regions, or right beside it, but for what is beneath them."""
    box = around([survey.drawing.regions[label].box for label in labels])
    part = np.s_[max(0, box.top - _BESIDE) : box.bottom + _BESIDE, max(0, box.left - _BESIDE) : box.right + _BESIDE]
    kinds, own = survey.drawing.kinds[part], np.isin(survey.drawing.labels[part], [*labels, *beneath])
    return not ((kinds > 0) & ~own).any()


def cut_along(survey: Survey, labels: Collection[int], aside: float, beneath: Collection[int] = ()) -> Cut | None:
    """Around some regions and what they hold, so much of their height beside them, nearer where others are near.

    `beneath` are regions that they lie on, a badge. None where too much of others lies between them.
    """
    drawing = survey.drawing
    box = around([drawing.regions[label].box for label in labels])
    reach = max(2, round(aside * box.height))
    high, wide = drawing.kinds.shape
    window = Box(
        max(0, box.left - reach), max(0, box.top - reach), min(wide, box.right + reach), min(high, box.bottom + reach)
    )
    part = np.s_[window.top : window.bottom, window.left : window.right]
    own = np.isin(drawing.labels[part], list(labels))
    filled = ndimage.binary_fill_holes(own)
    others = (drawing.kinds[part] > 0) & ~filled & ~np.isin(drawing.labels[part], list(beneath))
    away = ndimage.distance_transform_edt(~filled)
    from_others = ndimage.distance_transform_edt(~others) if others.any() else np.full(others.shape, np.inf)
    shape = (away <= reach) & (away < from_others)
    spans = _spans(shape)
    if int((_filled(spans, shape.shape) & others).sum()) > _TRACE * own.sum():
        return None
    outline = _outline(spans, survey, window)
    edges = [[getattr(corner, axis) for corner in outline] for axis in ("x", "y")]
    return Cut(min(edges[0]), min(edges[1]), max(edges[0]), max(edges[1]), outline)


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
