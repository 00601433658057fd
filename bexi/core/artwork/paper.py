"""White paper around a logo that was cut out so closely that its ink lies along most of the picture's edge."""

from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.pixels.light import Pixels

_WHITE = 240
"""Of 255: each channel of paper is lighter."""
_LEAST = 0.3
"""Of the edge: where less is paper, the ink fills the picture."""
_STEP, _FEW, _MOST = 32, 8, 0.8
"""Colours within a step are one, of 255; so few of them make most of a drawing."""
_LOOKED_AT = 512
"""Px along the longer side are enough to count colours."""
_SHORT = 0.15
"""Of the whole edge: ink that reaches it on letters' feet and sides runs along it no further."""
_RECTANGLE, _MOSTLY = 0.97, 0.9
"""What fills its box so far is a rectangle; of such the white of a flag is made, or that of a checker."""


def lies_on_paper(pixels: Pixels) -> bool:
    """Whether a drawing lies on white paper, though less of its edge is white than that of a picture with a ground.

    Either all corners are white, as around a shield, or the ink reaches the edge here and there, as a word's does.
    `pixels` are opaque, of shape (height, width, 4).
    """
    edge = np.all(_around(pixels[..., :3]) >= _WHITE, axis=-1)
    step = 1 + max(pixels.shape) // _LOOKED_AT
    if not _LEAST <= edge.mean() < 1 or not _has_few_colours(pixels[::step, ::step, :3]):
        return False
    has_corners = np.all(pixels[[0, 0, -1, -1], [0, -1, 0, -1], :3] >= _WHITE)
    reaches_here_and_there = _longest_run(~edge) <= _SHORT * len(edge)
    return bool(has_corners or reaches_here_and_there) and not _is_in_rectangles(
        np.all(pixels[..., :3] >= _WHITE, axis=-1)
    )


def _around(values: NDArray[Any]) -> NDArray[Any]:
    """Those along the edge, once around."""
    sides = (values[0, :-1], values[:-1, -1], values[-1, :0:-1], values[:0:-1, 0])
    return np.concatenate(sides)


def _has_few_colours(colours: NDArray[np.uint8]) -> bool:
    red, green, blue = (colours[..., channel] // _STEP for channel in range(3))
    counts = np.sort(np.bincount((red.astype(np.intp) * 64 + green * 8 + blue).ravel()))[::-1]
    return bool(counts[:_FEW].sum() >= _MOST * red.size)


def _longest_run(marked: NDArray[np.bool_]) -> int:
    """Of what is marked in a row whose end is followed by its beginning."""
    free = np.flatnonzero(~marked)
    return int(np.diff(free, append=free[0] + len(marked)).max()) - 1


def _is_in_rectangles(white: NDArray[np.bool_]) -> bool:
    """Whether the white at the edge is made of rectangles."""
    labels, _ = ndimage.label(white)
    at_edge = np.unique(_around(labels))
    areas = np.bincount(labels.ravel())
    boxes = ndimage.find_objects(labels)
    reached = [(areas[label], white[boxes[label - 1]].size) for label in at_edge.tolist() if label]
    flat = sum(area for area, box in reached if area >= _RECTANGLE * box)
    return bool(flat >= _MOSTLY * sum(area for area, _ in reached))
