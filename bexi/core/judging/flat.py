"""The flat colours of a picture: what of it is ink, what ground, and which px are of one colour."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray
from scipy import ndimage

from bexi.core.artwork.ink import CLEAR_BELOW, NEAR_GROUND, GroundKind, Ink, find_ink
from bexi.core.artwork.rims import without_rim
from bexi.core.artwork.shapes import main_colours, nearest_of
from bexi.core.judging.cut_out import with_cut_out_marks
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.fades import joined
from bexi.core.judging.fringes import without_fringes
from bexi.core.judging.halos import halos_in, strength_of
from bexi.core.judging.regions import Kinds, without_slivers, without_specks
from bexi.core.judging.shades import evened, shades_off
from bexi.core.pixels.around import highest_around, lowest_around
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import ALPHA, Pixels

_OPAQUE = 0.97
_MOST_TILES = 300
"""Areas of a picture that reaches over all of its square; a photograph has more."""
MOST_REGIONS = 400
"""No drawing for a site has so many areas of one colour: it is a photograph."""
_WATERMARK, _OPAQUE_INK = 36, 0.25
"""Of 255: black that is less opaque has below 1.4 : 1 on white, and is no mark where so much of all ink is opaque."""
_EDGE_SHARE = 0.05
"""Colours that make up so much of a busy picture's edge belong to its ground."""
_ALIKE = 0.13
_SEPARABLE = 0.8
"""So much of a picture must lie within that distance in OKLab of one of its main colours to be flat areas,"""
_EVEN = 0.04
"""and half of it within that: fades and the noise of compression lie within 0.025, photographs beyond 0.045."""
_ENOUGH, _LEVELS, _FLAT = 1 << 16, 6, 0.8
"""Px that tell a ground's colour; so much of a flat one lies within so many levels of it."""


def told_apart(pixels: Pixels, enlarged: int = 1, whole: Drawing | None = None) -> Drawing:
    """The flat colours of a picture, which was enlarged so many times; it may be a piece of a `whole`.

    Ink that is cut through lies at a piece's edges, so that only the whole tells the ground.
    """
    pixels = without_rim(pixels, enlarged)
    ink = find_ink(pixels)
    is_busy = ink.ground is GroundKind.BUSY
    uneven = whole is None or whole.busy if is_busy else ink.ground is GroundKind.SOLID and shades_off(pixels)
    if uneven and (flat := evened(pixels)) is not None:
        drawing = _told_apart_on(flat, find_ink(flat), enlarged, whole)
        return replace(drawing, busy=is_busy, shaded=is_busy)
    return _told_apart_on(pixels, ink, enlarged, whole)


def _told_apart_on(pixels: Pixels, ink: Ink, reach: int, whole: Drawing | None) -> Drawing:
    ground = _ground_of(pixels, ink)
    if ink.ground is GroundKind.BUSY:
        if whole is None or whole.busy:
            return _told_apart_on_busy(pixels, reach)
        ground = whole.colours[0]
    strength = strength_of(pixels, ground)
    least = NEAR_GROUND if ground else _least_opacity(pixels[..., ALPHA])
    around = highest_around(strength, 4 * reach + 1)
    halos = halos_in(strength, reach)
    # Ink that stands in a halo begins half-way between the two.
    beside = highest_around(np.where(halos, strength, np.uint8(0)), 8 * reach + 1)
    half = around // 2 + beside // 2
    mask = (strength >= np.maximum(half, least)) & ~halos
    colours = [one.colour for one in main_colours(_solid(pixels, mask), mask)]
    if ground is not None:
        nearest, _ = nearest_of(pixels, [ground, *colours])
        # Ringing of a compressed picture is weak, and nearer to the ground than to any colour of the ink.
        mask &= (strength >= 2 * NEAR_GROUND) | (nearest > 0)
    drawing = _drawing(pixels, mask, colours, ground, reach)
    # The fringes of an enlarged picture fall into as many times more pieces.
    is_drawn = drawing.separable and len(drawing.regions) <= reach * MOST_REGIONS
    if is_drawn:
        areas = without_fringes(pixels, mask, colours, ground, reach)
        drawing = drawing if areas == colours else _drawing(pixels, mask, areas, ground, reach)
        is_drawn = len(drawing.regions) <= MOST_REGIONS
    if is_drawn and ground is not None:
        drawing = with_cut_out_marks(drawing)
    return replace(drawing, separable=is_drawn, halo=float(halos.sum() / max(1, mask.sum())))


