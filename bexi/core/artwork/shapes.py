"""Colours and separate parts of the ink."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from bexi.core.artwork.ink import Box
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels
from bexi.core.pixels.oklab import distance_to, oklab

MOST_COLOURS = 6
_STEPS = np.rint(np.linspace(0, 255, 32)).astype(np.uint8)
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
    ink = pixels[mask & (pixels[..., 3] > 127), :3]
    if not len(ink):
        return ()
    ink = ink[:: -(-len(ink) // _COUNTED)]
    strip = Image.fromarray(ink.reshape(1, -1, 3)).quantize(4 * MOST_COLOURS, Image.Quantize.MEDIANCUT)
    indices = np.asarray(strip).ravel()
    found: list[tuple[NDArray[np.uint8], int]] = []
    for index in np.argsort(-np.bincount(indices), kind="stable"):
        members = ink[indices == index]
        if len(members):
            found = _counted(found, _commonest(members), len(members))
    shares = sorted(((count / len(ink), colour) for colour, count in found), key=lambda one: -one[0])
    return tuple(
        MainColour(Colour(*(int(channel) for channel in colour)), share)
        for share, colour in shares[:MOST_COLOURS]
        if share > _TRACE
    )


def _counted(
    found: list[tuple[NDArray[np.uint8], int]], colour: NDArray[np.uint8], count: int
) -> list[tuple[NDArray[np.uint8], int]]:
    """The colours with `count` more px of one, added to a known one that looks alike."""
    for position, (known, so_far) in enumerate(found):
        if distance_to(colour, known) < _SAME_COLOUR:
            return [*found[:position], (known, so_far + count), *found[position + 1 :]]
    return [*found, (colour, count)]


def _commonest(colours: NDArray[np.uint8]) -> NDArray[np.uint8]:
    values = colours.astype(np.uint32) @ np.array([65536, 256, 1], dtype=np.uint32)
    unique, counts = np.unique(values, return_counts=True)
    value = int(unique[counts.argmax()])
    return np.array([value >> 16, value >> 8 & 255, value & 255], dtype=np.uint8)


def nearest_of(pixels: Pixels, colours: Sequence[Colour]) -> tuple[NDArray[np.uint8], NDArray[np.float32]]:
    """Number of, and OKLab distance to, the nearest of some colours; all looked up in 32 steps for each channel."""
    grid = np.stack(np.meshgrid(_STEPS, _STEPS, _STEPS, indexing="ij"), axis=-1).reshape(-1, 3)
    known = _STEPS[np.array([colour.channels for colour in colours], dtype=np.uint8) >> 3]
    distances = np.linalg.norm(oklab(grid)[:, None] - oklab(known), axis=-1)
    coarse = pixels[..., :3] >> 3
    cell = (coarse[..., 0].astype(np.intp) << 10) | (coarse[..., 1].astype(np.intp) << 5) | coarse[..., 2]
    return distances.argmin(axis=1).astype(np.uint8)[cell], distances.min(axis=1).astype(np.float32)[cell]


def parts(mask: NDArray[np.bool_]) -> tuple[Box, ...]:
    """The separate parts of the ink, the largest first; those that touch, corners included, are one."""
    from scipy import ndimage  # on demand: importing it takes longer than reading a picture

    labels, count = ndimage.label(mask, structure=np.ones((3, 3)))
    sizes = np.bincount(labels.ravel(), minlength=count + 1)[1:]
    boxes = [
        (int(size), Box(columns.start, rows.start, columns.stop, rows.stop))
        for size, (rows, columns) in zip(sizes, ndimage.find_objects(labels), strict=True)
        if size >= _SPECK * mask.size
    ]
    return tuple(box for _, box in sorted(boxes, key=lambda part: -part[0]))
