"""`bexi install` and `bexi undo`: a folder with a set onto a site, and back again."""

import fnmatch
import json
import os
import sys
from collections.abc import Callable, Sequence
from dataclasses import asdict, replace
from functools import partial
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from bexi.cli.journal import JournalOnDisk
from bexi.cli.known_servers import known_fingerprint, remember
from bexi.cli.speaking import JsonOption, StampedOption, agreed, fail, read, refusals, typed_secret
from bexi.core.artwork.pictures import Bitmap
from bexi.core.errors import InstallRefused
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.addresses import AT_THE_TOP, Addresses
from bexi.core.iconset.build import BuiltFile, mark_colour
from bexi.core.iconset.catalogue import CATALOGUE, FileSpec, tab_icon
from bexi.core.iconset.compare import pictures_in
from bexi.core.iconset.recipe_file import NAME, RecipeFile
from bexi.core.pixels.colour import BLACK, Colour
from bexi.core.sitehead.snippet import HeadLines
from bexi.hosts.opening import opened
from bexi.hosts.patience import FOR_WORK, never
from bexi.hosts.place import Place, UnknownServer
from bexi.hosts.protocol import Host
from bexi.hosts.secret import Secret
from bexi.installing.carry_out import Opening, PutBack, carry_out, plan_undo
from bexi.installing.plan import new_pages, plan_install
from bexi.installing.step import Step
from bexi.installing.survey import Found, some_pages
from bexi.installing.top_folder import system_folder

SECRET = "BEXI_SECRET"
"""The environment variable that may hold the password or private key."""
TRUST = "BEXI_TRUST"
"""The environment variable that may hold the fingerprint of the server's key."""
CHANGES = DECLINED = 1
NOT_TRUSTED = 4

ToOption = Annotated[str, typer.Option("--to", metavar="PATH|sftp://…|ftps://…|ftp://…", help="The site's top folder.")]
YesOption = Annotated[bool, typer.Option("--yes", help="Do it without asking.")]


def install_command(
    folder: Annotated[Path, typer.Argument(metavar="DIR", help="Folder with a set that was built.")],
    to: ToOption,
    plan_only: Annotated[
        bool, typer.Option("--plan", help="Only show what would change; exit code 1 if anything would.")
    ] = False,
    pages: Annotated[str, typer.Option(metavar="GLOB", help="Which pages to edit.")] = "*",
    base: Annotated[
        str | None, typer.Option(help="Where pages find the files: /, a path or an address; else as it was built.")
    ] = None,
    rules: Annotated[
        bool, typer.Option("--rules", help="Add the icons' content types and caching to an existing .htaccess.")
    ] = False,
    stamped: StampedOption = None,
    tidy: Annotated[bool, typer.Option("--tidy", help="Also remove old icons that no page uses any more.")] = False,
    yes: YesOption = False,
    as_json: JsonOption = False,
) -> None:
    """Install a set on a site: files into its top folder, lines into the head of its pages."""
    with refusals():
        journal = JournalOnDisk(to)
        icons = _icons(folder, base, stamped)
        opening = _opening(to)
        wants = partial(_matches, pages)
        with opening(never) as host:
            plan = plan_install(host, icons, wants, rules=rules)
            if tidy:
                plan = replace(plan, steps=(*plan.steps, *plan.leftovers), leftovers=())
            notes = (host.place_note, system_folder(Place.parse(to)), _told_of_earlier(journal))
    for note in filter(None, notes):
        print(note, file=sys.stderr)
    _tell(plan.steps, as_json, [(one.path, one.reason) for one in plan.left_alone], plan.found, plan.leftovers)
    if plan_only:
        raise typer.Exit(CHANGES if plan.changes else 0)
    if plan.changes:
        with refusals():
            journal.open_new()
        _must_agree(yes, len(plan.changes))
        with refusals():
            known = {step.path for step in plan.steps} | {page.path for page in plan.left_alone}
            try:
                _do(opening, plan.changes, plan.content, journal, lambda host: new_pages(host, known, wants))
            except InstallRefused as refusal:
                is_left = refusal.code == "put-back-incomplete" or (isinstance(refusal, PutBack) and refusal.left)
                if not is_left:  # nothing of it stands there
                    journal.end(done=False)
                raise
            journal.end(done=True)
        if not as_json:
            print("Installed. `bexi undo` undoes it.")


def _told_of_earlier(journal: JournalOnDisk) -> str:
    """A sentence on what stands on a place already; empty for nothing."""
    latest = journal.latest()
    if latest is None:
        return ""
    if not latest.is_done:
        return "An earlier installation was interrupted there. Undo it before you install, with `bexi undo`."
    return "There is an earlier installation. `bexi undo` undoes this one first, then that one."


def undo_command(
    to: ToOption,
    over: Annotated[
        list[str] | None,
        typer.Option(metavar="PATH", help="Restore the old file over this one, changed since; repeatable."),
    ] = None,
    leave: Annotated[
        list[str] | None, typer.Option(metavar="PATH", help="Keep this file, changed since, as it is; repeatable.")
    ] = None,
    yes: YesOption = False,
    as_json: JsonOption = False,
) -> None:
    """Take back what `bexi install` did last on a site: an interrupted installation, too."""
    with refusals():
        journal = JournalOnDisk(to)
        standing = journal.must_have_latest()
        opening = _opening(to)
        with opening(never) as host:
            try:
                steps = plan_undo(host, standing.steps, over or (), leave or ())
            except InstallRefused as refusal:
                if refusal.code != "changed-since":
                    raise
                fail(f"{refusal.sentence} Do that with --over PATH or --leave PATH.")
    _tell(steps, as_json, [])
    if steps:
        _must_agree(yes, len(steps))
        with refusals():
            _do(opening, steps, lambda step, now: journal.copy(step.after) if step.after else None, journal)
    standing.file.unlink(missing_ok=True)
    if not as_json:
        print(f"Undone, but for {', '.join(leave)}." if leave else "Undone: every file is as it was before.")


