"""sRGB colours, their notation, luminance and contrast."""

import re
from dataclasses import dataclass

from bexi.core.errors import FramingRefused

_HEX = re.compile(r"#(?:[0-9a-f]{3}|[0-9a-f]{6})", re.IGNORECASE)


def linear(channel: float) -> float:
    """Linear light of one sRGB channel, both 0 to 1 (IEC 61966-2-1)."""
    return channel / 12.92 if channel <= 0.04045 else ((channel + 0.055) / 1.055) ** 2.4


@dataclass(frozen=True)
class Colour:
    """An opaque sRGB colour; channels 0 to 255."""

    red: int
    green: int
    blue: int

    @classmethod
    def parse(cls, text: str) -> "Colour":
        """Read `#rgb` or `#rrggbb`; raises FramingRefused for anything else."""
        if not _HEX.fullmatch(text):
            raise FramingRefused(
                "unknown-colour",
                f"“{text[:40]}” is not a colour: write it as # and six hexadecimal digits, like #16302a.",
            )
        digits = text[1:] if len(text) == 7 else "".join(2 * digit for digit in text[1:])
        return cls(*bytes.fromhex(digits))

    def __str__(self) -> str:
        return f"#{self.red:02x}{self.green:02x}{self.blue:02x}"

    @property
    def channels(self) -> tuple[int, int, int]:
        """Red, green, blue."""
        return self.red, self.green, self.blue

    @property
    def luminance(self) -> float:
        """Relative luminance, 0 (black) to 1 (white) (WCAG 2.2)."""
        red, green, blue = (linear(channel / 255) for channel in self.channels)
        return 0.2126 * red + 0.7152 * green + 0.0722 * blue


WHITE = Colour(255, 255, 255)
BLACK = Colour(0, 0, 0)


def blended(colour: Colour, opacity: float, below: Colour) -> Colour:
    """A colour of some opacity, 0 to 1, over another one, as browsers lay one over the other: in sRGB itself."""
    pairs = zip(colour.channels, below.channels, strict=True)
    return Colour(*(round(opacity * its + (1 - opacity) * under) for its, under in pairs))


def shade(colour: Colour, light: float) -> Colour:
    """The same colour with so much of its light, 0 to 1."""
    return Colour(*(round(255 * stored(linear(channel / 255) * light)) for channel in colour.channels))


def stored(light: float) -> float:
    """One sRGB channel of linear light, both 0 to 1: the inverse of `linear`."""
    return 12.92 * light if light <= 0.0031308 else 1.055 * light ** (1 / 2.4) - 0.055


def contrast(one: Colour, other: Colour) -> float:
    """Contrast ratio, 1 to 21, the order not mattering (WCAG 2.2)."""
    darker, lighter = sorted((one.luminance, other.luminance))
    return (lighter + 0.05) / (darker + 0.05)
