"""Brackets and strokes that a word stands between: they are no letters of it."""

from collections.abc import Sequence

import numpy as np

from bexi.core.judging.letter_shapes import holes_of, in_common
from bexi.core.judging.regions import Region

_FEWEST = 2
"""Letters that are left between them."""
_OFF_LINE = 0.05
"""Of its height: a letter's foot is nearer to the line, but for those that hang from it."""
_RAISED = 0.4
"""Of the letters' height: what ends so far above the line is a quotation mark."""
_LIKE, _UNLIKE = 0.75, 0.7
"""The share that two shapes have in common, of all that either covers: letters of one drawing, and others."""
_SAME_SIZE = 1.1
_STRAIGHT, _SLANTED = 1.48, 1.5
"""A slash has at most so many times its mean width and its length, and is so many times as wide as its stroke."""


def without_brackets(parts: Sequence[Region]) -> Sequence[Region]:
    """The letters of a line, from left to right, without what they stand between, or after."""
    if len(parts) < _FEWEST + 2:
        return parts
    first, *inner, last = parts
    base = float(np.median([part.box.bottom for part in inner]))
    if base - first.box.bottom > _RAISED * (base - min(part.box.top for part in inner)):
        return without_brackets(parts[1:])
    if _are_a_pair(first, last) and (_is_off(first, base) or is_upright_alike(first)):
        return without_brackets(inner)  # guillemets are two
    kept = parts[1:] if _is_slash(first, base) else parts
    return kept[:-1] if _is_slash(last, base) else kept


def _is_off(part: Region, base: float) -> bool:
    return abs(part.box.bottom - base) > _OFF_LINE * part.box.height


def is_upright_alike(part: Region) -> bool:
    """Whether its upper half mirrors the lower one."""
    shape = part.shape
    return in_common(shape[::-1], shape) >= _LIKE


def _are_a_pair(first: Region, last: Region) -> bool:
    """Whether one is the other turned by half a turn, as brackets are, slanted ones, too, and neither is a letter.

    What is the same when turned, as an S, is none; nor is what has a hole, as p and d.
    """
    sizes = ((part.box.width, part.box.height) for part in (first, last))
    if any(max(pair) > _SAME_SIZE * min(pair) for pair in zip(*sizes, strict=True)):
        return False
    one, other = (part.shape for part in (first, last))
    turned = one[::-1, ::-1]
    return in_common(turned, other) >= _LIKE and in_common(turned, one) < _UNLIKE and not holes_of(first)


def _is_slash(part: Region, base: float) -> bool:
    """Whether a part is one slanted stroke that reaches below the line; no j, whose ends are unlike."""
    below = part.box.bottom - base > _OFF_LINE * part.box.height
    is_stroke = part.area <= _STRAIGHT * part.stroke * float(np.hypot(part.box.width, part.box.height))
    is_slanted = part.box.height > part.box.width > _SLANTED * part.stroke
    shape = part.shape
    return below and is_stroke and is_slanted and in_common(shape[::-1, ::-1], shape) >= _LIKE
