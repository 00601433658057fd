"""Looking at icon files that a site has or serves."""

from bexi.core.artwork.detection import PictureFormat, detect
from bexi.core.artwork.intake import every_picture, take_in
from bexi.core.artwork.pictures import Vector
from bexi.core.artwork.vector import render_whole
from bexi.core.errors import ArtworkRefused
from bexi.core.formats import png
from bexi.core.livesite.icon_file import IconFile, look_at
from bexi.sandbox.children import in_sandbox


def look_apart(data: bytes) -> IconFile:
    """What a file is, by its content, found out in the sandbox; one that cannot be read says why."""
    try:
        return in_sandbox(look_at, data)
    except ArtworkRefused as refusal:
        return IconFile(detect(data), (), True, len(data), refusal.sentence)


def frame_apart(data: bytes, wanted: int) -> bytes:
    """The picture of a file that fits a side of `wanted` px best, as a PNG at its own size; raises ArtworkRefused."""
    return in_sandbox(frame, data, wanted)


def frame(data: bytes, wanted: int) -> bytes:
    """That very size, else the next larger one, else the largest; drawings are drawn at it. Raises ArtworkRefused."""
    if detect(data) is PictureFormat.SVG:
        _, drawing = take_in(data)
        if isinstance(drawing, Vector):
            return png.write_quickly(render_whole(drawing, wanted))
    pictures = sorted(every_picture(data), key=lambda one: one.shape[1])
    enough = [one for one in pictures if one.shape[1] >= wanted]
    return png.write_quickly(enough[0] if enough else pictures[-1])
