"""What to make of a picture: whole framings to choose from, each judged, the best first."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType

import numpy as np
from PIL import Image

from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.plate import DARK, Plate, PlateShape
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import Frame, hug, largest_inside, whole_artwork
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.judging.groups import Groups
from bexi.core.judging.judge import TABS, judge
from bexi.core.judging.lettering import around
from bexi.core.judging.readings import Judgement, Verdict
from bexi.core.judging.ways_out import Source, framed
from bexi.core.pixels.colour import WHITE, Colour, contrast
from bexi.core.pixels.light import Pixels

SHOWN: tuple[tuple[int, Purpose], ...] = ((16, Purpose.TAB), (32, Purpose.TAB), (180, Purpose.HOME))
"""Sizes in px and purposes at which a proposal is judged and shown."""
_STANDS_OUT = 3.0
"""WCAG 2.2, success criterion 1.4.11."""
_SQUARES = (1.0, 0.7, 0.5, 0.35)
"""Sides of squares tried on a photograph, in its shorter sides."""
_ALIKE = 0.02
"""Frames that differ by less than this share of the side are one to the eye."""
_NOTHING: Mapping[str, Pixels] = MappingProxyType({})
_LOOKED_AT = 160
_ROOM = 11
"""Around ink on a plate, in % of its side."""


@dataclass(frozen=True)
class Proposal:
    """A whole framing of a source, its icon at each of SHOWN as it would be built, and how that is judged."""

    kind: str
    framing: Framing
    icons: tuple[Pixels, ...]
    judgements: tuple[Judgement, ...]
    source: Source

    @property
    def standing(self) -> tuple[int, float]:
        """By which proposals are compared: the words of all sizes, then the scores."""
        ranks = [judgement.standing[0] for judgement in self.judgements]
        return sum(ranks), sum(judgement.standing[1] for judgement in self.judgements)

    @property
    def verdicts(self) -> dict[str, Verdict | None]:
        """The word for each size."""
        return {str(judgement.size): judgement.verdict for judgement in self.judgements}


@dataclass(frozen=True)
class Contender:
    """A framing that may be proposed."""

    kind: str
    source: Source
    framing: Framing

    def judged(self, grounds: Mapping[str, Colour] = TABS, others: Mapping[str, Pixels] = _NOTHING) -> Proposal:
        """The same, judged at each of SHOWN. `others` are icons that should not be mistaken for this one."""
        picture, framing, made, judgements = self.source.picture, self.framing, [], []
        for size, purpose in SHOWN:
            icons = compose(picture, framing, purpose, [size])
            judgements += judge(picture, framing, icons, purpose, grounds, others)
            made += icons
        return Proposal(self.kind, framing, tuple(made), tuple(judgements), self.source)


def candidates(source: Source, letters: Sequence[Source] = ()) -> list[Contender]:
    """What may be made of a picture; `letters` are drawings of the site's letters."""
    return [
        *(Contender(kind, source, framing) for kind, framing in _framings(source).items()),
        *(Contender("letters", one, _of_letters(one)) for one in letters),
    ]


def best_first(made: Sequence[Proposal], groups: Groups) -> list[Proposal]:
    """The best of those that show what the picture is about, then the others; of the letters the best only."""
    drawn = [one for one in made if one.kind == "letters"]
    best = [max(drawn, key=lambda one: one.standing)] if drawn else []
    return _best_first([*(one for one in made if one.kind != "letters"), *best], groups)


def propose(
    source: Source,
    letters: Sequence[Source] = (),
    grounds: Mapping[str, Colour] = TABS,
    others: Mapping[str, Pixels] = _NOTHING,
) -> list[Proposal]:
    """Proposals for a picture, the best first."""
    return best_first([one.judged(grounds, others) for one in candidates(source, letters)], source.groups)


def _of_letters(drawn: Source) -> Framing:
    frame = whole_artwork(drawn.picture.width, drawn.picture.height)
    return Framing(frame, home_ground=_beneath(drawn.groups))


