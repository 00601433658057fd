"""Decoding bitmap files."""

import io
import warnings
from collections.abc import Iterator
from contextlib import contextmanager

import numpy as np
from PIL import IcoImagePlugin, Image, ImageCms, ImageOps

from bexi.core.artwork.detection import PictureFormat
from bexi.core.artwork.limits import Limits
from bexi.core.artwork.pictures import Bitmap
from bexi.core.errors import ArtworkRefused
from bexi.core.formats import png
from bexi.core.pixels.light import Pixels

_STRIP = 64
_ORIENTATION_TAG = 0x0112  # Exif 2.3, table 4


def decode(data: bytes, picture_format: PictureFormat, limits: Limits, frame: int | None = None) -> Bitmap:
    """Decode a bitmap file whose format was detected; raises ArtworkRefused.

    `frame` chooses one of several pictures in the file; None takes the first, of an ICO the largest. The picture is
    turned upright by its Exif orientation, an embedded ICC profile is converted to sRGB.
    """
    with _told(picture_format, limits):
        image = _opened(data, picture_format, limits)
        frames = _frames(image, picture_format, limits)
        if frame is not None:
            image = _chosen(image, frames, frame)
            _refuse_large(image.size, limits)
        turned = image.getexif().get(_ORIENTATION_TAG, 1) not in (0, 1)
        image.load()
        ImageOps.exif_transpose(image, in_place=True)
        profile, image = _to_srgb(_eight_bit(image), image.info.get("icc_profile"))
        pixels = _pixels(image)
        if picture_format is PictureFormat.PNG and not png.is_whole(data, not pixels[-1, :, :3].any()):
            raise EOFError
    animated = len(frames) > 1 and picture_format not in (PictureFormat.ICO, PictureFormat.TIFF)
    return Bitmap(pixels, frames, animated=animated, turned=turned, profile=profile)


def decode_each(data: bytes, picture_format: PictureFormat, limits: Limits) -> Iterator[Pixels]:
    """Every picture of an ICO, one after the other; of any other bitmap file the first. Raises ArtworkRefused."""
    with _told(picture_format, limits):
        image = _opened(data, picture_format, limits)
        entries = image.ico.entry if isinstance(image, IcoImagePlugin.IcoImageFile) else []
        if len(entries) > limits.frames or sum(entry.width * entry.height for entry in entries) > limits.pixels:
            raise ArtworkRefused(
                "too-many-frames",
                f"This file holds {len(entries):,} pictures, more than any icon needs. Make it again.",
            )
    if not entries:
        yield decode(data, picture_format, limits).pixels
    for number in reversed(range(len(entries))):  # the smallest first
        with _told(picture_format, limits):
            pixels = _pixels(image.ico.frame(number))  # type: ignore[attr-defined]  # it has entries
        yield pixels


@contextmanager
def _told(picture_format: PictureFormat, limits: Limits) -> Iterator[None]:
    """Turn whatever Pillow's decoders, their C libraries and parsers happen to raise into one refusal."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            warnings.simplefilter("error", Image.DecompressionBombWarning)  # somewhat above our own limit
            yield
    except (Image.DecompressionBombWarning, Image.DecompressionBombError) as error:
        raise too_many_pixels("This picture has", limits) from error
    except (ArtworkRefused, MemoryError):
        raise
    except Exception as error:
        raise ArtworkRefused(
            "broken-picture",
            f"This {picture_format.label} file is damaged or cut short, so it cannot be read to its end. "
            "Save or download it again and choose the new copy.",
        ) from error


def _opened(data: bytes, picture_format: PictureFormat, limits: Limits) -> Image.Image:
    image: Image.Image = Image.open(io.BytesIO(data), formats=picture_format.decoders)
    _refuse_large(image.size, limits)
    return image


def _frames(image: Image.Image, picture_format: PictureFormat, limits: Limits) -> tuple[tuple[int, int], ...]:
    """The size of each picture in a file, at most `limits.frames` of them; of an ICO the smallest first."""
    if isinstance(image, IcoImagePlugin.IcoImageFile):
        return tuple(sorted(image.info["sizes"]))[: limits.frames]
    # Cameras put a preview or a second view behind a JPEG (CIPA DC-007); that makes no animation.
    count = 1 if picture_format is PictureFormat.JPEG else getattr(image, "n_frames", 1)
    return (image.size,) * min(count, limits.frames)


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
    """16-bit grey as 8-bit grey, with alpha where one grey is meant to be clear: Pillow's own way would clip it."""
    if not image.mode.startswith("I"):
        return image
    grey = np.asarray(image, dtype=np.int64)
    reduced = Image.fromarray(np.clip(grey * 255 // 65535, 0, 255).astype(np.uint8))
    clear = image.info.get("transparency")
    if clear is not None:
        reduced.putalpha(Image.fromarray(np.where(grey == clear, 0, 255).astype(np.uint8)))
    return reduced


def _pixels(image: Image.Image) -> Pixels:
    """The picture as an array, copied in strips: as a whole, Pillow would copy it several times over."""
    if image.mode != "RGBA":
        image = image.convert("RGBA")
    pixels = np.empty((image.height, image.width, 4), dtype=np.uint8)
    for top in range(0, image.height, _STRIP):
        strip = image.crop((0, top, image.width, min(top + _STRIP, image.height)))
        pixels[top : top + _STRIP] = np.asarray(strip)
    return pixels


def too_many_pixels(what: str, limits: Limits) -> ArtworkRefused:
    """The refusal of what has more px than the limit; `what` begins the sentence."""
    return ArtworkRefused(
        "too-many-pixels",
        f"{what} more than the limit of {limits.pixels // 1_000_000} million pixels. "
        "Save a smaller copy; 1024 px on the longer side is plenty for any icon.",
    )


def _refuse_large(size: tuple[int, int], limits: Limits) -> None:
    width, height = size
    if width * height > limits.pixels:
        raise too_many_pixels(f"This picture has {width} × {height} px,", limits)


def _to_srgb(image: Image.Image, icc: bytes | None) -> tuple[str | None, Image.Image]:
    """The picture in sRGB and the name of the profile it came with (ICC.1; None when it had none)."""
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
