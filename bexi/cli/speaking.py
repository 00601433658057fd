"""What all commands share: reading and writing files, and refusing with one sentence and exit code 2."""

import sys
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from bexi.core.errors import Refusal

PictureArgument = Annotated[Path, typer.Argument(metavar="PICTURE", help="A picture file.")]
JsonOption = Annotated[bool, typer.Option("--json", help="Print JSON for programs.")]
REFUSED = 2


def read(path: Path) -> bytes:
    """The bytes of a file; ends the command when it cannot be read."""
    try:
        return path.read_bytes()
    except OSError as error:
        fail(f"{path} cannot be read: {error.strerror}.")


def write(path: Path, data: bytes) -> None:
    """Write one file; ends the command when that fails."""
    try:
        path.write_bytes(data)
    except OSError as error:
        fail(f"{path} cannot be written: {error.strerror}.")


def write_all(folder: Path, files: Mapping[str, bytes]) -> None:
    """Write files into a folder, which is made when missing."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        fail(f"{folder} cannot be made: {error.strerror}.")
    for name, data in files.items():
        write(folder / name, data)


@contextmanager
def refusals() -> Iterator[None]:
    """Tell a refusal to the person and end the command."""
    try:
        yield
    except Refusal as refusal:
        fail(refusal.sentence)


def fail(sentence: str) -> NoReturn:
    """End the command with a sentence on stderr."""
    print(sentence, file=sys.stderr)
    raise typer.Exit(REFUSED)
