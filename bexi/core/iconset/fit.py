"""One file for an upload field: the best one that meets what the field asks for, or why there is none."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from enum import StrEnum
from itertools import islice

import numpy as np

from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.errors import PlanRefused
from bexi.core.formats import ico, media_types, png, raster
from bexi.core.formats.sizes import LARGEST_FRAME, LARGEST_ICON
from bexi.core.framing.compose import compose, framing_for
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.build import Pictures
from bexi.core.pixels import palette
from bexi.core.pixels.light import Pixels

_COLOURS = (256, 128, 64, 32, 16)
_QUALITIES = range(95, 44, -5)
_SMALLER_FRAMES = (16, 32, 48)


class FieldFormat(StrEnum):
    """What upload fields take."""

    ICO = "ico"
    PNG = "png"
    JPEG = "jpeg"
    GIF = "gif"
    BMP = "bmp"

    @property
    def media_type(self) -> str:
        """The type to serve it with."""
        return str(getattr(media_types, self.name))

    @property
    def is_opaque(self) -> bool:
        """Whether nothing can be clear in it."""
        return self in (FieldFormat.JPEG, FieldFormat.BMP)


class FieldGround(StrEnum):
    """Whether the field asks for an opaque or a clear ground, or takes either."""

    EITHER = "either"
    OPAQUE = "opaque"
    CLEAR = "clear"


@dataclass(frozen=True)
class Requirement:
    """What an upload field asks for: `size` px exactly or `at_least`, and at most `most_kb` (of 1,000 bytes)."""

    format: FieldFormat
    size: int
    at_least: bool = False
    most_kb: float | None = None
    ground: FieldGround = FieldGround.EITHER

    def __post_init__(self) -> None:
        largest = LARGEST_FRAME if self.format is FieldFormat.ICO else LARGEST_ICON
        if not 1 <= self.size <= largest:
            raise PlanRefused("unknown-size", f"Ask for 1 to {largest} px as {self.format.upper()}.")
        if self.most_kb is not None and self.most_kb <= 0:
            raise PlanRefused("unknown-limit", "Give the largest size as a number of KB above 0, or leave it out.")
        if self.format.is_opaque and self.ground is FieldGround.CLEAR:
            raise PlanRefused("never-clear", f"{self.format.upper()} cannot be transparent. Ask for PNG or GIF.")

    @property
    def most_bytes(self) -> float:
        """The largest size in bytes, infinity without a limit."""
        return float("inf") if self.most_kb is None else self.most_kb * 1000

    def allows(self, data: bytes) -> bool:
        """Whether a file is small enough."""
        return len(data) <= self.most_bytes


@dataclass(frozen=True)
class Fit:
    """The file that fits. `notes` say what was given up to make it fit; `enlargement` as in `reduce.enlargement`."""

    data: bytes
    size: int
    notes: tuple[str, ...]
    enlargement: float | None


def fit(pictures: Pictures, recipe: Recipe, wanted: Requirement) -> Fit:
    """The best file for an upload field; raises PlanRefused with the reason when none can be had."""
    smallest = float("inf")
    for size in _sizes(pictures, recipe, wanted):
        purpose = Purpose.HOME if _is_opaque(wanted) else Purpose.TAB
        picture, side = _picture(pictures, recipe, size, purpose)
        (pixels,) = compose(picture, framing_for(picture, recipe, size, purpose), purpose, [size])
        if wanted.ground is FieldGround.CLEAR and pixels[..., 3].min() == 255:
            raise PlanRefused(
                "never-clear",
                "This icon covers its whole square, so nothing of it is transparent. Choose a transparent background.",
            )
        candidates = _candidates(pictures, recipe, wanted, pixels, size)
        # More pixels than asked for are worth nothing if colours are given up for them.
        for data, notes in candidates if size == wanted.size else islice(candidates, 1):
            if wanted.allows(data):
                return Fit(data, size, notes, size / side if side else None)
            smallest = min(smallest, len(data))
    raise PlanRefused(
        "too-small-a-limit",
        f"At {wanted.size} px the smallest {wanted.format.upper()} of this icon takes {smallest / 1000:.1f} KB, "
        f"and the field takes {wanted.most_kb:g} KB. Ask for another format, fewer px or a simpler artwork.",
    )


def _is_opaque(wanted: Requirement) -> bool:
    return wanted.ground is FieldGround.OPAQUE or wanted.format.is_opaque


def _picture(pictures: Pictures, recipe: Recipe, size: int, purpose: Purpose) -> tuple[Picture, int | None]:
    """The artwork of one size, and its frame's side in px when it is made of pixels."""
    own = recipe.own_for(size, purpose)
    framing = own.framing if own else recipe.framing
    picture = pictures(framing.artwork)
    return picture, framing.frame.side if isinstance(picture, Bitmap) else None


