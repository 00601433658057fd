"""`bexi draw letters` and `bexi draw symbol`."""

import json
from pathlib import Path
from typing import Annotated

import typer

from bexi.cli.keeping import ReplaceOption, write_one
from bexi.cli.speaking import JsonOption, fail, refusals
from bexi.core.artwork.letters import Letters, draw_letters
from bexi.core.artwork.plate import DARK, Plate, PlateShape
from bexi.core.artwork.symbols import Symbol, draw_symbol
from bexi.core.pixels.colour import WHITE, Colour
from bexi.resources import FACES, face_files, symbol_shapes

draw = typer.Typer(help="Draw artwork as SVG.", no_args_is_help=True, add_completion=False, rich_markup_mode=None)
OutOption = Annotated[Path, typer.Option("--out", metavar="FILE", help="The SVG file to write.")]
InkOption = Annotated[str, typer.Option(metavar="#rrggbb", help="Colour of the ink.")]
PlateOption = Annotated[PlateShape, typer.Option(help="Shape under the ink.")]
PlateColourOption = Annotated[str, typer.Option(metavar="#rrggbb", help="Colour of the plate.")]
MarginOption = Annotated[int, typer.Option(help="Margin in % of the side.")]


@draw.command("letters")
def letters_command(
    text: Annotated[str, typer.Argument(metavar="TEXT", help="One to three letters.")],
    out: OutOption,
    face: Annotated[str, typer.Option(help=f"One of {', '.join(FACES)}.")] = "atkinson-hyperlegible-next",
    weight: Annotated[int, typer.Option(help="600 to 900, as the face has it.")] = 800,
    tracking: Annotated[int, typer.Option(help="Space between letters in hundredths of the em.")] = 0,
    ink: InkOption = str(DARK),
    plate: PlateOption = PlateShape.NONE,
    plate_colour: PlateColourOption = str(WHITE),
    margin: MarginOption = 8,
    replace: ReplaceOption = False,
    as_json: JsonOption = False,
) -> None:
    """Draw one to three letters, centred by their ink."""
    if face not in FACES or weight not in FACES[face].weights:
        fail(f"There is no font {face} in weight {weight}. Fonts: {', '.join(FACES)}.")
    with refusals():
        under = Plate(plate, Colour.parse(plate_colour), margin=margin)
        svg = draw_letters(Letters(text, Colour.parse(ink), tracking, under), face_files(face, weight))
    _write(out, svg.encode(), replace, as_json)


@draw.command("symbol")
def symbol_command(
    name: Annotated[str, typer.Argument(metavar="NAME", help="A symbol of the set, like anchor.")],
    out: OutOption,
    stroke: Annotated[float, typer.Option(help="Thickness of the lines, 0.5 to 4.")] = 2,
    ink: InkOption = str(DARK),
    plate: PlateOption = PlateShape.NONE,
    plate_colour: PlateColourOption = str(WHITE),
    margin: MarginOption = 8,
    replace: ReplaceOption = False,
    as_json: JsonOption = False,
) -> None:
    """Draw a plain symbol."""
    with refusals():
        under = Plate(plate, Colour.parse(plate_colour), margin=margin)
        svg = draw_symbol(Symbol(name, Colour.parse(ink), stroke, under), symbol_shapes())
    _write(out, svg.encode(), replace, as_json)


def _write(file: Path, svg: bytes, replace: bool, as_json: bool) -> None:
    write_one(file, svg, [], replace)
    if as_json:
        print(json.dumps({"file": str(file), "bytes": len(svg)}, indent=2))
