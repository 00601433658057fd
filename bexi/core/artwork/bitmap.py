"""Decoding bitmap files."""

import io
import warnings

import numpy as np
from PIL import Image, ImageCms, ImageOps

from bexi.core.artwork.detection import PictureFormat
from bexi.core.artwork.limits import Limits
from bexi.core.artwork.pictures import Bitmap
from bexi.core.errors import ArtworkRefused

_ORIENTATION_TAG = 0x0112  # Exif 2.3, table 4


def decode(data: bytes, picture_format: PictureFormat, limits: Limits) -> Bitmap:
    """Decode a bitmap file whose format was detected; raises ArtworkRefused.

    Takes the first frame of an animation, turns the picture upright by its Exif orientation, converts an
    embedded ICC profile to sRGB.
    """
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # Pillow's own size warning comes later than our refusal
            image: Image.Image = Image.open(io.BytesIO(data), formats=[picture_format.name])
            _refuse_large(image.size, limits)
            animated = getattr(image, "n_frames", 1) > 1 and picture_format is not PictureFormat.ICO
            turned = image.getexif().get(_ORIENTATION_TAG, 1) not in (0, 1)
            image.load()
            profile, image = _to_srgb(ImageOps.exif_transpose(image))
            pixels = np.asarray(image.convert("RGBA"), dtype=np.uint8)
    except ArtworkRefused:
        raise
    except Exception as error:  # Pillow's decoders raise what their C libraries and parsers happen to raise
        raise ArtworkRefused(
            "broken-picture",
            f"This {picture_format.label} file is damaged or cut short, so it cannot be read to its end. "
            "Save or download it again and choose the new copy.",
        ) from error
    return Bitmap(pixels, animated=animated, turned=turned, profile=profile)


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
