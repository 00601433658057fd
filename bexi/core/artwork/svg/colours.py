"""Colours that the renderer does not know, written as those it does: sRGB in hexadecimal.

Source: CSS Color 4, the conversions of §10 and their sample code; `light-dark` of CSS Color 5 is light. What sRGB
does not have is clipped channel by channel, as browsers do on its screens.
"""

import math
from typing import Any

from tinycss2 import color5

from bexi.core.pixels.colour import linear, stored

_Matrix = tuple[tuple[float, float, float], ...]
_Channels = tuple[float, float, float]

FUNCTIONS = frozenset(["rgb", "rgba", "hsl", "hsla", "hwb", "lab", "lch", "oklab", "oklch", "color", "light-dark"])

# Of the sample code of CSS Color 4; written down from memory, and checked in the tests against Chromium.
_TO_LINEAR_SRGB: _Matrix = (
    (3.2409699419, -1.5373831776, -0.4986107603),
    (-0.9692436363, 1.8759675015, 0.0415550574),
    (0.0556300797, -0.2039769589, 1.0569715142),
)
_P3_TO_XYZ: _Matrix = (
    (0.4865709486, 0.2656676932, 0.1982172852),
    (0.2289745641, 0.6917385218, 0.0792869141),
    (0.0, 0.0451133819, 1.0439443689),
)
_D50_TO_D65: _Matrix = (
    (0.9554734528, -0.0230985370, 0.0632593087),
    (-0.0283697070, 1.0099954580, 0.0210413990),
    (0.0123140016, -0.0205076964, 1.3303659009),
)


def plain_colour(function: Any) -> str | None:
    """`#rrggbb` or `#rrggbbaa` of a colour's function, a token of tinycss2; None where it is none that is known."""
    try:
        colour = color5.parse_color(function)
        if not isinstance(colour, color5.color4.Color):
            return "currentColor" if colour == "currentcolor" else None
        channels = _srgb(colour)
    except (ArithmeticError, AttributeError, LookupError, NotImplementedError, TypeError, ValueError):
        return None  # the parser trusts that arguments are there
    if channels is None or not all(map(math.isfinite, channels)):
        return None
    values = [round(255 * min(max(one, 0.0), 1.0)) for one in (*channels, colour.alpha)]
    return "#" + bytes(values if colour.alpha < 1 else values[:3]).hex()


def _srgb(colour: Any) -> _Channels | None:
    """Its channels, 0 to 1 where sRGB has it."""
    red, green, blue = (one or 0.0 for one in colour.coordinates)
    match colour.space:
        case "srgb":
            return red, green, blue
        case "hsl" | "hwb":
            return tuple(colour.to("srgb").coordinates)
        case "srgb-linear":
            return _encoded((red, green, blue))
        case "display-p3":
            return _of_xyz(_times(_P3_TO_XYZ, (linear(red), linear(green), linear(blue))))
        case "lab" | "lch":
            return _of_xyz(_times(_D50_TO_D65, colour.to("xyz-d50").coordinates))
        case "xyz-d50":
            return _of_xyz(_times(_D50_TO_D65, (red, green, blue)))
        case "oklab" | "oklch" | "xyz" | "xyz-d65":
            return _of_xyz(colour.to("xyz-d65").coordinates)
    return None


def _of_xyz(xyz: _Channels) -> _Channels:
    return _encoded(_times(_TO_LINEAR_SRGB, xyz))


def _times(matrix: _Matrix, channels: _Channels) -> _Channels:
    first, second, third = (sum(a * b for a, b in zip(row, channels, strict=True)) for row in matrix)
    return first, second, third


def _encoded(light: _Channels) -> _Channels:
    red, green, blue = (stored(one) for one in light)
    return red, green, blue
