"""`bexi compare`."""

import dataclasses
import json
from pathlib import Path
from typing import Annotated

import typer

from bexi.cli.speaking import JsonOption, fail, read
from bexi.core.iconset.compare import FileChange, FileDifference, compare
from bexi.core.iconset.recipe_file import NAME

DIFFERENT = 1


def compare_command(
    before: Annotated[Path, typer.Argument(metavar="DIR_A", help="Folder with a set.")],
    after: Annotated[Path, typer.Argument(metavar="DIR_B", help="Folder with another.")],
    as_json: JsonOption = False,
) -> None:
    """Compare two sets file by file and picture by picture; exit code 1 when they differ."""
    differences = compare(_folder(before), _folder(after))
    if as_json:
        print(json.dumps([dataclasses.asdict(one) for one in differences], indent=2))
    else:
        for one in differences:
            print(_told(one))
    if any(one.change is not FileChange.SAME for one in differences):
        raise typer.Exit(DIFFERENT)


def _folder(path: Path) -> dict[str, bytes]:
    if not path.is_dir():
        fail(f"{path} is not a folder.")
    return {file.name: read(file) for file in sorted(path.iterdir()) if file.is_file() and file.name != NAME}


def _told(one: FileDifference) -> str:
    sizes = " → ".join("–" if size is None else str(size) for size in (one.bytes_before, one.bytes_after))
    pictures = "; ".join(
        f"{picture.width} px: "
        + ("other size" if picture.mean is None else f"mean {picture.mean:.2f}, largest {picture.largest} of 255")
        for picture in one.pictures
    )
    return f"{one.change.value:<8} {one.name:<34} {sizes} bytes{f'  {pictures}' if pictures else ''}"
