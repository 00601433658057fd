"""The `bexi` command: the same core without the web."""

import dataclasses
import json
import sys
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from bexi.core.artwork.detection import name_mismatch
from bexi.core.artwork.facts import Facts, measure
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.letters import Letters, draw_letters
from bexi.core.artwork.notes import Note, notes_on
from bexi.core.artwork.plate import DARK, Plate, PlateShape
from bexi.core.artwork.symbols import Symbol, draw_symbol
from bexi.core.errors import Refusal
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.recipe import Recipe, parse_ground
from bexi.core.iconset.build import BuiltFile, build
from bexi.core.pixels.colour import WHITE, Colour
from bexi.core.sitehead.snippet import head_lines
from bexi.resources import FACES, face_files, symbol_shapes

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
        recipe = Recipe.of(square, parse_ground(ground), Colour.parse(home_ground))
        files = build(lambda key: artwork, recipe, name or picture.stem)
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
        picture_format, artwork = take_in(data)
        facts = measure(data, picture_format, artwork)
    notes = notes_on(facts, name_mismatch(picture.name, picture_format))
    if as_json:
        plain = facts.as_json() | {"notes": [dataclasses.asdict(note) for note in notes]}
        print(json.dumps(plain, indent=2, ensure_ascii=False))
        return
    for line in _described(facts, notes):
        print(line)


draw = typer.Typer(help="Draw artwork as SVG.", no_args_is_help=True, rich_markup_mode=None)
app.add_typer(draw, name="draw")

OutOption = Annotated[Path, typer.Option("--out", metavar="FILE", help="The SVG file to write.")]
InkOption = Annotated[str, typer.Option(metavar="#rrggbb", help="Colour of the ink.")]
PlateOption = Annotated[PlateShape, typer.Option(help="Shape under the ink.")]
PlateColourOption = Annotated[str, typer.Option(metavar="#rrggbb", help="Colour of the plate.")]
MarginOption = Annotated[int, typer.Option(help="Free rim in % of the side.")]


@draw.command("letters")
def letters_command(
    text: Annotated[str, typer.Argument(metavar="TEXT", help="One to three letters.")],
    out: OutOption,
    face: Annotated[str, typer.Option(help=f"One of {', '.join(FACES)}.")] = "atkinson-hyperlegible-next",
    weight: Annotated[int, typer.Option(help="600 to 900, as the face has it.")] = 800,
    tracking: Annotated[int, typer.Option(help="Room between letters in hundredths of the em.")] = 0,
    ink: InkOption = str(DARK),
    plate: PlateOption = PlateShape.NONE,
    plate_colour: PlateColourOption = str(WHITE),
    margin: MarginOption = 8,
) -> None:
    """Draw one to three letters, centred by their ink."""
    if face not in FACES or weight not in FACES[face].weights:
        _fail(f"There is no face {face} in weight {weight}. Faces: {', '.join(FACES)}.")
    with _refusals():
        under = Plate(plate, Colour.parse(plate_colour), margin=margin)
        svg = draw_letters(Letters(text, Colour.parse(ink), tracking, under), face_files(face, weight))
    _write_svg(out, svg)


@draw.command("symbol")
def symbol_command(
    name: Annotated[str, typer.Argument(metavar="NAME", help="A symbol of the set, like anchor.")],
    out: OutOption,
    stroke: Annotated[float, typer.Option(help="Thickness of the lines, 0.5 to 4.")] = 2,
    ink: InkOption = str(DARK),
    plate: PlateOption = PlateShape.NONE,
    plate_colour: PlateColourOption = str(WHITE),
    margin: MarginOption = 8,
) -> None:
    """Draw a plain symbol."""
    with _refusals():
        under = Plate(plate, Colour.parse(plate_colour), margin=margin)
        svg = draw_symbol(Symbol(name, Colour.parse(ink), stroke, under), symbol_shapes())
    _write_svg(out, svg)


def _write_svg(file: Path, svg: str) -> None:
    try:
        file.write_text(svg, encoding="utf-8")
    except OSError as error:
        _fail(f"{file} cannot be written: {error.strerror}.")


def _described(facts: Facts, notes: Sequence[Note]) -> Iterator[str]:
    yield f"{facts.format}, {facts.width} × {facts.height} px, {facts.file_bytes} bytes"
    yield f"ground: {facts.ground}{f' {facts.ground_colour}' if facts.ground_colour else ''}"
    yield f"sharp up to: {'any size' if facts.sharp_up_to is None else f'{facts.sharp_up_to} px'}"
    yield f"colours: {', '.join(f'{one.colour} {one.share:.0%}' for one in facts.colours)}"
    yield from (f"- {note.sentence}" for note in notes)


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
