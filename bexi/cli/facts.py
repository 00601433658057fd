"""`bexi facts`."""

import dataclasses
import json
from collections.abc import Iterator, Sequence

from bexi.cli.speaking import JsonOption, PictureArgument, read, refusals
from bexi.cli.taking_in import taken_in
from bexi.core.artwork.detection import name_mismatch
from bexi.core.artwork.facts import Facts, measure
from bexi.core.artwork.notes import Note, notes_on


def facts_command(picture: PictureArgument, as_json: JsonOption = False) -> None:
    """Measure PICTURE and say how well it suits icons."""
    with refusals():
        data = read(picture)
        picture_format, artwork = taken_in(data)
        facts = measure(data, picture_format, artwork)
    notes = notes_on(facts, name_mismatch(picture.name, picture_format))
    if as_json:
        plain = facts.as_json() | {"notes": [dataclasses.asdict(note) for note in notes]}
        print(json.dumps(plain, indent=2, ensure_ascii=False))
        return
    for line in _described(facts, notes):
        print(line)


def _described(facts: Facts, notes: Sequence[Note]) -> Iterator[str]:
    yield f"{facts.format}, {facts.width} × {facts.height} px, {facts.file_bytes} bytes"
    yield f"ground: {facts.ground}{f' {facts.ground_colour}' if facts.ground_colour else ''}"
    yield f"sharp up to: {'any size' if facts.sharp_up_to is None else f'{facts.sharp_up_to} px'}"
    yield f"colours: {', '.join(f'{one.colour} {one.share:.0%}' for one in facts.colours)}"
    yield from (f"- {note.sentence}" for note in notes)
