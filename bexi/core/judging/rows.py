"""A line of lettering, whatever it was told by."""

from dataclasses import dataclass

from bexi.core.artwork.ink import Box
from bexi.core.judging.brackets import Labels, without_brackets
from bexi.core.judging.glyphs import Glyph
from bexi.core.judging.regions import Region, around


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

    def first(self, labels: Labels, leftwards: bool) -> tuple[Region, ...]:
        """The parts of the letter that a straight line begins with, within its brackets, the largest first.

        It is at the right where the line runs leftwards. `labels` are those of the drawing's regions, px by px.
        """
        if self.characters:
            return tuple(sorted(self.characters[0].parts, key=lambda part: -part.area))
        if self.runs_down:
            return (min(self.parts, key=lambda part: part.box.top),)
        within = without_brackets(sorted(self.parts, key=lambda part: part.box.left), labels)
        return (within[-1 if leftwards else 0],)

    @property
    def box(self) -> Box:
        """Around all its letters."""
        return around(part.box for part in self.parts)


def turned(box: Box) -> Box:
    """Across for down, as lines on their side are looked at."""
    return Box(box.top, box.left, box.bottom, box.right)
