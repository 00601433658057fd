"""Builds the documentation: `make docs`. The pages on commands, files, formats and the API are made from these."""

import argparse
import json
import shutil
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import click
import numpy as np
from mkdocs.commands.build import build
from mkdocs.config import load_config
from typer.main import get_command

from bexi.cli import app
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.letters import Letters, draw_letters
from bexi.core.artwork.plate import Plate, PlateShape
from bexi.core.formats import png
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.catalogue import CATALOGUE, IconSpec
from bexi.core.judging.judge import judge
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels, over
from bexi.resources import face_files

DOCS = Path(__file__).parent
FORMATS = {"recipe": "A recipe file, `recipe.json`", "report": "What `bexi check --json` prints"}
_LETTERS = Letters("MF", Colour.parse("#f2ead8"), plate=Plate(PlateShape.ROUNDED, Colour.parse("#2f7d8f")))
_SIZES = (64, 32, 16)
_SHOWN_AT = 192
_LOGO = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}"><circle cx="160" cy="112" r="96" fill="#2f7d8f"/>
<path d="M80 124h160l-32 52h-96z" fill="#f2ead8"/><path d="M148 44h72v56h-72z" fill="#f2b84b"/>{words}</svg>"""


def make(target: Path) -> None:
    """Build the pages into a folder; exits with 1 when a link leads nowhere."""
    with tempfile.TemporaryDirectory() as folder:
        pages = Path(folder) / "pages"
        shutil.copytree(DOCS / "pages", pages)
        shutil.copytree(DOCS / "screenshots", pages / "pictures", ignore=shutil.ignore_patterns("*.py", "__*"))
        for name, text in _made():
            (pages / name).write_text(text)
        for name, picture in _pictures():
            (pages / "explained" / f"{name}.png").write_bytes(png.write(picture))
        for name in FORMATS:
            shutil.copy(DOCS / "formats" / f"{name}.schema.json", pages / "reference")
        config = load_config(str(DOCS / "mkdocs.yml"), docs_dir=str(pages), site_dir=str(target), strict=True)
        build(config)
    for script in (target / "search").glob("*.js"):
        script.unlink()  # the finder looks through the index


def _made() -> Iterator[tuple[str, str]]:
    yield "reference/commands.md", "\n".join(_commands())
    yield "reference/files.md", "\n".join(_files())
    yield "reference/formats.md", "\n".join(_formats())
    yield "reference/api.md", "\n".join(_api())
    yield "explained/small.md", "\n".join(_small())


def _commands() -> Iterator[str]:
    yield "# Commands\n\nWhat `bexi --help` says, and `--help` after each command.\n"
    root = get_command(app)
    yield from _help(root, "bexi")


def _help(command: Any, path: str) -> Iterator[str]:
    context = click.Context(command, info_name=path)
    yield f"## {path}\n\n```text\n{command.get_help(context).strip()}\n```\n"
    if hasattr(command, "list_commands"):
        for name in command.list_commands(context):
            yield from _help(command.get_command(context, name), f"{path} {name}")


def _files() -> Iterator[str]:
    yield "# What each file is for\n\nThe set plan of a site chooses among these; the recommended one has ten.\n"
    yield "| file | for | why | needed | source |\n|---|---|---|---|---|"
    for spec in CATALOGUE:
        px = f", {' '.join(f'{size}' for size in spec.sizes)} px" if isinstance(spec, IconSpec) and spec.sizes else ""
        yield f"| `{spec.name}` | {spec.title}{px} | {spec.why} | {spec.currency} | {spec.source} |"


def _formats() -> Iterator[str]:
    yield "# Formats\n\nIcons are ICO, PNG and SVG, manifests JSON (W3C Web Application Manifest), packages ZIP.\n"
    for name, title in FORMATS.items():
        schema = (DOCS / "formats" / f"{name}.schema.json").read_text()
        yield f"## {title}\n\nAs a [JSON Schema]({name}.schema.json) (draft 2020-12):\n\n```json\n{schema}```\n"


def _api() -> Iterator[str]:
    schema = json.loads((DOCS.parent / "frontend" / "openapi.json").read_text())
    yield (
        "# The API\n\nJSON below `/api/`, described by OpenAPI. Errors are problem details (RFC 9457). A script sends "
        "`Authorization: Bearer` and its token; a page sends its session and the token against forged requests.\n"
    )
    for path, operations in schema["paths"].items():
        for method, told in operations.items():
            yield f"## {method.upper()} {path}\n\n{told.get('description', '').strip()}\n"
            for one in told.get("parameters", []):
                yield f"- `{one['name']}`, in the {one['in']}{'' if one.get('required') else ', may be left out'}"
            yield ""


def _small() -> Iterator[str]:
    yield (
        "# What is lost at 16 px\n\nThese pictures are made by Bexi's own core as this page is built, so enlarged that "
        "each px shows as a square. What stands below each is the judgement of that very icon.\n"
    )
    for name, _, says in _judged_icons():
        yield f"## {name}\n\n![{name} at 64, 32 and 16 px](small-{_slug(name)}.png)\n"
        yield from (f"- **{size} px**: {told}" for size, told in says.items())
        yield ""
    yield (
        "Words go first: a letter needs about six px of height to be read. Thin strokes are next: below one px they "
        "turn into a tint. What stays is a bold shape, one or two letters, strong colour.\n\n"
        "Reducing adds up light, not the numbers stored in a file: half black and half white is a middle light, which "
        "is stored as 188 of 255. Whoever adds up the stored numbers gets 128, and fine lines grow too dark.\n"
    )


def _pictures() -> Iterator[tuple[str, Pixels]]:
    for name, shown, _ in _judged_icons():
        yield f"small-{_slug(name)}", shown


def _judged_icons() -> Iterator[tuple[str, Pixels, dict[int, str]]]:
    words = '<path d="{}" fill="#16302a"/>'.format(
        "".join(f"M{x} 244h10v44h-10zM{x + 14} 244h10v44h-10zM{x} 244h24v8h-24z" for x in range(28, 280, 34))
    )
    drawings = {
        "A logo with words": _LOGO.format(box="0 0 320 320", words=words).encode(),
        "Its emblem alone": _LOGO.format(box="64 16 192 192", words="").encode(),
        "Two letters": draw_letters(_LETTERS, face_files("rubik", 800)).encode(),
    }
    for name, drawing in drawings.items():
        _, picture = take_in(drawing)
        framing = Recipe.of(whole_artwork(picture.width, picture.height)).framing
        icons = compose(picture, framing, Purpose.TAB, _SIZES)
        judged = judge(picture, framing, icons)
        says = {size: f"{one.says}" for size, one in zip(_SIZES, judged, strict=True)}
        paper = Colour.parse("#ffffff")
        yield name, np.hstack([_enlarged(over(icon, paper)) for icon in icons]), says


def _enlarged(icon: Pixels) -> Pixels:
    times = _SHOWN_AT // icon.shape[0]
    return np.ascontiguousarray(icon.repeat(times, 0).repeat(times, 1))


def _slug(name: str) -> str:
    return name.lower().replace(" ", "-")


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path, help="where the pages go")
    make(parser.parse_args().folder.resolve())
