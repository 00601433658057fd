"""Judging a framing at the sizes of its icons."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from types import MappingProxyType

from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.framing.compose import compose, simplified
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.framing.tabs import TABS
from bexi.core.judging import contrast as outline
from bexi.core.judging import likeness, pixel_fit, structure
from bexi.core.judging.measure import Measured, measure
from bexi.core.judging.readings import Judgement, Readings
from bexi.core.judging.visible import visible
from bexi.core.pixels.colour import WHITE, Colour, contrast
from bexi.core.pixels.light import Pixels


def judge(
    picture: Picture,
    framing: Framing,
    icons: Sequence[Pixels],
    purpose: Purpose = Purpose.TAB,
    grounds: Mapping[str, Colour] = TABS,
    others: Mapping[str, Pixels] = MappingProxyType({}),
) -> list[Judgement]:
    """Judge icons, each shape (size, size, 4), that were made of a framing, on grounds given by name.

    `others` are icons of 16 px, by name, that a tab icon of this size should not be taken for.
    """
    side = framing.frame.side if isinstance(picture, Bitmap) else None
    judged = [
        _judged(measure(*simplified(picture, framing, len(icon), purpose), purpose), icon, purpose, grounds, side)
        for icon in icons
    ]
    if purpose is not Purpose.TAB:
        return judged
    return [_compared(one, icon, others) for one, icon in zip(judged, icons, strict=True)]


def _compared(judgement: Judgement, icon: Pixels, others: Mapping[str, Pixels]) -> Judgement:
    found = likeness.most_alike(icon, others) if judgement.size == likeness.SIDE else None
    if found is None:
        return judgement
    name, distance = found
    return replace(judgement, readings=replace(judgement.readings, likeness=distance, like=name))


def judge_at(
    picture: Picture,
    framing: Framing,
    sizes: Sequence[int],
    purpose: Purpose = Purpose.TAB,
    grounds: Mapping[str, Colour] = TABS,
    others: Mapping[str, Pixels] = MappingProxyType({}),
) -> list[Judgement]:
    """The same, with the icons made here."""
    return judge(picture, framing, compose(picture, framing, purpose, sizes), purpose, grounds, others)


def _of_plain(colour: Colour | None, grounds: Mapping[str, Colour], own: float | None) -> Readings:
    """Of a square of one colour, which is seen by that alone, or of nothing at all."""
    if colour is None:
        return Readings(visible_px=0.0, structure=0.0, ink=0.0, artwork=own)
    return Readings(contrast={name: contrast(colour, ground) for name, ground in grounds.items()}, artwork=own)


def _judged(
    large: Measured, icon: Pixels, purpose: Purpose, grounds: Mapping[str, Colour], side: int | None
) -> Judgement:
    size, drawing = len(icon), large.drawing
    own = min(1.0, side / size) if side else None
    box = drawing.ink_box
    if box is None:
        return Judgement(size, _of_plain(drawing.colours[0], grounds, own))
    if not drawing.separable:
        return Judgement(size, Readings(artwork=own), separable=False)
    stroke, gap = large.strokes.thinnest, large.gaps.usual
    ground = next(iter(grounds.values()), WHITE)
    seen_on = {"any": ground} if purpose is Purpose.ONE_COLOUR else grounds
    # Masks need room around the ink, and a system gives one-colour icons a colour and a ground of its own.
    fills = box.width * box.height / drawing.side**2 if purpose in (Purpose.TAB, Purpose.HOME) else None
    return Judgement(
        size,
        Readings(
            visible_px=None if drawing.busy else visible(drawing, icon, seen_on),
            stroke_px=stroke * size if stroke is not None else None,
            gap_px=gap * size if gap is not None else None,
            gaps_reach=float(large.gaps.length.sum()),
            lettering_px=large.capital * size if large.capital is not None else None,
            is_small_print=large.has_small_print,
            contrast={} if purpose is Purpose.ONE_COLOUR else outline.of_outline(drawing, grounds),
            structure=structure.kept(drawing, icon, ground),
            ink=fills,
            fit=pixel_fit.fit(drawing, size),
            artwork=own,
        ),
    )
