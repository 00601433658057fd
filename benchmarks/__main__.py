"""`make bench`: prints a table of medians and their ratios, all from this one run."""

import io
import statistics
import time
from collections.abc import Callable

import numpy as np
from PIL import Image

from bexi.core.artwork.facts import measure
from bexi.core.artwork.intake import take_in
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import Frame
from bexi.core.iconset.catalogue import ICONS

SIDE = 4096
ROUNDS = 3


def main() -> None:
    """Measure, and print each step against the decoding of its source by Pillow."""
    data = _large_png()
    picture_format, picture = take_in(data)
    frame = Frame(0, 0, SIDE)
    sizes = sorted({size for spec in ICONS for size in spec.sizes})
    decoding = _median(lambda: Image.open(io.BytesIO(data)).load())
    rows = {
        "taking in": lambda: take_in(data),
        "facts": lambda: measure("a.png", data, picture_format, picture),
        f"resampling to {len(sizes)} sizes": lambda: compose(picture, frame, None, sizes),
        "resampling for the ladder's small sizes": lambda: compose(picture, frame, None, [16, 32, 48]),
    }
    print(f"A {SIDE} × {SIDE} RGBA PNG; 1.0 is Pillow decoding it, median of {ROUNDS} in this run.\n")
    for name, work in rows.items():
        print(f"{name:<42}{_median(work) / decoding:>6.2f}")


def _large_png() -> bytes:
    """Smooth shapes and some noise, as drawn logos have."""
    y, x = np.mgrid[0:SIDE, 0:SIDE].astype(np.float32) / SIDE
    noise = np.random.default_rng(1).integers(0, 6, (SIDE, SIDE))
    channels = [127 + 120 * np.sin(9 * x), 127 + 120 * np.cos(7 * y), 200 * x * y + noise, 255 * (x + y < 1.6)]
    target = io.BytesIO()
    Image.fromarray(np.stack(channels, axis=-1).astype(np.uint8)).save(target, "PNG", compress_level=1)
    return target.getvalue()


def _median(work: Callable[[], object]) -> float:
    times = []
    for _ in range(ROUNDS):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return statistics.median(times)


main()
