"""`bexi facts`."""

import json
from collections.abc import Iterator
from typing import Any

from bexi.cli.speaking import JsonOption, PictureArgument, read, refusals
from bexi.sandbox import in_sandbox
from bexi.sandbox.told import facts_told


def facts_command(picture: PictureArgument, as_json: JsonOption = False) -> None:
    """Measure PICTURE and say how well it suits icons."""
    with refusals():
        told = in_sandbox(facts_told, picture.name, read(picture))
    print(told if as_json else "\n".join(_described(json.loads(told))))


def _described(facts: dict[str, Any]) -> Iterator[str]:
    sharp, colours = facts["sharp_up_to"], facts["colours"]
    yield f"{facts['format']}, {facts['width']} × {facts['height']} px, {facts['file_bytes']} bytes"
    yield f"ground: {' '.join(filter(None, (facts['ground'], facts['ground_colour'])))}"
    yield f"sharp up to: {'any size' if sharp is None else f'{sharp} px'}"
    yield f"colours: {', '.join('{colour} {share:.0%}'.format(**one) for one in colours)}"
    yield from (f"- {note['sentence']}" for note in facts["notes"])
