"""`bexi build`."""

import dataclasses
import hashlib
import json
import os
import sys
from collections.abc import Sequence
from contextlib import closing
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from bexi.cli.keeping import ReplaceOption, write_all
from bexi.cli.sources import (
    WHITE_GROUND,
    FrameOption,
    GroundOption,
    HomeGroundOption,
    PlainOption,
    SourceArgument,
    source_of,
)
from bexi.cli.speaking import JsonOption, StampedOption, fail, refusals
from bexi.core.errors import PlanRefused
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.build import BuiltSet, Pictures, build
from bexi.core.iconset.installed_app import InstalledApp
from bexi.core.iconset.plan import READY_MADE, Plan
from bexi.core.iconset.processes import Processes
from bexi.core.iconset.recipe_file import NAME
from bexi.core.sitehead.snippet import HeadLines

if TYPE_CHECKING:
    from bexi.core.iconset.judged import JudgedIcon

LOST = 3


def build_command(
    source: SourceArgument,
    out: Annotated[Path, typer.Option(metavar="DIR", help="Folder for the files; created if missing.")],
    plan: Annotated[
        str | None, typer.Option(metavar="NAME", help=f"One of {', '.join(READY_MADE)}; a recipe brings its own.")
    ] = None,
    only: Annotated[
        list[str] | None, typer.Option(metavar="FILE", help="Write only this file of the plan; repeatable.")
    ] = None,
    frame: FrameOption = None,
    ground: GroundOption = "clear",
    home_ground: HomeGroundOption = WHITE_GROUND,
    plain: PlainOption = False,
    base: Annotated[
        str | None, typer.Option(help="Where pages find the files: /, a path, an address, or empty.")
    ] = None,
    stamped: StampedOption = None,
    name: Annotated[str | None, typer.Option(help="The site's name in the manifest.")] = None,
    manifest: Annotated[
        list[str] | None,
        typer.Option(
            metavar="MEMBER=VALUE", help="Another member of the manifest, like display=standalone; repeatable."
        ),
    ] = None,
    judge: Annotated[
        bool, typer.Option("--judge", help=f"Judge every icon first; exit code {LOST} and no files when one is lost.")
    ] = False,
    take_best: Annotated[
        bool, typer.Option("--propose", help="Use the first framing of `bexi propose` instead of --frame.")
    ] = False,
    replace: ReplaceOption = False,
    as_json: JsonOption = False,
) -> None:
    """Build the icon set of PICTURE, or of a recipe file, into a folder."""
    with refusals():
        if take_best:
            from bexi.cli.proposing import best_of  # on demand, for judging needs scipy, which takes its time

            held, pictures, drawn = best_of(source, frame, ground, home_ground, name)
        else:
            (held, pictures), drawn = source_of(source, frame, ground, home_ground), {}
        held = held.plain if plain else held
        chosen = _plan(plan) if plan else held.plan
        chosen.must_hold(only or ())
        addresses = dataclasses.replace(
            chosen.addresses,
            base=chosen.addresses.base if base is None else base,
            stamped=chosen.addresses.stamped if stamped is None else stamped,
        )
        chosen = dataclasses.replace(chosen, addresses=addresses, app=_app(chosen, manifest or []))
        judged = _judged(pictures, held.recipe, chosen, as_json) if judge else []
        with closing(Processes(os.cpu_count() or 1)) as processes:
            built = build(pictures, held.recipe, chosen, name or held.site_name, each=processes.each)
        if only:
            built = built.only(only)
    written = {file.name: file.data for file in built.files} | drawn
    kept = dataclasses.replace(
        held,
        plan=chosen,
        site_name=name or held.site_name,
        colour=built.colour,
        written={name: hashlib.sha256(data).hexdigest() for name, data in written.items()},
    )
    if source.resolve() != (out / NAME).resolve():  # what is being read is not written over
        written[NAME] = kept.as_bytes()
    sources = [] if drawn else [source.parent / one.file for one in held.sources.values()]
    write_all(out, written, [source, *sources], replace)
    lines = HeadLines(built.files, addresses, built.colour).lines()
    if as_json:
        print(
            json.dumps(
                {
                    "recipe": held.recipe.as_json(),
                    "plan": chosen.as_json(),
                    **_listed(built),
                    "head": lines,
                    **({"verdicts": [one.as_json() for one in judged]} if judge else {}),
                },
                indent=2,
            )
        )
        return
    for file in built.files:
        print(f"{len(file.data):>8} bytes  {out / file.name}")
    for one in built.left_out:
        print(f"    left out  {one.name}: {one.reason}")
    print("\nLines for the head of each page:\n")
    print("\n".join(lines))


def _judged(pictures: Pictures, recipe: Recipe, plan: Plan, as_json: bool) -> "list[JudgedIcon]":
    """What a person will see of each icon; ends the command when one is lost."""
    from bexi.core.iconset.judged import judged_set  # on demand, for judging needs scipy, which takes its time
    from bexi.core.judging.readings import Verdict
    from bexi.resources.generic import generic_icons

    judged = judged_set(pictures, recipe, plan, generic_icons())
    lost = [one for one in judged if one.judgement.verdict is Verdict.LOST]
    for one in judged:
        if not one.is_well:
            print(f"{one.size:>4} px {one.purpose:<10} {one.judgement.says}", file=sys.stderr)
    if lost:
        if as_json:
            print(json.dumps({"files": [], "verdicts": [one.as_json() for one in judged]}, indent=2))
        print("Nothing was built. `bexi judge` tells what would be better.", file=sys.stderr)
        raise typer.Exit(LOST)
    return judged


def _app(plan: Plan, said: Sequence[str]) -> InstalledApp:
    """What the manifest says of the app: what the plan has it say, and over it each MEMBER=VALUE."""
    pairs = [one.partition("=") for one in said]
    for member, equals, _ in pairs:
        if not equals:
            fail(f"--manifest {member} has no value. Write it like --manifest {member.strip() or 'display'}=VALUE.")
    return InstalledApp.from_members({**plan.app.members, **{member.strip(): value for member, _, value in pairs}})


def _plan(name: str) -> Plan:
    if name not in READY_MADE:
        raise PlanRefused("unknown-plan", f"There is no plan “{name[:40]}”. Choose one of {', '.join(READY_MADE)}.")
    return READY_MADE[name]


def _listed(built: BuiltSet) -> dict[str, object]:
    return {
        "files": [{"name": file.name, "bytes": len(file.data), "sha256": file.sha256} for file in built.files],
        "left_out": [{"name": one.name, "reason": one.reason} for one in built.left_out],
    }
