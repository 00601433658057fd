"""`bexi start`: from a site's address alone to a built set."""

from pathlib import Path, PurePosixPath
from typing import Annotated

import typer

from bexi.cli.build import build_command
from bexi.cli.keeping import ReplaceOption, write_all
from bexi.cli.speaking import JsonOption, fail, refusals
from bexi.cli.taking_in import taken_in
from bexi.core.errors import ArtworkRefused
from bexi.core.livesite.inspect import Once, inspect
from bexi.core.livesite.marks import Mark
from bexi.core.livesite.served import Fetch, path_of
from bexi.core.livesite.visitor import Reading, remembering
from bexi.sandbox.icons import look_apart
from bexi.sandbox.pages import read_page_apart
from bexi.web.first_look import look_first
from bexi.web.typed import with_scheme
from bexi.web.visiting import visiting

MOST_SECONDS = 60
_MOST_PAGES = 3
_MOST_TRIED = 8


def start_command(
    address: Annotated[str, typer.Argument(metavar="ADDRESS", help="The site's address; a scheme is not needed.")],
    out: Annotated[Path, typer.Option(metavar="DIR", help="Folder for the files; created if missing.")],
    plan: Annotated[str | None, typer.Option(metavar="NAME", help="The set plan; see `bexi plans`.")] = None,
    replace: ReplaceOption = False,
    as_json: JsonOption = False,
) -> None:
    """Look at a site, take its likeliest logo, and build the set that is proposed for it."""
    address = with_scheme(address)
    with refusals(), visiting(MOST_SECONDS, address) as fetch:
        look = look_first(address, fetch)
        once = Once(fetch, remembering(Reading(read_page_apart, look_apart)))
        report = inspect(address, once, {}, most=_MOST_PAGES)
        name, data, mark = _logo(look.page.marks, fetch)
    if not as_json:
        print(f"{look.name}\n")
        wrong = [finding for finding in report.findings if finding.wrong]
        print("Problems with its current icons:" if wrong else "No problems found with its current icons.")
        print("".join(f"- {finding.what}: {finding.evidence}\n" for finding in wrong))
        print(f"Made of: {mark.address or 'a drawing in the page'} ({mark.why})\n")
    write_all(out, {name: data}, [], replace)
    build_command(out / name, out, plan=plan, take_best=True, name=look.name, replace=replace, as_json=as_json)


def _logo(marks: tuple[Mark, ...], fetch: Fetch) -> tuple[str, bytes, Mark]:
    """File name and bytes of the likeliest picture that can be taken in; ends the command when there is none."""
    for mark in marks[:_MOST_TRIED]:
        data = mark.markup.encode() or _served(mark.address, fetch)
        if data and _is_picture(data):
            return f"logo{PurePosixPath(path_of(mark.address)).suffix if mark.address else '.svg'}", data, mark
    return fail("No picture was found on this site that could be its logo. Build from a file, with bexi build.")


def _served(address: str, fetch: Fetch) -> bytes:
    served = fetch(address)
    return served.body if served.status == 200 else b""


def _is_picture(data: bytes) -> bool:
    try:
        taken_in(data)
    except ArtworkRefused:
        return False
    return True
