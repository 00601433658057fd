"""Generated pages that declare icons in every way one meets: orders, sizes, types, media, fates, places, bases."""

import io
import random
from collections.abc import Sequence
from dataclasses import dataclass, field

from PIL import Image

from bexi.core.iconset.plan import READY_MADE, Plan

_SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><rect width="8" height="8" fill="#{colour:06x}"/></svg>'
)
FATES = ("good", "good", "good", "good", "missing", "damaged", "moved", "mistyped")
_MEDIA = ("(prefers-color-scheme: light)", "(prefers-color-scheme: dark)", "print", "all", "(min-width: 1px)")
_TYPES = {"png": "image/png", "svg": "image/svg+xml", "ico": "image/x-icon", "gif": "image/gif"}


@dataclass(frozen=True)
class File:
    """One file behind a declared icon, and what becomes of a request for it."""

    name: str
    kind: str
    sides: tuple[int, ...]
    fate: str

    def bytes(self, number: int) -> bytes:
        """Its content, unlike that of any other file."""
        if self.fate == "damaged":
            return b"<!doctype html><title>Sorry</title><p>This is no picture."
        colour = self.colour(number)
        if self.kind == "svg":
            return _SVG.format(colour=colour).encode()
        pictures = [Image.new("RGBA", (side, side), f"#{colour:06x}") for side in self.sides]
        target = io.BytesIO()
        if self.kind == "ico":
            pictures[-1].save(target, "ICO", sizes=[(side, side) for side in self.sides])
        else:
            pictures[0].save(target, self.kind.upper())
        return target.getvalue()

    def colour(self, number: int) -> int:
        """The colour of its picture, as a number."""
        return (number * 2654435761 + _hash(self.name)) % 0xFFFFFF

    @property
    def media_type(self) -> str:
        """What the server says it is."""
        return "text/plain" if self.fate == "mistyped" else _TYPES[self.kind]


def _hash(text: str) -> int:
    """The same in every process, as hash() is not."""
    return sum(ord(letter) * 31**place for place, letter in enumerate(text)) & 0xFFFF


@dataclass(frozen=True)
class Page:
    """One page on a host of its own, and the files of that host by path."""

    number: int
    html: str
    files: dict[str, File] = field(hash=False)

    @property
    def host(self) -> str:
        """Distinct for each page, so that no browser knows anything of it yet."""
        return f"page-{self.number}.example"


def pages(seed: int, count: int, first: int = 0) -> list[Page]:
    """Generated pages; the same for the same seed. Even seeds are for modelling, odd ones for reporting."""
    made = random.Random(seed)
    return [_page(made, first + number) for number in range(count)]


def sets(first: int) -> list[Page]:
    """Pages with the lines of the ready-made plans, as Bexi writes them."""
    return [_of_plan(first + number, plan) for number, plan in enumerate(READY_MADE.values())]


def _of_plan(number: int, plan: Plan) -> Page:
    files = {}
    specs = [spec for spec in plan.icons if spec.rel in ("icon", "apple-touch-icon")]
    for spec in specs:
        kind = spec.name.rpartition(".")[2]
        files[f"/{spec.name}"] = File(spec.name, kind, spec.sizes, "good")
    lines = "".join(
        f'<link rel="{spec.rel}" type="{spec.media_type}" sizes="{spec.sizes_attribute}" href="/{spec.name}">'
        for spec in sorted(specs, key=lambda spec: spec.rel != "icon")
    )
    return Page(number, f"<!doctype html><html><head><title>Set</title>{lines}</head><body></body></html>", files)


def _page(made: random.Random, number: int) -> Page:
    base = made.choice(("", "", "", "", "", '<base href="/deep/down/">'))
    folder = "/deep/down/" if base else "/"
    files: dict[str, File] = {}
    head, body = [], []
    for place in range(made.choice((0, 1, 1, 2, 2, 2, 3, 3, 4, 5))):
        line = _line(made, place, folder, files)
        where = made.random()
        if where < 0.08:
            body.append(line)
        elif where < 0.12:
            head.append(f"<noscript>{line}</noscript>")
        else:
            head.append(line)
    if made.random() < 0.15:
        files["/m.json"] = File("m.json", "png", (16,), "missing")
        head.append('<link rel="manifest" href="/m.json">')
    if made.random() < 0.6:
        kind = made.choice(("ico", "ico", "ico", "png"))
        fate = made.choice(("good", "good", "good", "damaged", "mistyped"))
        files["/favicon.ico"] = File("favicon.ico", kind, (16, 32) if kind == "ico" else (16,), fate)
    html = (
        "<!doctype html><html><head><meta charset=utf-8>"
        f"<title>Page {number}</title>{base}{''.join(head)}</head><body><p>Page {number}{''.join(body)}</body></html>"
    )
    return Page(number, html, files)


def _line(made: random.Random, place: int, folder: str, files: dict[str, File]) -> str:
    kind = made.choice(("png", "png", "png", "png", "ico", "svg", "gif"))
    sides = _sides(made, kind)
    rel = made.choice(
        ("icon",) * 7 + ("shortcut icon", "ICON", "apple-touch-icon", "apple-touch-icon-precomposed", "alternate icon")
    )
    name = f"{'abcdefgh'[place]}.{kind}"
    files[folder + name] = File(name, kind, sides, made.choice(FATES))
    attributes = [f'rel="{rel}"', f'href="{name}"', *_sizes(made, kind, sides), *_type(made, kind)]
    if made.random() < 0.15:
        attributes.append(f'media="{made.choice(_MEDIA)}"')
    made.shuffle(attributes)
    return f"<link {' '.join(attributes)}>"


def _sides(made: random.Random, kind: str) -> tuple[int, ...]:
    if kind == "svg":
        return ()
    if kind == "ico":
        return made.choice(((16,), (32,), (16, 32), (16, 32, 48)))
    return (made.choice((16, 16, 32, 32, 48, 64, 96, 128, 180, 192, 512)),)


def _sizes(made: random.Random, kind: str, sides: Sequence[int]) -> list[str]:
    said_sides = sides if made.random() < 0.7 else sides[::-1]
    right = "any" if kind == "svg" else " ".join(f"{side}x{side}" for side in said_sides)
    wrong = made.choice(("any", "16x16", "256x256", "32X32", "big"))
    said = made.choice((None, None, right, right, right, right, wrong))
    return [] if said is None else [f'sizes="{said}"']


def _type(made: random.Random, kind: str) -> list[str]:
    said = made.choice(
        (None, None, _TYPES[kind], _TYPES[kind], _TYPES[kind], made.choice(("image/x-new", "image/png")))
    )
    return [] if said is None else [f'type="{said}"']
