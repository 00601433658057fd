"""Transforms as style sheets say them (CSS Transforms 1 §8), written as the renderer knows them: one matrix."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from bexi.core.artwork.svg.lengths import CSS_PX

_Matrix = tuple[float, float, float, float, float, float]
"""a, b, c, d, e, f as in SVG: x' = a x + c y + e, y' = b x + d y + f."""
_STAYS: _Matrix = (1, 0, 0, 1, 0, 0)
_DEGREES = {"deg": 1.0, "grad": 0.9, "rad": 180 / math.pi, "turn": 360.0}


def plain_transform(tokens: Sequence[Any]) -> str | None:
    """`matrix(a, b, c, d, e, f)` of a value of `transform`, tokens of tinycss2; None where it means nothing by itself.

    Lengths in parts of a box or of a font's size are not known here.
    """
    functions = [token for token in tokens if token.type not in ("whitespace", "comment")]
    if [getattr(token, "lower_value", "") for token in functions] == ["none"]:
        return "none"
    made = _STAYS
    for token in functions:
        one = _matrix(token) if token.type == "function" else None
        if one is None:
            return None
        made = _after(made, one)
    if not all(map(math.isfinite, made)):
        return None
    return f"matrix({', '.join(f'{number:.12g}' for number in made)})"


def _matrix(function: Any) -> _Matrix | None:
    arguments = [token for token in function.arguments if token.type not in ("whitespace", "comment") and token != ","]
    kind = _KINDS.get(function.lower_name)
    if kind is None or not kind.least <= len(arguments) <= kind.most:
        return None
    values = [kind.read(token) for token in arguments]
    return kind.made(*values) if all(one is not None and math.isfinite(one) for one in values) else None


def _number(token: Any) -> float | None:
    return token.value if token.type == "number" else None


def _factor(token: Any) -> float | None:
    return token.value / 100 if token.type == "percentage" else _number(token)


def _length(token: Any) -> float | None:
    return _in_units(token, CSS_PX)


def _angle(token: Any) -> float | None:
    return _in_units(token, _DEGREES)


def _in_units(token: Any, units: dict[str, float]) -> float | None:
    if token.type == "dimension" and token.lower_unit in units:
        return float(token.value * units[token.lower_unit])
    return 0.0 if token.type == "number" and not token.value else None


@dataclass(frozen=True)
class _Kind:
    """A function: how its arguments are read, how few and how many there are, and its matrix."""

    read: Callable[[Any], float | None]
    least: int
    most: int
    made: Callable[..., _Matrix]


def _rotated(angle: float) -> _Matrix:
    turn = math.radians(angle)
    return math.cos(turn), math.sin(turn), -math.sin(turn), math.cos(turn), 0, 0


def _skewed(across: float, down: float = 0.0) -> _Matrix:
    return 1, math.tan(math.radians(down)), math.tan(math.radians(across)), 1, 0, 0


_KINDS = {
    "matrix": _Kind(_number, 6, 6, lambda *six: six),
    "translate": _Kind(_length, 1, 2, lambda x, y=0.0: (1, 0, 0, 1, x, y)),
    "translatex": _Kind(_length, 1, 1, lambda x: (1, 0, 0, 1, x, 0)),
    "translatey": _Kind(_length, 1, 1, lambda y: (1, 0, 0, 1, 0, y)),
    "scale": _Kind(_factor, 1, 2, lambda x, y=None: (x, 0, 0, x if y is None else y, 0, 0)),
    "scalex": _Kind(_factor, 1, 1, lambda x: (x, 0, 0, 1, 0, 0)),
    "scaley": _Kind(_factor, 1, 1, lambda y: (1, 0, 0, y, 0, 0)),
    "rotate": _Kind(_angle, 1, 1, _rotated),
    "skew": _Kind(_angle, 1, 2, _skewed),
    "skewx": _Kind(_angle, 1, 1, _skewed),
    "skewy": _Kind(_angle, 1, 1, lambda down: _skewed(0.0, down)),
}


def _after(first: _Matrix, then: _Matrix) -> _Matrix:
    """What both do, `then` within the coordinates that `first` makes."""
    a, b, c, d, e, f = first
    p, q, r, s, t, u = then
    return a * p + c * q, b * p + d * q, a * r + c * s, b * r + d * s, a * t + c * u + e, b * t + d * u + f
