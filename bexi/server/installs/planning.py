"""Planning installations in the background: a site may have thousands of pages behind a slow line."""

import fnmatch
import time
from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import asdict, replace
from functools import cache
from urllib.parse import urlsplit

from bexi.core.errors import InstallRefused, Refusal
from bexi.core.livesite.foreseen import old_seconds
from bexi.core.livesite.visitor import Reading, remembering
from bexi.core.sitehead.edit import edit_head
from bexi.core.sitehead.snippet import HeadLines
from bexi.hosts.opening import opened
from bexi.hosts.place import Place
from bexi.hosts.protocol import Host
from bexi.hosts.secret import Secret
from bexi.installing.plan import InstallPlan, plan_install
from bexi.installing.step import Content, StepKind
from bexi.sandbox.icons import look_apart
from bexi.sandbox.pages import read_page_apart
from bexi.server import blobs, vault
from bexi.server.builds.models import Build
from bexi.server.builds.services import head_lines
from bexi.server.installs import reaching
from bexi.server.installs.models import Planning, PlanningState
from bexi.server.installs.places import place_warning, secret_of
from bexi.server.machines import leases
from bexi.server.machines.work import take
from bexi.server.sites.models import Site
from bexi.web.visiting import visiting

ALL_PAGES = "*"
MOST_PICTURE_BYTES = 2 * 1024 * 1024
PLACE_AWAITED_SECONDS = 30
"""So long a place may be busy with other work before this is offered again."""
_TOLD_EVERY_SECONDS = 0.25
_MOST_SECONDS_VISITING = 15


class PlanningStopped(Exception):
    """The person asked to stop, or planned anew."""


def latest_build(site: Site) -> Build:
    """The build that is installed next; raises InstallRefused when there is none."""
    build = site.builds.first()
    if build is None:
        raise InstallRefused("no-build", "Nothing is built for this site yet. Build the set first.")
    return build


def planning_by(planning_id: int) -> Planning:
    """The planning of this number; raises InstallRefused when it has given way to a later one."""
    planning = Planning.objects.filter(pk=planning_id).first()
    if planning is None:
        raise InstallRefused("plan-outdated", "A newer plan was made since. Nothing has been changed; plan again.")
    return planning


def carry_out(planning: Planning) -> None:
    """Make the plan and note how that ended; one piece of work at a time for a place."""

    def alone(planning: Planning, held: leases.Holding) -> None:
        with suppress(leases.LeaseHeld), leases.holding("place", planning.place, wait=PLACE_AWAITED_SECONDS):
            _carry_out(planning)  # else it still waits, and is offered again

    take(planning, alone)


def _carry_out(planning: Planning) -> None:
    told = _Told(planning)
    ended: dict[str, object] = {"state": PlanningState.FAILED}
    try:
        planning.note(PlanningState.WAITING, state=PlanningState.READING)
        told(0, 0)
        place = Place.parse(planning.place).trusting(planning.trusted)
        patience = reaching.patience(lambda: _is_unwanted(planning))
        with opened(place, vault.unseal(planning.sealed, place), patience) as host:
            visited = urlsplit(planning.site.address).netloc
            plan = plan_install(host, head_lines(planning.build), wanted(planning.pages), told, visited, planning.rules)
            warning = " ".join(filter(None, (host.place_note, place_warning(planning.site, host))))
            shown = _kept_picture(host, plan.shown)
        old = _old_seconds(planning, plan)
        for data in plan.files.values():
            blobs.put(data)
        seen: dict[str, object] = {"old_seconds": old, "shown": plan.shown, "shown_sha256": shown}
        ended = {"state": PlanningState.DONE, "plan": _as_json(plan, warning) | seen}
    except PlanningStopped:
        ended = {"state": PlanningState.STOPPED}
    except Refusal as refusal:
        ended = (
            {"state": PlanningState.STOPPED} if refusal.code == "stopped" else {**ended, "problem": refusal.sentence}
        )
    except Exception:
        ended["problem"] = "Something went wrong while planning; see the log. Nothing has been changed. Plan again."
        raise
    finally:
        planning.note(PlanningState.READING, sealed="", **ended)


