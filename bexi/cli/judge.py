"""`bexi judge` and `bexi propose`."""

import json
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Annotated

import typer

from bexi.cli.keeping import ReplaceOption, write_all
from bexi.cli.proposing import proposed
from bexi.cli.sources import FrameOption, PlainOption, SourceArgument, source_of
from bexi.cli.speaking import JsonOption, PictureArgument, read, refusals
from bexi.cli.taking_in import taken_in
from bexi.core.artwork.letters import Letters
from bexi.core.formats import png
from bexi.core.framing.compose import framing_for
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.tabs import TABS
from bexi.core.iconset.build import Pictures
from bexi.core.iconset.recipe_file import RecipeFile
from bexi.core.judging.groups import groups_of
from bexi.core.judging.initials import Drawn, drawn_initials
from bexi.core.judging.judge import judge_at
from bexi.core.judging.readings import Judgement
from bexi.core.judging.stages import stages_of
from bexi.core.judging.ways_out import Source, WayOut, letters_framing, ways_out
from bexi.core.pixels.colour import Colour
from bexi.resources import INITIALS_FACE, INITIALS_WEIGHT, initials_face
from bexi.resources.generic import generic_icons

_SIZES = (16, 32, 48, 180)
_HOME = 180
NameOption = Annotated[str | None, typer.Option(metavar="NAME", help="The site's name, whose letters may be offered.")]


def judge_command(
    source: SourceArgument,
    size: Annotated[
        list[int] | None, typer.Option(metavar="N", help="Side in px; repeatable.", min=1, max=1024)
    ] = None,
    under: Annotated[
        list[str] | None,
        typer.Option(
            "--ground", metavar="HEX", help="What it will stand on; repeatable. Light and dark tabs if none is given."
        ),
    ] = None,
    frame: FrameOption = None,
    filled: Annotated[str, typer.Option("--filled", metavar="clear|#rrggbb", help="The icon's own ground.")] = "clear",
    plain: PlainOption = False,
    name: NameOption = None,
    stages: Annotated[
        Path | None, typer.Option(metavar="FOLDER", help="Also draw what judging sees, stage by stage, as PNG files.")
    ] = None,
    replace: ReplaceOption = False,
    as_json: JsonOption = False,
) -> None:
    """Say of each size what a person will see of it, why, and what would be better."""
    with refusals():
        held, pictures = source_of(source, frame, filled, "#ffffff")
        held = held.plain if plain else held
        grounds = {str(colour): colour for colour in map(Colour.parse, under or ())} or TABS
        named = name or (held.site_name if source.suffix == ".json" else "")
        told = [_told(held, pictures, one, grounds, named) for one in size or _SIZES]
        drawn = stages_of(pictures(held.recipe.framing.artwork)) if stages else ()
        seen = {f"{name}.png": png.write_quickly(pixels) for name, pixels in drawn}
    if stages:
        write_all(stages, seen, [source], replace)
    if as_json:
        print(json.dumps({"sizes": [_plain(judged, ways) for judged, ways in told]}, indent=2))
        return
    for judged, ways in told:
        print("; ".join([f"{judged.size:>4} px  {judged.says}", *judged.readings.notes()]))
        for way, _ in ways:
            print(f"         {way.kind}: {way.judgement.says} ({way.gain})")


def propose_command(picture: PictureArgument, name: NameOption = None, as_json: JsonOption = False) -> None:
    """Say what to make of PICTURE: whole framings, each judged, the best first."""
    with refusals():
        _, artwork = taken_in(read(picture))
        proposals, letters = proposed(artwork, name)
    if as_json:
        plain = [
            {"kind": one.kind, "why": one.why, "framing": one.framing.as_json(), "verdicts": one.verdicts}
            | _as_json(_drawn(one.source, letters))
            for one in proposals
        ]
        print(json.dumps({"proposals": plain}, indent=2))
        return
    for one in proposals:
        frame = one.framing.frame
        verdicts = ", ".join(f"{judged.size} px {judged.says}" for judged in one.judgements)
        print(f"{one.kind}: {one.why}")
        print(f"         {frame.x},{frame.y},{frame.side}  {verdicts}")


def _told(
    held: RecipeFile, pictures: Pictures, size: int, grounds: Mapping[str, Colour], name: str
) -> tuple[Judgement, list[tuple[WayOut, Letters | None]]]:
    purpose = Purpose.HOME if size == _HOME else Purpose.TAB
    framing = framing_for(pictures(held.recipe.framing.artwork), held.recipe, size, purpose)
    picture = pictures(framing.artwork)
    (judged,) = judge_at(picture, framing, [size], purpose, grounds, generic_icons())
    source = Source(picture, groups_of(picture))
    letters = list(drawn_initials(name, source.groups, initials_face()))
    instead = [(one.source, letters_framing(one.source, framing)) for one in letters]
    ways = ways_out(source, framing, size, purpose, grounds, instead, generic_icons())
    return judged, [(way, _drawn(way.source, letters)) for way in ways]


def _plain(judged: Judgement, ways: Sequence[tuple[WayOut, Letters | None]]) -> dict[str, object]:
    return {
        "size": judged.size,
        "verdict": judged.verdict,
        "because": judged.because,
        "says": judged.says,
        "notes": list(judged.readings.notes()),
        "readings": judged.readings.as_json(),
        "ways_out": [
            {
                "kind": way.kind,
                "verdict": way.judgement.verdict,
                "gain": way.gain,
                "framing": way.framing.as_json(),
                **_as_json(letters),
            }
            for way, letters in ways
        ],
    }


def _drawn(source: Source, letters: Sequence[Drawn]) -> Letters | None:
    """The letters that a source is the drawing of."""
    return next((one.letters for one in letters if one.source is source), None)


def _as_json(letters: Letters | None) -> dict[str, object]:
    """What a framing over letters is over, as `bexi draw letters` takes it."""
    if letters is None:
        return {}
    plate = letters.plate
    return {
        "letters": {
            "text": letters.text,
            "face": INITIALS_FACE,
            "weight": INITIALS_WEIGHT,
            "tracking": letters.tracking,
            "ink": str(letters.ink),
            "plate": plate.as_json(),
        }
    }
