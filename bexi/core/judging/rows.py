"""A line of lettering, whatever it was told by."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from statistics import median

from bexi.core.artwork.ink import Box
from bexi.core.judging.brackets import is_upright_alike, without_brackets
from bexi.core.judging.glyphs import Glyph
from bexi.core.judging.letter_shapes import FEWEST, winding
from bexi.core.judging.regions import Region, around

_NARROW, _STRAIGHT = 0.6, 1.2
"""A stem is so many times as wide as high at most, and its outline so many times as long as that of its box."""
_WITHIN = 0.3
"""Times the room between letters: what stands nearer than that is of one letter."""


@dataclass(frozen=True)
class Row:
    """Parts that are letters of one line. `height` is that of a capital, in px of the drawing.

    `circle` is the middle and the radius of the circle that they stand around, in px, None for a straight line;
    `runs_down` tells of letters below each other, `on_its_side` of a line that is turned, whose letters are of no use.
    `characters` are those of a line in which each is made of several parts, `is_joined` tells of joined writing.
    """

    parts: tuple[Region, ...]
    height: float
    circle: tuple[float, float, float] | None = None
    runs_down: bool = False
    on_its_side: bool = False
    characters: tuple[Glyph, ...] = ()
    is_joined: bool = False

    def first(self, leftwards: bool) -> tuple[Region, ...]:
        """The parts of the letter that a straight line begins with, within its brackets, the largest first.

        It is at the right where the line runs leftwards.
        """
        if self.characters:
            return tuple(sorted(self.characters[0].parts, key=lambda part: -part.area))
        if self.runs_down:
            return (min(self.parts, key=lambda part: part.box.top),)
        within = without_brackets(sorted(self.parts, key=lambda part: part.box.left))
        if leftwards:
            return (within[-1],)
        first, *others = within[:2] if _is_stem_of_second(within) else within[:1]
        return tuple(sorted((first, *others), key=lambda part: -part.area))

    @property
    def runs_across(self) -> bool:
        """Whether its letters stand upright beside each other."""
        return not (self.circle or self.runs_down or self.on_its_side)

    @property
    def box(self) -> Box:
        """Around all its letters."""
        return around(part.box for part in self.parts)


def _is_stem_of_second(parts: Sequence[Region]) -> bool:
    """Whether the first part is the stem of a letter whose arms stand apart from it, as some faces draw a K.

    A T or an F that a low letter is moved beneath is no stem: its upper half is unlike the lower one.
    """
    if len(parts) <= FEWEST or parts[0].kind != parts[1].kind:
        return False
    gaps = [after.box.left - before.box.right for before, after in pairwise(parts)]
    box = parts[0].box
    is_stem = box.width <= _NARROW * box.height and winding(parts[0]) <= _STRAIGHT
    return is_stem and gaps[0] < _WITHIN * median(gaps[1:]) and is_upright_alike(parts[0])
