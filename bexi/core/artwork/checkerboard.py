"""The checkerboard by which programs show that a picture is clear, where it was saved into the picture itself."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.rims import edge_of
from bexi.core.pixels.light import ALPHA, Pixels

_GREY = 14
"""Of 255: a grey's channels differ by no more, for all that compression does."""
_APART = 8, 96
"""Of 255: so far the two greys are from each other, at least and at most; the fields of a game's board are further."""
_SHARE, _OF_EACH = 0.8, 0.25
"""Of the edges' px: those in either of the two greys, and in each of them."""
_NEAR = 0.4
"""Of the way from one to the other: so far a px may stray from its own."""
_SMALLEST, _FEWEST = 3, 4
"""Px along the side of a field; and fields along each side of a picture."""
_EVEN, _REGULAR = 0.25, 0.8
"""Of their usual length, fields differ by no more; and so many of them."""
_AGREE = 0.95
"""Of the grey px along the edges: those that have the grey of their field."""
_BORDER, _SMALL = 2, 8
"""Px on either side of a border between fields may be a mix of both; one where fields have fewer px along a side."""
_TURNS = 3
"""Times columns tell rows, and these the columns: after the first little changes."""

Signs = NDArray[np.int8]
"""1 and -1 for fields of the two kinds: along one side of a picture, or px by px, with 0 for what is in neither."""


@dataclass(frozen=True, eq=False)
class Checkerboard:
    """Fields of two greys: a px is light where the signs of its row and column agree. Greys are 0 to 255."""

    rows: Signs
    columns: Signs
    light: int
    dark: int

    @property
    def greys(self) -> NDArray[np.uint8]:
        """What each px would be without a drawing: shape (height, width)."""
        is_light = np.equal.outer(self.rows, self.columns)
        return np.where(is_light, np.uint8(self.light), np.uint8(self.dark))

    @property
    def borders(self) -> NDArray[np.bool_]:
        """Where two fields meet, and a little around: shape (height, width)."""
        down, across = (_near_turns(signs) for signs in (self.rows, self.columns))
        borders: NDArray[np.bool_] = down[:, None] | across
        return borders

    def mixed(self, colours: NDArray[np.uint8]) -> NDArray[np.uint8]:
        """The grey between the two that is nearest to each colour: shape (..., 3), as they have."""
        grey = np.clip(_greys(colours), self.dark, self.light).astype(np.uint8)
        return np.repeat(grey[..., None], 3, axis=-1)

    def is_against(self, colours: NDArray[np.uint8]) -> NDArray[np.bool_]:
        """Where px, shape (height, width, 3), are of the one grey within fields of the other."""
        signs = _signs(colours, self.dark, self.light)
        against: NDArray[np.bool_] = (signs * np.outer(self.rows, self.columns) < 0) & ~self.borders
        return against


def checkerboard_in(pixels: Pixels) -> Checkerboard | None:
    """The one that fills a picture's edges, if it is opaque and there is one."""
    edge = edge_of(pixels)
    if edge[:, ALPHA].min() < 255:
        return None
    greys = _two_greys(edge[:, :ALPHA])
    if greys is None:
        return None
    signs = _signs(pixels[..., :ALPHA], *greys)
    rows, columns = _factors(signs)
    as_told = signs * np.outer(rows, columns)
    with_it, against = (edge_of((as_told == sign).astype(np.uint8)).sum() for sign in (1, -1))
    high, wide = _field(rows), _field(columns)
    if with_it < _AGREE * (with_it + against) or min(high, wide) <= (1 - _EVEN) * max(high, wide):
        return None
    dark, light = greys
    return Checkerboard(rows, columns, light, dark)


def _two_greys(edge: NDArray[np.uint8]) -> tuple[int, int] | None:
    """The darker and the lighter one of the two greys that most of some px have."""
    grey = np.ptp(edge, axis=1) <= _GREY
    if grey.mean() < _SHARE:
        return None
    values = edge[grey].mean(axis=1)
    middle = (np.percentile(values, 5) + np.percentile(values, 95)) / 2
    dark, light = values[values < middle], values[values >= middle]
    if min(len(dark), len(light)) < _OF_EACH * len(edge):
        return None
    one, other = round(float(np.median(dark))), round(float(np.median(light)))
    apart = other - one
    near = sum(np.count_nonzero(np.abs(its - at) <= _NEAR * apart) for its, at in ((dark, one), (light, other)))
    return (one, other) if _APART[0] <= apart <= _APART[1] and near >= _SHARE * len(edge) else None


def _signs(colours: NDArray[np.uint8], dark: int, light: int) -> Signs:
    """1 where a px is of the lighter grey, -1 where of the darker one, else 0: shape (height, width)."""
    red, green, blue = (colours[..., channel] for channel in range(3))
    highest, lowest = (of(of(red, green), blue) for of in (np.maximum, np.minimum))
    grey, values, near = highest - lowest <= _GREY, _greys(colours), _NEAR * (light - dark)
    one, other = (grey & (values >= at - near) & (values <= at + near) for at in (light, dark))
    signs: Signs = one.astype(np.int8) - other.astype(np.int8)
    return signs


def _greys(colours: NDArray[np.uint8]) -> NDArray[np.float32]:
    """The means of the channels; channel by channel, which takes a tenth of the time."""
    red, green, blue = (colours[..., channel].astype(np.float32) for channel in range(3))
    greys: NDArray[np.float32] = (red + green + blue) / np.float32(3)
    return greys


def _factors(signs: Signs) -> tuple[Signs, Signs]:
    """The signs of rows and columns whose products are nearest to those of the px, by turns from the fullest row on."""
    whole = signs.astype(np.float32)
    row = max((0, len(signs) // 2, len(signs) - 1), key=lambda one: np.count_nonzero(signs[one]))
    columns = whole[row]
    for _ in range(_TURNS):
        rows = np.where(whole @ columns < 0, np.float32(-1), np.float32(1))
        columns = np.where(rows @ whole < 0, np.float32(-1), np.float32(1))
    return rows.astype(np.int8), columns.astype(np.int8)


def _field(signs: Signs) -> float:
    """How long the fields along one side are, in px; 0 where they are none, or not of one length."""
    turns = np.flatnonzero(np.diff(signs))
    if len(turns) < _FEWEST:
        return 0
    lengths = np.diff(turns)
    usual = float(np.median(lengths))
    regular = np.abs(lengths - usual) <= max(1.0, _EVEN * usual)
    return usual if usual >= _SMALLEST and regular.mean() >= _REGULAR else 0


def _near_turns(signs: Signs) -> NDArray[np.bool_]:
    near, border = np.zeros(len(signs), dtype=bool), 1 if _field(signs) < _SMALL else _BORDER
    for turn in np.flatnonzero(np.diff(signs)):
        near[max(0, turn + 1 - border) : turn + 1 + border] = True
    return near
