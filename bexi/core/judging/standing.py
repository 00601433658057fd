"""How a subject stands on a tab: free where it is seen on both, else on its own ground, its badge, or a plate."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

import numpy as np

from bexi.core.artwork.ground import STRAYS, ground_of, on_paper
from bexi.core.artwork.ground_shape import without_ground
from bexi.core.artwork.ink import NEAR_GROUND, Box
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.artwork.rims import edge_of, share_of, without_rim
from bexi.core.artwork.translucent import is_translucent
from bexi.core.framing.compose import compose
from bexi.core.framing.finish import Finish
from bexi.core.framing.frame import hug
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.framing.reduce import reduced
from bexi.core.framing.tabs import TABS
from bexi.core.judging import contrast as outline
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.groups import Groups
from bexi.core.judging.measure import measure
from bexi.core.judging.subjects import Subject
from bexi.core.judging.survey import whole_survey
from bexi.core.pixels.colour import BLACK, WHITE, Colour, contrast, shade
from bexi.core.pixels.light import ALPHA
from bexi.core.pixels.oklab import chroma_of, distance_to

_STANDS_OUT = 3.0
"""WCAG 2.2, success criterion 1.4.11."""
_READABLE = 4.5
"""WCAG 2.2, success criterion 1.4.3."""
_DEEP = 7.0
"""WCAG 2.2, success criterion 1.4.6: how far a pale mark's own dark shade is from it."""
_PALE = 0.8
"""Luminance from which a ground is the paper that a logo was drawn on, and none of its colours."""
_SAME = 0.04
"""In OKLab: what is nearer to the ground has its colour."""
_FAINT = 2.0
"""A badge, which is large and has a ground of its own, is seen by less than a line is; and what is drawn on it in a
colour that stands out less is but a shade."""
_OF_USE = 1.2
"""A plate on which a mark does not stand out so many times as far as without is of no use."""
_MUCH, _ON_IT = 0.15, 0.75
"""Of the ink: less may vanish on a ground; and of the border of what lies on that, carrying nothing."""
_ASIDE, _ONE_GROUND = 20, 0.9
"""How far around is looked, as a part of the shorter side, and how much of what is there has to be of one colour."""
_PAINTED = 3
"""Of so many colours, white is one of a drawing's own wherever it lies in it: an eye, a sun."""
_COLOURED = 0.05
"""Chroma in OKLab: with less a colour is a grey."""
_LINES = 0.01
"""Of the ink: what has less is a speck."""
_UNLIKE = 0.15
"""In OKLab: what is so far from the one colour is none of its shades."""
_FREE, _ROOM, _ROOM_IN_DISC = 2, 11, 19
"""Margins, in % of the side."""
_ROUNDED = 22
_LOOKED_AT = 128
"""In px: whether ink is translucent is seen at that size."""
_SHADES = tuple(step / 50 for step in range(50, 2, -1))


@dataclass(frozen=True)
class Stand:
    """A subject framed; `on` says on what, and `why` so, in the words of a person; both are empty for a free one."""

    framing: Framing
    on: str = ""
    why: str = ""


def stands_for(subject: Subject, picture: Picture, groups: Groups) -> Iterator[Stand]:
    """The framings of a subject, in the order in which a designer would take them."""
    plain = Framing(hug(subject.box, 0 if subject.is_full else _FREE), cut=subject.cut, home_ground=_beneath(subject))
    if subject.on:
        yield _on_badge(subject, plain)
        return
    is_painted = subject.fades or len(subject.colours) >= _PAINTED
    groups = replace(groups, ground=_ground_around(subject.box, picture) or groups.ground) if groups.busy else groups
    keeps_ground = is_painted or _is_cut_out_in(subject.box, picture)
    inside = isinstance(picture, Bitmap) and (_is_on_board(picture) or not keeps_ground)
    if groups.ground is not None and not (_is_paper(groups.ground) and _can_be_lifted(picture, groups.ground, inside)):
        grounded = replace(plain, frame=hug(subject.box, _ROOM), ground=groups.ground, home_ground=groups.ground)
        yield Stand(grounded, "its own background", "on the background it came with")
        return
    free = replace(plain, lift=_tolerance(groups), lift_inside=inside) if groups.ground else plain
    if subject.is_tile:  # what is drawn on it is seen on that; a plate around it would but make it smaller
        yield Stand(free, why="without the background it came on" if groups.ground else "")
        return
    drawing = measure(picture, free).drawing
    beneath = _best_beneath(subject, drawing)
    free = replace(free, home_ground=beneath)
    seen = outline.of_outline(drawing, TABS)
    least = _FAINT if subject.is_badge else _STANDS_OUT
    losing = [name for name in seen if name in TABS and _loses_much(drawing, TABS[name])]
    faint = [name for name, ratio in seen.items() if ratio < least or name in losing]
    if not faint:
        yield Stand(free, why="without the background it came on" if groups.ground else "")
    is_in_part = losing and all(_lost(drawing, TABS[name]) < 1 - _MUCH for name in losing)
    fading = f"{'part of it' if is_in_part else 'it'} fades on {' and '.join(faint)} tabs"
    as_one = len(subject.colours) == 1 and not (groups.has_halo or subject.fades or _carries_lines(subject, drawing))
    as_one &= not groups.ground and (subject.is_letter or _is_of_one_colour(subject, picture, free))
    stands = _on_plates(subject, picture, free, drawing, groups, as_one)
    plated = [replace(stand, why=f"{stand.why} because {fading}" if faint else stand.why) for stand in stands]
    alone = [Stand(free, why=f"though {fading}")] if faint else []
    keeps_more = bool(losing) and _keeps_all(plated[0], drawing)
    is_of_use = not faint or keeps_more or _seen(picture, plated[0].framing) > _OF_USE * min(seen.values())
    yield from [*plated, *alone] if is_of_use else [*alone, *plated]
    if len(subject.colours) > 1 and not groups.ground and _lie_apart(drawing):
        flat = Finish(recolour=min(subject.colours, key=lambda colour: colour.luminance))
        yield Stand(replace(free, finish=flat), "one colour", "in one flat colour")


