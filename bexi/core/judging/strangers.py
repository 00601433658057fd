"""What stands on a line of letters and is none of them: an emblem at its end, or in the place of a letter."""

from collections.abc import Sequence
from itertools import pairwise, takewhile

import numpy as np

from bexi.core.artwork.ink import Box
from bexi.core.judging.letter_shapes import (
    FEWEST,
    MOST_HOLES,
    SOLID,
    are_letters,
    base_of,
    holds_ink,
    holes_of,
    is_bar,
    is_joined_hand,
    is_like,
    is_solid,
    middle_of,
    winding,
)
from bexi.core.judging.regions import Region, around

_STRANGE = 2
"""Ways of being unlike the letters that make a part of a line none of them."""
_MOST_PIECES, _OUTSIDE = 6, 1.15
"""Of an emblem that stand on the line of the letters beside it, unless they all are bars."""
_MOST_BARS = 3
"""No word has more straight strokes in a row."""
BEYOND = 0.1
_SPACE = 0.2
"""Of a letter's height: less room is within a word [common practice: a space is a quarter of the size]."""
_EVEN_PITCH = 0.15
"""Of the pitch of a monospaced face: so far a narrow letter's middle lies aside."""
_SAME, _SLANTED = 1.1, 1.5
"""Times as wide, high and large, angles differ by no more; a slash is so many times as wide as its stroke."""
_FURTHER, _WIDER, _TALLER = 1.9, 1.4, 2.0
"""Times the room between the letters, the widest of them, and their height."""
_RUN_TOGETHER = 2.5
"""Times the widest letter: two or three that touch are no wider, where they stand no further off."""
_WINDS = 2.0, 1.12
"""No letter's outline is so many times as long as that of its box, and so many times as much so as all the others'."""
_OTHER_HAND = 2
"""Times as wide: no face has such strokes beside each other, letter for letter."""
_FULL = 0.6
"""Of the letters' height: a disc or a block, which is no bar, is wider."""
_OFF = 1.25
"""Times the room between the letters: what is near them may be a capital with a swash."""
_FAR = 1.5, 0.7
"""Times the widest room between letters or words, and of their height: no word stands so far off."""


def without_strangers(line: tuple[Region, ...]) -> tuple[Region, ...]:
    """The parts of a line that are letters: emblems at its ends, or in the place of a letter, are left out."""
    parts = _beside_divider(sorted(line, key=lambda part: part.box.left))
    parts = parts[_strange_together(parts) or _of_a_sign(parts) :]
    parts = parts[: len(parts) - (_strange_together(parts[::-1]) or _of_a_sign(parts[::-1]))]
    while _is_word(parts[1:]) and _is_strange(_own_word(parts), 0):
        parts = parts[1:]
    while _is_word(parts[:-1]) and _is_strange(last := _own_word(parts[::-1])[::-1], len(last) - 1):
        parts = parts[:-1]
    inner = range(1, len(parts) - 1)
    strange = {number for number in inner if _is_coloured_apart(parts, number) and _strangeness(parts, number) > 1}
    return tuple(part for number, part in enumerate(parts) if number not in strange)


def _is_word(parts: Sequence[Region]) -> bool:
    return len(parts) >= FEWEST or any(is_joined_hand([part]) for part in parts)


def _own_word(parts: Sequence[Region]) -> Sequence[Region]:
    """The first parts, where they are letters of a stroke of their own, as in a word that is bold in part; or all."""
    first = list(takewhile(lambda one: is_like(one.stroke, parts[0].stroke), parts))
    others = [one.stroke for one in parts[len(first) :]]
    is_other = bool(others) and not is_like(float(np.median(others)), float(np.median([one.stroke for one in first])))
    return first if is_other and are_letters(first) else parts


def _beside_divider(parts: Sequence[Region]) -> Sequence[Region]:
    """What stands beside an upright bar that reaches beyond all of it: the side with most parts, or the right one."""
    for number, bar in enumerate(parts):
        side = max(parts[number + 1 :], parts[:number], key=len)
        if side and bar.fill >= SOLID and _reaches_beyond(bar.box, around([part.box for part in side])):
            return side
    return parts


def _reaches_beyond(box: Box, letters: Box) -> bool:
    return min(letters.top - box.top, box.bottom - letters.bottom) > BEYOND / 2 * letters.height


def _strange_together(parts: Sequence[Region]) -> int:
    """How many parts that a line begins with are pieces of an emblem: further off, and unlike the letters.

    They are of other strokes, and of other colours or none of them on the letters' line; or all are bars. Where one of
    them reaches beyond both of the letters' lines they are so if they are either further off or of other colours.
    """
    bars = next((number for number, part in enumerate(parts) if not is_bar(part)), len(parts))
    for count in range(2, min(max(_MOST_PIECES, bars), len(parts) - FEWEST) + 1):
        pieces, rest = parts[:count], parts[count:]
        base, top = base_of(rest), min(part.box.top for part in rest)
        between = [_gap(before, after) for before, after in pairwise(rest)]
        within = max(_gap(before, after) for before, after in pairwise(pieces))
        least = max(_FURTHER * float(np.median(between)), _SPACE * (base - top), _OUTSIDE * within)
        apart = _gap(pieces[-1], rest[0]) > least
        stroke, kinds = float(np.median([part.stroke for part in rest])), {part.kind for part in rest}
        coloured = all(part.kind not in kinds for part in pieces)
        beyond = BEYOND * (base - top)
        hanging = [abs(part.box.bottom - base) > beyond for part in pieces]
        unlike = (coloured or all(hanging)) and not any(is_like(part.stroke, stroke) for part in pieces)
        unlike |= all(max(part.stroke, stroke) > _OTHER_HAND * min(part.stroke, stroke) for part in pieces)
        reaches = any(part.box.top < top - beyond and part.box.bottom > base + beyond for part in pieces)
        are_bars = len(pieces) > _MOST_BARS and all(map(is_bar, pieces))
        go_with = sum(_goes_with(part, rest) for part in pieces) > (2 if coloured else 1)
        stands_apart = apart and not (are_letters(pieces) and sum(hanging) < count - 1)
        is_emblem = (stands_apart and (unlike or are_bars)) or (reaches and (apart or coloured) and not go_with)
        if is_emblem and (are_letters(rest) or any(is_joined_hand([part]) for part in rest)):
            return count
    return 0


