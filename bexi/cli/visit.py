"""`bexi visit`: a stand-in visitor, with a cache and a clock that can be moved on."""

import base64
import json
import time
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import Annotated, Any

import typer

from bexi.cli.check import MOST_SECONDS, moved
from bexi.cli.speaking import JsonOption, fail, write
from bexi.core.livesite.profile import visitor_from, visitor_json
from bexi.core.livesite.report import shown_json
from bexi.core.livesite.served import Served
from bexi.core.livesite.visitor import Reading, Visitor, remembering
from bexi.sandbox.icons import look_apart
from bexi.sandbox.pages import read_page_apart
from bexi.web.typed import with_scheme
from bexi.web.visiting import visiting


def visit_command(
    address: Annotated[
        str, typer.Argument(metavar="ADDRESS", help="The page to visit; without a scheme https is tried, then http.")
    ],
    profile: Annotated[
        Path | None, typer.Option(metavar="FILE", help="Where the visitor's cache is kept; a private window without.")
    ] = None,
    clock: Annotated[
        str, typer.Option(metavar="+7d", help="Move the visitor's clock forward, like +7d: s, m, h, d or w.")
    ] = "+0s",
    as_json: JsonOption = False,
) -> None:
    """Visit a page as a stand-in visitor and say which icon it shows, and why."""
    reading = remembering(Reading(read_page_apart, look_apart))
    visitor = _known(profile, reading) if profile and profile.exists() else Visitor(reading)
    address, now = with_scheme(address), time.time() + moved(clock)
    with visiting(MOST_SECONDS, address) as fetch:

        def then(url: str) -> Served:
            return replace(fetch(url), at=now)

        shown = visitor.visit(address, then, now)
        fresh = Visitor(reading).visit(address, then, now)
    if profile:
        told = visitor_json(visitor, lambda body: base64.b64encode(body).decode())
        write(profile, json.dumps(told).encode())
    said = shown_json(shown, fresh)
    print(json.dumps(said, indent=2, ensure_ascii=False) if as_json else "\n".join(_told(said)))


def _known(profile: Path, reading: Reading) -> Visitor:
    try:
        return visitor_from(
            json.loads(profile.read_bytes()), reading, lambda body: base64.b64decode(body, validate=True)
        )
    except OSError as error:
        fail(f"{profile} cannot be read: {error.strerror}.")
    except (ValueError, AttributeError):
        fail(f"{profile} is not a profile that `bexi visit` has saved. Name another file.")


def _told(said: Mapping[str, Any]) -> list[str]:
    states = {"new": "", "old": " (an earlier one: a first visit sees another)", "earlier": ""}
    return [f"{by:<12} {one['why']}{states[one['state']]}" for by, one in said.items()]
