"""Parts of a drawing, such as paws, that stand on a line as letters do."""

import numpy as np
from scipy import ndimage

from bexi.core.judging.drawing import Drawing
from bexi.core.judging.letter_shapes import winding
from bexi.core.judging.regions import Region
from bexi.core.judging.rows import Row

_FEW = 4
"""A longer line is lettering, whatever lies behind it."""
_PLAIN = 1.02
"""Of its box's outline: that of a part without notches and holes, as few letters are."""
_WITHIN = 0.8
"""Of its edge, a letter has so much within one colour."""
_ALL_AROUND = np.ones((3, 3), dtype=bool)


def is_drawn(row: Row, drawing: Drawing) -> bool:
    """Whether the few parts of a line lie on the edge of something larger.

    Most do where they are of several colours, half where most are without a notch.
    """
    if len(row.parts) > _FEW:
        return False
    are_mixed = len({part.kind for part in row.parts}) > 1
    are_blocks = 2 * sum(winding(part) <= _PLAIN for part in row.parts) > len(row.parts)
    on_edge = 2 * sum(_lies_on_edge(part, drawing) for part in row.parts) if are_mixed or are_blocks else 0
    return on_edge > len(row.parts) or (are_blocks and on_edge == len(row.parts))


def _lies_on_edge(part: Region, drawing: Drawing) -> bool:
    """Whether a part borders on two colours, as what is drawn half within another shape."""
    box = part.box  # never at the edge of the drawing, which has room around its ink
    window = (slice(box.top - 1, box.bottom + 1), slice(box.left - 1, box.right + 1))
    own = drawing.labels[window] == part.label
    around = drawing.kinds[window][ndimage.binary_dilation(own, _ALL_AROUND) & ~own]
    return bool(np.bincount(around).max() < _WITHIN * around.size)
