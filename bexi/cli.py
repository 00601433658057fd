"""The `bexi` command: the same core without the web."""

import dataclasses
import json
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from bexi.core.artwork.facts import Facts, measure
from bexi.core.artwork.intake import take_in
from bexi.core.errors import Refusal
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.recipe import Recipe, parse_ground
from bexi.core.iconset.build import BuiltFile, build
from bexi.core.pixels.colour import Colour
from bexi.core.sitehead.snippet import head_lines

app = typer.Typer(
    help="From a picture to the icons of a site.",
    no_args_is_help=True,
    add_completion=False,
    rich_markup_mode=None,
)

PictureArgument = Annotated[Path, typer.Argument(metavar="PICTURE", help="A picture file.")]
JsonOption = Annotated[bool, typer.Option("--json", help="Print JSON for programs.")]


@app.command("build")
def build_command(
    picture: PictureArgument,
    out: Annotated[Path, typer.Option(metavar="DIR", help="Folder for the files; made when missing.")],
    frame: Annotated[
        str | None,
        typer.Option(metavar="X,Y,SIDE", help="The square in artwork px; the whole artwork if not given."),
    ] = None,
    ground: Annotated[str, typer.Option(metavar="clear|#rrggbb", help="What lies under the artwork.")] = "clear",
    home_ground: Annotated[
        str, typer.Option(metavar="#rrggbb", help="Under the home-screen icon when the ground is clear.")
    ] = "#ffffff",
    name: Annotated[str | None, typer.Option(help="The site's name in the manifest.")] = None,
    as_json: JsonOption = False,
) -> None:
    """Build the icon set of PICTURE into a folder."""
    with _refusals():
        _, artwork = take_in(_read(picture))
        square = Frame.parse(frame) if frame else whole_artwork(artwork.width, artwork.height)
        recipe = Recipe(square, parse_ground(ground), Colour.parse(home_ground))
        files = build(artwork, recipe, name or picture.stem)
        _write(out, files)
    if as_json:
        listed = [{"name": file.name, "bytes": len(file.data), "sha256": file.sha256} for file in files]
        print(json.dumps({"recipe": recipe.as_json(), "files": listed, "head": head_lines()}, indent=2))
        return
    for file in files:
        print(f"{len(file.data):>8} bytes  {out / file.name}")
    print("\nLines for the head of each page:\n")
    print("\n".join(head_lines()))


@app.command("facts")
def facts_command(picture: PictureArgument, as_json: JsonOption = False) -> None:
    """Measure PICTURE and say what it is good for."""
    with _refusals():
        data = _read(picture)
        facts = measure(picture.name, data, *take_in(data))
    if as_json:
        print(json.dumps(dataclasses.asdict(facts), indent=2, default=str, ensure_ascii=False))
        return
    for line in _described(facts):
        print(line)


def _described(facts: Facts) -> Iterator[str]:
    yield f"{facts.format}, {facts.width} × {facts.height} px, {facts.file_bytes} bytes"
    yield f"ground: {facts.ground}{f' {facts.ground_colour}' if facts.ground_colour else ''}"
    yield f"sharp up to: {'any size' if facts.sharp_up_to is None else f'{facts.sharp_up_to} px'}"
    yield from (f"- {note}" for note in facts.notes)


def _read(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as error:
        _fail(f"{path} cannot be read: {error.strerror}.")


def _write(folder: Path, files: tuple[BuiltFile, ...]) -> None:
    try:
        folder.mkdir(parents=True, exist_ok=True)
        for file in files:
            (folder / file.name).write_bytes(file.data)
    except OSError as error:
        _fail(f"{folder} cannot be written: {error.strerror}.")


@contextmanager
def _refusals() -> Iterator[None]:
    try:
        yield
    except Refusal as refusal:
        _fail(refusal.sentence)


def _fail(sentence: str) -> NoReturn:
    print(sentence, file=sys.stderr)
    raise typer.Exit(2)
