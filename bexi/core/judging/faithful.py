"""What a hand must not take from a drawing: its colours, and what is drawn inside of it, such as a face."""

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.ink import Box
from bexi.core.artwork.pictures import Bitmap
from bexi.core.framing.hand.steps import HandStep
from bexi.core.judging.survey import survey_of
from bexi.core.pixels.light import ALPHA
from bexi.core.pixels.oklab import oklab

_SAME_COLOUR = 0.15
"""In OKLab: from there on a brand's colour is another one; common practice."""
_SEEN = 0.1
"""In OKLab: what changes by less is not missed."""
_LETTERS = 0.8
"""Of what goes inside of a drawing, so much must be lettering."""
_SOLID = 127


def is_faithful(step: HandStep, before: Bitmap, after: Bitmap) -> bool:
    """Whether a drawing is still the same logo after a step of a hand."""
    match step:
        case HandStep.SET_OFF:
            return bool(_changes(before, after).max(initial=0) <= _SAME_COLOUR)
        case HandStep.LEAVE_OUT:
            return _leaves_out_letters_only(before, after)
        case _:
            return True


def _changes(before: Bitmap, after: Bitmap) -> NDArray[np.float32]:
    """How far each px moved in OKLab, 0 where it is clear before or after: shape (height, width)."""
    solid = (before.pixels[..., ALPHA] > _SOLID) & (after.pixels[..., ALPHA] > _SOLID)
    moved = solid & (before.pixels != after.pixels).any(axis=-1)
    far = np.zeros(solid.shape, dtype=np.float32)
    one, other = (oklab(drawing.pixels[moved][:, :ALPHA]) for drawing in (before, after))
    far[moved] = np.linalg.norm(one - other, axis=-1)
    return far


def _leaves_out_letters_only(before: Bitmap, after: Bitmap) -> bool:
    """Of what lies inside of the drawing; around it, on clear ground, anything small may go."""
    gone = _changes(before, after) > _SEEN
    if not gone.any():
        return True
    survey = survey_of(before, Box(0, 0, before.width, before.height))
    letters = np.zeros_like(gone)
    for box in (survey.in_artwork(part.box) for row in survey.rows for part in row.parts):
        letters[max(0, box.top) : box.bottom, max(0, box.left) : box.right] = True
    return bool((gone & letters).sum() >= _LETTERS * gone.sum())
