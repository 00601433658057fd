"""Twelve icons from one picture, with encoding, against ImageMagick and libvips; accuracy, memory and bytes."""

import io
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator, Sequence
from functools import partial
from pathlib import Path

import numpy as np
import oxipng
import pyvips
from PIL import Image

from benchmarks.pictures import SIDE, large_png
from benchmarks.timing import median
from bexi.core.artwork.intake import take_in
from bexi.core.formats import png
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.reduce import reduced
from bexi.core.iconset.catalogue import tab_icon
from bexi.core.iconset.encode import Each, Job, encode
from bexi.core.iconset.processes import Processes
from bexi.core.pixels.light import Pixels
from bexi.server.demo.artwork import ferry_lockup
from tests.core.pixels import reference

SIZES = (16, 24, 32, 48, 64, 96, 128, 180, 192, 256, 384, 512)
_MEASURE_MEMORY = """
import sys
from pathlib import Path
from benchmarks.icons import twelve

def status(name):
    lines = Path("/proc/self/status").read_text().splitlines()
    return next(int(line.split()[1]) * 1024 for line in lines if line.startswith(name))

data = Path(sys.argv[1]).read_bytes()
Path("/proc/self/clear_refs").write_text("5")  # the peak is counted from here (proc(5))
before = status("VmRSS")
twelve(data)
print(status("VmHWM") - before)
"""


_PROCESSES = Processes(os.cpu_count() or 1)
"""Started before anything is measured and then kept, as in a Bexi that runs."""


def twelve(data: bytes, each: Each = map) -> list[bytes]:
    """The twelve PNG icons of a picture file."""
    jobs = [Job(tab_icon(len(pixels)), [pixels]) for pixels in twelve_pictures(data)]
    return list(each(encode, jobs))


def twelve_pictures(data: bytes) -> list[Pixels]:
    """The same before they are encoded."""
    _, picture = take_in(data)
    return reduced(picture, whole_artwork(picture.width, picture.height), None, SIZES)


def rows() -> Iterator[tuple[str, float, str]]:
    """Name of what is measured, the ratio or error, and what is asked of it."""
    grainy, drawn = large_png(SIDE), drawn_png(SIDE)
    for name, data in (("grainy", grainy), ("drawn", drawn)):
        decoding = median(lambda data=data: Image.open(io.BytesIO(data)).load())  # type: ignore[misc]
        twelve(data, _PROCESSES.each)
        ours = median(partial(twelve, data, _PROCESSES.each))
        yield f"{name} {SIDE} px, over Pillow's decoding", ours / decoding, "at most 3.0 (grainy), 4.0 (drawn)"
        yield "  of that, without encoding", median(partial(twelve_pictures, data)) / decoding, ""
        yield "  ImageMagick over ours", imagemagick(data) / ours, "at least 15"
        yield "  libvips in linear light over ours", median(partial(_vips, data)) / ours, ""
    for name, data in (("1024 px PNG", large_png(1024)), ("SVG", ferry_lockup())):
        yield f"{name}, ImageMagick over ours", imagemagick(data) / median(partial(twelve, data, _PROCESSES.each)), ""
    yield "memory over the decoded picture", _memory(grainy) / (SIDE * SIDE * 4), "at most 2.5"
    yield from _accuracy(drawn)
    for name, data in (("grainy", grainy), ("drawn", drawn)):
        yield from _against_zopfli(name, twelve_pictures(data)[:-2])  # zopfli takes minutes for the largest


def drawn_png(side: int) -> bytes:
    """The demo's emblem drawn large, as a logo file is."""
    _, picture = take_in(ferry_lockup())
    target = io.BytesIO()
    Image.fromarray(reduced(picture, whole_artwork(620, 620), None, [side])[0]).save(target, "PNG")
    return target.getvalue()


def imagemagick(data: bytes) -> float:
    """Seconds of one call that decodes once and resizes to every size in linear light with Lanczos."""
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / ("in.svg" if b"<svg" in data[:500] else "in.png")
        source.write_bytes(data)
        steps = [
            part
            for size in SIZES
            for part in (
                *("(", "+clone", "-resize", f"{size}x{size}"),
                *("-colorspace", "sRGB", "+write", f"{folder}/{size}.png", "+delete", ")"),
            )
        ]
        command = ["convert", "-background", "none", str(source), "-colorspace", "RGB", "-filter", "Lanczos"]
        start = time.perf_counter()
        subprocess.run([*command, *steps, "null:"], check=True)
        return time.perf_counter() - start


def _vips(data: bytes) -> None:
    for size in SIZES:
        image = pyvips.Image.new_from_buffer(data, "")
        light = image.colourspace("scrgb").premultiply()
        small = light.resize(size / image.width, kernel="lanczos3").unpremultiply()
        small.colourspace("srgb").cast("uchar").pngsave_buffer()


def _memory(data: bytes) -> float:
    """Bytes by which a fresh process grows while it makes the icons."""
    with tempfile.NamedTemporaryFile() as source:
        source.write(data)
        source.flush()
        command = [sys.executable, "-c", _MEASURE_MEMORY, source.name]
        return float(subprocess.run(command, capture_output=True, text=True, check=True).stdout)


def _accuracy(data: bytes) -> Iterator[tuple[str, float, str]]:
    """Against a direct, bounded Lanczos reduction in linear light and double precision, on opaque pixels."""
    pixels = np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"))
    light = reference.cut(pixels, 0, 0, SIDE)
    means, largest = [], 0
    for size, ours in zip(SIZES, twelve_pictures(data), strict=True):
        apart = np.abs(ours.astype(int) - reference.stored(reference.reduced(light, size)))[ours[..., 3] == 255]
        means.append(float(apart.mean()))
        largest = max(largest, int(apart.max()))
    yield "error, mean of 255", max(means), "at most 0.25"
    yield "error, largest of 255", largest, "at most 1"


def _against_zopfli(name: str, icons: Sequence[Pixels]) -> Iterator[tuple[str, float, str]]:
    start = time.perf_counter()
    ours = sum(len(png.write(pixels)) for pixels in icons)
    between = time.perf_counter()
    best = sum(_zopfli(pixels) for pixels in icons)
    end = time.perf_counter()
    yield f"{name}: PNG bytes over zopfli's best", ours / best, "at most 1.03"
    yield "  and the time of it", (between - start) / (end - between), "at most 0.1"


def _zopfli(pixels: Pixels) -> int:
    raw = oxipng.RawImage(pixels.tobytes(), *pixels.shape[1::-1], color_type=oxipng.ColorType.rgba())
    tried = (oxipng.RowFilter.NoOp, oxipng.RowFilter.BigEnt)
    return min(
        len(raw.create_optimized_png(level=2, filter=[one], deflate=oxipng.Deflaters.zopfli(15))) for one in tried
    )
