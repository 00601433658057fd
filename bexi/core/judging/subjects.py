"""What of an artwork an icon may be about: its emblem, its first letter, the whole."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from bexi.core.artwork.ink import Box
from bexi.core.framing.cut import Cut
from bexi.core.judging.found import Badge
from bexi.core.judging.groups import Group, Groups
from bexi.core.pixels.colour import Colour

_CHIEF = 0.6
"""An emblem of so much of the ink, without words beside it, is what the logo is known by; else it is one of several."""
_AS_HIGH, _AS_LARGE = 0.8, 0.3
"""Of the largest emblem's height and share: the first of several that are like it is what a name begins with."""
_READ_AT = 7.0
"""In px: lower capitals are not read for certain."""

_LETTER = "first letter"


@dataclass(frozen=True)
class Subject:
    """A part of an artwork with its colours, the largest first; `cut` leaves out what else lies in its square.

    `on` is the badge that it lies on; `is_full` says that it fills its square to the corners, `fades` that one of its
    colours is none alone, `is_badge` that it has a ground of its own, `is_tile` a square one. `why` is a sentence's
    beginning for a person.
    """

    kind: str
    box: Box
    cut: Cut | None
    colours: tuple[Colour, ...]
    why: str
    on: Badge | None = None
    is_full: bool = False
    fades: bool = False
    is_badge: bool = False
    is_tile: bool = False

    @property
    def is_letter(self) -> bool:
        """Whether it is of one colour by what it is; what is left of a stroke across it is none of it."""
        return self.kind == _LETTER


def subjects_of(groups: Groups) -> Iterator[Subject]:
    """In the order in which a designer would take them; none for a picture without ink that can be told apart."""
    if groups.ink is None:
        return
    is_alone = not groups.words and (len(groups.emblems) <= 1 or groups.emblems[0].share < _CHIEF)
    if groups.emblems and (not is_alone or groups.is_lined):
        emblem = _first_of(groups.emblems)
        told = f"the emblem alone; {_unread(groups)}" if groups.words else "the emblem alone"
        told = f"{told}; the line around it is too fine for a tab" if is_alone else told
        its = emblem.box, emblem.cut, emblem.colours
        yield Subject("emblem", *its, told, emblem.on, False, emblem.fades, emblem.is_badge, emblem.is_tile)
    if groups.first:
        first = groups.first
        told = f"the first letter as the logo draws it; {_unread(groups)}"
        on = Badge(first.on, is_disc=False) if first.on else None
        yield Subject(_LETTER, first.box, first.cut, first.colours, told, on, fades=first.fades)
    colours = groups.emblems[0].colours if is_alone and groups.emblems else groups.colours
    only = groups.emblems[0] if len(groups.emblems) == 1 else None
    is_badge, is_tile = (bool(only and only.is_badge), bool(only and only.is_tile))
    cut = only.cut if only and only.cut.outline and only.box == groups.ink else None  # all but its shadow
    yield Subject("whole", groups.ink, cut, colours, "all of it", None, groups.is_full, groups.fades, is_badge, is_tile)
    if groups.inner:
        inner = groups.inner
        yield Subject("emblem", inner.box, inner.cut, inner.colours, "the emblem larger", inner.on, fades=inner.fades)


def _first_of(emblems: Sequence[Group]) -> Group:
    """The largest; where others stand on a line with it and are about as high, the first of these."""
    largest = emblems[0]
    middle = (largest.box.top + largest.box.bottom) / 2
    level = (
        one
        for one in emblems
        if one.box.top < middle < one.box.bottom
        and one.box.height >= _AS_HIGH * largest.box.height
        and one.share >= _AS_LARGE * largest.share
    )
    return min(level, key=lambda one: one.box.left)


def _unread(groups: Groups) -> str:
    """From which size the words can be read, in the words of a person."""
    if groups.capital is None or groups.ink is None:
        return "the words are too small for a tab"
    size = _READ_AT * max(groups.ink.width, groups.ink.height) / groups.capital
    return f"the words cannot be read below {max(16, round(size / 16) * 16)} px"
