"""What a badge shows of an opaque ground: letters and marks that are cut out of it, and no ground."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage
from scipy.spatial import ConvexHull

from bexi.core.judging.drawing import Drawing
from bexi.core.judging.letter_shapes import are_letters
from bexi.core.judging.regions import Region

_FULL = 0.72
"""Of its box, holes and all: a badge [a disc fills 0.79],"""
_LOW = 0.62
"""whose marks are no higher than this share of it, as what an O and a D have inside is,"""
_LEAST = 0.04
"""and have so much of its area; less is a hole in it, unless they are letters."""
_LETTERS = 3
"""So many are letters on a ring, which shows the ground in its middle, too."""
_PLAIN = 0.85
"""Of its convex hull, what a counter fills."""


def with_cut_out_marks(drawing: Drawing) -> Drawing:
    """The same with what badges show of the ground as ink in the ground's colour."""
    holes: dict[int, list[Region]] = {}
    labels = drawing.labels
    for region in drawing.regions:
        if region.kind == 0 and not region.at_edge:
            beside = drawing.areas.firsts[region.label] - 1  # to the left of its first px
            holes.setdefault(int(labels.ravel()[beside]), []).append(region)
    cut_out = [mark.label for badge, its in holes.items() for mark in _marks_on(drawing, drawing.regions[badge], its)]
    if not cut_out:
        return drawing
    own = len(drawing.colours)
    kinds = np.where(np.isin(labels, cut_out), np.uint8(own), drawing.kinds)
    opacities = (*drawing.opacities, 1.0) if drawing.opacities else ()
    return replace(drawing, kinds=kinds, colours=(*drawing.colours, drawing.colours[0]), opacities=opacities)


def _are_counters(labels: NDArray[np.int32], holes: list[Region]) -> bool:
    """Whether holes are what a bold letter has inside: a plain one, or two that lie above each other."""
    if not 1 <= len(holes) <= 2 or any(_roundness(labels, hole) < _PLAIN for hole in holes):
        return False
    first, last = holes[0].box, holes[-1].box
    is_above = first.bottom <= last.top and first.left < last.right and last.left < first.right
    return len(holes) == 1 or is_above


def _roundness(labels: NDArray[np.int32], hole: Region) -> float:
    """How much of its convex hull a hole fills, 0 to 1."""
    box = hole.box
    own = labels[box.top : box.bottom, box.left : box.right] == hole.label
    ends = own.argmax(axis=1), own.shape[1] - own[:, ::-1].argmax(axis=1)
    rows = np.arange(len(own))
    corners = np.concatenate([np.stack([end, rows + below], axis=1) for end in ends for below in (0, 1)])
    return float(hole.area / ConvexHull(corners).volume)


def _marks_on(drawing: Drawing, badge: Region, holes: list[Region]) -> list[Region]:
    """Those of the holes in a region that are marks on it; none where it is no badge."""
    box = badge.box
    marks = [hole for hole in holes if hole.box.height <= _LOW * box.height]
    is_ring = len(marks) < len(holes)
    if badge.kind == 0 or (is_ring and len(marks) < _LETTERS):
        return []
    if sum(mark.area for mark in marks) < _LEAST * badge.area and not are_letters(marks):
        return []
    own = drawing.labels[box.top : box.bottom, box.left : box.right] == badge.label
    is_badge = ndimage.binary_fill_holes(own).mean() > _FULL and not _are_counters(drawing.labels, marks)
    return marks if is_badge else []
