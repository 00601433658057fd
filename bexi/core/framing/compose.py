"""Composing the square picture of one icon: artwork, finish, ground and plate, as its purpose asks."""

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache, partial

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.pictures import Bitmap, Picture, Vector
from bexi.core.artwork.plate import SIDE, Plate, PlateShape, drawing
from bexi.core.artwork.vector import render
from bexi.core.framing.adapt import Shades, inside_safe_circle, shades_of
from bexi.core.framing.finish import outlined, weighted
from bexi.core.framing.frame import Frame
from bexi.core.framing.hand.drawn import Moves, drawing_of, drawn_by_hand, moves_of
from bexi.core.framing.hand.kinds import SIDE as DRAWN_AT
from bexi.core.framing.hand.steps import HandStep, StepAt, stepped
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.framing.reduce import cut_to, in_one_colour, lifted, reduced
from bexi.core.framing.tabs import TABS
from bexi.core.pixels.colour import WHITE, Colour
from bexi.core.pixels.light import Pixels, over

_JUDGED_AT = 192
"""In px; the shades of a one-colour icon are chosen once, so that all its sizes look alike."""
_FINE = 512
"""In px; weights are for small icons, which have many of these for each of theirs."""


def framing_for(picture: Picture, recipe: Recipe, size: int, purpose: Purpose) -> Framing:
    """The framing of one icon: its own, or the one for all sizes as its purpose needs it."""
    own = recipe.own_for(size, purpose)
    if own is None and purpose is Purpose.MASKED:
        return inside_safe_circle(picture, recipe.framing)
    return own.framing if own else recipe.framing


def compose(picture: Picture, framing: Framing, purpose: Purpose, sizes: Sequence[int]) -> list[Pixels]:
    """The icon at each of `sizes` px under a framing: shape (size, size, 4)."""
    if purpose is Purpose.ONE_COLOUR:
        shades = shades_for(picture, framing)
        return [shades.applied_to(icon) for icon in _laid(picture, framing, None, sizes)]
    by_hand = framing.by_hand if purpose is Purpose.TAB else ()
    ground = framing.ground_for(purpose.opaque)
    own = {size: simplified(picture, framing, size, purpose) for size in by_hand if size in sizes}
    drawn = {size: _laid(*one, ground, [size], by_hand)[0] for size, one in own.items() if one[0] is not picture}
    plain = iter(_laid(picture, framing, ground, [size for size in sizes if size not in drawn], by_hand))
    return [drawn[size] if size in drawn else next(plain) for size in sizes]


def simplified(picture: Picture, framing: Framing, size: int, purpose: Purpose) -> tuple[Picture, Framing]:
    """What a hand draws an icon of `size` px of: a picture of its own, and the framing on that.

    The very same picture and framing where the framing names no steps for it, or they have nothing to do.
    """
    steps = framing.steps_at(size)
    if not steps or purpose is not Purpose.TAB:
        return picture, framing
    below = _below(framing, framing.ground)
    drawing = _after(*_prepared(picture, framing), steps, size, (below,) if below else tuple(TABS.values()))
    if drawing is None:
        return picture, framing
    finish = replace(framing.finish, recolour=None, weight=0)
    return drawing, replace(framing, frame=Frame(0, 0, DRAWN_AT), cut=None, lift=None, finish=finish, steps=())


def before_steps(picture: Picture, framing: Framing) -> Bitmap:
    """The drawing that a hand's steps begin with."""
    return _drawing(*_prepared(picture, framing))


def steps_done(picture: Picture, framing: Framing, size: int) -> tuple[HandStep, ...]:
    """Those of the steps named for a tab's icon of `size` px that had something to do."""
    done, named, drawing = [], [], picture
    for step in HandStep:
        if step in framing.steps_at(size):
            named.append(StepAt(size, step))
            before, (drawing, _) = drawing, simplified(picture, replace(framing, steps=tuple(named)), size, Purpose.TAB)
            done += [step] if drawing is not before else []
    return tuple(done)


def _after(
    picture: Picture, frame: Frame, steps: frozenset[HandStep], size: int, grounds: tuple[Colour, ...]
) -> Bitmap | None:
    """The drawing after these steps, None where they have nothing to do."""
    plain = drawing = _drawing(picture, frame)
    for step in HandStep:
        if step in steps:
            drawing = _stepped(step, drawing, size, grounds)
    return None if drawing is plain else drawing


@lru_cache(maxsize=4)  # 0.6 MB each, as the following
def _drawing(picture: Picture, frame: Frame) -> Bitmap:
    return _one_of(drawing_of(picture, frame).tobytes())


