"""Decoding bitmap files."""

import io
import warnings

import numpy as np
from PIL import IcoImagePlugin, Image, ImageCms, ImageOps

from bexi.core.artwork.detection import PictureFormat
from bexi.core.artwork.limits import Limits
from bexi.core.artwork.pictures import Bitmap
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.light import Pixels

MOST_FRAMES = 500
_STRIP = 64
_DECODERS = {PictureFormat.ICO: ["ICO", "CUR"]}  # one media type by the standard, two decoders in Pillow
_ORIENTATION_TAG = 0x0112  # Exif 2.3, table 4


def decode(data: bytes, picture_format: PictureFormat, limits: Limits, frame: int | None = None) -> Bitmap:
    """Decode a bitmap file whose format was detected; raises ArtworkRefused.

    `frame` chooses one of several pictures in the file; None takes the first, of an ICO the largest. The picture is
    turned upright by its Exif orientation, an embedded ICC profile is converted to sRGB.
    """
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # Pillow's own size warning comes later than our refusal
            image: Image.Image = Image.open(
                io.BytesIO(data), formats=_DECODERS.get(picture_format, [picture_format.name])
            )
            _refuse_large(image.size, limits)
            frames = _frames(image)
            if frame is not None:
                image = _chosen(image, frames, frame)
                _refuse_large(image.size, limits)
            turned = image.getexif().get(_ORIENTATION_TAG, 1) not in (0, 1)
            image.load()
            ImageOps.exif_transpose(image, in_place=True)
            profile, image = _to_srgb(image)
            pixels = _pixels(_eight_bit(image))
    except ArtworkRefused:
        raise
    except Exception as error:  # Pillow's decoders raise what their C libraries and parsers happen to raise
        raise ArtworkRefused(
            "broken-picture",
            f"This {picture_format.label} file is damaged or cut short, so it cannot be read to its end. "
            "Save or download it again and choose the new copy.",
        ) from error
    animated = len(frames) > 1 and picture_format not in (PictureFormat.ICO, PictureFormat.TIFF)
    return Bitmap(pixels, frames, animated=animated, turned=turned, profile=profile)


def _frames(image: Image.Image) -> tuple[tuple[int, int], ...]:
    """The size of each picture in a file, at most MOST_FRAMES of them; of an ICO the smallest first."""
    if isinstance(image, IcoImagePlugin.IcoImageFile):
        return tuple(sorted(image.info["sizes"]))[:MOST_FRAMES]
    return (image.size,) * min(getattr(image, "n_frames", 1), MOST_FRAMES)


def _chosen(image: Image.Image, frames: tuple[tuple[int, int], ...], frame: int) -> Image.Image:
    if not 0 <= frame < len(frames):
        raise ArtworkRefused(
            "no-such-frame", f"This file has {len(frames)} pictures, so there is no number {frame + 1}."
        )
    if isinstance(image, IcoImagePlugin.IcoImageFile):
        image.size = frames[frame]
    else:
        image.seek(frame)
    return image


def _eight_bit(image: Image.Image) -> Image.Image:
    """16-bit grey as 8-bit grey: Pillow's own conversion would clip it."""
    if not image.mode.startswith("I"):
        return image
    grey = np.asarray(image, dtype=np.int64)
    return Image.fromarray(np.clip(grey * 255 // 65535, 0, 255).astype(np.uint8))


def _pixels(image: Image.Image) -> Pixels:
    """The picture as an array, copied in strips: as a whole, Pillow would copy it several times over."""
    if image.mode != "RGBA":
        image = image.convert("RGBA")
    pixels = np.empty((image.height, image.width, 4), dtype=np.uint8)
    for top in range(0, image.height, _STRIP):
        strip = image.crop((0, top, image.width, min(top + _STRIP, image.height)))
        pixels[top : top + _STRIP] = np.asarray(strip)
    return pixels


def pixel_size(data: bytes) -> tuple[int, int]:
    """Width and height a bitmap file declares, without decoding it; raises OSError when it is no bitmap."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        return Image.open(io.BytesIO(data)).size


def _refuse_large(size: tuple[int, int], limits: Limits) -> None:
    width, height = size
    if width * height > limits.pixels:
        raise ArtworkRefused(
            "too-many-pixels",
            f"This picture has {width} × {height} px, more than the limit of {limits.pixels // 1_000_000} million "
            "pixels. Save a smaller copy; 1024 px on the longer side is plenty for any icon.",
        )


def _to_srgb(image: Image.Image) -> tuple[str | None, Image.Image]:
    """The picture in sRGB and the name of the profile it came with (ICC.1; None when it had none)."""
    icc = image.info.get("icc_profile")
    if not icc:
        return None, image
    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(icc))
        name = ImageCms.getProfileDescription(source).strip()
        colours, alpha = _without_alpha(image)
        converted = ImageCms.profileToProfile(colours, source, ImageCms.createProfile("sRGB"), outputMode="RGB")
    except (ImageCms.PyCMSError, OSError):
        return "unreadable", image  # browsers, too, fall back to sRGB
    if converted is None:
        return "unreadable", image
    if alpha is not None:
        converted.putalpha(alpha)
    return name, converted


def _without_alpha(image: Image.Image) -> tuple[Image.Image, Image.Image | None]:
    """Colours in a mode that profiles describe, and the alpha channel apart."""
    alpha = image.convert("RGBA").getchannel("A") if image.has_transparency_data else None
    if image.mode in ("RGB", "CMYK", "L"):
        return image, alpha
    return image.convert("L" if image.mode in ("LA", "1") else "RGB"), alpha
