"""PNG files (W3C PNG, Third Edition), written as small as they get without loss."""

import io

import oxipng
from PIL import Image

from bexi.core.pixels.light import Pixels

MEDIA_TYPE = "image/png"


def write(pixels: Pixels) -> bytes:
    """A PNG file of these pixels, in the smallest colour type that loses nothing, without metadata."""
    opaque = bool((pixels[..., 3] == 255).all())
    raw = io.BytesIO()
    Image.fromarray(pixels[..., :3] if opaque else pixels).save(raw, "PNG", compress_level=1)
    return oxipng.optimize_from_memory(raw.getvalue(), level=2, strip=oxipng.StripChunks.all())