def _kept_picture(host: Host, path: str | None) -> str:
    """Keep the icon that visitors see before, to be shown beside the new one; empty for none."""
    data = host.read(path) if path else None
    return blobs.put(data) if data and len(data) <= MOST_PICTURE_BYTES else ""


def _old_seconds(planning: Planning, plan: InstallPlan) -> float | None:
    """For how long visitors of before would see the old icon; None for none, or where nobody can be asked."""
    address = planning.site.address
    changes = [step for step in plan.steps if step.kind is not StepKind.SAME]
    if not address or not changes:
        return None
    files = {**plan.files, **{step.path: None for step in changes if step.kind is StepKind.REMOVE}}
    lines = plan.icons if any(step.kind is StepKind.EDIT for step in changes) else None
    reading = remembering(Reading(read_page_apart, look_apart))
    with visiting(_MOST_SECONDS_VISITING, address) as fetch, suppress(Refusal):
        return old_seconds(address, cache(fetch), files, lines, reading, time.time())
    return None


def old_picture(planning: Planning) -> str | None:
    """The name under which the icon is kept that most visitors see before the installation; None for none."""
    return (planning.plan or {}).get("shown_sha256") or None


class _Told:
    """Notes how many pages are read, now and then, and finds out whether to go on."""

    def __init__(self, planning: Planning) -> None:
        self._planning = planning
        self._last = 0.0

    def __call__(self, done: int, total: int) -> None:
        if done < total and time.monotonic() - self._last < _TOLD_EVERY_SECONDS:
            return
        self._last = time.monotonic()
        is_there = self._planning.note(PlanningState.READING, done=done, total=total)
        if not is_there or _is_unwanted(self._planning):
            raise PlanningStopped


def _is_unwanted(planning: Planning) -> bool:
    """Whether somebody asked to stop."""
    return Planning.objects.filter(pk=planning.pk, stop_asked=True).exists()


def _as_json(plan: InstallPlan, warning: str) -> dict[str, object]:
    return {
        "steps": [step.as_json() for step in plan.steps],
        "leftovers": [step.as_json() for step in plan.leftovers],
        "left_alone": [asdict(page) for page in plan.left_alone],
        "manifests": manifests_of(plan.icons),
        "found": [asdict(found) for found in plan.found],
        "warning": warning,
    }


def manifests_of(icons: HeadLines) -> list[str]:
    """The site's own manifests that take the icons; the one of pages that name none first."""
    return [icons.manifest, *icons.manifests]


def icons_of(build: Build, manifests: Sequence[str]) -> HeadLines:
    """The head lines of a build on a site with these manifests of its own, as `manifests_of` tells them."""
    icons = head_lines(build)
    return replace(icons, manifest=manifests[0], manifests=frozenset(manifests[1:])) if manifests else icons


def wanted(pages: str) -> Callable[[str], bool]:
    """Whether a page is to be edited, by patterns like `*.html news/*` with spaces between them."""
    patterns = pages.split() or [ALL_PAGES]
    return lambda path: any(fnmatch.fnmatchcase(path, pattern) for pattern in patterns)


def before_and_after(planning: Planning, path: str, secret: Secret | None = None) -> tuple[bytes, bytes]:
    """One file of a plan as it is now, and as it would be; raises InstallRefused when it changed since."""
    step = next((step for step in planning.read_steps if step.path == path), None)
    if step is None or step.after is None:
        raise InstallRefused("no-such-step", f"{path} is not part of this plan. Plan again.")
    place = Place.parse(planning.place).trusting(planning.trusted)
    with reaching.looking(place, secret_of(planning.site, secret, place)) as host:
        now = host.read(path)
    if Content.of(now) != step.before:
        raise InstallRefused("site-changed", f"{path} was changed since the plan was made. Plan again.")
    if step.kind is StepKind.EDIT and now is not None:
        return now, edit_head(now, icons_of(planning.build, planning.manifests), path).after
    return now or b"", blobs.get(step.after.sha256)