def _least_opacity(alpha: NDArray[np.uint8]) -> int:
    """From which on it is ink: a watermark beneath opaque ink is none."""
    seen = alpha[alpha >= CLEAR_BELOW]
    return _WATERMARK if np.count_nonzero(seen == 255) >= _OPAQUE_INK * seen.size > 0 else CLEAR_BELOW


def _ground_of(pixels: Pixels, ink: Ink) -> Colour | None:
    """The colour of a solid ground: that of most of it, whose edge may be a shade lighter, as it was exported."""
    if ink.ground_colour is None or ink.mask.all():
        return ink.ground_colour
    ground = pixels[~ink.mask]
    some = ground[:: 1 + len(ground) // _ENOUGH, :3]
    usual = np.median(some, axis=0).astype(np.uint8)
    is_flat = (np.abs(some.astype(np.int16) - usual).max(axis=1) <= _LEVELS).mean() >= _FLAT
    return Colour(*(int(channel) for channel in usual)) if is_flat else ink.ground_colour


def _solid(pixels: Pixels, mask: NDArray[np.bool_]) -> Pixels:
    """The same, with the ink made opaque where most of it is so translucent that none would count."""
    alpha = pixels[..., 3]
    if not mask.any() or np.median(alpha[mask]) > 127:
        return pixels
    return np.dstack([pixels[..., :3], np.where(mask, 255, alpha).astype(np.uint8)])


def _told_apart_on_busy(pixels: Pixels, reach: int) -> Drawing:
    """A ground of several colours: those at the edge."""
    whole = np.ones(pixels.shape[:2], dtype=bool)
    colours = [one.colour for one in main_colours(pixels, whole)]
    nearest, _ = nearest_of(pixels, colours)
    edge = np.concatenate([nearest[0], nearest[-1], nearest[:, 0], nearest[:, -1]])
    shares = np.bincount(edge, minlength=len(colours)) / len(edge)
    mask = (shares < _EDGE_SHARE)[nearest]
    mask = ndimage.median_filter(mask.astype(np.uint8), size=5).astype(bool)
    if not mask.any():
        tiles = _drawing(pixels, whole, colours, None, reach)  # a flag, a checker: all of it is ink
        if tiles.separable and len(tiles.regions) <= _MOST_TILES:
            return tiles
        return Drawing(np.ones(pixels.shape[:2], dtype=np.uint8), (None, colours[0]), separable=False, busy=True)
    inks = [one.colour for one in main_colours(pixels, mask)]
    return replace(_drawing(pixels, mask, inks, colours[int(shares.argmax())], reach), busy=True)


def _drawing(
    pixels: Pixels, mask: NDArray[np.bool_], colours: list[Colour], ground: Colour | None, reach: int
) -> Drawing:
    if not colours or not mask.any():
        return Drawing(np.zeros(pixels.shape[:2], dtype=np.uint8), (ground,), separable=True)
    nearest, distance = nearest_of(pixels, colours)
    kinds = np.where(mask, nearest + 1, 0).astype(np.uint8)
    if len(colours) > 1:
        kinds = without_slivers(kinds, reach)
    away = distance[mask]
    separable = bool((away <= _ALIKE).mean() >= _SEPARABLE and np.median(away) <= _EVEN)
    kinds, kept, fading = joined(pixels, kinds, colours, reach)
    kinds = without_specks(kinds)
    opacities = _opacities(pixels, kinds, len(kept) + 1)
    return Drawing(kinds, (ground, *kept), separable, opacities=opacities, fading=fading)


def _opacities(pixels: Pixels, kinds: Kinds, count: int) -> tuple[float, ...]:
    """The mean opacity of the insides of each kind; none where all is opaque."""
    alpha = pixels[..., 3]
    if alpha.min() == 255:
        return ()
    inner = lowest_around(kinds, 3) == highest_around(kinds, 3)
    counted = np.where(inner, kinds, 0) if inner.any() else kinds
    areas = np.maximum(np.bincount(counted.ravel(), minlength=count), 1)
    means = np.bincount(counted.ravel(), weights=alpha.ravel(), minlength=count) / (255 * areas)
    own = [1.0, *(float(mean) if counted_ else 1.0 for mean, counted_ in zip(means[1:], areas[1:] > 1, strict=True))]
    return tuple(own) if min(own) < _OPAQUE else ()
