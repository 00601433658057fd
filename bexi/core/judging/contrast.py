"""How well the mark stands out from what it stands on (WCAG 2.2, success criterion 1.4.11).

Read is the best-seen structure that carries the mark: its outline, or, on a plate, what the plate carries. Which these
are is a matter of shape alone, so that making any border more visible never makes the reading less.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from bexi.core.judging.drawing import Drawing
from bexi.core.pixels.colour import Colour, contrast
from bexi.core.pixels.oklab import oklab

VANISHED = 1.5
"""What stands out less than that is not seen as an edge."""
_LEAST_LEFT = 0.33
"""What is inside carries the mark, if it reaches over so much of its height or width,"""
_LEAST_AREA = 0.01
"""and has so much of its area."""
_LADEN = 0.6
"""What carries the mark holds or touches something with so much of its area: a letter beside one whose counter is
white carries nothing."""
_PLATE = 0.72
"""A shape that fills so much of its box, holes and all, is a plate (a disc fills 0.79), and no mark by itself."""
_IN_ONE = 0.85
"""Of its area: a plate has so much in one piece; a counter has the rest."""
_MOST_KINDS = 6
_UNLIKE_HUES, _BY_HUE = 0.18, 1.5
"""In OKLab, lightness left aside, and the contrast that it stands for [common practice: red and violet are two]."""
_SEEN, _FULLY = 3.0, 4.5
"""WCAG 2.2, success criteria 1.4.11 and 1.4.3: what is better seen than the second makes up for nothing."""


def of_outline(drawing: Drawing, grounds: Mapping[str, Colour]) -> dict[str, float]:
    """The ratio, 1 to 21, for each ground by its name; on a ground of the picture's own for that alone, as `own`."""
    if drawing.ink_box is None or not drawing.separable:
        return {}
    own = drawing.colours[0]
    layers = ways_to_see(drawing)
    if own is not None:
        return {"own": _ratio(drawing, layers, own)}
    return {name: _ratio(drawing, layers, ground) for name, ground in grounds.items()}


def vanishing(drawing: Drawing, ground: Colour) -> NDArray[np.bool_]:
    """The px of ink beside the ground whose colour does not stand out from it."""
    gone = np.array([False, *(contrast(colour, ground) < VANISHED for colour in drawing.seen_on(ground)[1:])])
    beside = np.zeros(drawing.kinds.shape, dtype=bool)
    down, across = drawing.kinds[1:] != drawing.kinds[:-1], drawing.kinds[:, 1:] != drawing.kinds[:, :-1]
    beside[1:] |= down & (drawing.kinds[:-1] == 0)
    beside[:-1] |= down & (drawing.kinds[1:] == 0)
    beside[:, 1:] |= across & (drawing.kinds[:, :-1] == 0)
    beside[:, :-1] |= across & (drawing.kinds[:, 1:] == 0)
    vanished: NDArray[np.bool_] = beside & gone[drawing.kinds]
    return vanished


def _ratio(drawing: Drawing, layers: tuple[frozenset[int], ...], ground: Colour) -> float:
    borders = _borders(drawing, drawing.seen_on(ground))
    return max(_median(borders, outside) for outside in layers)


@lru_cache(maxsize=16)  # every size of a framing asks
def ways_to_see(drawing: Drawing) -> tuple[frozenset[int], ...]:
    """The kinds that lie around the mark, in each way to see it: the ground alone, or with what carries the mark.

    A plate is no mark: where one carries enough, the ground alone is none of the ways.
    """
    outermost, *inner = _ways(drawing)
    plates = {kind for kind in frozenset().union(*inner) if kind and _is_plate(drawing, kind)}
    plated = tuple(outside for outside in inner if outside - {0} <= plates)
    return plated or (outermost, *inner)


def _ways(drawing: Drawing) -> Iterator[frozenset[int]]:
    yield frozenset({0})
    count = len(drawing.colours)
    areas = np.bincount(drawing.kinds.ravel(), minlength=count).tolist()
    largest = sorted(range(1, count), key=lambda kind: -areas[kind])[:_MOST_KINDS]
    if len(largest) < 2:
        return
    laden, beside = _laden(drawing), drawing.beside.tolist()
    for number in range(1, len(largest)):
        for chosen in combinations(largest, number):
            outside = frozenset({0, *chosen})
            left = [kind for kind in range(1, count) if kind not in outside]
            if (
                _hang_together(beside, outside)
                and sum(laden[kind] for kind in chosen) >= _LADEN * sum(areas[kind] for kind in chosen)
                and _carry(beside, chosen, left)
                and sum(areas[kind] for kind in left) >= _LEAST_AREA * sum(areas[1:])
                and _reaches(left, drawing)
            ):
                yield outside


