"""What is lost at a size anyway, left out, so that it does not blur what can be told."""

from dataclasses import dataclass

import numpy as np
from scipy import ndimage

from bexi.core.artwork.ink import Box
from bexi.core.framing.hand.kinds import MOST_PARTS, SIDE, SPECK, Mask, flat_kinds_of
from bexi.core.pixels.light import Pixels

_FINE = 0.6
"""In px: a ring or frame whose line is thinner cannot be told."""
_DOT = 1.2
"""In px: what is no wider and no higher is a dot."""
_LETTER = 4.0
"""In px: lettering that is lower cannot be read; measured with a text recogniser."""
_MANY = 3
"""So many small parts side by side are lettering or a texture."""
_MOST = 0.4
"""Of the ink: whoever leaves out more draws something else."""
_TOLD = 5.0
"""In px: what stays is at least so wide or high."""
_RIM = 2
"""In samples: so far around a part its colour shines through."""


@dataclass(frozen=True, eq=False)
class _Part:
    number: int
    box: Box
    area: int
    thickness: float

    @property
    def longer(self) -> int:
        return max(self.box.width, self.box.height)


def without_what_is_lost(pixels: Pixels, size: int) -> Pixels:
    """A drawing, shape (SIDE, SIDE, 4), without fine rings, dots and lettering that an icon of `size` px cannot show.

    The very same drawing where there are none, or where too little would stay.
    """
    told = flat_kinds_of(pixels)
    if told is None:
        return pixels
    px, labels = SIDE / size, np.zeros(told.numbers.shape, dtype=np.int32)
    for kind in told.inks:
        own, _ = ndimage.label(told.numbers == kind, structure=np.ones((3, 3)))
        labels[own > 0] = own[own > 0] + labels.max()
    parts = _parts(labels)
    if len(parts) > MOST_PARTS:
        return pixels
    rings = {part.number for part in parts if part.thickness < _FINE * px and _surrounds(part, parts)}
    small = [part for part in parts if part.box.height < _LETTER * px and part.number not in rings]
    dots = {part.number for part in small if part.longer <= _DOT * px}
    lines = {part.number for line in _lines(small) if len(line) >= _MANY for part in line}
    lost = rings | dots | lines
    stay = [part for part in parts if part.number not in lost]
    gone = sum(part.area for part in parts if part.number in lost)
    if not lost or not stay or gone > _MOST * sum(part.area for part in parts):
        return pixels
    if max(part.longer for part in stay) < _TOLD * px:
        return pixels
    return _erased(pixels, np.isin(labels, list(lost)))


def _parts(labels: np.ndarray) -> list[_Part]:
    boxes = ndimage.find_objects(labels)
    areas = np.bincount(labels.ravel())
    depth = ndimage.distance_transform_edt(_apart(labels))
    deepest = ndimage.maximum(depth, labels, np.arange(len(boxes) + 1))
    # Where two colours meet, some samples look like a third.
    return [
        _Part(number, Box(across.start, down.start, across.stop, down.stop), int(areas[number]), 2 * deepest[number])
        for number, (down, across) in enumerate(boxes, 1)
        if areas[number] >= SPECK
    ]


def _apart(labels: np.ndarray) -> Mask:
    """Ink but where another part begins, so that each is as deep as it is by itself."""
    beside = np.zeros(labels.shape, dtype=bool)
    beside[1:] |= labels[1:] != labels[:-1]
    beside[:, 1:] |= labels[:, 1:] != labels[:, :-1]
    return (labels > 0) & ~beside


def _surrounds(part: _Part, parts: list[_Part]) -> bool:
    """Whether others lie in it that are less fine."""
    box = part.box
    return any(
        box.left < other.box.left
        and other.box.right < box.right
        and box.top < other.box.top
        and other.box.bottom < box.bottom
        and other.thickness > 2 * part.thickness
        for other in parts
    )


def _lines(small: list[_Part]) -> list[list[_Part]]:
    """Parts that stand side by side: each reaches over half of the height of the one before it."""
    lines: list[list[_Part]] = []
    for part in sorted(small, key=lambda one: one.box.left):
        for line in lines:
            last = line[-1]
            over = min(part.box.bottom, last.box.bottom) - max(part.box.top, last.box.top)
            near = part.box.left - last.box.right < 2 * max(part.box.height, last.box.height)
            if near and 2 * over >= min(part.box.height, last.box.height):
                line.append(part)
                break
        else:
            lines.append([part])
    return lines


def _erased(pixels: Pixels, lost: Mask) -> Pixels:
    """What is lost takes the colour of what lies around it."""
    shines = ndimage.binary_dilation(lost, iterations=_RIM)
    rows, columns = ndimage.distance_transform_edt(shines, return_distances=False, return_indices=True)
    result = pixels.copy()
    result[shines] = pixels[rows[shines], columns[shines]]
    return result
