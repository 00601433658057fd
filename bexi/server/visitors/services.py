"""What the stand-in visitor does: visits, comes back, clears its cache, puts pages on a home screen."""

import time
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from bexi.core.livesite.profile import visitor_from, visitor_json
from bexi.core.livesite.served import Served
from bexi.core.livesite.visitor import Reading, Shown, Visitor, remembering
from bexi.sandbox.icons import look_apart
from bexi.sandbox.pages import read_page_apart
from bexi.server import blobs
from bexi.server.machines import leases
from bexi.server.visitors.models import StandInVisitor
from bexi.web.visiting import visiting

MOST_SECONDS = 20
MOST_TABS = 8
MOST_ON_PHONE = 12
YEARS = 10 * 365 * 24 * 3600.0
"""How far its clock can be moved on, in seconds."""


def the_visitor() -> StandInVisitor:
    """The one that there is."""
    visitor, _ = StandInVisitor.objects.get_or_create(pk=1)
    return visitor


def visit(address: str, private: bool = False) -> StandInVisitor:
    """Visit a page; in a private window nothing that was kept counts, and nothing is kept."""
    with leases.holding("visitor", wait=True):
        kept = the_visitor()
        reading = remembering(Reading(read_page_apart, look_apart))
        browser = Visitor(reading)
        if kept.browser and not private:
            browser = visitor_from(kept.browser, reading, blobs.get)
        now = time.time() + kept.ahead
        with visiting(MOST_SECONDS, address) as fetch:

            def then(url: str) -> Served:
                return replace(fetch(url), at=now)

            browser.devices.clear()  # nothing is on the phone unless it is put there
            shown = browser.visit(address, then, now)
        tab = {
            "address": address,
            "private": private,
            "at": now,
            "shown": {kind: _told(one) for kind, one in shown.items()},
        }
        kept.tabs = [tab, *(one for one in kept.tabs if not _is_same(one, tab))][:MOST_TABS]
        if not private:
            kept.browser = visitor_json(browser, blobs.put)
        kept.save()
        return kept


def _is_same(one: Mapping[str, Any], other: Mapping[str, Any]) -> bool:
    return (one["address"], one["private"]) == (other["address"], other["private"])


def _told(shown: Shown) -> dict[str, Any]:
    return {
        "address": shown.taken.address or None,
        "why": shown.taken.why,
        "masked": shown.taken.masked,
        "sha256": blobs.put(shown.served.body) if shown.served else None,
    }


def put_on_phone(address: str) -> StandInVisitor:
    """Put the page that is open under this address on the home screen, as it shows itself there."""
    with leases.holding("visitor", wait=True):
        kept = the_visitor()
        tab = next((one for one in kept.tabs if one["address"] == address), None)
        if tab is not None:
            others = [one for one in kept.home_screen if one["address"] != address]
            fresh = {"address": address, "at": tab["at"], "shown": tab["shown"]["home-screen"]}
            kept.home_screen = [*others, fresh][-MOST_ON_PHONE:]
            kept.save()
        return kept


def set_clock(ahead: float) -> StandInVisitor:
    """Set the clock, so many seconds ahead of ours."""
    with leases.holding("visitor", wait=True):
        kept = the_visitor()
        kept.ahead = min(max(0.0, ahead), YEARS)
        kept.save()
        return kept


def move_clock(by: float) -> StandInVisitor:
    """Move the clock on by so many seconds, from wherever it is by then."""
    with leases.holding("visitor", wait=True):
        kept = the_visitor()
        kept.ahead = min(kept.ahead + by, YEARS)
        kept.save()
        return kept


def clear_cache() -> StandInVisitor:
    """Forget all that was kept; open pages stay as they are until they are visited again."""
    kept = the_visitor()
    kept.browser = None
    kept.save()
    return kept


def start_over() -> StandInVisitor:
    """A visitor who has never been anywhere, with the right time."""
    StandInVisitor.objects.all().delete()
    return the_visitor()


def pictures_of(kept: StandInVisitor) -> set[str]:
    """The names of all pictures that are shown."""
    shown = [one for tab in kept.tabs for one in tab["shown"].values()] + [one["shown"] for one in kept.home_screen]
    return {one["sha256"] for one in shown if one["sha256"]}
