"""Lifting the flat ground of a picture: the ink alone, with its soft edge and without a halo of the old ground."""

from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.artwork.checkerboard import Checkerboard, checkerboard_in
from bexi.core.artwork.ink import NEAR_GROUND
from bexi.core.artwork.paper import lies_on_paper
from bexi.core.artwork.pictures import Bitmap
from bexi.core.artwork.rims import edge_of, share_of, without_rim
from bexi.core.pixels.around import highest_around
from bexi.core.pixels.colour import WHITE
from bexi.core.pixels.light import Pixels, over
from bexi.core.pixels.oklab import distance_to, oklab

_SOFT = 3
"""How many px on either side of the flood's border may be a mix of ink and ground."""
_LOOKED_AT = 4 * _SOFT
_AT_ONCE = 1 << 18
"""Colours."""
_SORTED = 1 << 17
"""So many colours are sorted in less time than a table of all there are is looked through [measured]."""
STRAYS = 0.08
"""In OKLab: how far a compressed picture's ground strays."""
_MOST = 0.9
"""Of the edge: a ground has so much."""
_AGAINST = 0.25
"""Of what a piece has as the fields have it, it has so much as they have not: then it is white ink."""


def lift_ground(pixels: Pixels, tolerance: float, inside: bool = False) -> Pixels:
    """The picture with its ground clear: flooded from the edges as far as colours lie within `tolerance` in OKLab.

    Near the flood's border a pixel is a mix of the ground and the nearest full ink; its share of ink becomes its
    alpha and the ink its colour. Ground that the flood does not reach, inside a ring, say, stays. With `inside` it
    goes, whatever encloses it, as does a line along the picture's edge. A checkerboard is such a ground.
    """
    board = checkerboard_in(pixels)
    if board is not None:
        return _without_checkerboard(pixels, board, tolerance, inside)
    pixels = without_rim(pixels) if inside else pixels
    colours, ground = pixels[..., :3], ground_of(pixels)
    distance = _distances(colours, ground)
    like_ground = distance <= tolerance
    flood = like_ground if inside else _from_edges(like_ground)
    return _without_flood(pixels, distance, flood, ground)


def ground_of(pixels: Pixels) -> NDArray[np.uint8]:
    """The colour that is lifted, shape (3): that of most of the edge, or white where this is ink that lies on paper."""
    edge = edge_of(pixels)
    colour: NDArray[np.uint8] = np.median(edge[:, :3], axis=0).astype(np.uint8)
    is_ink = colour.min() < 255 - NEAR_GROUND and share_of(colour, edge[:, :3]) < _MOST
    if is_ink and edge[:, 3].min() == 255 and lies_on_paper(pixels):
        return np.full(3, 255, dtype=np.uint8)
    return colour


@lru_cache(maxsize=4)
def on_paper(picture: Bitmap) -> Bitmap:
    """A picture on white paper where it was saved on a checkerboard; the very same if it was not."""
    board = checkerboard_in(picture.pixels)
    if board is None:
        return picture
    return replace(picture, pixels=over(_without_checkerboard(picture.pixels, board, STRAYS, inside=True), WHITE))


def _without_checkerboard(pixels: Pixels, board: Checkerboard, tolerance: float, inside: bool) -> Pixels:
    """Where fields meet, a px may be a mix of both greys; a white letter has no fields of its own, and stays."""
    colours, is_light = pixels[..., :3], board.greys == board.light
    one, other = (np.full(3, grey, dtype=np.uint8) for grey in (board.light, board.dark))
    distance = np.where(is_light, _distances(colours, one), _distances(colours, other))
    distance = np.where(board.borders, _by_colour(colours, lambda known: _to(board.mixed(known), known)), distance)
    fields = _fields(distance <= tolerance, board.is_against(colours), board.borders)
    flood = fields if inside else _from_edges(fields)
    greys = np.where(board.borders, board.mixed(colours)[..., 0], board.greys)
    return _without_flood(pixels, distance, flood, np.repeat(greys[..., None], 3, axis=-1))


def _to(greys: NDArray[np.uint8], colours: NDArray[np.uint8]) -> NDArray[np.float32]:
    distance: NDArray[np.float32] = np.linalg.norm(oklab(colours) - oklab(greys), axis=-1)
    return distance


def _fields(
    like_ground: NDArray[np.bool_], against: NDArray[np.bool_], borders: NDArray[np.bool_]
) -> NDArray[np.bool_]:
    """Of what looks like the board, all but pieces of white ink, much of which has the grey `against` the fields."""
    labels, count = ndimage.label(like_ground | against)
    like, unlike = (np.bincount(labels[where], minlength=count + 1) for where in (like_ground & ~borders, against))
    is_field = unlike <= _AGAINST * like
    is_field[0] = False
    fields: NDArray[np.bool_] = is_field[labels] & like_ground
    return fields


def _around(ink: NDArray[np.bool_]) -> tuple[slice, slice]:
    """The rows and columns of the ink, and as far around it as anything is looked at."""
    rows, columns = np.flatnonzero(ink.any(axis=1)), np.flatnonzero(ink.any(axis=0))
    top, left = max(0, int(rows[0]) - _LOOKED_AT), max(0, int(columns[0]) - _LOOKED_AT)
    return slice(top, int(rows[-1]) + 1 + _LOOKED_AT), slice(left, int(columns[-1]) + 1 + _LOOKED_AT)


