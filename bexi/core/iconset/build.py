"""Building the set: every file of a plan from one recipe, each read back before it is offered."""

import hashlib
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from bexi.core.artwork.ink import find_ink
from bexi.core.artwork.pictures import Picture, Vector
from bexi.core.artwork.shapes import main_colours
from bexi.core.formats import browserconfig, webmanifest
from bexi.core.formats.sizes import LARGEST_ICON
from bexi.core.framing.compose import compose, framing_for
from bexi.core.framing.drawn import drawn, drawn_in_one_colour, why_not_drawn
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.iconset.catalogue import MANIFEST, TILE_CONFIG, FileSpec, IconSpec
from bexi.core.iconset.encode import Each, Job, canvas, encode
from bexi.core.iconset.plan import Plan
from bexi.core.iconset.verify import verify_drawing, verify_icon, verify_manifest, verify_tiles
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels

ENGINE_VERSION = "11"
"""Raised whenever the same recipe and plan would give other bytes."""
_JUDGED_AT = 128
"""In px; an SVG icon is compared with the picture that pixels give at this size."""


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


@dataclass(frozen=True)
class LeftOut:
    """A file of the plan that cannot be had from this artwork, and why."""

    name: str
    reason: str


@dataclass(frozen=True)
class BuiltSet:
    """What a plan and a recipe gave. `colour` is the mark's main colour, in which pinned tabs were drawn."""

    files: tuple[BuiltFile, ...]
    left_out: tuple[LeftOut, ...]
    colour: Colour

    def only(self, names: Collection[str]) -> "BuiltSet":
        """The same set with only these of its files; each is as it is in the whole set."""
        left_out = tuple(one for one in self.left_out if one.name in names)
        return BuiltSet(tuple(file for file in self.files if file.name in names), left_out, self.colour)


@dataclass(frozen=True)
class Progress:
    """How many files of how many are done, and the name of the last one."""

    done: int
    total: int
    name: str


Squares = Mapping[tuple[int, Purpose], Pixels]
"""The squared pictures of one recipe, by size in px and purpose."""
Pictures = Callable[[str | None], Picture]
"""Finds the picture of an artwork by its key in a framing; None asks for the recipe's artwork."""


def compose_squares(pictures: Pictures, recipe: Recipe, icons: Iterable[tuple[int, Purpose]]) -> Squares:
    """The pictures of icons given by size in px and purpose, each composed once from the artwork."""
    together: dict[tuple[Framing, Purpose], list[int]] = {}
    for size, purpose in sorted(set(icons)):
        together.setdefault((_framing(pictures, recipe, size, purpose), purpose), []).append(size)
    squares: dict[tuple[int, Purpose], Pixels] = {}
    for (framing, purpose), sizes in together.items():
        composed = compose(pictures(framing.artwork), framing, purpose, sizes)
        squares |= {(size, purpose): pixels for size, pixels in zip(sizes, composed, strict=True)}
    return squares


def build(
    pictures: Pictures,
    recipe: Recipe,
    plan: Plan,
    site_name: str,
    watch: Callable[[Progress], None] = lambda progress: None,
    each: Each = map,
) -> BuiltSet:
    """All files of a plan; calls `watch` when each is verified, which may raise to stop.

    `each` may spread the encoding over processes; that gives the same bytes.

    Raises FramingRefused for a frame beside the artwork, BuildFailed when a file does not pass its reading-back.
    """
    files: list[BuiltFile] = []
    left_out: list[LeftOut] = []
    for made in _made(pictures, recipe, plan, site_name, each):
        if isinstance(made, LeftOut):
            left_out.append(made)
        else:
            files.append(made)
        watch(Progress(len(files) + len(left_out), len(plan.specs), made.name))
    return BuiltSet(tuple(files), tuple(left_out), mark_colour(pictures, recipe))


def mark_colour(pictures: Pictures, recipe: Recipe) -> Colour:
    """The main colour of the mark as tabs show it; the home-screen ground for a blank picture."""
    square = compose_squares(pictures, recipe, [(_JUDGED_AT, Purpose.TAB)])[_JUDGED_AT, Purpose.TAB]
    colours = main_colours(square, find_ink(square).mask)
    return colours[0].colour if colours else recipe.framing.home_ground


def _framing(pictures: Pictures, recipe: Recipe, size: int, purpose: Purpose) -> Framing:
    return framing_for(pictures(recipe.framing.artwork), recipe, size, purpose)


def _made(pictures: Pictures, recipe: Recipe, plan: Plan, site_name: str, each: Each) -> Iterator[BuiltFile | LeftOut]:
    squares = compose_squares(pictures, recipe, ((size, spec.purpose) for spec in plan.icons for size in spec.sizes))
    jobs = [_job(spec, plan, squares) for spec in plan.icons if spec.sizes]
    encoded = zip(jobs, each(encode, jobs), strict=True)
    files: list[BuiltFile] = []
    for spec in plan.specs:
        if not isinstance(spec, IconSpec):
            made: BuiltFile | LeftOut = BuiltFile(spec, text_file(spec, plan, recipe, site_name, files))
        elif spec.sizes:
            job, data = next(encoded)
            verify_icon(spec, data, job.pictures, plan.palette_error)
            made = BuiltFile(spec, data)
        else:
            made = _drawing(spec, pictures, recipe, plan)
        if isinstance(made, BuiltFile):
            files.append(made)
        yield made


def _job(spec: IconSpec, plan: Plan, squares: Squares) -> Job:
    meant = [canvas(spec, squares[size, spec.purpose]) for size in spec.sizes]
    return Job(spec, meant, plan.frame_kind, plan.palette_error)


def _drawing(spec: IconSpec, pictures: Pictures, recipe: Recipe, plan: Plan) -> BuiltFile | LeftOut:
    """An SVG icon; it has no size, so it takes the framing of the largest icons."""
    framing = _framing(pictures, recipe, LARGEST_ICON, spec.purpose)
    picture = pictures(framing.artwork)
    reason = why_not_drawn(picture, framing)
    if reason or not isinstance(picture, Vector):
        return LeftOut(spec.name, reason or "")
    if spec.purpose is Purpose.ONE_COLOUR:
        data = drawn_in_one_colour(picture, framing)
    else:
        data = drawn(picture, framing, plan.dark)
    (meant,) = compose(picture, framing, spec.purpose, [_JUDGED_AT])
    verify_drawing(spec, data, meant)
    return BuiltFile(spec, data)


def text_file(spec: FileSpec, plan: Plan, recipe: Recipe, site_name: str, files: Sequence[BuiltFile]) -> bytes:
    """The manifest or the tile configuration that names these files; raises BuildFailed when it cannot be read back."""
    icons = [(file.spec, plan.addresses.of(file.name, file.sha256)) for file in files]
    if spec == MANIFEST:
        named = [
            webmanifest.ManifestIcon(address, icon.sizes[0], icon.media_type, _MANIFEST_PURPOSES[icon.purpose])
            for icon, address in icons
            if isinstance(icon, IconSpec) and icon.in_manifest
        ]
        data = webmanifest.new(site_name, named, plan.app.members)
        verify_manifest(data, named, plan.app.members)
        return data
    assert spec == TILE_CONFIG
    tiles = [(icon.tile, address) for icon, address in icons if isinstance(icon, IconSpec) and icon.tile]
    data = browserconfig.write(tiles, str(recipe.framing.home_ground))
    verify_tiles(data, tiles)
    return data


_MANIFEST_PURPOSES = {Purpose.TAB: "any", Purpose.MASKED: "maskable", Purpose.ONE_COLOUR: "monochrome"}
