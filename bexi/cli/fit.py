"""`bexi fit`."""

import json
from pathlib import Path
from typing import Annotated

import typer

from bexi.cli.sources import WHITE_GROUND, FrameOption, GroundOption, HomeGroundOption, SourceArgument, source_of
from bexi.cli.speaking import JsonOption, refusals, write
from bexi.core.iconset.fit import FieldFormat, FieldGround, Requirement, fit


def fit_command(
    source: SourceArgument,
    size: Annotated[int, typer.Option(metavar="PX", help="Side in px.")],
    out: Annotated[Path, typer.Option(metavar="FILE", help="The file to write.")],
    kind: Annotated[FieldFormat, typer.Option("--format", help="What the field takes.")] = FieldFormat.PNG,
    at_least: Annotated[bool, typer.Option("--at-least", help="Larger pictures will do, too.")] = False,
    max_kb: Annotated[float | None, typer.Option(metavar="KB", help="Most kilobytes of 1,000 bytes.")] = None,
    field_ground: Annotated[
        FieldGround, typer.Option("--must-be", help="Whether it must be opaque or clear.")
    ] = FieldGround.EITHER,
    frame: FrameOption = None,
    ground: GroundOption = "clear",
    home_ground: HomeGroundOption = WHITE_GROUND,
    as_json: JsonOption = False,
) -> None:
    """Make the one file that an upload field asks for, or say why there is none."""
    with refusals():
        held, pictures = source_of(source, frame, ground, home_ground)
        made = fit(pictures, held.recipe, Requirement(kind, size, at_least, max_kb, field_ground))
    write(out, made.data)
    notes = list(made.notes)
    if made.enlargement and made.enlargement > 1:
        notes.append(f"The artwork is enlarged {made.enlargement:.1f} times, so it is not sharp.")
    if as_json:
        print(json.dumps({"file": str(out), "bytes": len(made.data), "size": made.size, "notes": notes}, indent=2))
        return
    print(f"{len(made.data):>8} bytes  {out}, {made.size} px")
    print("".join(f"- {note}\n" for note in notes), end="")
