"""A picture of the whole artwork for the screen: re-encoded, so nothing of the original file reaches a browser."""

import io

from PIL import Image

from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.artwork.vector import render_whole


def preview_png(picture: Picture, longest: int) -> bytes:
    """A PNG of the whole artwork, `longest` px along the longer side; a bitmap is never enlarged."""
    if isinstance(picture, Bitmap):
        image = Image.fromarray(picture.pixels)
        image.thumbnail((longest, longest), Image.Resampling.LANCZOS)
    else:
        image = Image.fromarray(render_whole(picture, longest))
    target = io.BytesIO()
    image.save(target, "PNG", compress_level=1)
    return target.getvalue()
