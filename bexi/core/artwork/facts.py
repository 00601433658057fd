"""The measured facts of an artwork, and what they mean for icons."""

from dataclasses import dataclass

from bexi.core.artwork.detection import PictureFormat, name_mismatch
from bexi.core.artwork.ink import Box, GroundKind, Ink, find_ink
from bexi.core.artwork.pictures import Bitmap, Picture, Vector
from bexi.core.artwork.vector import render_whole
from bexi.core.pixels.colour import Colour

LARGEST_ICON = 512


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
    which are sharp at any size.
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
    ink_share: float
    sharp_up_to: int | None
    animated: bool
    turned: bool
    profile: str | None
    notes: tuple[str, ...]


def measure(name: str, data: bytes, picture_format: PictureFormat, picture: Picture) -> Facts:
    """Measure a picture that was taken in from `data`, a file called `name`."""
    ink = _ink_of(picture)
    box = ink.box
    vector = isinstance(picture, Vector)
    return Facts(
        format=picture_format.label,
        media_type=picture_format.media_type,
        vector=vector,
        width=picture.width,
        height=picture.height,
        file_bytes=len(data),
        ground=ink.ground,
        ground_colour=ink.ground_colour,
        ink=box,
        margins=Margins(box.left, box.top, picture.width - box.right, picture.height - box.bottom) if box else None,
        ink_share=ink.share,
        sharp_up_to=None if vector else max(box.width, box.height) if box else max(picture.width, picture.height),
        animated=isinstance(picture, Bitmap) and picture.animated,
        turned=isinstance(picture, Bitmap) and picture.turned,
        profile=picture.profile if isinstance(picture, Bitmap) else None,
        notes=tuple(_notes(name, picture_format, picture, ink)),
    )


def _ink_of(picture: Picture) -> Ink:
    if isinstance(picture, Bitmap):
        return find_ink(picture.pixels)
    longest = max(picture.width, picture.height)
    ink = find_ink(render_whole(picture, min(longest, 1024)))
    if not ink.box or longest <= 1024:
        return ink
    factor = longest / 1024
    low = (int(ink.box.left * factor), int(ink.box.top * factor))
    high = (
        min(round(ink.box.right * factor), picture.width),
        min(round(ink.box.bottom * factor), picture.height),
    )
    return Ink(ink.ground, ink.ground_colour, Box(*low, *high), ink.share)


def _notes(name: str, picture_format: PictureFormat, picture: Picture, ink: Ink) -> list[str]:
    notes = []
    if mismatch := name_mismatch(name, picture_format):
        notes.append(mismatch)
    if ink.box is None:
        notes.append("Nothing is drawn here: the picture is blank, so an icon from it would be empty.")
    if picture.width != picture.height:
        notes.append(
            f"It is not square ({picture.width} : {picture.height}). The frame on the bench cuts a square out of it "
            "or pads it; nothing is ever squashed."
        )
    if ink.ground is GroundKind.SOLID and ink.ground_colour is not None:
        notes.append(f"Its ground is solid {ink.ground_colour}, so the icon will be a filled square of that colour.")
    if isinstance(picture, Vector):
        if picture.live_text:
            notes.append(
                "It contains live text. Text set in a font that is not in the file cannot be drawn; "
                "convert the text to outlines in a drawing program and choose the file again."
            )
        return notes
    if ink.box and max(ink.box.width, ink.box.height) < LARGEST_ICON:
        sharp = max(ink.box.width, ink.box.height)
        notes.append(
            f"It stays sharp up to {sharp} px; at {LARGEST_ICON} px it would be enlarged "
            f"{LARGEST_ICON / sharp:.1f} times and look soft. A larger original or an SVG would not."
        )
    if picture.animated:
        notes.append("It is animated; icons stand still, so its first picture is taken.")
    if picture.turned:
        notes.append("The camera stored it turned; it was set upright by its orientation tag.")
    return notes