def _goes_with(part: Region, letters: Sequence[Region]) -> bool:
    """Whether a part stands on the line of letters, as high as they are, and is of their stroke."""
    base, top = base_of(letters), min(one.box.top for one in letters)
    near = BEYOND * (base - top)
    stands = abs(part.box.bottom - base) <= near and abs(part.box.top - top) <= near
    return stands and is_like(part.stroke, float(np.median([one.stroke for one in letters])))


def _of_a_sign(parts: Sequence[Region]) -> int:
    """How many parts that a line begins with are the sign of a closing tag: a slash between angles, apart from it."""
    if len(parts) < FEWEST:
        return 0
    first, slash, last, *letters = parts
    sizes = ((one.box.width, one.box.height, one.area) for one in (first, last))
    of_one_size = all(max(pair) <= _SAME * min(pair) for pair in zip(*sizes, strict=True))
    is_slash = is_bar(slash) and slash.box.height > slash.box.width > _SLANTED * slash.stroke
    within = max(_gap(first, slash), _gap(slash, last), _SPACE * first.box.height)
    is_apart = not letters or _gap(last, letters[0]) > within
    return FEWEST if of_one_size and is_slash and is_apart and not is_bar(first) else 0


def _is_strange(parts: Sequence[Region], number: int) -> bool:
    """Whether what a line begins or ends with is none of its letters, nor several that run into each other."""
    return not is_joined_hand([parts[number]]) and _strangeness(parts, number) >= _STRANGE


def _strangeness(parts: Sequence[Region], number: int) -> int:
    """In how many ways a part is unlike the others of its line, which stand from left to right."""
    part, others = parts[number], [*parts[:number], *parts[number + 1 :]]
    tops, bottoms = (np.array([getattr(one.box, edge) for one in others]) for edge in ("top", "bottom"))
    base, top = float(np.median(bottoms)), float(tops.min())
    beyond = BEYOND * (base - top)
    reaches = min(top - part.box.top, part.box.bottom - base) > beyond / 2
    hangs = float(np.abs(bottoms - part.box.bottom).min()) > beyond
    gaps = [max(0, after.box.left - before.box.right) for before, after in pairwise(others)] or [0]
    beside = [parts[neighbour] for neighbour in (number - 1, number + 1) if 0 <= neighbour < len(parts)]
    apart = 0 if _keeps_pitch(part, beside, others) else min(_gap(part, one) for one in beside)
    within = float(np.median(gaps))
    is_apart = apart > max(_FURTHER * within, _SPACE * (base - top))
    is_coloured = _is_coloured_apart(parts, number)
    strokes, windings = ([of(one) for one in others] for of in (lambda one: one.stroke, winding))
    wider = _WIDER if is_apart else _RUN_TOGETHER
    return sum(
        (
            reaches or hangs,
            part.box.height > _TALLER * (base - top),
            is_apart,
            apart > max(_FAR[0] * max(gaps), _FAR[1] * (base - top)) and all(_is_free(part, one) for one in beside),
            part.box.width > wider * max(part.box.height, *(one.box.width for one in others)),
            not is_like(part.stroke, float(np.median(strokes))),
            apart > _OFF * within and winding(part) > max(_WINDS[0], _WINDS[1] * max(windings)),
            holes_of(part) > MOST_HOLES,
            holds_ink(part) and not any(map(holds_ink, others)),
            is_solid(part) and part.box.width > _FULL * (base - top),
            is_coloured,
        )
    ) - (apart <= within and not is_coloured)


def _is_free(one: Region, other: Region) -> bool:
    """Whether nothing lies between two parts of a line, such as a letter in pieces."""
    first, second = sorted((one.box, other.box), key=lambda box: box.left)
    band = slice(max(first.top, second.top), min(first.bottom, second.bottom))
    between = one.labels[band, first.right : second.left]
    return bool((between == between.flat[0]).all()) if between.size else True


def _keeps_pitch(part: Region, beside: Sequence[Region], others: Sequence[Region]) -> bool:
    """Whether a part stands as far from what is beside it as those of a monospaced face do, middle to middle."""
    pitches = [middle_of(after) - middle_of(before) for before, after in pairwise(others)]
    if len(pitches) < FEWEST:
        return False
    pitch = float(np.median(pitches))
    is_even = np.ptp(pitches) <= _EVEN_PITCH * pitch
    return is_even and min(abs(middle_of(part) - middle_of(one)) for one in beside) <= (1 + _EVEN_PITCH) * pitch


def _gap(one: Region, other: Region) -> int:
    return max(one.box.left - other.box.right, other.box.left - one.box.right, 0)


def _is_coloured_apart(parts: Sequence[Region], number: int) -> bool:
    """Whether the others are of one colour, and this part is of another."""
    others = {part.kind for index, part in enumerate(parts) if index != number}
    return len(others) == 1 and parts[number].kind not in others
