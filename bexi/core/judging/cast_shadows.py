"""What letters with a shadow drawn beside them show of it: pieces of another colour, at one side of each."""

from collections.abc import Sequence

from bexi.core.artwork.ink import Box
from bexi.core.judging.regions import Region

_ASIDE = 0.2
"""Of a letter's height, its shadow lies beside it."""
_MOST = 0.8
"""So many letters of a word have one."""
_LEAST = 0.1
"""Of the letter's area: less is light and shade along its edges."""
_SIDES = ((1, 1), (-1, 1), (1, -1), (-1, -1))
"""Right and down, left and down, right and up, left and up; the usual one first."""


def shadow_of(letter: Region, letters: Sequence[Region], others: Sequence[Region]) -> list[Region]:
    """The pieces of a letter's shadow among other regions; none where the other letters have no such shadow."""
    for across, down in _SIDES:
        reached = {one.label: _reached(one.box, across, down) for one in letters}
        for kind in sorted({one.kind for one in others if one.kind} - {letter.kind}):
            pieces = [one for one in others if one.kind == kind]
            shaded = [one for one in letters if any(reached[one.label].encloses(piece.box) for piece in pieces)]
            if letter in shaded and len(shaded) >= _MOST * len(letters):
                own = [piece for piece in pieces if reached[letter.label].encloses(piece.box)]
                return own if sum(piece.area for piece in own) >= _LEAST * letter.area else []
    return []


def _reached(box: Box, across: int, down: int) -> Box:
    """A letter's box and what its shadow adds to that, at two of its sides."""
    aside = max(1, round(_ASIDE * box.height))
    left, right = (box.left, box.right + aside) if across > 0 else (box.left - aside, box.right)
    top, bottom = (box.top, box.bottom + aside) if down > 0 else (box.top - aside, box.bottom)
    return Box(left, top, right, bottom)
