"""Installing over the API."""

import difflib
from datetime import datetime

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema

from bexi.installing.plan import PAGE_ENDINGS, Step, StepKind
from bexi.server.installs import services
from bexi.server.installs.models import Install, InstallState
from bexi.server.sites.models import Site

router = Router(tags=["installs"])


class StepOut(Schema):
    """`difference` are the lines of a unified difference, for edited pages only."""

    kind: StepKind
    path: str
    page: bool
    bytes_before: int | None
    bytes_after: int | None
    notes: list[str]
    difference: list[str]

    @classmethod
    def of(cls, step: Step) -> "StepOut":
        """A planned step as the API tells it."""
        return cls(
            kind=step.kind,
            path=step.path,
            page=step.path.lower().endswith(PAGE_ENDINGS),
            bytes_before=None if step.before is None else len(step.before),
            bytes_after=None if step.after is None else len(step.after),
            notes=list(step.notes),
            difference=_difference(step) if step.kind is StepKind.EDIT else [],
        )


class LeftAloneOut(Schema):
    path: str
    reason: str


class InstallPlanOut(Schema):
    """`changes` is how many steps change something."""

    build_number: int
    folder: str
    fingerprint: str
    changes: int
    steps: list[StepOut]
    left_alone: list[LeftAloneOut]


class InstallIn(Schema):
    fingerprint: str


class InstalledFileOut(Schema):
    kind: StepKind
    path: str


class InstallOut(Schema):
    id: int
    build_number: int
    folder: str
    state: InstallState
    created: datetime
    changed: datetime
    files: list[InstalledFileOut]

    @classmethod
    def of(cls, install: Install) -> "InstallOut":
        """An installation as the API tells it."""
        return cls(
            id=install.pk,
            build_number=install.build.number,
            folder=install.folder,
            state=InstallState(install.state),
            created=install.created,
            changed=install.changed,
            files=[InstalledFileOut(kind=StepKind(step.kind), path=step.path) for step in install.steps.all()],
        )


@router.get("/sites/{site_id}/install-plan", response=InstallPlanOut)
def install_plan(request: HttpRequest, site_id: int) -> InstallPlanOut:
    """What installing the latest build would do, step by step."""
    site = get_object_or_404(Site, pk=site_id)
    build, plan = services.plan_for(site)
    return InstallPlanOut(
        build_number=build.number,
        folder=site.folder,
        fingerprint=plan.fingerprint,
        changes=len(plan.changes),
        steps=[StepOut.of(step) for step in plan.steps],
        left_alone=[LeftAloneOut(path=page.path, reason=page.reason) for page in plan.left_alone],
    )


@router.get("/sites/{site_id}/installs", response=list[InstallOut])
def list_installs(request: HttpRequest, site_id: int) -> list[InstallOut]:
    """The installations of a site, the latest first."""
    return [InstallOut.of(install) for install in get_object_or_404(Site, pk=site_id).installs.all()]


@router.post("/sites/{site_id}/installs", response={201: InstallOut})
def install(request: HttpRequest, site_id: int, body: InstallIn) -> tuple[int, InstallOut]:
    """Do the plan with this fingerprint."""
    return 201, InstallOut.of(services.install(get_object_or_404(Site, pk=site_id), body.fingerprint))


@router.post("/installs/{install_id}/undo", response=InstallOut)
def undo(request: HttpRequest, install_id: int) -> InstallOut:
    """Take an installation back."""
    return InstallOut.of(services.undo(get_object_or_404(Install, pk=install_id)))


def _difference(step: Step) -> list[str]:
    before, after = (_lines(data or b"") for data in (step.before, step.after))
    return list(difflib.unified_diff(before, after, "before", "after", n=2, lineterm=""))[2:]


def _lines(data: bytes) -> list[str]:
    try:
        return data.decode().splitlines()
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace").splitlines()
