"""The drawing that a hand works on, large, and of which colour each of its samples is."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.shapes import main_colours, nearest_of
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import ALPHA, Pixels

SIDE = 384
"""Samples along the side of the drawing: a whole number for each px of an icon by hand."""
Mask = NDArray[np.bool_]
DIFFERENCE = 40
"""Of 255, over a few samples: less is a step of a fade."""
ACROSS = 2
SPECK = 16
"""In samples: a smaller piece is none."""
MOST_PARTS = 300
"""A drawing of more pieces of a colour is a texture."""
_CRISP = 0.8
"""Of all samples where one colour meets another: with fewer that differ at once, the colours are those of a fade."""


@dataclass(frozen=True, eq=False)
class Kinds:
    """For each sample 0 for what lies around, else the number of a colour, the smaller the more ground it is.

    `colours` are those of the numbers, None for what is clear.
    """

    numbers: NDArray[np.uint8]
    colours: tuple[Colour | None, ...]

    @property
    def inks(self) -> dict[int, Colour]:
        """All but what lies around, and but what is clear, by their numbers in order."""
        return {number: colour for number, colour in enumerate(self.colours) if number and colour}


def flat_kinds_of(pixels: Pixels) -> Kinds | None:
    """The same; None, too, for fades and photographs, whose colours are no shapes."""
    told = kinds_of(pixels)
    if told is None:
        return None
    solid = pixels.astype(np.int16)
    turned = solid.swapaxes(0, 1)
    colours = np.array([(*colour.channels, 255) if colour else (0, 0, 0, 0) for colour in told.colours], dtype=np.int16)
    sharp = np.concatenate([_is_sharp(told.numbers, solid, colours), _is_sharp(told.numbers.T, turned, colours)])
    return told if sharp.size and sharp.mean() >= _CRISP else None


def _is_sharp(numbers: NDArray[np.uint8], solid: NDArray[np.int16], colours: NDArray[np.int16]) -> Mask:
    """Of each place where one column's colour meets the next one's, whether it is the other at once, hairlines, too."""
    rows, columns = np.nonzero(numbers[:, :-1] != numbers[:, 1:])
    last = numbers.shape[1] - 1
    left, right = solid[rows, columns], solid[rows, columns + 1]
    before, behind = solid[rows, np.maximum(columns - ACROSS, 0)], solid[rows, np.minimum(columns + 1 + ACROSS, last)]
    pairs = ((before, right), (left, behind), (before, behind))
    away = np.max([np.abs(one - other).max(axis=-1, initial=0) for one, other in pairs], axis=0)
    told = np.abs(colours[numbers[rows, columns]] - colours[numbers[rows, columns + 1]]).max(axis=-1, initial=0)
    sharp: Mask = away >= np.minimum(DIFFERENCE, told / 2)
    return sharp


def kinds_of(pixels: Pixels) -> Kinds | None:
    """Those of a drawing, shape (SIDE, SIDE, 4); None where there is no ink."""
    ink = pixels[..., ALPHA] > 127
    colours = [one.colour for one in main_colours(pixels, ink)]
    if not colours:
        return None
    if len(colours) == 1:
        return Kinds(ink.astype(np.uint8), (None, *colours))
    numbers = np.where(ink, nearest_of(pixels, colours)[0] + 1, 0)
    rim = np.concatenate([numbers[0], numbers[-1], numbers[:, 0], numbers[:, -1]])
    count = len(colours) + 1
    weight = np.bincount(numbers.ravel(), minlength=count) + pixels.size * np.bincount(rim, minlength=count)
    order = np.argsort(-weight, kind="stable")
    ranks = np.empty(count, dtype=np.uint8)
    ranks[order] = np.arange(count)
    return Kinds(ranks[numbers], tuple([None, *colours][number] for number in order))