def _without_flood(
    pixels: Pixels, distance: NDArray[np.float32], flood: NDArray[np.bool_], ground: NDArray[np.uint8]
) -> Pixels:
    """The picture without what was flooded, the very same if that is nothing or all of it."""
    if not flood.any() or flood.all():
        return pixels
    result = np.zeros_like(pixels)
    around = _around(~flood)
    own = ground if ground.ndim == 1 else ground[around]
    result[around] = _without_ground(pixels[around], distance[around], flood[around], own)
    return result


def _without_ground(
    pixels: Pixels, distance: NDArray[np.float32], flood: NDArray[np.bool_], ground: NDArray[np.uint8]
) -> Pixels:
    """The ground is one colour, shape (3), or one for each px."""
    colours, result = pixels[..., :3], pixels.copy()
    result[flood, 3] = 0
    soft = _near(flood) & _near(~flood)
    ink = _nearest_full_ink(colours, distance, flood)[soft]
    share = _share(colours[soft], ink, ground if ground.ndim == 1 else ground[soft])
    result[soft, :3] = ink
    result[soft, 3] = np.rint(share * pixels[soft, 3])
    result[result[..., 3] == 0] = 0
    return result


def _distances(colours: NDArray[np.uint8], ground: NDArray[np.uint8]) -> NDArray[np.float32]:
    """Those in OKLab to the ground."""
    return _by_colour(colours, lambda known: distance_to(known, ground))


def _by_colour(
    colours: NDArray[np.uint8], told: Callable[[NDArray[np.uint8]], NDArray[np.float32]]
) -> NDArray[np.float32]:
    """What is told of each px's colour, looked up: a picture has fewer colours than px, and long runs of each."""
    red, green, blue = (colours[..., channel].astype(np.uint32) for channel in range(3))
    number = (red << 16 | green << 8 | blue).ravel()
    firsts = np.flatnonzero(np.append(True, number[1:] != number[:-1]))
    of_runs = _looked_up(number[firsts], told)
    values: NDArray[np.float32] = np.repeat(of_runs, np.diff(firsts, append=number.size))
    return values.reshape(colours.shape[:2])


def _looked_up(numbers: NDArray[Any], told: Callable[[NDArray[np.uint8]], NDArray[np.float32]]) -> NDArray[np.float32]:
    """What is told of each of some colours, 0 to 2²⁴ - 1."""
    if len(numbers) <= _SORTED:
        known, which = np.unique(numbers, return_inverse=True)
        found: NDArray[np.float32] = told(_channels(known))[which]
        return found
    table = np.zeros(1 << 24, dtype=np.float32)
    used = np.zeros(1 << 24, dtype=bool)
    used[numbers] = True
    for some in np.array_split(np.flatnonzero(used), 1 + used.sum() // _AT_ONCE):
        table[some] = told(_channels(some))
    values: NDArray[np.float32] = table[numbers]
    return values


def _channels(numbers: NDArray[Any]) -> NDArray[np.uint8]:
    """Red, green and blue of colours as numbers: shape (n, 3)."""
    return np.stack([numbers >> 16, numbers >> 8 & 255, numbers & 255], axis=-1).astype(np.uint8)


def _from_edges(like_ground: NDArray[np.bool_]) -> NDArray[np.bool_]:
    labels, count = ndimage.label(like_ground)
    at_edge = np.zeros(count + 1, dtype=bool)
    at_edge[np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]])] = True
    at_edge[0] = False
    reached: NDArray[np.bool_] = at_edge[labels]
    return reached


def _near(mask: NDArray[np.bool_]) -> NDArray[np.bool_]:
    return highest_around(mask, 2 * _SOFT + 1)


def _nearest_full_ink(
    colours: NDArray[np.uint8], distance: NDArray[np.float32], flood: NDArray[np.bool_]
) -> NDArray[np.uint8]:
    """For each pixel the colour of the nearest ink without any ground in it.

    That is ink deep inside; in lines too thin to have a deep inside, ink as far from the ground as any around it.
    """
    deep = ~_near(flood)
    thin = ~flood & ~highest_around(deep, 4 * _SOFT + 1)
    furthest = ndimage.maximum_filter(distance, size=2 * _SOFT + 1)
    full = deep | (thin & (distance >= 0.95 * furthest))
    rows, columns = ndimage.distance_transform_edt(~full, return_distances=False, return_indices=True)
    nearest: NDArray[np.uint8] = colours[rows, columns]
    return nearest


def _share(mixed: NDArray[np.uint8], ink: NDArray[np.uint8], ground: NDArray[np.uint8]) -> NDArray[np.float32]:
    """How much of a mix is ink, 0 to 1; pictures are mixed in sRGB, so it is a projection there."""
    whole = ink.astype(np.float32) - ground
    part = mixed.astype(np.float32) - ground
    length = np.maximum((whole * whole).sum(axis=-1), 1e-6)
    share: NDArray[np.float32] = np.clip((part * whole).sum(axis=-1) / length, 0, 1)
    return share
