"""Widths of strokes and gaps: twice the distance to the nearest edge, along the middle of what they lie between."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.judging.drawing import Drawing
from bexi.core.judging.regions import lines_around

_ALONGSIDE = 0.2
"""Sides that part faster than so much (sine of half their angle) are a corner or a tip, not a stroke."""
_ALONGSIDE_GAP = 0.17
"""For gaps: where the arms of an M or an A part, there is no gap that could close."""
_REACH = 4
"""In px; over so many the slope is measured, so that it is not that of the px' own steps."""
_THINNEST, _USUAL = 0.3, 0.5


@dataclass(frozen=True, eq=False)
class Widths:
    """Widths along middle lines, each with the length it stands for and its place; all in px of the drawing."""

    width: NDArray[np.float64]
    length: NDArray[np.float64]
    x: NDArray[np.float64]
    y: NDArray[np.float64]

    @classmethod
    def none(cls) -> "Widths":
        """Nothing found."""
        return cls(*(np.zeros(0) for _ in range(4)))

    def only(self, chosen: NDArray[np.bool_]) -> "Widths":
        """Some of them."""
        return Widths(*(values[chosen] for values in (self.width, self.length, self.x, self.y)))

    @property
    def thinnest(self) -> float | None:
        """That which three tenths of the area are thinner than: no hair around a mark is taken for its strokes."""
        return self._reached(_THINNEST, self.length * self.width)

    @property
    def usual(self) -> float | None:
        """The median by length, which a notch or a counter does not change."""
        return self._reached(_USUAL, self.length)

    def _reached(self, share: float, weights: NDArray[np.float64]) -> float | None:
        """The width up to which there is a share of the weights; None where nothing was found."""
        if not len(self.width):
            return None
        order = np.argsort(self.width, kind="stable")
        reached = np.cumsum(weights[order])
        return float(self.width[order][np.searchsorted(reached, share * reached[-1])])


def strokes_and_gaps(drawing: Drawing) -> tuple[Widths, Widths]:
    """Widths of the strokes, and of the gaps between and inside them; a plate's own colour is the ground on it.

    A thin line around the mark counts for nothing: it may go, and the mark is told all the same.
    """
    drawing = _without_lines(drawing)
    kinds = drawing.kinds
    distance = _to_edge(kinds)
    if np.isinf(distance).any():
        return Widths.none(), Widths.none()
    between = (kinds == 0) | (kinds == (drawing.carrier or 0))
    slope = _slope(kinds, distance)
    y, x = np.nonzero(slope < np.where(between, _ALONGSIDE_GAP, _ALONGSIDE) ** 2)
    # A width of 2n − 1 or 2n px has its middle n px from what lies beyond.
    width = 2 * distance[y, x] - 0.5
    is_gap = between[y, x]
    strokes, gaps = (
        Widths(width[chosen], np.ones(int(chosen.sum())), x[chosen].astype(float), y[chosen].astype(float))
        for chosen in (~is_gap, is_gap)
    )
    return _with_blobs(strokes, drawing, distance), gaps


def _without_lines(drawing: Drawing) -> Drawing:
    """The same with what lies around them in the place of thin lines around the mark."""
    lines = [line.label for line in lines_around(drawing.regions)]
    if not lines:
        return drawing
    kinds = drawing.kinds.ravel()
    kept = kinds[drawing.areas.firsts]
    kept[lines] = kinds[np.maximum(drawing.areas.firsts[lines] - 1, 0)]
    return replace(drawing, kinds=kept[drawing.labels])


def _with_blobs(strokes: Widths, drawing: Drawing, distance: NDArray[np.float64]) -> Widths:
    """Each region counts as a stroke as long as it is thick: a disc has a middle point only."""
    ink = [region for region in drawing.regions if region.kind and region.kind != drawing.carrier]
    ink = ink or [region for region in drawing.regions if region.kind]
    if not ink:
        return strokes
    y, x = _thickest(distance, drawing.labels)[:, [region.label for region in ink]]
    width = 2 * distance[y, x] - 0.5
    added = (width, width, x, y)
    kept = (strokes.width, strokes.length, strokes.x, strokes.y)
    return Widths(*(np.concatenate(pair) for pair in zip(kept, added, strict=True)))


def _thickest(distance: NDArray[np.float64], labels: NDArray[np.int32]) -> NDArray[np.intp]:
    """Row and column of the px of each label that is furthest from its edge: shape (2, labels)."""
    flat = labels.ravel()
    most = np.zeros(int(flat.max()) + 1)
    np.maximum.at(most, flat, distance.ravel())
    furthest = np.flatnonzero(distance.ravel() == most[flat])
    at = np.zeros(len(most), dtype=np.intp)
    at[flat[furthest[::-1]]] = furthest[::-1]  # of several the first
    return np.array(np.unravel_index(at, labels.shape))


def _to_edge(kinds: NDArray[np.uint8]) -> NDArray[np.float64]:
    """Distance in px from each px to the nearest of another kind; infinite where there is one kind only."""
    at_edge = np.zeros(kinds.shape, dtype=bool)
    down, across = kinds[1:] != kinds[:-1], kinds[:, 1:] != kinds[:, :-1]
    at_edge[1:] |= down
    at_edge[:-1] |= down
    at_edge[:, 1:] |= across
    at_edge[:, :-1] |= across
    if not at_edge.any():
        return np.full(kinds.shape, np.inf)
    distance: NDArray[np.float64] = ndimage.distance_transform_edt(~at_edge) + 1
    return distance


def _slope(kinds: NDArray[np.uint8], distance: NDArray[np.float64]) -> NDArray[np.float64]:
    """The square of how fast the distance changes; little in the middle between two sides that run alongside."""
    down = _change(kinds, distance)
    across = _change(np.ascontiguousarray(kinds.T), np.ascontiguousarray(distance.T)).T
    slope: NDArray[np.float64] = down**2 + across**2
    return slope


def _change(kinds: NDArray[np.uint8], distance: NDArray[np.float64]) -> NDArray[np.float64]:
    """By how much the distance changes down each px; the drawing goes on beyond its rim."""
    room = ((_REACH, _REACH), (0, 0))
    its_kind, its_distance = np.pad(kinds, room, "edge"), np.pad(distance, room, "edge")
    ahead, behind = (
        np.where(its_kind[rows] == kinds, its_distance[rows], -its_distance[rows])  # negative: another kind
        for rows in (np.s_[2 * _REACH :], np.s_[: -2 * _REACH])
    )
    change: NDArray[np.float64] = (ahead - behind) / (2 * _REACH)
    return change
