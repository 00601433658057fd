"""Checking what a live site serves."""

import dataclasses
from collections.abc import Iterator
from contextlib import contextmanager

from bexi.core.errors import HostRefused
from bexi.core.livesite.inspect import inspect
from bexi.sandbox.icons import look_apart
from bexi.server import blobs, locks
from bexi.server.checks.models import Check
from bexi.server.fetching import visiting
from bexi.server.problems import Conflict
from bexi.server.sites.models import Site

MOST_SECONDS = 60
MOST_AT_ONCE = 3


def check_site(site: Site) -> Check:
    """Look at a site as its visitors see it.

    Raises HostRefused when it has no address, Conflict when many are looked at already.
    """
    if not site.address:
        raise HostRefused("no-address", "Bexi does not know this site's address yet. Enter it, then check again.")
    with _one_of_few(), visiting(MOST_SECONDS) as fetch:
        findings = inspect(site.address, _installed(site), fetch, look_apart)
    return Check.objects.create(
        site=site,
        findings=[dataclasses.asdict(finding) for finding in findings],
        problem_count=sum(not finding.ok for finding in findings),
    )


@contextmanager
def _one_of_few() -> Iterator[None]:
    for number in range(MOST_AT_ONCE):
        try:
            with locks.holding("check", number):
                yield
                return
        except locks.Held:
            continue
    raise Conflict(
        "many-checks", f"{MOST_AT_ONCE} checks are under way already. Wait for one to end, then check again."
    )


def _installed(site: Site) -> dict[str, bytes]:
    """The written files, with their bytes by path, of the installation that stands."""
    install = site.installs.filter(state="done", undoes=None).first()
    if install is None:
        return {}
    written = install.steps.exclude(kind="edit")
    return {step.path: blobs.get(step.after_sha256) for step in written if step.after_sha256}
