"""The demo's artwork, drawn anew and always the same. Everything in it is invented."""

import io

import numpy as np
from PIL import Image, ImageDraw

from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.resources import face_files
from bexi.server.demo.lettering import outlines

NAVY, SAND, HULL, SAIL, WAVE = "#123f59", "#f4f0e4", "#e2572b", "#f2b84b", "#7cc4c9"

_EMBLEM = f"""
<circle cx="310" cy="310" r="264" fill="{NAVY}"/>
<path d="M256 112h68v148h-68z" fill="{SAND}"/>
<path d="M324 112c52-10 92 2 140 48-48 46-88 58-140 48z" fill="{SAIL}"/>
<path d="M118 260h384l-56 96q-10 16-30 16H204q-20 0-30-16z" fill="{HULL}"/>
<path d="M178 470c33-34 55-34 88 0s55 34 88 0 55-34 88 0" fill="none" stroke="{WAVE}" stroke-width="52"
 stroke-linecap="round"/>
"""


def _svg(width: int, height: int, body: str) -> bytes:
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" '
        f'viewBox="0 0 {width} {height}">{body}</svg>\n'
    ).encode()


def ferry_lockup() -> bytes:
    """SVG, 1240 × 620: the emblem with the name set beside it."""
    bold = face_files("atkinson-hyperlegible-next", 800)[0]
    name = outlines("Merrowmouth", bold, 630, 306, 92)
    line = outlines("Ferry Cooperative", bold, 633, 382, 56)
    return _svg(1240, 620, f'{_EMBLEM}<path fill="{NAVY}" d="{name}"/><path fill="#3f6f7a" d="{line}"/>')


def ferry_emblem_on_white() -> bytes:
    """JPEG, 1400 × 1000: white ground, uneven margins, slight compression noise."""
    emblem = _drawn(_svg(620, 620, _EMBLEM), 820)
    page = Image.new("RGB", (1400, 1000), "white")
    page.paste(emblem, (190, 60), emblem)
    return _saved(page, "JPEG", quality=72)


def harbour_stamp() -> bytes:
    """PNG, 900 × 900, transparent: one dark colour in thin lines."""
    rays = "".join(f'<path d="M450 118v52" transform="rotate({angle} 450 450)"/>' for angle in range(0, 360, 15))
    body = f"""<g fill="none" stroke="#1d2b33" stroke-width="9">
<circle cx="450" cy="450" r="420"/><circle cx="450" cy="450" r="352"/>{rays}
<path d="M450 262v372M372 336h156M450 634c-96 0-168-58-186-144M450 634c96 0 168-58 186-144M236 520l28-40 40 26
M664 520l-28-40-40 26"/><circle cx="450" cy="230" r="34"/></g>"""
    return _saved(_drawn(_svg(900, 900, body), 900), "PNG")


def old_button() -> bytes:
    """Animated GIF, 88 × 31."""
    frames = []
    for step in range(6):
        frame = Image.new("RGB", (88, 31), NAVY)
        draw = ImageDraw.Draw(frame)
        draw.rectangle((0, 0, 87, 30), outline="#c8d4d8")
        draw.polygon([(8 + step, 18), (34 + step, 18), (29 + step, 25), (13 + step, 25)], fill=HULL)
        draw.rectangle((19 + step, 7, 21 + step, 17), fill=SAND)
        for x in range(42, 84, 14):
            draw.arc((x - step, 12, x + 12 - step, 22), 200, 340, fill=WAVE, width=2)
        frames.append(frame)
    target = io.BytesIO()
    frames[0].save(target, "GIF", save_all=True, append_images=frames[1:], duration=180, loop=0)
    return target.getvalue()


def log_book_photo() -> bytes:
    """JPEG as a phone stores it: 3000 × 2000, upright only after its orientation tag is followed."""
    noise = np.random.default_rng(1840)
    rows, columns = np.mgrid[0:3000, 0:2000]
    paper = 214 + 14 * np.sin(rows / 700) - 18 * (columns / 2000) + noise.normal(0, 5, (3000, 2000))
    picture = np.stack([paper, paper * 0.95, paper * 0.82], axis=-1)
    picture[(rows % 130 < 5) & (rows > 300)] *= 0.86
    for line in range(18):
        top = 360 + line * 130
        reach = int(noise.integers(900, 1700))
        band = slice(top, top + 90)
        across = columns[band]
        wave = top + 40 + 22 * np.sin(across / (19 + line)) + 12 * np.sin(across / 7)
        ink = (np.abs(rows[band] - wave) < 6) & (across > 180) & (across < reach)
        picture[band][ink] = (38, 46, 84)
    upright = Image.fromarray(np.clip(picture, 0, 255).astype(np.uint8))
    exif = Image.Exif()
    exif[0x0112] = 6  # Exif: the camera was turned; show it rotated by 90° clockwise
    return _saved(upright.transpose(Image.Transpose.ROTATE_90), "JPEG", quality=80, exif=exif)


def pennant_scan() -> bytes:
    """BMP, 120 × 160: too small for the large icons."""
    image = Image.new("RGB", (120, 160), "#ece5d2")
    draw = ImageDraw.Draw(image)
    draw.rectangle((22, 10, 26, 150), fill="#5b4636")
    draw.polygon([(27, 14), (108, 42), (27, 72)], fill="#a4252c")
    draw.ellipse((40, 32, 62, 54), fill="#ece5d2")
    return _saved(image, "BMP")


def site_pictures() -> dict[str, bytes]:
    """The icons the demo sites have at the start, by path below the stand-in's sites: each wrong in its own way."""
    emblem = _drawn(_svg(620, 620, _EMBLEM), 300)
    banner = Image.new("RGB", (300, 180), "#dfe4dc")
    banner.paste(emblem.resize((150, 150)), (75, 15), emblem.resize((150, 150)))
    return {
        "log/favicon.ico": _saved(banner, "JPEG", quality=80),
        "log/pics/flag.gif": _saved(emblem.resize((24, 24)).convert("P"), "GIF"),
        "crew/img/tiny.png": _saved(emblem.resize((16, 16)), "PNG"),
        "crew/apple-touch-icon.png": _saved(emblem.resize((120, 120)), "PNG"),
        "shop/en/mark.svg": _svg(620, 620, _EMBLEM),
        "shop/en/mark-32.png": _saved(emblem.resize((32, 32)), "PNG"),
        "shop/en/touch.png": _saved(_on_sand(emblem.resize((180, 180))), "PNG"),
    }


def _on_sand(picture: Image.Image) -> Image.Image:
    ground = Image.new("RGB", picture.size, SAND)
    ground.paste(picture, (0, 0), picture)
    return ground


def _drawn(svg: bytes, longest: int) -> Image.Image:
    return Image.fromarray(render_whole(check(svg, DEFAULT_LIMITS), longest))


def _saved(image: Image.Image, kind: str, **options: object) -> bytes:
    target = io.BytesIO()
    image.save(target, kind, **options)
    return target.getvalue()