def _tolerance(groups: Groups) -> float:
    """How far a lifted ground strays: not half as far as the palest ink that is not the ground's own colour."""
    if groups.ground is None or not groups.colours:
        return STRAYS
    inks = np.array([ink.channels for ink in groups.colours], dtype=np.uint8)
    away = distance_to(inks, np.array(groups.ground.channels, dtype=np.uint8))
    nearest = away[away > _SAME].min(initial=1.0)
    return min(STRAYS, round(float(nearest) / 2, 3))


def _ground_around(box: Box, picture: Picture) -> Colour | None:
    """The colour right around a box of a bitmap, if it is one, or a shade's; a sheet may show a logo on several."""
    if not isinstance(picture, Bitmap):
        return None
    aside = max(2, min(box.width, box.height) // _ASIDE)
    left, top = max(0, box.left - aside), max(0, box.top - aside)
    around = edge_of(on_paper(picture).pixels[top : box.bottom + aside, left : box.right + aside])
    colour = np.median(around, axis=0).astype(np.uint8)
    is_one = whole_survey(picture).drawing.shaded or share_of(colour, around) >= _ONE_GROUND
    return Colour(*(int(channel) for channel in colour[:3])) if is_one and colour[3] == 255 else None


def _is_cut_out_in(box: Box, picture: Picture) -> bool:
    """Whether a badge in a box of the artwork shows its ground, as a mark."""
    survey = whole_survey(picture)
    ground, *inks = survey.drawing.colours
    marks = [kind for kind, ink in enumerate(inks, 1) if ink == ground]
    rows, columns = (
        slice(int((first - start) / survey.scale), int((past - start) / survey.scale) + 1)
        for first, past, start in ((box.top, box.bottom, survey.y), (box.left, box.right, survey.x))
    )
    return bool(np.isin(survey.drawing.kinds[rows, columns], marks).any())


def _lie_apart(drawing: Drawing) -> bool:
    """Whether each colour lies on the ground more than on others, and is seen without them, too."""
    beside = drawing.beside[1:]
    return bool((beside[:, 0] >= beside[:, 1:].sum(axis=1)).all())


def _carries_lines(subject: Subject, drawing: Drawing) -> bool:
    """Whether something of another colour is drawn on it, as fine as that may be."""
    areas = np.bincount(drawing.kinds.ravel(), minlength=len(drawing.colours))[1:]
    drawn = (colour for colour, area in zip(drawing.colours[1:], areas, strict=True) if area > _LINES * areas.sum())
    return any(colour is not None and contrast(colour, subject.colours[0]) >= _FAINT for colour in drawn)


def _is_of_one_colour(subject: Subject, picture: Picture, free: Framing) -> bool:
    """Whether hardly an opaque px has another colour, as a hairline too fine for an area of its own has."""
    (icon,) = compose(picture, free, Purpose.TAB, [_LOOKED_AT])
    inked = icon[icon[..., ALPHA] == 255][:, :3]
    others = distance_to(inked, np.array(subject.colours[0].channels, dtype=np.uint8)) > _UNLIKE
    return bool(np.count_nonzero(others) <= _LINES * len(inked))


def _on_badge(subject: Subject, plain: Framing) -> Stand:
    """The badge keeps its shape, without the words on it."""
    assert subject.on is not None
    shape = PlateShape.DISC if subject.on.is_disc else PlateShape.ROUNDED
    room = _ROOM_IN_DISC if subject.on.is_disc else _ROOM
    plate = Plate(shape, subject.on.colour, _ROUNDED, 0)
    framing = replace(plain, frame=hug(subject.box, room), plate=plate, home_ground=subject.on.colour)
    return Stand(framing, "its badge", "on its own badge")


def _seen(picture: Picture, framing: Framing) -> float:
    """How far what is framed stands out, on the tab on which it does so least."""
    return min(outline.of_outline(measure(picture, framing).drawing, TABS).values(), default=1.0)


def _on_plates(
    subject: Subject, picture: Picture, free: Framing, drawing: Drawing, groups: Groups, as_one: bool
) -> Iterator[Stand]:
    """Edge to edge: its ink light on its own main colour, then the reverse, if it is what it is `as_one` colour."""
    frame, main = hug(subject.box, _ROOM), subject.colours[0]
    roomy = replace(free, frame=frame)
    if subject.is_full and len(subject.colours) == 1 and not groups.ground:  # a tile: what is cut out of it is filled
        beneath = WHITE if contrast(main, WHITE) >= _STANDS_OUT else _dark_shade(main)
        yield Stand(replace(free, ground=beneath), "its own tile", "with its holes filled")
        return
    if groups.ground is not None:
        if contrast(main, groups.ground) >= _STANDS_OUT or _loses_much(drawing, _dark_shade(main)):
            is_on_board = isinstance(picture, Bitmap) and _is_on_board(picture)
            shown = roomy if is_on_board else replace(roomy, lift=None, lift_inside=False)
            yield _plated(shown, groups.ground, "on white" if is_on_board else "on the background it came on")
        else:
            yield _plated(roomy, _dark_shade(main), "on a dark shade of its own colour")
        return
    if not as_one:
        on_white = _plated(roomy, WHITE, "on white")
        if is_translucent(reduced(picture, hug(subject.box, 0), None, [_LOOKED_AT])[0]):
            yield on_white
            return
        on_dark = _plated(roomy, _dark_shade(main), "on a dark shade of its own colour")
        yield max((on_white, on_dark), key=lambda stand: (_keeps_all(stand, drawing), _seen(picture, stand.framing)))
        return
    if contrast(main, WHITE) < _STANDS_OUT:
        yield _plated(roomy, _dark_shade(main), "on a dark shade of its own colour")
        return
    inked = replace(roomy, finish=Finish(recolour=_light_ink(groups.colours, main)))
    yield _plated(inked, main, "on a plate in its own colour")
    yield replace(_plated(roomy, WHITE, "on white"), on="white")


def _light_ink(colours: Iterable[Colour], main: Colour) -> Colour:
    """What is drawn on its main colour: its lightest if that is one to read by and no mere grey, or else white."""
    light = max(colours, key=lambda ink: ink.luminance)
    is_grey = chroma_of(light) < _COLOURED and light.luminance < _PALE
    return light if contrast(light, main) >= _READABLE and not is_grey else WHITE


def _keeps_all(stand: Stand, drawing: Drawing) -> bool:
    return not _loses_much(drawing, stand.framing.plate.colour)


def _plated(framing: Framing, colour: Colour, why: str) -> Stand:
    plate = Plate(PlateShape.ROUNDED, colour, _ROUNDED, 0)
    return Stand(replace(framing, plate=plate, home_ground=colour), "a plate", why)


def _dark_shade(colour: Colour) -> Colour:
    """Its lightest shade that it stands out from far, or where it is too dark for that, stands out from."""
    shades = [shade(colour, light) for light in _SHADES]
    stands_out = (dark for least in (_DEEP, _READABLE) for dark in shades if contrast(dark, colour) >= least)
    return next(stands_out, BLACK)


def _loses_much(drawing: Drawing, ground: Colour) -> bool:
    return _lost(drawing, ground) > _MUCH


def _lost(drawing: Drawing, ground: Colour) -> float:
    """How much of the ink lies on a ground, beside what is seen there, in colours that vanish on it, 0 to 1."""
    areas = np.bincount(drawing.kinds.ravel(), minlength=len(drawing.colours))
    beside = drawing.beside
    lying = [kind for kind in range(1, len(areas)) if beside[kind, 0] >= _ON_IT * beside[kind].sum()]
    seen_on = drawing.seen_on(ground)
    gone = sum(areas[kind] for kind in lying if contrast(seen_on[kind], ground) < outline.VANISHED)
    return float(gone / max(1, areas[1:].sum()))


def _beneath(subject: Subject) -> Colour:
    """The ground under home-screen icons: white where the main colour stands out from it."""
    main = subject.colours[0] if subject.colours else WHITE
    return WHITE if not subject.colours or contrast(main, WHITE) >= _STANDS_OUT else _dark_shade(main)


def _best_beneath(subject: Subject, drawing: Drawing) -> Colour:
    """The same, but white where the darker one would lose much that white does not."""
    beneath = _beneath(subject)
    return WHITE if _loses_much(drawing, beneath) and not _loses_much(drawing, WHITE) else beneath


def _is_on_board(picture: Bitmap) -> bool:
    """Whether a bitmap was saved on a checkerboard, which is no part of it wherever it shows, and no plate."""
    return on_paper(picture) is not picture


def _can_be_lifted(picture: Picture, ground: Colour, inside: bool) -> bool:
    """Of a bitmap what lies at its edges, or all of it, wherever it is; a border around keeps the first from it.

    Where a subject lies on another ground than most of the edges have, that one would stay.
    """
    if not isinstance(picture, Bitmap):
        return without_ground(picture) != picture
    pixels = on_paper(picture).pixels
    lifted = ground_of(without_rim(pixels) if inside else pixels).astype(int)
    return bool(np.abs(lifted - ground.channels).max() <= NEAR_GROUND)


def _is_paper(ground: Colour) -> bool:
    return ground.luminance >= _PALE