def _best_first(made: list[Proposal], groups: Groups) -> list[Proposal]:
    favoured = _favoured(groups)
    about = [one for one in made if one.kind in favoured]
    # Letters are not the picture's own; they come first only where it has nothing but words.
    ranked = sorted(made, key=lambda one: (one.kind != "letters", one.standing), reverse=True)
    if not about:
        return ranked
    first = max(about, key=lambda one: (one.standing[0], -favoured.index(one.kind)))
    return [first, *(one for one in ranked if one is not first)]


def _favoured(groups: Groups) -> tuple[str, ...]:
    """The kinds among which the first is chosen; among equals the earlier one."""
    if not groups.separable or (groups.busy and not groups.words):
        return ("telling square",)
    if groups.words and not groups.emblems:
        return ("letters",)
    if groups.words or len(groups.emblems) > 1:
        return ("emblem", "on a plate")
    return ("hugged", "as it is", "on a plate")


def _framings(source: Source) -> dict[str, Framing]:
    """All but the letters, without those that hardly differ from one before them."""
    picture, groups = source.picture, source.groups
    plain = Framing(whole_artwork(picture.width, picture.height), groups.ground, _beneath(groups), artwork=source.key)
    framings = {"as it is": plain}
    if not groups.separable or (groups.busy and not groups.words):
        return framings | {"telling square": replace(plain, frame=telling_square(picture))}
    boxes = [group.box for group in groups.emblems] + list(groups.words)
    if not boxes:
        return framings
    hugged = hug(around(boxes), 2)
    if not _hardly_differ(hugged, plain.frame):
        framings["hugged"] = replace(plain, frame=hugged)
    if groups.emblems and (groups.words or len(groups.emblems) > 1 or groups.emblems[0].on):
        framings["emblem"] = framed(groups.emblems[0], groups, plain)
    if groups.ground is None and framings.get("emblem", plain).ground is None:
        roomy = replace(plain, frame=hug(around(boxes), _ROOM))
        if "emblem" in framings:
            roomy = framed(groups.emblems[0], groups, plain, _ROOM)
        colour = max((WHITE, DARK), key=lambda plate: _contrast_of_main(groups, plate))
        framings["on a plate"] = replace(roomy, plate=Plate(PlateShape.ROUNDED, colour, 22, 0))
    return framings


def _hardly_differ(one: Frame, other: Frame) -> bool:
    return max(abs(one.x - other.x), abs(one.y - other.y), abs(one.side - other.side)) < _ALIKE * other.side


def _beneath(groups: Groups) -> Colour:
    """The ground under home-screen icons."""
    if groups.ground is not None:
        return groups.ground
    return WHITE if _contrast_of_main(groups, WHITE) >= min(_STANDS_OUT, _contrast_of_main(groups, DARK)) else DARK


def _contrast_of_main(groups: Groups, ground: Colour) -> float:
    return contrast(groups.colours[0], ground) if groups.colours else 21.0


def telling_square(picture: Picture) -> Frame:
    """The square of a photograph in which most happens: the most difference between neighbours for its area."""
    if not isinstance(picture, Bitmap):
        return largest_inside(picture.width, picture.height)
    step = max(1, max(picture.width, picture.height) // (2 * _LOOKED_AT))
    image = Image.fromarray(np.ascontiguousarray(picture.pixels[::step, ::step])).convert("L")
    image.thumbnail((_LOOKED_AT, _LOOKED_AT), Image.Resampling.BOX)
    grey = np.asarray(image, dtype=np.float64)
    scale = max(picture.width, picture.height) / max(grey.shape)
    happens = np.zeros((grey.shape[0] + 1, grey.shape[1] + 1))
    change = np.abs(np.diff(grey, axis=0, append=grey[-1:])) + np.abs(np.diff(grey, axis=1, append=grey[:, -1:]))
    happens[1:, 1:] = change.cumsum(axis=0).cumsum(axis=1)
    best, frame = -1.0, largest_inside(picture.width, picture.height)
    for share in _SQUARES:
        side = max(1, round(share * min(grey.shape)))
        sums = happens[side:, side:] - happens[:-side, side:] - happens[side:, :-side] + happens[:-side, :-side]
        y, x = np.unravel_index(int(sums.argmax()), sums.shape)
        if sums[y, x] / side**1.4 > best:
            best = sums[y, x] / side**1.4
            frame = Frame(round(x * scale), round(y * scale), max(1, round(side * scale)))
    return frame