def _laden(drawing: Drawing) -> list[int]:
    """The area of each kind in regions that touch ink of another kind, in px."""
    is_ink = np.array([region.kind > 0 for region in drawing.regions])
    one, other = drawing.borders
    both, touching = is_ink[one] & is_ink[other], np.zeros(len(is_ink), dtype=bool)
    touching[one[both]] = touching[other[both]] = True
    areas = [0] * len(drawing.colours)
    for region, is_laden in zip(drawing.regions, touching.tolist(), strict=True):
        areas[region.kind] += region.area * is_laden
    return areas


def _hang_together(beside: Sequence[Sequence[int]], kinds: frozenset[int]) -> bool:
    """Whether each of the kinds is reached from the ground through the others."""
    reached, left = {0}, set(kinds) - {0}
    while near := {kind for kind in left if any(beside[kind][other] for other in reached)}:
        reached |= near
        left -= near
    return not left


def _carry(beside: Sequence[Sequence[int]], chosen: Sequence[int], left: Sequence[int]) -> bool:
    """Whether the rest lies on some kinds, not beside them: most of its outline is theirs."""
    theirs, free = (sum(beside[kind][other] for kind in left for other in of) for of in (chosen, [0]))
    return theirs >= free


def _reaches(kinds: Sequence[int], drawing: Drawing) -> bool:
    """Whether kinds reach over enough of the ink together."""
    boxes, ink = [region.box for region in drawing.regions if region.kind in kinds], drawing.ink_box
    if not boxes or ink is None:
        return False
    wide = max(box.right for box in boxes) - min(box.left for box in boxes) - 1
    high = max(box.bottom for box in boxes) - min(box.top for box in boxes) - 1
    return wide >= _LEAST_LEFT * ink.width or high >= _LEAST_LEFT * ink.height


def _is_plate(drawing: Drawing, kind: int) -> bool:
    """Whether a kind is one compact shape under all the rest."""
    drawing = drawing.coarse
    its = [region for region in drawing.regions if region.kind == kind]
    largest, ink = max(its, key=lambda region: region.area, default=None), drawing.ink_box
    if largest is None or ink is None:  # traces of it, which every second px leaves out
        return False
    if largest.area < _IN_ONE * sum(region.area for region in its):  # the flap and the body of an envelope
        return False
    box = largest.box
    if box.width * box.height < 0.9 * ink.width * ink.height:
        return False
    inside = drawing.kinds[box.top : box.bottom, box.left : box.right] > 0
    return bool(inside.mean() >= _PLATE)


@dataclass(frozen=True)
class _Border:
    """Where two kinds lie side by side, how long that is in px, and how far their colours are told apart."""

    kinds: tuple[int, int]
    length: int
    ratio: float


def _borders(drawing: Drawing, colours: Sequence[Colour]) -> list[_Border]:
    """All of a drawing; colours of one darkness but of unlike hues are told apart, with a look."""
    hues = oklab(np.array([colour.channels for colour in colours], dtype=np.uint8))[:, 1:]
    borders = []
    for one, other in combinations(range(len(colours)), 2):
        if length := int(drawing.beside[one, other]):
            by_hue = _BY_HUE if np.linalg.norm(hues[one] - hues[other]) >= _UNLIKE_HUES else 1.0
            borders.append(_Border((one, other), length, max(contrast(colours[one], colours[other]), by_hue)))
    return borders


def _median(borders: Sequence[_Border], outside: frozenset[int]) -> float:
    """The median contrast along the border between some kinds and the rest; without one, that of the best-seen."""
    parting = sorted(
        (border.ratio, border.length)
        for border in borders
        if (border.kinds[0] in outside) != (border.kinds[1] in outside)
    )
    if not parting:
        return max((border.ratio for border in borders), default=1.0)
    ratios, lengths = np.array(parting).T
    mean = float((np.minimum(ratios, _FULLY) * lengths).sum() / lengths.sum())
    if mean < _SEEN:
        return mean
    reached = np.cumsum(lengths)
    return max(_SEEN, float(ratios[np.searchsorted(reached, reached[-1] / 2)]))
