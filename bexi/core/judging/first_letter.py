"""The first letter of a wordmark, cut out just as the wordmark draws it."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bexi.core.artwork.ink import Box
from bexi.core.framing.cut import Cut
from bexi.core.judging.cast_shadows import shadow_of
from bexi.core.judging.contrast import VANISHED
from bexi.core.judging.cutting import cut_along
from bexi.core.judging.drawing import Drawing
from bexi.core.judging.letter_parts import is_rim_of
from bexi.core.judging.letter_shapes import holes_of, is_bar, is_mirrored
from bexi.core.judging.regions import Region, around
from bexi.core.judging.rows import Row
from bexi.core.judging.survey import Survey
from bexi.core.pixels.colour import Colour, contrast

_ASIDE = 0.05
"""The cut runs so much of the letter's height beside it, nearer where the next letter is near."""
_BELOW = 0.15
"""Of the line's height: a capital's top lies no further below the highest letter's."""
_NEAR, _MUCH = 0.25, 0.5
"""Of the line's height, no emblem stands so near; and of the letter's height, a quotation mark or a dot has less."""
_WIDEST, _WIDEST_M, _WIDEST_W = 1.7, 1.9, 2.1
"""In its heights; what is wider is several letters that run into each other, or a wide face's m or w."""
_WIDEST_CAPITAL, _MARK, _MANY_MARKS = 1.25, 0.25, 2
"""In its heights, a capital that a hand goes on from is no wider, and a mark no larger, of which words have few."""


@dataclass(frozen=True)
class FirstLetter:
    """The cut around a letter, the box of its ink in artwork px, its colours, and that of the badge it lies `on`.

    A second colour is that of the shadow drawn beside it; `fades` tells that the first one does.
    """

    cut: Cut
    box: Box
    colours: tuple[Colour, ...]
    on: Colour | None = None
    fades: bool = False


def first_letter(survey: Survey, row: Row, leftwards: bool) -> FirstLetter | None:
    """The letter that a straight row begins with, with its dots; None where it hangs together with the next one.

    `leftwards` says that the row runs from right to left.
    """
    drawing = survey.drawing
    its = row.first(leftwards)
    first, box = its[0], around([part.box for part in its])
    colour = drawing.colours[first.kind]
    if colour is None or (_is_partly_joined(row, its) and not leftwards):
        return None
    if _runs_on(box) and not _is_wide_letter(its):
        return None
    if _begins_earlier(row, its, drawing, leftwards):
        return None
    letters = {part.label for its in survey.rows for part in its.parts}
    others = [region for region in drawing.regions if region.label not in letters]
    regions = [*its, *(other for other in others if _is_dot_of(other, first, row))]
    kind, label = _left_of(first, drawing)
    rims = [other for other in others if other.kind and is_rim_of(other, first)]
    if any(rim.label == label for rim in rims):
        kind, label = _left_of(drawing.regions[label], drawing)
    regions += [rim for rim in rims if rim.kind != kind]  # light and shade, and no hole that shows a badge
    seen = [other for other in others if other not in regions and _is_seen(drawing, other)]
    shadow = [] if kind else shadow_of(first, row.parts, seen)
    regions += shadow
    cut = cut_along(survey, [region.label for region in regions], _ASIDE, [label] if kind else [])
    if cut is None:
        return None
    on = drawing.colours[kind] if kind else None
    beside = drawing.colours[shadow[0].kind] if shadow else None
    colours = (colour, beside) if beside else (colour,)
    shown = survey.in_artwork(around([region.box for region in regions]))
    return FirstLetter(cut, shown, colours, on, first.kind in drawing.fading)


def _is_seen(drawing: Drawing, part: Region) -> bool:
    """Whether a part stands out from the ground, where that is known: a pale shade would but take room."""
    ground, ink = drawing.colours[0], drawing.colours[part.kind]
    return ground is None or ink is None or contrast(ink, ground) >= VANISHED


def _runs_on(box: Box, widest: float = _WIDEST) -> bool:
    """Whether something is so wide that it is several letters."""
    return box.width > widest * box.height


def _is_wide_letter(its: Sequence[Region]) -> bool:
    """Whether one part is an m or a w of a wide face: the same when it is mirrored, and without a hole."""
    first, *others = its
    is_one = not others and not _runs_on(first.box, _WIDEST_W)
    return is_one and is_mirrored(first) and holes_of(first) == 0


def _is_partly_joined(row: Row, first: Sequence[Region]) -> bool:
    """Whether other letters are joined, and what stands at the left is no capital: it may be what ends the line."""
    others = [part for part in row.parts if part not in first]
    top = min((part.box.top for part in others), default=0)
    is_capital = first[0].box.top <= top + _BELOW * row.height
    if row.is_joined:
        return not (is_capital and _is_capital_of_hand(first[0], others))
    return not row.characters and not is_capital and any(_runs_on(part.box, _WIDEST_M) for part in others)


def _is_capital_of_hand(first: Region, others: Sequence[Region]) -> bool:
    """Whether what stands before joined letters is one capital of their hand: high, no stroke, and beside no marks.

    Writing that runs leftwards ends at the left, but has dots and marks above and below.
    """
    is_one = not _runs_on(first.box, _WIDEST_CAPITAL) and not is_bar(first)
    marks = [part for part in others if max(part.box.width, part.box.height) < _MARK * first.box.height]
    return is_one and len(marks) < _MANY_MARKS


def _begins_earlier(row: Row, first: Sequence[Region], drawing: Drawing, leftwards: bool) -> bool:
    """Whether ink of its colour stands as near before a letter as letters do, such as one that touches a ring."""
    if row.runs_down or row.characters:
        return False
    box, reach = first[0].box, round(_NEAR * row.height)
    columns = slice(box.right, box.right + reach) if leftwards else slice(max(0, box.left - reach), box.left)
    before = np.s_[box.top : box.bottom, columns]
    others = ~np.isin(drawing.labels[before], [part.label for part in row.parts])
    return bool((others & (drawing.kinds[before] == first[0].kind)).any(axis=1).mean() > _MUCH)


def _left_of(region: Region, drawing: Drawing) -> tuple[int, int]:
    """The kind and the label of what lies to the left of a region's first px."""
    beside = drawing.areas.firsts[region.label] - 1
    return int(drawing.kinds.ravel()[beside]), int(drawing.labels.ravel()[beside])


def _is_dot_of(other: Region, letter: Region, row: Row) -> bool:
    """Whether a part is the dot or an accent above a letter."""
    middle = (other.box.left + other.box.right) / 2
    above = letter.box.top - row.height < other.box.top and other.box.bottom <= letter.box.top
    is_narrow = other.box.width <= max(letter.box.width, row.height / 2)
    return other.kind > 0 and above and is_narrow and letter.box.left <= middle <= letter.box.right
