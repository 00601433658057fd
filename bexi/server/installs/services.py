"""Planning, doing and undoing installations, with the journal in the database."""

from pathlib import Path

from django.db import transaction

from bexi.core.errors import InstallRefused
from bexi.hosts.folder import FolderHost
from bexi.installing.carry_out import carry_out, carry_out_undo
from bexi.installing.plan import InstallPlan, Step, StepKind, plan_install, plan_undo
from bexi.server import blobs
from bexi.server.builds.models import Build
from bexi.server.builds.services import head_lines
from bexi.server.installs.models import Install, InstallState, InstallStep
from bexi.server.sites.models import Site


def plan_for(site: Site) -> tuple[Build, InstallPlan]:
    """What installing the latest build would do; raises InstallRefused or HostRefused when it cannot be planned."""
    build = site.builds.first()
    if build is None:
        raise InstallRefused("no-build", "Nothing is built for this site yet. Build the set first.")
    return build, plan_install(_host(site.folder), head_lines(build))


def install(site: Site, fingerprint: str) -> Install:
    """Install the latest build, if the plan is still the one with this fingerprint.

    Raises InstallRefused when the site changed since, or when a step failed and all was put back.
    """
    build, plan = plan_for(site)
    if plan.fingerprint != fingerprint:
        raise InstallRefused(
            "plan-outdated",
            "The site or the set changed since this plan was made. Nothing was touched; plan again.",
        )
    journal = _begin(site, build, plan)
    try:
        carry_out(_host(site.folder), plan)
    except InstallRefused as refusal:
        if refusal.code != "put-back-incomplete":
            _set_state(journal, InstallState.PUT_BACK)
        raise
    _set_state(journal, InstallState.DONE)
    return journal


def undo(journal: Install) -> Install:
    """Put back what an installation replaced and remove what it added.

    Raises InstallRefused when it was undone already, a later one lies on top, or a file was changed since.
    """
    if journal.state not in (InstallState.DONE, InstallState.STARTED):
        raise InstallRefused("already-undone", "This installation is undone already.")
    later = journal.site.installs.filter(pk__gt=journal.pk, state__in=[InstallState.DONE, InstallState.STARTED])
    if later.exists():
        raise InstallRefused("later-install", "A later installation lies on top of this one. Undo that one first.")
    carry_out_undo(_host(journal.folder), plan_undo([_step(step) for step in journal.steps.all()]))
    _set_state(journal, InstallState.UNDONE)
    return journal


def _host(folder: str) -> FolderHost:
    if not folder:
        raise InstallRefused("no-folder", "Bexi does not know where this site lives yet. Enter the site's folder.")
    return FolderHost(Path(folder))


@transaction.atomic
def _begin(site: Site, build: Build, plan: InstallPlan) -> Install:
    """The journal, with copies of everything that will be replaced, before anything is touched."""
    journal = Install.objects.create(site=site, build=build, folder=site.folder)
    InstallStep.objects.bulk_create(
        InstallStep(
            install=journal,
            position=position,
            kind=step.kind,
            path=step.path,
            before_sha256=None if step.before is None else blobs.put(step.before),
            after_sha256=None if step.after is None else blobs.put(step.after),
        )
        for position, step in enumerate(plan.changes)
    )
    return journal


def _step(step: InstallStep) -> Step:
    before, after = (None if sha is None else blobs.get(sha) for sha in (step.before_sha256, step.after_sha256))
    return Step(StepKind(step.kind), step.path, before, after)


def _set_state(journal: Install, state: InstallState) -> None:
    journal.state = state
    journal.save(update_fields=["state", "changed"])
