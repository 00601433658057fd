"""What of an artwork an icon may be about: its emblem, its first letter, the whole."""

from collections.abc import Iterator
from dataclasses import dataclass

from bexi.core.artwork.ink import Box
from bexi.core.framing.cut import Cut
from bexi.core.judging.groups import Badge, Groups
from bexi.core.pixels.colour import Colour

_CHIEF = 0.6
"""An emblem of so much of the ink, without words beside it, is what the logo is known by; else it is one of several."""
_READ_AT = 7.0
"""In px: lower capitals are not read for certain."""


@dataclass(frozen=True)
class Subject:
    """A part of an artwork with its colours, the largest first; `cut` leaves out what else lies in its square.

    `on` is the badge that it lies on; `is_full` says that it fills its square to the corners, `fades` that one of its
    colours is none alone. `why` is a sentence's beginning for a person.
    """

    kind: str
    box: Box
    cut: Cut | None
    colours: tuple[Colour, ...]
    why: str
    on: Badge | None = None
    is_full: bool = False
    fades: bool = False


def subjects_of(groups: Groups) -> Iterator[Subject]:
    """In the order in which a designer would take them; none for a picture without ink that can be told apart."""
    if groups.ink is None:
        return
    is_alone = not groups.words and (len(groups.emblems) == 1 or groups.emblems[0].share < _CHIEF)
    if groups.emblems and not is_alone:
        emblem = groups.emblems[0]
        told = f"the emblem alone; {_unread(groups)}" if groups.words else "the emblem alone"
        yield Subject("emblem", emblem.box, emblem.cut, emblem.colours, told, emblem.on, fades=emblem.fades)
    if groups.first:
        first = groups.first
        told = f"the first letter as the logo draws it; {_unread(groups)}"
        on = Badge(first.on, is_disc=False) if first.on else None
        yield Subject("first letter", first.box, first.cut, (first.colour,), told, on, fades=first.fades)
    colours = groups.emblems[0].colours if is_alone and groups.emblems else groups.colours
    yield Subject("whole", groups.ink, None, colours, "all of it", is_full=groups.is_full, fades=groups.fades)
    if groups.inner:
        inner = groups.inner
        yield Subject("emblem", inner.box, inner.cut, inner.colours, "the emblem larger", inner.on, fades=inner.fades)


def _unread(groups: Groups) -> str:
    """From which size the words can be read, in the words of a person."""
    if groups.capital is None or groups.ink is None:
        return "the words are too small for a tab"
    size = _READ_AT * max(groups.ink.width, groups.ink.height) / groups.capital
    return f"the words cannot be read below {max(16, round(size / 16) * 16)} px"
