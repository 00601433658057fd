"""Lines that divide, as between a name and a tagline, and bars that look like them."""

from collections.abc import Sequence

from bexi.core.judging.found import Found
from bexi.core.judging.letter_shapes import is_solid
from bexi.core.judging.parts import Part, room_between
from bexi.core.judging.rows import Row

_FULL, _LONG, _HAIRLINE = 0.9, 12, 60
"""A rule fills its box and is so many times as long as it is wide; a broken hairline is so much longer."""
_BARS, _BARS_APART = 1.4, 4
"""Bars of a drawing are as thick as each other but for so many times, and have so many times that between them."""
_STRIPES, _LEVEL = 3, 0.05
"""So many more bars that end where a rule does, within that share of its length, make stripes of all."""
_FOOT, _WORDS_OFF, _AS_LONG, _AS_HIGH = 0.12, 0.3, 0.75, 0.375
"""Of its length, a foot is so near to what stands on it, and so far from words; that is about as long, and so high."""
_EDGE = 1
"""Px of it that may be but its soft edge."""


def is_rule(parts: Sequence[Part]) -> bool:
    """Whether parts are a line that divides, as between a name and a tagline, or a stripe of several colours."""
    box = Found(tuple(parts)).box
    shorter, longer = sorted((box.width, box.height))
    area = sum(region.area for part in parts for region in part.regions)
    is_full = area > _FULL * longer * max(1, shorter - _EDGE)
    return longer > (_LONG if is_full else _HAIRLINE) * shorter


def is_amid(rule: Part, others: Sequence[Part], rows: Sequence[Row]) -> bool:
    """Whether a rule has parts of a drawing on both of its sides, nearer than it is long, or is one of some bars.

    So it does when one stands on it or leans against it, and no words are near.
    """
    box = rule.box
    is_far_from_words = all(room_between(row.box, box) > _WORDS_OFF * rule.side for row in rows)
    if is_far_from_words and any(_is_foot_of(one, rule) for one in others):
        return True
    if any(_is_bar_beside(one, rule) for one in others) or sum(_runs_along(one, rule) for one in others) >= _STRIPES:
        return True
    near = [one.box for one in others if one is not rule and room_between(one.box, box) < rule.side]
    if box.width > box.height:
        return any(one.bottom <= box.top for one in near) and any(one.top >= box.bottom for one in near)
    return any(one.right <= box.left for one in near) and any(one.left >= box.right for one in near)


def _is_foot_of(one: Part, rule: Part) -> bool:
    """Whether a part that is no bar stands on a rule about as long as it, or leans against it."""
    length, high = one.box.width, one.box.height
    if rule.box.height > rule.box.width:
        length, high = high, length
    as_long = _AS_LONG * rule.side <= length <= rule.side / _AS_LONG and high >= _AS_HIGH * rule.side
    return one is not rule and as_long and room_between(one.box, rule.box) <= _FOOT * rule.side


def _runs_along(one: Part, rule: Part) -> bool:
    """Whether another bar, however thick, runs along a rule from end to end, nearer than it is long."""
    its, box = one.box, rule.box
    ends = [(its.left, box.left), (its.right, box.right)]
    if box.height > box.width:
        ends = [(its.top, box.top), (its.bottom, box.bottom)]
    are_level = all(abs(end - other) <= _LEVEL * rule.side for end, other in ends)
    is_near = room_between(its, box) < rule.side
    return one is not rule and are_level and is_near and all(is_solid(region) for region in one.regions)


def _is_bar_beside(one: Part, rule: Part) -> bool:
    """Whether a part is a bar along a rule, as thick and near to it, and yet too short for one."""
    same_way = (one.box.width > one.box.height) == (rule.box.width > rule.box.height)
    thick, its = (min(part.box.width, part.box.height) for part in (one, rule))
    is_bar = one.area > _FULL * one.box.width * one.box.height and max(thick, its) <= _BARS * min(thick, its)
    return same_way and is_bar and not is_rule((one,)) and room_between(one.box, rule.box) <= _BARS_APART * thick
