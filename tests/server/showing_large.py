"""Takes in, shows, proposes and frames a picture of 64 million px; prints the largest memory it took, in MB."""

import struct
import zlib
from pathlib import Path

import django

SIDE = 8000


def chunk(kind: bytes, data: bytes) -> bytes:
    return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))


def large_picture() -> bytes:
    """A PNG that is small as a file."""
    rows = zlib.compressobj(1)
    body = b"".join(rows.compress(b"\0" + bytes([number % 251]) * 3 * SIDE) for number in range(SIDE)) + rows.flush()
    header = struct.pack(">IIBBBBB", SIDE, SIDE, 8, 2, 0, 0, 0)
    pieces = ((b"IHDR", header), (b"IDAT", body), (b"IEND", b""))
    return b"\x89PNG\r\n\x1a\n" + b"".join(chunk(kind, data) for kind, data in pieces)


def main() -> None:
    django.setup()
    from django.core.management import call_command

    call_command("migrate", verbosity=0)
    from bexi.core.framing.purpose import Purpose
    from bexi.server.artwork import aside
    from bexi.server.artwork.services import add_artwork, preview
    from bexi.server.drafts import judging
    from bexi.server.drafts import services as drafts
    from bexi.server.sites.models import Site

    aside.stay_small()
    artwork, site = add_artwork("large.png", large_picture()), Site.objects.create(name="Harbour log")
    pictures = [preview(artwork, longest) for longest in (320, 1000)]
    assert all(picture.startswith(b"\x89PNG") for picture in pictures)
    assert [(step.done, step.total) for step in judging.proposing(artwork, site)] == [(0, 0), (0, 0), (1, 1)]
    recipe = judging.put_on_bench(site, artwork, 0)[0].read_recipe
    rungs = drafts.rungs(artwork, recipe, [(16, Purpose.TAB), (192, Purpose.MASKED)], nobody_waits=lambda: False)
    assert all(rung.png.startswith(b"\x89PNG") for rung in rungs)
    status = Path("/proc/self/status").read_text().splitlines()
    # Not getrusage, whose figure begins with that of the process that started this one.
    print(next(int(line.split()[1]) // 1024 for line in status if line.startswith("VmHWM:")))


if __name__ == "__main__":
    main()
