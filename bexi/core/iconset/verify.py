"""Reading every built file back with a decoder that did not write it, and comparing."""

import io
import json
from collections.abc import Sequence

import numpy as np
from PIL import IcoImagePlugin, Image

from bexi.core.errors import BuildFailed
from bexi.core.formats import ico
from bexi.core.formats.webmanifest import ManifestIcon
from bexi.core.iconset.catalogue import IconSpec
from bexi.core.pixels.light import Pixels


def verify_icon(spec: IconSpec, data: bytes, expected: Sequence[Pixels]) -> None:
    """Raise BuildFailed unless a file decodes to exactly the expected pictures, opaque where it must be."""
    try:
        pictures = _decode(spec, data)
    except Exception as error:
        raise _failure(spec, f"it cannot be decoded ({error})") from error
    if len(pictures) != len(expected):
        raise _failure(spec, f"it holds {len(pictures)} pictures instead of {len(expected)}")
    for read, meant in zip(pictures, expected, strict=True):
        if read.shape != meant.shape:
            raise _failure(spec, f"a picture is {read.shape[1]} px instead of {meant.shape[1]} px")
        if not np.array_equal(read, meant):
            raise _failure(spec, "its pixels differ from the picture that was composed")
        if spec.opaque and read[..., 3].min() < 255:
            raise _failure(spec, "it is not opaque")


def verify_manifest(data: bytes, icons: Sequence[ManifestIcon]) -> None:
    """Raise BuildFailed unless a manifest parses as JSON and names exactly these icons."""
    try:
        members = json.loads(data)["icons"]
    except (ValueError, KeyError, TypeError) as error:
        raise BuildFailed("build-failed", "The manifest just built cannot be read back; nothing was kept.") from error
    if members != [icon.member() for icon in icons]:
        raise BuildFailed("build-failed", "The manifest just built names other icons; nothing was kept.")


def _decode(spec: IconSpec, data: bytes) -> list[Pixels]:
    if spec.media_type != ico.MEDIA_TYPE:
        return [_array(Image.open(io.BytesIO(data), formats=["PNG"]))]
    file = IcoImagePlugin.IcoFile(io.BytesIO(data))
    return [_array(file.getimage((size, size))) for size in spec.sizes if (size, size) in file.sizes()]


def _array(image: Image.Image) -> Pixels:
    return np.asarray(image.convert("RGBA"), dtype=np.uint8)


def _failure(spec: IconSpec, reason: str) -> BuildFailed:
    return BuildFailed(
        "build-failed", f"{spec.name} did not pass its check: {reason}. Nothing was kept; please build again."
    )
