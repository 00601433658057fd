"""Checking what a live site serves."""

import dataclasses
from functools import partial

import httpx

from bexi.core.errors import HostRefused
from bexi.core.livesite.inspect import inspect
from bexi.sandbox.icons import look_apart
from bexi.server import blobs
from bexi.server.checks.models import Check
from bexi.server.fetching import TIMEOUT_SECONDS, fetch
from bexi.server.sites.models import Site


def check_site(site: Site) -> Check:
    """Look at a site as its visitors see it; raises HostRefused when it has no address."""
    if not site.address:
        raise HostRefused("no-address", "Bexi does not know this site's address yet. Enter it, then check again.")
    with httpx.Client(timeout=TIMEOUT_SECONDS, trust_env=False) as client:
        findings = inspect(site.address, _installed(site), partial(fetch, client), look_apart)
    return Check.objects.create(
        site=site,
        findings=[dataclasses.asdict(finding) for finding in findings],
        problem_count=sum(not finding.ok for finding in findings),
    )


def _installed(site: Site) -> dict[str, bytes]:
    """The written files, with their bytes by path, of the installation that stands."""
    install = site.installs.filter(state="done", undoes=None).first()
    if install is None:
        return {}
    written = install.steps.exclude(kind="edit")
    return {step.path: blobs.get(step.after_sha256) for step in written if step.after_sha256}
