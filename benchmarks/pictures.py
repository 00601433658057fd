"""Taking in, measuring and resampling a large picture, against Pillow's decoding of it."""

import io
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
from PIL import Image

from benchmarks.timing import median
from bexi.core.artwork.facts import measure
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.pictures import Bitmap
from bexi.core.framing.frame import Frame
from bexi.core.framing.reduce import reduced
from bexi.core.iconset.plan import RECOMMENDED

SIDE = 4096


def rows() -> Iterator[tuple[str, float, str]]:
    """Name of the work, its time over that of the decoding, and what is asked of it."""
    data = large_png(SIDE)
    picture_format, picture = take_in(data)
    assert isinstance(picture, Bitmap)
    frame = Frame(0, 0, SIDE)
    reduced(picture, frame, None, [16])  # fills the cache
    sizes = sorted({size for spec in RECOMMENDED.icons for size in spec.sizes})
    decoding = median(lambda: Image.open(io.BytesIO(data)).load())
    yield "taking in", median(lambda: take_in(data)) / decoding, ""
    yield "facts", median(lambda: measure(data, picture_format, picture)) / decoding, "at most 2"
    first = median(lambda: reduced(replace(picture), frame, None, sizes))  # a new picture has no levels yet
    yield f"all {len(sizes)} sizes, first time", first / decoding, ""
    small = [16, 24, 32, 48, 64]
    yield "rungs up to 64 px, again", median(lambda: reduced(picture, frame, None, small)) / decoding, "at most 0.1"


def large_png(side: int) -> bytes:
    """Smooth shapes and some noise, as scanned or compressed logos have."""
    y, x = np.mgrid[0:side, 0:side].astype(np.float32) / side
    noise = np.random.default_rng(1).integers(0, 6, (side, side))
    channels = [127 + 120 * np.sin(9 * x), 127 + 120 * np.cos(7 * y), 200 * x * y + noise, 255 * (x + y < 1.6)]
    target = io.BytesIO()
    Image.fromarray(np.stack(channels, axis=-1).astype(np.uint8)).save(target, "PNG", compress_level=1)
    return target.getvalue()
