"""Colours that fade into each other, in any direction, as one."""

from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from bexi.core.judging.regions import Kinds
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels

_MEET = 0.1
"""Of the border of either: less is where soft edges were given to one of them."""
_SOFT = 0.35
"""Where less of the difference of two colours lies at their border, they run into each other."""


def joined(
    pixels: Pixels, kinds: Kinds, colours: list[Colour], reach: int
) -> tuple[Kinds, list[Colour], frozenset[int]]:
    """Colours that run into each other joined into one, the mean of all, as the steps of a gradient are.

    Told beside the new kinds and their colours is which of them were joined.
    """
    step = reach + 2
    join = list(range(len(colours) + 1))
    ways = ((pixels, kinds), (pixels.swapaxes(0, 1), kinds.T))  # a gradient may go down, too
    pairs, all_changes = (np.concatenate(both) for both in zip(*(_changes(*way, step) for way in ways), strict=True))
    borders = {
        (one, other): all_changes[(pairs == (one, other)).all(axis=1)]
        for one, other in combinations(range(1, len(join)), 2)
    }
    lengths = [sum(len(changes) for pair, changes in borders.items() if kind in pair) for kind in range(len(join))]
    for (number, beyond), changes in borders.items():
        if len(changes) >= max(2 * step, _MEET * min(lengths[number], lengths[beyond])):
            across = np.median(changes)
            whole = max(
                abs(a - b) for a, b in zip(colours[number - 1].channels, colours[beyond - 1].channels, strict=True)
            )
            if across < _SOFT * whole:
                both = join[number], join[beyond]
                join = [min(both) if target in both else target for target in join]
    kept = sorted(set(join))
    renumbered = np.array([kept.index(target) for target in join], dtype=np.uint8)
    joint = renumbered[kinds]
    own = (_mean(pixels[joint == number]) if join.count(kind) > 1 else None for number, kind in enumerate(kept))
    fading = frozenset(number for number, kind in enumerate(kept) if join.count(kind) > 1)
    return joint, [mean or colours[kind - 1] for mean, kind in zip(own, kept, strict=True) if kind], fading


def _mean(pixels: Pixels) -> Colour | None:
    """That of some opaque pixels, if there are any: shape (n, 4)."""
    opaque = pixels[pixels[:, 3] > 127, :3]
    return Colour(*(int(channel) for channel in np.rint(opaque.mean(axis=0)))) if len(opaque) else None


def _changes(pixels: Pixels, kinds: Kinds, step: int) -> tuple[NDArray[np.uint8], NDArray[np.int16]]:
    """The two kinds, the lower first, at each border between kinds of ink along rows, shape (borders, 2), and by how
    much the colour changes there over `step` px."""
    here, there = kinds[:, :-step], kinds[:, step:]
    rows, columns = np.nonzero((here != there) & (here > 0) & (there > 0))
    pairs = np.stack([here[rows, columns], there[rows, columns]], axis=-1)
    before, behind = pixels[rows, columns, :3].astype(np.int16), pixels[rows, columns + step, :3]
    changes: NDArray[np.int16] = np.abs(before - behind).max(axis=-1, initial=0)
    return np.sort(pairs, axis=-1), changes
