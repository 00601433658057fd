"""`bexi fit`."""

import json
from pathlib import Path
from typing import Annotated

import typer

from bexi.cli.keeping import ReplaceOption, write_one
from bexi.cli.sources import (
    WHITE_GROUND,
    FrameOption,
    GroundOption,
    HomeGroundOption,
    PlainOption,
    SourceArgument,
    source_of,
)
from bexi.cli.speaking import JsonOption, refusals
from bexi.core.iconset.fit import FieldFormat, FieldGround, Requirement, fit


def fit_command(
    source: SourceArgument,
    size: Annotated[int, typer.Option(metavar="PX", help="Side in px.")],
    out: Annotated[Path, typer.Option(metavar="FILE", help="The file to write.")],
    kind: Annotated[FieldFormat, typer.Option("--format", help="What the field takes.")] = FieldFormat.PNG,
    at_least: Annotated[bool, typer.Option("--at-least", help="Larger pictures are accepted, too.")] = False,
    max_kb: Annotated[
        float | None, typer.Option(metavar="KB", help="Largest size in kilobytes of 1,000 bytes.")
    ] = None,
    field_ground: Annotated[
        FieldGround, typer.Option("--must-be", help="Whether it must be opaque or clear.")
    ] = FieldGround.EITHER,
    frame: FrameOption = None,
    ground: GroundOption = "clear",
    home_ground: HomeGroundOption = WHITE_GROUND,
    plain: PlainOption = False,
    take_best: Annotated[
        bool, typer.Option("--propose", help="Use the first framing of `bexi propose` instead of --frame.")
    ] = False,
    name: Annotated[str | None, typer.Option(help="The site's name; --propose may offer its letters.")] = None,
    replace: ReplaceOption = False,
    as_json: JsonOption = False,
) -> None:
    """Make the one file that an upload field asks for, or say why there is none."""
    with refusals():
        if take_best:
            from bexi.cli.proposing import best_of  # on demand, for judging needs scipy, which takes its time

            held, pictures, _ = best_of(source, frame, ground, home_ground, name)
        else:
            held, pictures = source_of(source, frame, ground, home_ground)
        held = held.plain if plain else held
        made = fit(pictures, held.recipe, Requirement(kind, size, at_least, max_kb, field_ground))
    sources = [source.parent / one.file for one in held.sources.values()]
    write_one(out, made.data, [source, *sources], replace)
    notes = list(made.notes)
    if made.enlargement and made.enlargement > 1:
        notes.append(f"The artwork is enlarged {made.enlargement:.1f} times, so it is not sharp.")
    if as_json:
        print(json.dumps({"file": str(out), "bytes": len(made.data), "size": made.size, "notes": notes}, indent=2))
        return
    print(f"{len(made.data):>8} bytes  {out}, {made.size} px")
    print("".join(f"- {note}\n" for note in notes), end="")
