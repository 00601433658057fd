"""Logos as they come out of mail and documents: small, enlarged, compressed, dithered, on paper."""

import numpy as np
from PIL import Image

from tests.pictures import encoded


def _on_white(image: Image.Image) -> Image.Image:
    below = Image.new("RGBA", image.size, "#ffffff")
    below.alpha_composite(image)
    return below.convert("RGB")


def _scaled(image: Image.Image, longest: int, how: Image.Resampling) -> Image.Image:
    share = longest / max(image.size)
    return image.resize((max(1, round(image.width * share)), max(1, round(image.height * share))), how)


def small(image: Image.Image) -> bytes:
    """A thumbnail of 160 px."""
    return encoded(_scaled(image, 160, Image.Resampling.LANCZOS), "PNG")


def enlarged(image: Image.Image) -> bytes:
    """From 220 px, softly."""
    low = _scaled(_on_white(image), 220, Image.Resampling.BOX)
    return encoded(low.resize(image.size, Image.Resampling.BILINEAR), "PNG")


def compressed(image: Image.Image) -> bytes:
    """A JPEG of quality 30 on white."""
    return encoded(_on_white(image), "JPEG", quality=30)


def dithered(image: Image.Image) -> bytes:
    """A GIF of 32 colours on white."""
    return encoded(_on_white(image).quantize(32, dither=Image.Dither.FLOYDSTEINBERG), "GIF")


def on_paper(image: Image.Image) -> bytes:
    """Photographed: lit from one side, with grain, as a JPEG."""
    print_ = np.asarray(_on_white(image)).astype(float)
    high, wide = print_.shape[:2]
    light = np.linspace(0.78, 1, wide)[None, :] * np.linspace(1, 0.92, high)[:, None]
    grain = np.random.default_rng(3).normal(0, 4, (high, wide, 1))
    seen = print_ * light[..., None] * np.array([1, 0.98, 0.94]) + grain
    return encoded(Image.fromarray(np.clip(seen, 0, 255).astype(np.uint8)), "JPEG", quality=85)


WAYS = (small, enlarged, compressed, dithered, on_paper)