def _sizes(pictures: Pictures, recipe: Recipe, wanted: Requirement) -> Iterator[int]:
    """The size asked for; before it larger ones, where they are allowed and the artwork has the pixels."""
    if wanted.at_least and wanted.format is not FieldFormat.ICO:
        _, side = _picture(pictures, recipe, wanted.size, Purpose.TAB)
        for larger in (2 * wanted.size, 3 * wanted.size // 2):
            if larger <= LARGEST_ICON and (side is None or larger <= side):
                yield larger
    yield wanted.size


Candidate = tuple[bytes, tuple[str, ...]]


def _candidates(
    pictures: Pictures, recipe: Recipe, wanted: Requirement, pixels: Pixels, size: int
) -> Iterator[Candidate]:
    """Files of the format, the best first."""
    match wanted.format:
        case FieldFormat.PNG:
            yield png.write(pixels), ()
            yield from _fewer_colours(pixels, png.write)
        case FieldFormat.GIF:
            half_clear = not np.isin(pixels[..., 3], (0, 255)).all()
            hard = ("GIF has no half-transparent pixels, so soft edges became hard.",) if half_clear else ()
            for most in _COLOURS:
                yield raster.write_gif(pixels, most), (*hard, f"{most} colours at most, dithered.")
        case FieldFormat.JPEG:
            for quality in _QUALITIES:
                yield raster.write_jpeg(pixels, quality), (f"JPEG quality {quality} of 95.",)
        case FieldFormat.BMP:
            yield raster.write_bmp(pixels), ()
        case FieldFormat.ICO:
            smaller = [side for side in _SMALLER_FRAMES if side < size]
            frames = [_frame(pictures, recipe, side, _is_opaque(wanted)) for side in smaller]
            yield ico.write([*frames, pixels]), _held([*smaller, size])
            yield ico.write([*frames, pixels], lambda _: ico.FrameKind.PNG), (*_held([*smaller, size]), _AS_PNG)
            yield ico.write([pixels]), _held([size])
            yield ico.write([pixels], lambda _: ico.FrameKind.PNG), (*_held([size]), _AS_PNG)


_AS_PNG = "The frames are stored as PNG, which software from before 2007 does not read."


def _held(sizes: list[int]) -> tuple[str, ...]:
    return (f"Holds {', '.join(map(str, sizes))} px.",)


def _frame(pictures: Pictures, recipe: Recipe, size: int, opaque: bool) -> Pixels:
    purpose = Purpose.HOME if opaque else Purpose.TAB
    picture, _ = _picture(pictures, recipe, size, purpose)
    return compose(picture, framing_for(picture, recipe, size, purpose), purpose, [size])[0]


def _fewer_colours(pixels: Pixels, write: Callable[[Pixels], bytes]) -> Iterator[Candidate]:
    for most in _COLOURS:
        reduced = palette.paletted(pixels, most).pixels
        apart = palette.error(reduced, pixels)
        yield write(reduced), (f"{most} colours, dithered; the channels are {apart:.1f} of 255 off on average.",)
