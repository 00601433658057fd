"""Writing files where a person keeps theirs: what Bexi did not write itself is only replaced when they say so."""

import hashlib
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Annotated

import typer

from bexi.cli.speaking import agreed, fail, is_at_terminal, write
from bexi.core.errors import Refusal
from bexi.core.iconset.recipe_file import NAME, RecipeFile, is_as_written

ReplaceOption = Annotated[
    bool, typer.Option("--replace", help="Replace files that are there and that Bexi did not write.")
]


def write_all(folder: Path, files: Mapping[str, bytes], reading: Sequence[Path], replace: bool) -> None:
    """Write files into a folder, which is made when missing.

    `reading` are the files that they are made from, which are never written over. Ends the command, with nothing
    written, when a file is there that no earlier build has written, and nobody wants it replaced.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        fail(f"{folder} cannot be made: {error.strerror}.")
    changed = {name: data for name, data in files.items() if _now(folder / name) != data}
    _refuse(folder, changed, reading, replace, _written(folder))
    for name, data in changed.items():
        write(folder / name, data)


def write_one(file: Path, data: bytes, reading: Sequence[Path], replace: bool) -> None:
    """Write one file under the same rules."""
    if _now(file) != data:
        _refuse(file.parent, {file.name: data}, reading, replace, _written(file.parent))
        write(file, data)


def _refuse(
    folder: Path, files: Mapping[str, bytes], reading: Sequence[Path], replace: bool, written: Mapping[str, str]
) -> None:
    there = [folder / name for name in files if (folder / name).exists()]
    for path in there:
        if any(source.exists() and path.samefile(source) for source in reading):
            fail(f"{path} is what this is built from, so it is not replaced. Choose another folder with --out.")
    foreign = [path for path in there if hashlib.sha256(_now(path) or b"").hexdigest() != written.get(path.name)]
    if not foreign or replace:
        return
    names = ", ".join(path.name for path in foreign[:5]) + (" and more" if len(foreign) > 5 else "")
    count = "1 file" if len(foreign) == 1 else f"{len(foreign)} files"
    told = f"{folder} holds {count} that Bexi did not write: {names}."
    if not is_at_terminal():
        fail(f"{told} Nothing was written. Choose another folder, or replace them with --replace.")
    if not agreed(f"{told} Replace them?"):
        fail("Nothing was written.")


def _now(path: Path) -> bytes | None:
    """What lies there now; None for nothing."""
    try:
        return path.read_bytes()
    except FileNotFoundError:
        return None
    except OSError as error:
        fail(f"{path} cannot be read: {error.strerror}.")


def _written(folder: Path) -> dict[str, str]:
    """The SHA-256 of each file that an earlier build wrote into a folder, as its recipe tells; the recipe included."""
    data = _now(folder / NAME) if (folder / NAME).is_file() else None
    if data is None:
        return {}
    try:
        written = RecipeFile.parse(data).written
    except Refusal:
        return {}
    own = {NAME: hashlib.sha256(data).hexdigest()} if is_as_written(data) else {}
    return {**written, **own}
