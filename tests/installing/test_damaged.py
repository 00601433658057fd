"""Planning on sites full of damage: whatever a file holds, a plan is made."""

import struct
import zlib
from collections.abc import Callable
from random import Random
from unittest import TestCase

from PIL import Image

from bexi.core.formats import ico
from bexi.hosts.careful import CarefulHost
from bexi.installing.plan import InstallPlan, plan_install
from bexi.installing.survey import MOST_LINES
from tests.installing.places import MemoryStorage
from tests.pictures import BLUE_DISC, encoded, noise, plain_png
from tests.sets import head_lines_of

PICTURES, TEXTS = 20_000, 2_000
MANIFEST = b'{"name": "Rota", "icons": [{"src": "a.png", "sizes": "192x192"}], "x": [1.5, {"y": "\\u00e9"}], "z": null}'
PAGE = (
    b"<!doctype html>\n<html>\n<head>\n{% if a %}<title>a</title>{% endif %}\n<base href='/'>\n"
    b'<link rel="icon" href="a.png" sizes="16x16">\n<link rel=manifest href="m.json"><!-- c -->\n</head>\n<body></body>'
)


def samples() -> dict[str, bytes]:
    """One small picture of each kind of file."""
    image, other = (Image.fromarray(noise(20, 12, seed)) for seed in (1, 2))
    opaque = image.convert("RGB")
    grey = Image.fromarray(noise(20, 12)[..., 0].astype("uint16") * 257)
    return {
        "png": encoded(image, "PNG"),
        "palette.png": encoded(opaque.convert("P"), "PNG", transparency=3),
        "grey.png": encoded(grey, "PNG"),
        "apng": encoded(image, "PNG", save_all=True, append_images=[other]),
        "jpg": encoded(opaque, "JPEG", exif=_exif()),
        "gif": encoded(opaque, "GIF", save_all=True, append_images=[other.convert("RGB")]),
        "bmp": encoded(opaque, "BMP"),
        "webp": encoded(image, "WEBP"),
        "avif": encoded(opaque, "AVIF"),
        "tif": encoded(image, "TIFF", compression="tiff_lzw"),
        "ico": ico.write([noise(16, 16), noise(32, 32)]),
        "png.ico": encoded(image.resize((32, 32)), "ICO", sizes=[(16, 16), (32, 32)]),
        "tif.ico": _in_ico(encoded(image, "TIFF")),
        "svg": BLUE_DISC.replace(b"<circle", b"<style>circle{fill:url(#a)}</style><circle style='fill:red'"),
        "pdf": encoded(Image.new("RGB", (8, 8)), "PDF"),
    }


def _exif() -> Image.Exif:
    exif = Image.Exif()
    exif[0x0112] = 6
    return exif


def _in_ico(data: bytes) -> bytes:
    return struct.pack("<HHH", 0, 1, 1) + struct.pack("<BBBBHHII", 20, 12, 0, 0, 1, 32, len(data), 22) + data


def damaged(data: bytes, random: Random) -> bytes:
    """The same file cut short, with other bytes, with a stretch moved, repeated or gone."""
    broken = bytearray(data)
    for _ in range(random.choice((1, 1, 2, 5, 20))):
        at, length = random.randrange(len(broken) or 1), random.randrange(1, 12)
        match random.randrange(6):
            case 0:
                del broken[random.randrange(len(broken) // 2 + 1) :]
            case 1:
                broken[at : at + length] = random.randbytes(length)
            case 2:
                broken[at : at + 1] = bytes([random.choice((0, 1, 0x7F, 0x80, 0xFF))])
            case 3:
                broken[at : at + length] = b""
            case 4:
                broken[at:at] = broken[random.randrange(len(broken) or 1) :][:length]
            case _:
                broken[at : at + 4] = struct.pack(
                    random.choice("<>") + "I", random.getrandbits(32) >> random.randrange(32)
                )
    return _with_sums(bytes(broken)) if random.random() < 0.5 else bytes(broken)


def _with_sums(data: bytes) -> bytes:
    """A PNG whose chunks have the right sums again, so that a decoder looks further into it."""
    if not data.startswith(b"\x89PNG\r\n\x1a\n"):
        return data
    pieces, position = [data[:8]], 8
    while position + 12 <= len(data):
        length = int.from_bytes(data[position : position + 4])
        body = data[position + 4 : position + 8 + length]
        pieces.append(data[position : position + 4] + body + zlib.crc32(body).to_bytes(4))
        position += 12 + length
    return b"".join(pieces)


def plan_of(files: dict[str, bytes]) -> InstallPlan:
    return plan_install(CarefulHost(MemoryStorage(files)), head_lines_of())


class DamagedTests(TestCase):
    def assert_planned(self, count: int, at_once: int, site_of: Callable[[Random, int], dict[str, bytes]]) -> None:
        random = Random(20_261_125)
        for number in range(-(-count // at_once)):
            files = site_of(random, number)
            try:
                plan = plan_of(files)
            except Exception as error:
                error.add_note(f"site {number}")
                raise
            self.assertEqual(len([step for step in plan.steps if step.path == "favicon.ico"]), 1)

    def test_pictures(self):
        sound = list(samples().values())

        def site(random: Random, number: int) -> dict[str, bytes]:
            names = [f"{place}.ico" for place in range(MOST_LINES)]
            links = "".join(
                f'<link rel="icon" sizes="{place + 1}x1" href="{name}">' for place, name in enumerate(names)
            )
            page = f"<!doctype html><head><title>a</title>{links}</head>".encode()
            return {"index.html": page, **{name: damaged(random.choice(sound), random) for name in names}}

        self.assert_planned(PICTURES, MOST_LINES, site)

    def test_manifests_and_heads(self):
        def site(random: Random, number: int) -> dict[str, bytes]:
            pages = {f"{place}.html": damaged(PAGE, random) for place in range(10)}
            manifests = {f"{place}/m.json": damaged(MANIFEST, random) for place in range(10)}
            naming = {f"{place}/index.html": PAGE for place in range(10)}
            return {"m.json": damaged(MANIFEST, random), "a.png": plain_png(), **pages, **manifests, **naming}

        self.assert_planned(TEXTS, 10, site)