def _do(
    opening: Opening,
    steps: Sequence[Step],
    contents: Callable[[Step, bytes | None], bytes | None],
    journal: JournalOnDisk,
    news: Callable[[Host], Sequence[str]] = lambda host: (),
) -> None:
    with journal.stopped_by_ctrl_c():
        carry_out(opening, steps, contents, journal, news)


def _matches(pages: str, path: str) -> bool:
    return fnmatch.fnmatchcase(path, pages)


def _opening(to: str) -> Opening:
    place = Place.parse(to)
    secret = Secret.of(place, "")
    if place.is_remote:
        text = os.environ.get(SECRET) or typed_secret("Password", f"Set {SECRET} to it.")
        secret = Secret.of(place, text)
        place = _trusted(place, secret)
    return lambda stop_asked: opened(place, secret, FOR_WORK.until(stop_asked))


def _trusted(place: Place, secret: Secret) -> Place:
    """The place with the key of its server, once that is agreed to; else the command ends."""
    given = os.environ.get(TRUST, "")
    place = place.trusting(given or known_fingerprint(place))
    try:
        with opened(place, secret):
            return place
    except UnknownServer as unknown:
        told = f"{unknown.sentence} It is {unknown.fingerprint}."
        if given and unknown.code == "server-changed":
            _refuse_server(f"{place.host} shows the key {unknown.fingerprint}, not the one that {TRUST} names.")
        if unknown.code == "server-changed":
            _refuse_server(f"{told} Set {TRUST} to it when it is right.")
        if not agreed(f"{told} Go on?"):
            _refuse_server(f"Nothing has been changed. Set {TRUST} to {unknown.fingerprint}, or answer yes.")
        remember(place, unknown.key)
        return place.trusting(unknown.fingerprint)


def _refuse_server(sentence: str) -> NoReturn:
    print(sentence, file=sys.stderr)
    raise typer.Exit(NOT_TRUSTED)


def _icons(folder: Path, base: str | None, stamped: bool | None) -> HeadLines:
    """The set in a folder, as `bexi build` wrote it, named as its recipe says; other files in it are left alone."""
    if not folder.is_dir():
        fail(f"{folder} is not a folder.")
    recipe = RecipeFile.parse(read(folder / NAME)) if (folder / NAME).is_file() else None
    specs = recipe.plan.specs if recipe else _specs(folder)
    files = [BuiltFile(spec, read(folder / spec.name)) for spec in specs if (folder / spec.name).is_file()]
    if not files:
        raise InstallRefused("no-build", f"{folder} contains no icon set. Build one there first.")
    built = recipe.plan.addresses if recipe else AT_THE_TOP
    addresses = Addresses(built.base if base is None else base, built.stamped if stamped is None else stamped)
    return HeadLines(tuple(files), addresses, recipe.colour if recipe and recipe.colour else _colour(files))


def _specs(folder: Path) -> list[FileSpec]:
    """What a folder without a recipe holds, by the names of its files."""
    known = {spec.name for spec in CATALOGUE}
    sizes = sorted(int(path.stem[5:]) for path in folder.glob("icon-*.png") if path.stem[5:].isdecimal())
    own = [tab_icon(size) for size in sizes if f"icon-{size}.png" not in known]
    return [*CATALOGUE[:5], *own, *CATALOGUE[5:]]


def _colour(files: Sequence[BuiltFile]) -> Colour:
    """The main colour of the largest plain icon."""
    for file in reversed(files):
        pictures = pictures_in(file.data)
        if pictures and pictures[-1].shape[0] == pictures[-1].shape[1]:
            return _main_colour(Bitmap(pictures[-1]))
    return BLACK


def _main_colour(icon: Bitmap) -> Colour:
    return mark_colour(lambda key: icon, Recipe.of(whole_artwork(icon.width, icon.height)))


def _tell(
    steps: Sequence[Step],
    as_json: bool,
    left_alone: Sequence[tuple[str, str]],
    found: Sequence[Found] = (),
    leftovers: Sequence[Step] = (),
) -> None:
    if as_json:
        told = {
            "found": [asdict(one) for one in found],
            "steps": [step.as_json() for step in steps],
            "leftovers": [step.as_json() for step in leftovers],
            "left_alone": [{"path": path, "reason": reason} for path, reason in left_alone],
        }
        print(json.dumps(told, indent=2))
        return
    for one in found:
        where = [one.path] if one.path else []
        where += [f"on {some_pages(one.pages)}"] if one.pages else []
        print(f"there    {' '.join(where)}: {one.evidence}")
        for problem in one.problems:
            print(f"           {problem}")
    for step in steps:
        print(f"{step.kind.value:<8} {step.path}")
        for note in step.notes:
            print(f"           {note}")
    for path, reason in left_alone:
        print(f"left     {path}: {reason}")
    for step in leftovers:
        print(f"old      {step.path}: {' '.join(step.notes)}")
    if leftovers:
        print("           `--tidy` removes them, too.")


def _must_agree(yes: bool, count: int) -> None:
    """End the command, with nothing touched, unless the person agrees."""
    if not yes and not agreed(f"Do {'this 1 change' if count == 1 else f'these {count} changes'}?"):
        print("Nothing has been changed.", file=sys.stderr)
        raise typer.Exit(DECLINED)
