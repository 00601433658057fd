"""What stands between two gaps of a line, whatever writing it is."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

from bexi.core.artwork.ink import Box
from bexi.core.judging.regions import Region, around


@dataclass(frozen=True, eq=False)
class Glyph:
    """Regions above each other: a letter with its accents, a character, or a piece of joined writing."""

    parts: tuple[Region, ...]

    @property
    def box(self) -> Box:
        """Around all of it."""
        return around([part.box for part in self.parts])

    @property
    def stroke(self) -> float:
        """About how wide its strokes are, in px."""
        return 2 * sum(part.area for part in self.parts) / max(1, sum(part.outline for part in self.parts))


def bands_of(regions: Sequence[Region]) -> Iterator[list[Glyph]]:
    """What stands beside each other from left to right, of one colour each."""
    ink = sorted((one for one in regions if one.kind and not one.at_edge), key=lambda one: one.kind)
    for _, its in groupby(ink, key=lambda one: one.kind):
        for band in _apart(list(its), "top", "bottom"):
            yield [Glyph(tuple(column)) for column in _apart(band, "left", "right")]


def room_beside(one: Box, other: Box) -> int:
    """Between two boxes, in px across."""
    return max(one.left - other.right, other.left - one.right, 0)


def _apart(regions: Sequence[Region], begin: str, end: str) -> Iterator[list[Region]]:
    """Regions in groups between which a line can be drawn, in their order along one axis."""
    group: list[Region] = []
    reached = 0
    for region in sorted(regions, key=lambda one: int(getattr(one.box, begin))):
        if group and getattr(region.box, begin) >= reached:
            yield group
            group = []
        group.append(region)
        reached = max(reached, getattr(region.box, end))
    if group:
        yield group
