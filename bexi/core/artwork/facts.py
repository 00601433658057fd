"""The measured facts of an artwork."""

import dataclasses
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bexi.core.artwork.checkerboard import checkerboard_in
from bexi.core.artwork.detection import PictureFormat
from bexi.core.artwork.ink import Box, GroundKind, find_ink
from bexi.core.artwork.pictures import Bitmap, Picture, Vector
from bexi.core.artwork.shapes import MainColour, main_colours, parts
from bexi.core.artwork.vector import render_whole
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels

_LOOKED_AT, _DRAWN_AT = 1024, 512
"""Colours and parts are looked for among at most this many px along the longer side of pixels and of shapes."""
_ONE_COLOUR_SHARE = 0.985


@dataclass(frozen=True)
class Margins:
    """Distance in artwork pixels from each edge of the artwork to the ink."""

    left: int
    top: int
    right: int
    bottom: int


@dataclass(frozen=True)
class Facts:
    """What was measured of one artwork. Lengths are artwork pixels; `ink_share` is 0 to 1.

    `sharp_up_to` is the largest icon, in px, that the ink can fill without being enlarged; None for vectors,
    which are sharp at any size. `centre` is the centre of gravity of the ink,
    `parts` are the boxes of the separate pieces of ink, the largest first; `frames` the
    sizes of all pictures in the file; `left_out` what an SVG had beside its drawing.
    """

    format: str
    media_type: str
    vector: bool
    width: int
    height: int
    file_bytes: int
    ground: GroundKind
    ground_colour: Colour | None
    ink: Box | None
    margins: Margins | None
    centre: tuple[int, int] | None
    ink_share: float
    colours: tuple[MainColour, ...]
    one_colour: bool
    parts: tuple[Box, ...]
    sharp_up_to: int | None
    frames: tuple[tuple[int, int], ...]
    animated: bool
    turned: bool
    profile: str | None
    live_text: bool
    left_out: tuple[str, ...]

    def as_json(self) -> dict[str, Any]:
        """Plain data, colours in hex."""
        plain = dataclasses.asdict(self)
        plain["ground_colour"] = str(self.ground_colour) if self.ground_colour else None
        plain["colours"] = [{"colour": str(one.colour), "share": one.share} for one in self.colours]
        plain["centre"] = {"x": self.centre[0], "y": self.centre[1]} if self.centre else None
        plain["frames"] = [{"width": width, "height": height} for width, height in self.frames]
        return plain


def measure(data: bytes, picture_format: PictureFormat, picture: Picture) -> Facts:
    """Measure a picture that was taken in from `data`."""
    bitmap = picture if isinstance(picture, Bitmap) else None
    if isinstance(picture, Bitmap):
        pixels = picture.pixels
    else:
        pixels = render_whole(picture, min(_DRAWN_AT, max(picture.width, picture.height)))
    is_checkered = checkerboard_in(pixels) is not None
    if is_checkered:
        pixels = _on_paper(pixels)
    ink = find_ink(pixels)
    # One px of what was looked at is `scale` px of the artwork.
    scale = max(picture.width, picture.height) / max(pixels.shape[:2])
    box = _scaled(ink.box, scale, picture) if ink.box else None
    step = -(-max(pixels.shape[:2]) // _LOOKED_AT)
    thinned, mask = pixels[::step, ::step], ink.mask[::step, ::step]
    colours = main_colours(thinned, mask)
    clear = ink.ground is GroundKind.CLEAR
    return Facts(
        format=picture_format.label,
        media_type=picture_format.media_type,
        vector=bitmap is None,
        width=picture.width,
        height=picture.height,
        file_bytes=len(data),
        ground=GroundKind.CHECKERED if is_checkered else ink.ground,
        ground_colour=None if is_checkered else ink.ground_colour,
        ink=box,
        margins=Margins(box.left, box.top, picture.width - box.right, picture.height - box.bottom) if box else None,
        centre=_centre(mask, scale * step) if box else None,
        ink_share=ink.share,
        colours=colours,
        one_colour=clear and bool(colours) and colours[0].share > _ONE_COLOUR_SHARE,
        parts=tuple(_scaled(part, scale * step, picture) for part in parts(mask)),
        sharp_up_to=None
        if bitmap is None
        else max(box.width, box.height)
        if box
        else max(picture.width, picture.height),
        frames=bitmap.frames if bitmap else (),
        animated=bitmap is not None and bitmap.animated,
        turned=bitmap is not None and bitmap.turned,
        profile=bitmap.profile if bitmap else None,
        live_text=isinstance(picture, Vector) and picture.live_text,
        left_out=picture.left_out if isinstance(picture, Vector) else (),
    )


def _on_paper(pixels: Pixels) -> Pixels:
    from bexi.core.artwork.ground import on_paper  # on demand, for it needs scipy, which takes its time

    return on_paper(Bitmap(pixels)).pixels


def _centre(mask: NDArray[np.bool_], scale: float) -> tuple[int, int]:
    rows, columns = np.nonzero(mask)
    return round((columns.mean() + 0.5) * scale), round((rows.mean() + 0.5) * scale)


def _scaled(box: Box, scale: float, picture: Picture) -> Box:
    return Box(
        int(box.left * scale),
        int(box.top * scale),
        min(round(box.right * scale), picture.width),
        min(round(box.bottom * scale), picture.height),
    )