@lru_cache(maxsize=24)
def _stepped(step: HandStep, drawing: Bitmap, size: int, grounds: tuple[Colour, ...]) -> Bitmap:
    after = stepped(step, drawing.pixels, size, grounds)
    return drawing if after is drawing.pixels else _one_of(after.tobytes())


@lru_cache(maxsize=24)
def _one_of(drawing: bytes) -> Bitmap:
    """Drawings that are the same, whatever size they were made for, are one picture and are judged once."""
    return Bitmap(np.frombuffer(drawing, dtype=np.uint8).reshape(DRAWN_AT, DRAWN_AT, 4))


def moves_in(picture: Picture, framing: Framing, size: int) -> Moves:
    """The edges that are moved in a tab's icon drawn by hand, whether or not the framing asks for it."""
    return moves_of(*_prepared(*simplified(picture, framing, size, Purpose.TAB)), size, framing.held)


def shades_for(picture: Picture, framing: Framing) -> Shades:
    """How an artwork under a framing becomes one colour."""
    (pixels,) = _laid(picture, framing, None, [_JUDGED_AT])
    return shades_of(pixels)


def _laid(
    picture: Picture, framing: Framing, ground: Colour | None, sizes: Sequence[int], by_hand: Sequence[int] = ()
) -> list[Pixels]:
    """The icons, made in one order whatever of it there is to do.

    The artwork is prepared, laid on what lies below and reduced, its edges put on px where it is drawn by hand;
    then sharpened, outlined, cut to the plate.
    """
    plate, finish = framing.plate, framing.finish
    below = _below(framing, ground)
    picture, frame = _prepared(picture, framing)
    reduced_on = partial(drawn_by_hand, picture, frame, sizes=sizes, by_hand=by_hand, held=framing.held)
    icons = [finish.sharpened(icon) for icon in reduced_on(below)]
    if finish.outline:
        shapes = reduced_on(None)
        on_rim = [finish.sharpened(icon) for icon in reduced_on(finish.outline_colour)]
        icons = [
            outlined(icon, rim, shape[..., 3], finish.outline / 100 * len(icon))
            for icon, rim, shape in zip(icons, on_rim, shapes, strict=True)
        ]
    return icons if plate.shape is PlateShape.NONE else [_cut_to(plate, icon, ground) for icon in icons]


def _below(framing: Framing, ground: Colour | None) -> Colour | None:
    """What lies below the artwork: the plate, or else a ground."""
    return framing.plate.colour if framing.plate.shape is not PlateShape.NONE else ground


def _prepared(picture: Picture, framing: Framing) -> tuple[Picture, Frame]:
    """The artwork without its ground, cut, in one colour, its strokes heavier or lighter, and the frame on that."""
    picture, frame = cut_to(lifted(picture, framing.lift, framing.lift_inside), framing.cut, framing.frame)
    return _weighted(in_one_colour(picture, framing.finish.recolour), frame, framing.finish.weight)


@lru_cache(maxsize=4)  # as large as a picture of its own, which all sizes are made from
def _weighted(picture: Picture, frame: Frame, weight: int) -> tuple[Picture, Frame]:
    """The picture in its frame with strokes wider or thinner, _FINE px large, on a frame of its own."""
    if not weight:
        return picture, frame
    (pixels,) = reduced(picture, frame, None, [_FINE])
    return Bitmap(weighted(pixels, weight)), Frame(0, 0, _FINE)


def _cut_to(plate: Plate, pixels: Pixels, ground: Colour | None) -> Pixels:
    """Opaque pixels cut to the plate's shape, on the ground."""
    cut = pixels.copy()
    cut[..., 3] = plate_coverage(plate, pixels.shape[0])
    cut[cut[..., 3] == 0] = 0
    return over(cut, ground) if ground else cut


def plate_coverage(plate: Plate, size: int) -> NDArray[np.uint8]:
    """How much of each pixel a plate covers, 0 to 255, with its margin as the inset: shape (size, size), read-only."""
    return _coverage(replace(plate, colour=WHITE), size)


@lru_cache(maxsize=16)  # few shapes are in use at a time
def _coverage(plate: Plate, size: int) -> NDArray[np.uint8]:
    outline = Vector(drawing(Plate(), inset_markup(plate)), SIDE, SIDE)
    return render(outline, 0, 0, SIDE, size)[..., 3]


def inset_markup(plate: Plate) -> str:
    """A plate drawn with its margin as the inset, on a square of SIDE units."""
    inset = SIDE * plate.margin / 100
    return f'<g transform="translate({inset:g} {inset:g}) scale({1 - 2 * plate.margin / 100:g})">{plate.markup()}</g>'
