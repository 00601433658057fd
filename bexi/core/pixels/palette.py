"""Fewer colours, with dithering, and how far that is from the picture."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bexi.core.pixels.light import Pixels

MOST_COLOURS = 256
_SAMPLE = 40_000
_TRIED = 6
"""So many near colours are tried for a mix."""
# Ordered dithering: each pixel of an 8 × 8 tile has a threshold of its own (Bayer, 1973).
_BAYER_2 = np.array([[0, 2], [3, 1]])
_BAYER_4 = np.block([[4 * _BAYER_2 + number for number in row] for row in _BAYER_2])
_BAYER = (np.block([[4 * _BAYER_4 + number for number in row] for row in _BAYER_2]) + 0.5) / 64


@dataclass(frozen=True, eq=False)
class Paletted:
    """A picture by numbers: `indices`, shape (height, width), into `colours`, shape (n, 4), sRGB and straight alpha."""

    indices: NDArray[np.uint8]
    colours: NDArray[np.uint8]

    @property
    def pixels(self) -> Pixels:
        """The picture as pixels."""
        pixels: Pixels = self.colours[self.indices]
        return pixels


def error(one: Pixels, other: Pixels) -> float:
    """How far two pictures are apart: the mean of all channels, 0 to 255, colour counted by its alpha."""
    return float(np.abs(_premultiplied(one) - _premultiplied(other)).mean())


def exact(pixels: Pixels) -> Paletted | None:
    """The picture by numbers without any loss; None when it has more than 256 colours."""
    colours, indices = _unique(pixels)
    return Paletted(indices.astype(np.uint8), colours) if len(colours) <= MOST_COLOURS else None


def paletted(pixels: Pixels, most: int) -> Paletted:
    """The picture in at most `most` colours, 2 to 256, others mixed of two by dithering."""
    whole = exact(pixels)
    if whole is not None and len(whole.colours) <= most:
        return whole
    seen, where = _unique(pixels)
    colours = _chosen(pixels, most)
    nearest, second, share = _mixes(_premultiplied(seen), _premultiplied(colours))
    height, width = where.shape
    thresholds = np.tile(_BAYER, (-(-height // 8), -(-width // 8)))[:height, :width]
    indices = np.where(share[where] > thresholds, second[where], nearest[where])
    return Paletted(indices.astype(np.uint8), colours)


def _mixes(
    wanted: NDArray[np.float32], colours: NDArray[np.float32]
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.float32]]:
    """For each colour the nearest of a palette, another one that it is best mixed with, and the other's share."""
    from scipy.spatial import cKDTree  # on demand: importing it takes longer than reading a picture

    near = np.atleast_2d(cKDTree(colours).query(wanted, k=min(_TRIED, len(colours)))[1])
    first = colours[near[:, 0]]
    best, second, share = np.full(len(wanted), np.inf), near[:, 0], np.zeros(len(wanted), dtype=np.float32)
    for number in range(1, near.shape[1]):
        way = colours[near[:, number]] - first
        along = ((wanted - first) * way).sum(axis=1) / np.maximum((way * way).sum(axis=1), 1e-9)
        part = np.clip(along, 0, 1)
        off = np.linalg.norm(wanted - first - part[:, None] * way, axis=1)
        better = off < best - 1e-3
        best, second, share = (
            np.where(better, *pair) for pair in ((off, best), (near[:, number], second), (part, share))
        )
    return near[:, 0], second, share


def within(pixels: Pixels, most_error: float) -> Paletted | None:
    """The picture in the fewest colours (256, 128, … 8) that keep its `error` within `most_error`; None if none do."""
    fitting = None
    for most in (256, 128, 64, 32, 16, 8):
        candidate = paletted(pixels, most)
        if error(candidate.pixels, pixels) > most_error:
            break
        fitting = candidate
    return fitting


def _unique(pixels: Pixels) -> tuple[NDArray[np.uint8], NDArray[np.intp]]:
    """The colours of a picture, shape (n, 4), and which of them each pixel has, shape (height, width)."""
    words = np.ascontiguousarray(pixels).view(np.uint32)[..., 0]  # sorting whole words is many times faster
    colours, indices = np.unique(words, return_inverse=True)
    return colours[:, None].view(np.uint8), indices.reshape(words.shape)


def _premultiplied(pixels: NDArray[np.uint8]) -> NDArray[np.float32]:
    alpha = pixels[..., 3:].astype(np.float32)
    return np.concatenate([pixels[..., :3] * (alpha / 255), alpha], axis=-1)


def _chosen(pixels: Pixels, most: int) -> NDArray[np.uint8]:
    """A palette: a sample of the picture is halved where it is widest, again and again (median cut, Heckbert 1982)."""
    sample = _premultiplied(pixels.reshape(-1, 4))
    boxes = [sample[:: -(-len(sample) // _SAMPLE)]]
    spreads = [_spread(boxes[0])]
    while len(boxes) < most and max(spreads) > 0:
        widest = spreads.index(max(spreads))
        box = boxes[widest]
        axis = int(np.argmax(box.var(axis=0)))
        low = box[:, axis] <= box[:, axis].mean()
        boxes[widest : widest + 1] = [box[low], box[~low]]
        spreads[widest : widest + 1] = [_spread(box[low]), _spread(box[~low])]
    means = np.stack([box.mean(axis=0) for box in boxes])
    alpha = np.maximum(means[:, 3:], 1e-3)
    straight = np.concatenate([means[:, :3] * 255 / alpha, means[:, 3:]], axis=1)
    return np.unique(np.rint(np.clip(straight, 0, 255)).astype(np.uint8), axis=0)


def _spread(box: NDArray[np.float32]) -> float:
    return float(box.var(axis=0).max()) * len(box)
