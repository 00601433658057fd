"""What all commands share: reading and writing files, and refusing with one sentence and exit code 2."""

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from bexi.core.errors import Refusal

PictureArgument = Annotated[Path, typer.Argument(metavar="PICTURE", help="A picture file.")]
StampedOption = Annotated[
    bool | None,
    typer.Option(
        "--stamped/--plain-addresses",
        help="End each address in ?v= and a short hash of the file, or not; by default yes.",
    ),
]
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


@contextmanager
def refusals() -> Iterator[None]:
    """Tell a refusal to the person and end the command."""
    try:
        yield
    except Refusal as refusal:
        fail(refusal.sentence)


def is_at_terminal() -> bool:
    """Whether somebody can be asked."""
    return sys.stdin.isatty()


def agreed(question: str) -> bool:
    """Whether the person says yes; no answer is a no."""
    try:
        return bool(typer.confirm(question, err=True))
    except typer.Abort:
        print(file=sys.stderr)
        return False


def typed_secret(what: str, otherwise: str, twice: bool = False) -> str:
    """What the person types, unseen; ends the command when nothing comes, and says how else it can be given."""
    try:
        return str(typer.prompt(what, hide_input=True, confirmation_prompt=twice, err=True))
    except typer.Abort:
        print(file=sys.stderr)
        fail(f"No {what.lower()} was given. {otherwise}")


def fail(sentence: str) -> NoReturn:
    """End the command with a sentence on stderr."""
    print(sentence, file=sys.stderr)
    raise typer.Exit(REFUSED)
