"""What a badge shows of an opaque ground: letters and marks that are cut out of it, and no ground."""

from dataclasses import replace

import numpy as np
from scipy import ndimage

from bexi.core.judging.drawing import Drawing
from bexi.core.judging.regions import Region

_FULL = 0.72
"""Of its box, holes and all: a badge [a disc fills 0.79],"""
_LOW = 0.62
"""whose marks are no higher than this share of it, as what an O and a D have inside is,"""
_LEAST = 0.04
"""and have so much of its area; less is a hole in it."""
_LETTERS = 3
"""So many are letters on a ring, which shows the ground in its middle, too."""


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


def _marks_on(drawing: Drawing, badge: Region, holes: list[Region]) -> list[Region]:
    """Those of the holes in a region that are marks on it; none where it is no badge."""
    box = badge.box
    marks = [hole for hole in holes if hole.box.height <= _LOW * box.height]
    is_ring = len(marks) < len(holes)
    if badge.kind == 0 or (is_ring and len(marks) < _LETTERS):
        return []
    if sum(mark.area for mark in marks) < _LEAST * badge.area:
        return []
    own = drawing.labels[box.top : box.bottom, box.left : box.right] == badge.label
    return marks if ndimage.binary_fill_holes(own).mean() > _FULL else []
