"""Files that only upload fields ask for: GIF, JPEG and BMP, written by Pillow without metadata."""

import io

import numpy as np
from PIL import Image

from bexi.core.pixels.light import Pixels
from bexi.core.pixels.palette import paletted

_HALF = 128


def write_gif(pixels: Pixels, most: int = 256) -> bytes:
    """A GIF (GIF89a) in at most `most` colours; what is less than half covered becomes clear, all else opaque."""
    hard = pixels.copy()
    hard[..., 3] = np.where(pixels[..., 3] < _HALF, 0, 255)
    hard[hard[..., 3] == 0] = 0
    reduced = paletted(hard, most)
    image = Image.fromarray(reduced.indices, "P")
    image.putpalette(reduced.colours[:, :3].tobytes())
    clear = np.flatnonzero(reduced.colours[:, 3] < _HALF)
    return _saved(image, "GIF", optimize=True, **({"transparency": int(clear[0])} if len(clear) else {}))


def write_jpeg(pixels: Pixels, quality: int) -> bytes:
    """A JPEG of opaque pixels, quality 1 to 95, without colour subsampling, which would smear small icons."""
    return _saved(Image.fromarray(pixels[..., :3]), "JPEG", quality=quality, subsampling=0, optimize=True)


def write_bmp(pixels: Pixels) -> bytes:
    """A BMP of opaque pixels, 24 bits each: few programs look for alpha in one."""
    return _saved(Image.fromarray(pixels[..., :3]), "BMP")


def _saved(image: Image.Image, kind: str, **options: object) -> bytes:
    target = io.BytesIO()
    image.save(target, kind, **options)
    return target.getvalue()
