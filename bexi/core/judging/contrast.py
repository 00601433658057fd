"""How the outline of the ink stands out from what an icon stands on (WCAG 2.2, success criterion 1.4.11)."""

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from bexi.core.judging.drawing import Drawing
from bexi.core.pixels.colour import Colour, contrast

LIGHT_TAB, DARK_TAB = Colour(0xFF, 0xFF, 0xFF), Colour(0x2B, 0x35, 0x31)
"""Tabs as *Seen in place* shows them."""
VANISHED = 1.5
"""What stands out less than that is not seen as an edge."""
_LEAST_LEFT = 0.5
"""An icon of which a colour vanishes is seen by the rest, if that reaches over so much of its height or width."""


def of_outline(drawing: Drawing, grounds: Mapping[str, Colour]) -> dict[str, float]:
    """The ratio, 1 to 21, for each ground by its name; on a ground of the picture's own for that alone, as `own`."""
    if drawing.ink_box is None or not drawing.separable:
        return {}
    own = drawing.colours[0]
    if own is not None:
        return {"own": _ratio(drawing, own)}
    return {name: _ratio(drawing, ground) for name, ground in grounds.items()}


def vanishing(drawing: Drawing, ground: Colour) -> NDArray[np.bool_]:
    """The px of ink beside the ground whose colour does not stand out from it."""
    gone = np.array([False, *(contrast(colour, ground) < VANISHED for colour in drawing.colours[1:] if colour)])
    beside = np.zeros(drawing.kinds.shape, dtype=bool)
    down, across = drawing.kinds[1:] != drawing.kinds[:-1], drawing.kinds[:, 1:] != drawing.kinds[:, :-1]
    beside[1:] |= down & (drawing.kinds[:-1] == 0)
    beside[:-1] |= down & (drawing.kinds[1:] == 0)
    beside[:, 1:] |= across & (drawing.kinds[:, :-1] == 0)
    beside[:, :-1] |= across & (drawing.kinds[:, 1:] == 0)
    vanished: NDArray[np.bool_] = beside & gone[drawing.kinds]
    return vanished


def _ratio(drawing: Drawing, ground: Colour) -> float:
    """That of the outline; colours that vanish in the ground are ground for the others, if these still tell enough."""
    colours = [ground, *(colour for colour in drawing.colours[1:] if colour)]
    outline = {0}
    first = _median(drawing, colours, outline)
    while True:
        beside = {kind for kind in range(1, len(colours)) if drawing.beside[kind, sorted(outline)].any()} - outline
        gone = {kind for kind in beside if contrast(colours[kind], ground) < VANISHED}
        if not gone:
            break
        outline |= gone
    return _median(drawing, colours, outline) if _tells_enough(drawing, outline) else first


def _tells_enough(drawing: Drawing, gone: set[int]) -> bool:
    left = ~np.isin(np.arange(len(drawing.colours)), sorted(gone))[drawing.kinds]
    box = drawing.ink_box
    if box is None or not left.any():
        return False
    high, wide = np.flatnonzero(left.any(axis=1)), np.flatnonzero(left.any(axis=0))
    return bool(np.ptp(high) >= _LEAST_LEFT * box.height or np.ptp(wide) >= _LEAST_LEFT * box.width)


def _median(drawing: Drawing, colours: list[Colour], outside: set[int]) -> float:
    """The median contrast along the border between some kinds and the rest."""
    pairs = [
        (contrast(colours[inner], colours[outer]), int(drawing.beside[inner, outer]))
        for inner in range(len(colours))
        for outer in outside
        if inner not in outside and drawing.beside[inner, outer]
    ]
    if not pairs:
        return 1.0
    ratios, lengths = (np.array(values, dtype=float) for values in zip(*sorted(pairs), strict=True))
    reached = np.cumsum(lengths)
    return float(ratios[np.searchsorted(reached, reached[-1] / 2)])
