"""Pictures for the tests, made by Pillow and by hand."""

import io

import numpy as np
from PIL import Image

from bexi.core.artwork.pictures import Bitmap

BLUE_DISC = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100">'
    b'<circle cx="50" cy="50" r="40" fill="#1144cc"/></svg>'
)


def encoded(image: Image.Image, kind: str, **options: object) -> bytes:
    target = io.BytesIO()
    image.save(target, kind, **options)
    return target.getvalue()


def decoded(data: bytes) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"))


def plain_png(width: int = 40, height: int = 30, colour: str = "#1144cc") -> bytes:
    return encoded(Image.new("RGB", (width, height), colour), "PNG")


def noise(width: int, height: int, seed: int = 0) -> np.ndarray:
    return np.random.default_rng(seed).integers(0, 256, (height, width, 4), dtype=np.uint8)


def noise_bitmap(width: int, height: int, seed: int = 0) -> Bitmap:
    return Bitmap(noise(width, height, seed))
