"""`bexi check`: what a live site serves, and which icon each kind of visitor gets. It needs no data folder."""

import json
import re
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Annotated, Any

import typer

from bexi.cli.speaking import JsonOption, fail, refusals
from bexi.core.iconset.catalogue import CATALOGUE
from bexi.core.iconset.recipe_file import NAME, RecipeFile
from bexi.core.livesite.history import Past
from bexi.core.livesite.inspect import MOST_PAGES, Once, inspect
from bexi.core.livesite.report import report_json, visitors_json
from bexi.core.livesite.served import path_of
from bexi.core.livesite.visitor import Reading, remembering
from bexi.sandbox.icons import look_apart
from bexi.sandbox.pages import read_page_apart
from bexi.web.typed import with_scheme
from bexi.web.visiting import visiting

WRONG = 1
MOST_SECONDS = 120
_CLOCK = re.compile(r"\+?(\d{1,5})([smhdw])")
_SECONDS = {"s": 1, "m": 60, "h": 3600, "d": 86400, "w": 604800}
_USUAL = {spec.name for spec in CATALOGUE}
_NOTES = ("head-lines.html", "where-files-go.txt", "what-to-do.txt", "what-changed.txt")


def check_command(
    address: Annotated[
        str, typer.Argument(metavar="ADDRESS", help="The site's address; without a scheme https is tried, then http.")
    ],
    pages: Annotated[int, typer.Option(min=1, max=1000, help="How many pages to check at most.")] = MOST_PAGES,
    installed: Annotated[
        Path | None, typer.Option(metavar="DIR", help="A folder with the files that should be served.")
    ] = None,
    clock: Annotated[
        str, typer.Option(metavar="+7d", help="Move the clock forward, like +7d: s, m, h, d or w.")
    ] = "+0s",
    as_json: JsonOption = False,
) -> None:
    """Look at a site as its visitors do. Exit code 0: well, 1: something is wrong, 2: it cannot be looked at."""
    later = moved(clock)
    with refusals():
        should = _files_of(installed) if installed else {}
    reading = remembering(Reading(read_page_apart, look_apart))
    address = with_scheme(address)
    with visiting(MOST_SECONDS, address) as fetch:
        once = Once(fetch, reading)
        report = inspect(address, once, should, most=pages)
        if not report.pages:
            fail(f"{address} cannot be looked at: {report.findings[0].evidence.rstrip('.')}.")
        now = time.time() + later
        said = report_json(report) | visitors_json(Past(address, once.get), reading, now, report.files)
    for line in [json.dumps(said, indent=2, ensure_ascii=False)] if as_json else _told(said):
        print(line)
    raise typer.Exit(WRONG if report.wrong else 0)


def moved(clock: str) -> float:
    """Seconds that a clock is moved on by; ends the command for what is no such time."""
    match = _CLOCK.fullmatch(clock.strip())
    if match is None:
        fail(f"“{clock[:20]}” is not a length of time. Write it like +7d: a number and s, m, h, d or w.")
    return float(match[1]) * _SECONDS[match[2]]


def _files_of(folder: Path) -> dict[str, bytes]:
    """The files that should be served: of a set those of its plan, else all but the notes of a package."""
    if not folder.is_dir():
        fail(f"There is no folder {folder}. Name the one with the set that was installed.")
    try:
        files = {path.relative_to(folder).as_posix(): path for path in sorted(folder.rglob("*")) if path.is_file()}
        recipe = files.pop(NAME, None)
        if recipe is not None:
            planned = {spec.name for spec in RecipeFile.parse(recipe.read_bytes()).plan.specs}
            files = {name: path for name, path in files.items() if name in planned}
        found = {name: path.read_bytes() for name, path in files.items() if name not in _NOTES}
    except OSError as error:
        fail(f"{folder} cannot be read: {error.strerror}.")
    if recipe is None and not any(name in found for name in _USUAL):
        fail(f"{folder} contains no icon set. Name the folder with the set that was installed.")
    return found


def _count(number: int, what: str) -> str:
    return f"{number} {what}" if number == 1 else f"{number} {what}s"


def _told(said: dict[str, Any]) -> Iterator[str]:
    home = said["pages"][0]
    yield f"{said['address']}: {_count(len(said['pages']), 'page')} and {_count(len(said['files']), 'file')} checked"
    yield from (f"  {by:<12} {taken['why']}" for by, taken in home["taken"].items())
    for finding in said["findings"]:
        yield f"{'problem' if finding['wrong'] else 'suggestion'}: {finding['what']}: {finding['evidence']}"
        where = [path_of(address) for address in finding["where"]]
        yield f"  on {', '.join(where[:5])}{f' and {len(where) - 5} more' if len(where) > 5 else ''}"
        yield f"  {finding['why']} {finding['remedy']}"
    left = said["not_looked_at"]["pages"]
    if left:
        yield f"{left} more {'page was' if left == 1 else 'pages were'} not checked; ask for more with --pages."
    if said["certain_from"]:
        yield f"All browsers will show the current icons by {said['certain_from']}."
    if not said["findings"]:
        yield "No problems found."
