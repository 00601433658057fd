"""Building the set: every file of the catalogue from one recipe, each read back before it is offered."""

import hashlib
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

from bexi.core.artwork.pictures import Picture
from bexi.core.formats import ico, png, webmanifest
from bexi.core.framing.compose import square
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.iconset.catalogue import ICONS, MANIFEST, FileSpec, IconSpec
from bexi.core.iconset.verify import verify_icon, verify_manifest
from bexi.core.pixels.light import Pixels

ENGINE_VERSION = "1"
"""Raised whenever the same recipe would give other bytes."""


@dataclass(frozen=True)
class BuiltFile:
    """One finished file."""

    spec: FileSpec
    data: bytes

    @property
    def name(self) -> str:
        """The conventional file name."""
        return self.spec.name

    @cached_property
    def sha256(self) -> str:
        """Hash of the bytes, hexadecimal."""
        return hashlib.sha256(self.data).hexdigest()


Squares = Mapping[tuple[int, bool], Pixels]
"""The squared pictures of one recipe, by size in px and whether the icon must be opaque."""


Pictures = Callable[[str | None], Picture]
"""Finds the picture of an artwork by its key in a framing; None asks for the recipe's artwork."""


def compose_squares(pictures: Pictures, recipe: Recipe, icons: Iterable[tuple[int, bool]]) -> Squares:
    """The pictures of icons given by size in px and opacity, each composed once from the artwork."""
    together: dict[tuple[Framing, bool], list[int]] = {}
    for size, opaque in sorted(set(icons)):
        together.setdefault((recipe.framing_for(size, opaque), opaque), []).append(size)
    squares: dict[tuple[int, bool], Pixels] = {}
    for (framing, opaque), sizes in together.items():
        composed = square(pictures(framing.artwork), framing, opaque, sizes)
        squares |= {(size, opaque): pixels for size, pixels in zip(sizes, composed, strict=True)}
    return squares


def encode(spec: IconSpec, squares: Squares) -> bytes:
    """The bytes of one icon file."""
    pictures = [squares[size, spec.opaque] for size in spec.sizes]
    return ico.write(pictures) if spec.media_type == ico.MEDIA_TYPE else png.write(pictures[0])


def build(
    pictures: Pictures, recipe: Recipe, site_name: str, on_file: Callable[[str], None] = lambda name: None
) -> tuple[BuiltFile, ...]:
    """All files of the set; calls `on_file` with the name of each when it is verified.

    Raises FramingRefused for a frame beside the artwork, BuildFailed when a file does not pass its reading-back.
    """
    files = []
    for file in _files(pictures, recipe, site_name):
        files.append(file)
        on_file(file.name)
    return tuple(files)


def _files(pictures: Pictures, recipe: Recipe, site_name: str) -> Iterator[BuiltFile]:
    squares = compose_squares(pictures, recipe, ((size, spec.opaque) for spec in ICONS for size in spec.sizes))
    for spec in ICONS:
        data = encode(spec, squares)
        verify_icon(spec, data, [squares[size, spec.opaque] for size in spec.sizes])
        yield BuiltFile(spec, data)
    icons = [
        webmanifest.ManifestIcon(f"/{spec.name}", spec.sizes[0], spec.media_type) for spec in ICONS if spec.in_manifest
    ]
    manifest = webmanifest.new(site_name, icons)
    verify_manifest(manifest, icons)
    yield BuiltFile(MANIFEST, manifest)
