"""Where on an icon its readings come from: the places that are shown on its enlarged picture."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bexi.core.judging.contrast import vanishing
from bexi.core.judging.measure import Lettering, Measured
from bexi.core.judging.readings import BOUNDS
from bexi.core.judging.strokes import Widths
from bexi.core.pixels.colour import Colour

_MOST = 60
"""Places of one kind; more cannot be told from each other."""


@dataclass(frozen=True)
class Spot:
    """A point in the square, 0 to 1 across and down, and what was measured there in px of the icon."""

    x: float
    y: float
    px: float


@dataclass(frozen=True)
class Marks:
    """Strokes and gaps that are not well, lines of letters, and points of the outline that vanish, by ground."""

    strokes: tuple[Spot, ...]
    gaps: tuple[Spot, ...]
    lettering: tuple[Lettering, ...]
    vanishing: Mapping[str, tuple[Spot, ...]]


def marks_of(measured: Measured, size: int, grounds: Mapping[str, Colour]) -> Marks:
    """The places of a framing at the size of an icon."""
    drawing = measured.drawing
    own = drawing.colours[0]
    under = {"own": own} if own is not None else grounds
    return Marks(
        _narrow(measured.strokes, size, BOUNDS["strokes"].well),
        _narrow(measured.gaps, size, BOUNDS["gaps"].well),
        measured.lettering,
        {name: _points(vanishing(drawing, ground)) for name, ground in under.items() if drawing.separable},
    )


def _narrow(widths: Widths, size: int, well: float) -> tuple[Spot, ...]:
    """The narrowest of those that are not well, spread over the icon."""
    chosen = np.flatnonzero(widths.width * size < well)
    chosen = chosen[:: max(1, -(-len(chosen) // _MOST))]
    return tuple(Spot(float(widths.x[at]), float(widths.y[at]), float(widths.width[at] * size)) for at in chosen)


def _points(mask: NDArray[np.bool_]) -> tuple[Spot, ...]:
    y, x = np.nonzero(mask)
    step = max(1, -(-len(y) // _MOST))
    side = len(mask)
    points = zip(x[::step].tolist(), y[::step].tolist(), strict=True)
    return tuple(Spot((across + 0.5) / side, (down + 0.5) / side, 0) for across, down in points)
