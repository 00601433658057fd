"""How many of the long straight edges fall on the borders of an icon's pixels."""

import numpy as np
from numpy.typing import NDArray

from bexi.core.judging.drawing import Drawing

_ON = 0.15
"""In px of the icon."""
_LONG = 0.12
"""An edge is long from this share of the side on."""


def edges(drawing: Drawing) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Length in px of the straight edges before each column, and before each row, short ones left out."""
    across = (drawing.kinds[:, 1:] != drawing.kinds[:, :-1]).sum(axis=0).astype(np.float64)
    down = (drawing.kinds[1:] != drawing.kinds[:-1]).sum(axis=1).astype(np.float64)
    least = _LONG * len(drawing.kinds)
    columns, rows = (np.where(lengths >= least, lengths, 0) for lengths in (across, down))
    return columns, rows


def share_on_borders(
    lengths: NDArray[np.float64], size: int, scale: float = 1, shift: float = 0
) -> tuple[float, float]:
    """How much of the edges' length falls on borders of an icon of `size` px, and how much there is.

    They are first scaled about the middle and then shifted by so many px of the icon.
    """
    places = (np.arange(1, len(lengths) + 1) / (len(lengths) + 1) - 0.5) * scale * size + size / 2 + shift
    on = np.abs(places - np.rint(places)) <= _ON
    return float(lengths[on].sum()), float(lengths.sum())


def fit(drawing: Drawing, size: int) -> float | None:
    """The share, 0 to 1; None for a drawing without long straight edges."""
    on, there = (sum(pair) for pair in zip(*(share_on_borders(one, size) for one in edges(drawing)), strict=True))
    return on / there if there else None
