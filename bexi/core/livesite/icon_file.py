"""An icon file a site has or serves: what it really is, and what is wrong with it."""

from collections.abc import Iterator
from dataclasses import dataclass

from bexi.core.artwork.detection import PictureFormat, detect
from bexi.core.artwork.intake import every_picture
from bexi.core.errors import ArtworkRefused
from bexi.core.formats import webmanifest
from bexi.core.sitehead.link import HOME_SCREEN, IconLink

_INSTALLABLE = (192, 512)
"""Sides in px that a manifest needs for an installed app [common practice]."""
NOT_SQUARE, TRANSPARENT = "Not square", "Home-screen icon is transparent"
_BROKEN = ("broken-picture", "empty-file", "not-a-picture")
"""Codes of refusals by which a file is unreadable for everybody."""
_ICO_TYPES = ("image/x-icon", PictureFormat.ICO.media_type)
"""The second is registered (IANA), the first is what most servers say [common practice]."""


@dataclass(frozen=True)
class Flaw:
    """One thing wrong with an icon file: what, the evidence, and why it matters."""

    what: str
    evidence: str
    why: str


@dataclass(frozen=True)
class IconFile:
    """A file seen as an icon. `real` is None for what is no picture; `sides` are width and height in px.

    `problem` is a sentence when not all of it could be read; `broken` says that nobody can read it: Bexi refuses more
    than a browser does.
    """

    real: PictureFormat | None
    sides: tuple[tuple[int, int], ...]
    opaque: bool
    length: int
    problem: str = ""
    broken: bool = False

    def __str__(self) -> str:
        if self.real is None:
            return f"{self.length:,} bytes that are not a picture"
        sizes = ", ".join(f"{width} × {height}" for width, height in self.sides)
        measured = f", {sizes} px" if sizes and self.real is not PictureFormat.SVG else ""
        return f"{self.real.label}{measured}, {self.length:,} bytes"


def look_at(data: bytes) -> IconFile:
    """What a file is, by its content."""
    sides: list[tuple[int, int]] = []
    opaque, problem, broken = True, "", False
    try:
        for picture in every_picture(data):
            sides.append((picture.shape[1], picture.shape[0]))
            opaque = opaque and bool((picture[..., 3] == 255).all())
    except ArtworkRefused as refusal:
        problem, broken = refusal.sentence, refusal.code in _BROKEN
    return IconFile(detect(data), tuple(sides), opaque, len(data), problem, broken)


def flaws(name: str, icon: IconFile, link: IconLink | None = None) -> Iterator[Flaw]:
    """What is wrong with an icon file of this name, and with what a link says of it."""
    if icon.real is None:
        yield Flaw("Not a picture", str(icon), "Browsers cannot show it.")
        return
    if icon.problem:
        yield Flaw("Cannot be read", icon.problem.rstrip("."), "Browsers may show nothing.")
    if name.lower().endswith(".ico") and icon.real is not PictureFormat.ICO:
        evidence = f"By its content it is a {icon.real.label} picture"
        yield Flaw("Not an ICO", evidence, "Some browsers show a renamed picture, others do not.")
    if link and link.media_type and link.media_type not in _types(icon.real):
        evidence = f"Declared as {link.media_type}, but it is a {icon.real.label} picture"
        yield Flaw("Declared with the wrong type", evidence, "A browser may ignore it because of its type.")
    missing = _declared_sizes(link.sizes if link else "") - {f"{width}x{height}" for width, height in icon.sides}
    if missing and icon.sides and icon.real is not PictureFormat.SVG:
        evidence = f"Declared with {', '.join(sorted(missing))}, but it holds {_sizes(icon)}"
        yield Flaw("Declared with the wrong size", evidence, "Browsers choose by size before they look inside.")
    if any(width != height for width, height in icon.sides) and icon.real is not PictureFormat.SVG:
        yield Flaw(NOT_SQUARE, f"{_sizes(icon)} px", "It is shown squashed, or with bars beside it.")
    if link and link.kind in HOME_SCREEN and not icon.opaque:
        evidence = f"{icon.real.label} picture with clear parts"
        yield Flaw(TRANSPARENT, evidence, "A phone fills the clear parts with black.")


def manifest_flaws(data: bytes) -> Iterator[Flaw]:
    """What is wrong with a web app manifest, as far as its icons go."""
    icons = manifest_icons(data)
    if icons is None:
        yield Flaw("Not a manifest", "It is not valid JSON with an object in it", "Browsers ignore it.")
        return
    sizes = {size for icon in icons for size in str(icon.get("sizes", "")).lower().split()}
    missing = [f"{side} px" for side in _INSTALLABLE if f"{side}x{side}" not in sizes and "any" not in sizes]
    if missing:
        evidence = f"It declares no icon of {' and '.join(missing)}"
        yield Flaw("Manifest lacks icons", evidence, "Without them phones do not offer to install the site as an app.")


def manifest_icons(data: bytes) -> list[dict[str, object]] | None:
    """The members of a manifest's `icons`; None when it is no manifest at all."""
    members = webmanifest.read(data)
    if members is None:
        return None
    icons = members.get("icons", [])
    return [icon for icon in icons if isinstance(icon, dict)] if isinstance(icons, list) else []


def _types(real: PictureFormat) -> tuple[str, ...]:
    return _ICO_TYPES if real is PictureFormat.ICO else (real.media_type,)


def _declared_sizes(sizes: str) -> set[str]:
    return set(sizes.lower().split()) - {"any"}


def _sizes(icon: IconFile) -> str:
    return ", ".join(f"{width} × {height}" for width, height in icon.sides)
