"""Reading every built file back with a decoder that did not write it, and comparing."""

import io
import json
from collections.abc import Mapping, Sequence

import numpy as np
from PIL import IcoImagePlugin, Image

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render
from bexi.core.errors import ArtworkRefused, BuildFailed
from bexi.core.formats import browserconfig, media_types
from bexi.core.formats.webmanifest import ManifestIcon
from bexi.core.iconset.catalogue import MANIFEST, TILE_CONFIG, FileSpec, IconSpec
from bexi.core.pixels import palette
from bexi.core.pixels.light import Pixels

_DRAWN_ERROR = 1.0
"""How far, of 255, the mean of a drawn icon may be from pixels: edges that lie on edges are covered twice there."""
_OVERHEAD = 1024
_MASKED = 1.04
"""A bitmap frame of an ICO has another bit for each of its 32, rows padded."""


def verify_icon(spec: IconSpec, data: bytes, expected: Sequence[Pixels], most_error: float = 0) -> None:
    """Raise BuildFailed unless a file decodes to the expected pictures, opaque where it must be.

    They must be equal, or within a mean error of so much of 255; and no file may be larger than its bare pixels.
    """
    try:
        pictures = _decode(spec, data)
    except Exception as error:
        raise _failure(spec, f"it cannot be decoded ({error})") from error
    if len(pictures) != len(expected):
        raise _failure(spec, f"it holds {len(pictures)} pictures instead of {len(expected)}")
    for read, meant in zip(pictures, expected, strict=True):
        if read.shape != meant.shape:
            raise _failure(spec, f"a picture is {read.shape[1]} px instead of {meant.shape[1]} px")
        if palette.error(read, meant) > most_error or (not most_error and not np.array_equal(read, meant)):
            raise _failure(spec, "its pixels differ from the picture that was composed")
        if spec.opaque and read[..., 3].min() < 255:
            raise _failure(spec, "it is not opaque")
    if len(data) > sum(meant.nbytes for meant in expected) * _MASKED + _OVERHEAD * len(expected):
        raise _failure(spec, f"it takes {len(data)} bytes, more than its bare pixels")


def verify_drawing(spec: IconSpec, data: bytes, meant: Pixels) -> None:
    """Raise BuildFailed unless an SVG file is safe, square and drawn as the composed picture."""
    try:
        vector = check(data, DEFAULT_LIMITS)
        read = render(vector, 0, 0, vector.width, meant.shape[0])
    except ArtworkRefused as refusal:
        raise _failure(spec, f"it cannot be drawn ({refusal.sentence})") from refusal
    if vector.width != vector.height:
        raise _failure(spec, "it is not square")
    if palette.error(read, meant) > _DRAWN_ERROR:
        raise _failure(spec, "it looks different from the picture that was composed")


def verify_manifest(data: bytes, icons: Sequence[ManifestIcon], others: Mapping[str, str]) -> None:
    """Raise BuildFailed unless a manifest parses as JSON, names exactly these icons and says exactly this besides."""
    try:
        members = json.loads(data)
        named = members.pop("icons")
        members.pop("name")
    except (ValueError, KeyError, TypeError, AttributeError) as error:
        raise _failure(MANIFEST, "it cannot be read") from error
    if named != [icon.member() for icon in icons]:
        raise _failure(MANIFEST, "it names other icons")
    if members != others:
        raise _failure(MANIFEST, "it says something else about the app")


def verify_tiles(data: bytes, tiles: Sequence[tuple[str, str]]) -> None:
    """Raise BuildFailed unless a tile configuration parses as XML and names exactly these tiles."""
    try:
        read = browserconfig.read(data)
    except Exception as error:
        raise _failure(TILE_CONFIG, f"it cannot be read ({error})") from error
    if read != dict(tiles):
        raise _failure(TILE_CONFIG, "it names other tiles")


def _decode(spec: IconSpec, data: bytes) -> list[Pixels]:
    if spec.media_type != media_types.ICO:
        return [_array(Image.open(io.BytesIO(data), formats=["PNG"]))]
    file = IcoImagePlugin.IcoFile(io.BytesIO(data))
    return [_array(file.getimage((size, size))) for size in spec.sizes if (size, size) in file.sizes()]


def _array(image: Image.Image) -> Pixels:
    return np.asarray(image.convert("RGBA"), dtype=np.uint8)


def _failure(spec: FileSpec, reason: str) -> BuildFailed:
    return BuildFailed(
        "build-failed", f"{spec.name} did not pass its check: {reason}. Nothing was kept; please build again."
    )
