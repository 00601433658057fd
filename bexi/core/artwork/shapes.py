"""Colours and separate parts of the ink."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from bexi.core.artwork.ink import Box
from bexi.core.pixels.areas import areas_of
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels, words_of
from bexi.core.pixels.oklab import oklab

MOST_COLOURS = 6
_STEPS = np.rint(np.linspace(0, 255, 32)).astype(np.uint8)
_GRID = np.stack(np.meshgrid(_STEPS, _STEPS, _STEPS, indexing="ij"), axis=-1).reshape(-1, 3)
_SAME_COLOUR = 0.06
"""Colours nearer than this in OKLab are counted as one."""
_COUNTED = 15_000
"""Colours are counted among about this many pixels of ink."""
_TRACE = 0.01
_SPECK = 0.0005
"""A part that covers less than this share of the picture is noise."""


@dataclass(frozen=True)
class MainColour:
    """A colour and the share of the ink it covers, 0 to 1."""

    colour: Colour
    share: float


def main_colours(pixels: Pixels, mask: NDArray[np.bool_]) -> tuple[MainColour, ...]:
    """The main colours of the masked ink, the largest first; half-clear edge pixels do not count."""
    words = words_of(pixels)[mask & (pixels[..., 3] > 127)]
    if not len(words):
        return ()
    ink = words[:: -(-len(words) // _COUNTED), None].view(np.uint8)[:, :3]
    strip = Image.fromarray(ink.reshape(1, -1, 3)).quantize(4 * MOST_COLOURS, Image.Quantize.MEDIANCUT)
    colours, counts = _commonest(ink, np.asarray(strip).ravel())
    together = sorted(_alike_together(colours, counts).items(), key=lambda one: -one[1])
    return tuple(
        MainColour(Colour(*(int(channel) for channel in colours[number])), count / len(ink))
        for number, count in together[:MOST_COLOURS]
        if count / len(ink) > _TRACE
    )


def _alike_together(colours: NDArray[np.uint8], counts: NDArray[np.intp]) -> dict[int, int]:
    """How many px each colour has, by its number, with those of later ones that look like it."""
    places = oklab(colours)
    together: dict[int, int] = {}
    for number, count in enumerate(counts.tolist()):
        away = np.linalg.norm(places[list(together)] - places[number], axis=-1)
        first = next((known for known, far in zip(together, away, strict=True) if far < _SAME_COLOUR), number)
        together[first] = together.get(first, 0) + count
    return together


def _commonest(ink: NDArray[np.uint8], numbers: NDArray[np.uint8]) -> tuple[NDArray[np.uint8], NDArray[np.intp]]:
    """Of each group of px, told by its number, the commonest colour and how many px it has; the largest group first."""
    red, green, blue = ink.astype(np.uint32).T
    values, counts = np.unique(
        numbers.astype(np.uint32) << 24 | red << 16 | green << 8 | blue, return_counts=True
    )  # in the order of the groups
    firsts = np.flatnonzero(np.diff(values >> 24, prepend=-1))
    sizes = np.add.reduceat(counts, firsts)
    commonest = [first + int(its.argmax()) for first, its in zip(firsts, np.split(counts, firsts[1:]), strict=True)]
    colours = np.stack([values[commonest] >> shift & 255 for shift in (16, 8, 0)], axis=-1).astype(np.uint8)
    order = np.argsort(-sizes, kind="stable")
    return colours[order], sizes[order]


def nearest_of(pixels: Pixels, colours: Sequence[Colour]) -> tuple[NDArray[np.uint8], NDArray[np.float32]]:
    """Number of, and OKLab distance to, the nearest of some colours; all looked up in 32 steps for each channel."""
    known = _STEPS[np.array([colour.channels for colour in colours], dtype=np.uint8) >> 3]
    words = words_of(pixels)
    cell = (words << 7) & (31 << 10) | (words >> 6) & (31 << 5) | (words >> 19) & 31
    there = np.flatnonzero(np.bincount(cell.ravel(), minlength=len(_GRID)))
    away = np.linalg.norm(oklab(_GRID[there])[:, None] - oklab(known), axis=-1)
    nearest, distances = np.zeros(len(_GRID), dtype=np.uint8), np.zeros(len(_GRID), dtype=np.float32)
    nearest[there], distances[there] = away.argmin(axis=1), away.min(axis=1)
    return np.take(nearest, cell), np.take(distances, cell)


def parts(mask: NDArray[np.bool_]) -> tuple[Box, ...]:
    """The separate parts of the ink, the largest first; those that touch, corners included, are one."""
    areas = areas_of(mask.view(np.uint8), corners=True)
    found = (areas.sizes >= _SPECK * mask.size) & mask.ravel()[areas.firsts]
    largest_first = np.flatnonzero(found)[np.argsort(-areas.sizes[found], kind="stable")]
    return tuple(Box(*box) for box in areas.boxes[largest_first].tolist())
