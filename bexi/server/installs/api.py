"""Installing over the API."""

import difflib
from dataclasses import asdict
from datetime import datetime
from typing import Annotated

from django.db.models import Count, Prefetch, QuerySet
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils.text import slugify
from ninja import File, Query, Router, Schema
from ninja.files import UploadedFile
from pydantic import StringConstraints

from bexi.core.livesite.server_lines import RULES_FILE
from bexi.hosts.opening import Trial
from bexi.hosts.place import Place
from bexi.hosts.secret import Secret
from bexi.installing.plan import is_page
from bexi.installing.step import Step, StepKind
from bexi.server.installs import by_hand, history, places, planning, services, starting
from bexi.server.installs.models import Install, InstallState, InstallStep, KeptSecret, Planning, PlanningState
from bexi.server.installs.planning import ALL_PAGES
from bexi.server.people.asking import Needs, person_of
from bexi.server.people.roles import Role
from bexi.server.pictures import picture_response
from bexi.server.sites.deeds import note
from bexi.server.sites.models import DeedKind, Site

router = Router(tags=["installs"])
_SHOWN = 200_000


def with_counts(installs: "QuerySet[Install]") -> "QuerySet[Install]":
    """Installations with all that is told of them, in a number of queries that does not grow."""
    left = Prefetch("steps", InstallStep.objects.filter(left=True), to_attr="left_steps")
    return installs.select_related("build").annotate(step_count=Count("steps")).prefetch_related(left)


_TEXT_FILES = (".webmanifest", ".json", ".xml", ".svg", RULES_FILE)


class SecretIn(Schema):
    """A password or private key, never stored in clear text, and the place it was entered for; empty for the kept one.

    Should the site live elsewhere by now, it is sent to nobody.
    """

    secret: Annotated[str, StringConstraints(max_length=20_000)] = ""
    place: Annotated[str, StringConstraints(max_length=500)] = ""

    @property
    def given(self) -> Secret | None:
        """The secret as a value, bound to the account it was entered for; raises HostRefused for an odd place."""
        return Secret.of(Place.parse(self.place), self.secret) if self.secret else None


class ConnectionIn(SecretIn):
    """`trust` is the fingerprint of the server's key that the person agrees to; `keep` keeps the secret, sealed."""

    keep: bool = False
    trust: Annotated[str, StringConstraints(max_length=120)] = ""


class TrialOut(Schema):
    what: str
    works: bool
    milliseconds: int
    said: str

    @classmethod
    def of(cls, trial: Trial) -> "TrialOut":
        """A trial as the API tells it."""
        return cls.from_orm(trial)


class ConnectionOut(Schema):
    """What was tried; `works` when all of it does, `secret_kept` when the secret need not be entered again."""

    works: bool
    trials: list[TrialOut]
    secret_kept: bool


class StepOut(Schema):
    """`group` is the same for pages that share a head; `text` when its difference can be shown line by line."""

    kind: StepKind
    path: str
    page: bool
    text: bool
    bytes_before: int | None
    bytes_after: int | None
    notes: list[str]
    group: str

    @classmethod
    def of(cls, step: Step) -> "StepOut":
        """A planned step as the API tells it."""
        return cls(
            kind=step.kind,
            path=step.path,
            page=is_page(step.path),
            text=step.kind is StepKind.EDIT or (step.kind is StepKind.REPLACE and step.path.endswith(_TEXT_FILES)),
            bytes_before=step.before.size if step.before else None,
            bytes_after=step.after.size if step.after else None,
            notes=list(step.notes),
            group=step.group,
        )


class LeftAloneOut(Schema):
    path: str
    reason: str


class FoundOut(Schema):
    """What the site has already; `pages` is how many declare it, `kind` what they declare it as."""

    path: str
    kind: str
    pages: int
    evidence: str
    problems: list[str]


class InstallPlanOut(Schema):
    """`changes` is how many steps change something; `warning` says when the place is not the site's top folder.

    `leftovers` would remove icons of before that no page names any more: done only when asked for. `shown` is the path
    of the icon that most browsers show on most pages now, empty for none, null where nobody can tell. `not_well` says
    in one line which icons of the set a person will not see well. `old_seconds` is for how long visitors of before may
    go on seeing the old icon: 0 until their next visit, null when nothing is known of one.
    """

    changes: int
    steps: list[StepOut]
    leftovers: list[StepOut]
    left_alone: list[LeftAloneOut]
    found: list[FoundOut]
    warning: str
    not_well: str
    old_seconds: float | None = None
    shown: str | None = None

    @classmethod
    def of(cls, planning: Planning) -> "InstallPlanOut | None":
        """A plan as the API tells it, once it is made."""
        if not planning.plan:
            return None
        steps = [StepOut.of(step) for step in planning.read_steps]
        leftovers = [StepOut.of(step) for step in planning.read_leftovers]
        changes = sum(step.kind is not StepKind.SAME for step in steps)
        return cls.model_validate(
            {
                **planning.plan,
                "steps": steps,
                "leftovers": leftovers,
                "changes": changes,
                "not_well": planning.build.not_well,
            }
        )


class PlanningIn(SecretIn):
    """`pages` are patterns like `*.html blog/*`, apart by spaces; the icons themselves are always put in place.

    With `rules` the server's rules file, where there is one, gets lines for the types and the freshness of the icons.
    """

    pages: Annotated[str, StringConstraints(max_length=2000)] = ALL_PAGES
    rules: bool = False


class PlanningOut(Schema):
    """`done` of `total` pages are read; `lost` when it is under way but nothing works on it any more."""

    id: int
    build_id: int
    build_number: int
    place: str
    state: PlanningState
    lost: bool
    done: int
    total: int
    problem: str
    plan: InstallPlanOut | None

    @classmethod
    def of(cls, made: Planning) -> "PlanningOut":
        """A planning as the API tells it."""
        return cls(
            id=made.pk,
            build_id=made.build_id,
            build_number=made.build.number,
            place=made.place,
            state=PlanningState(made.state),
            lost=made.is_lost,
            done=made.done,
            total=made.total,
            problem=made.problem,
            plan=InstallPlanOut.of(made),
        )


class DifferenceIn(SecretIn):
    path: str


class DifferenceOut(Schema):
    """The lines of a unified difference."""

    lines: list[str]


class InstallIn(SecretIn):
    """`removes` are paths among the leftovers of the plan."""

    planning_id: int
    removes: list[str] = []


class UndoIn(SecretIn):
    """For files that somebody changed since: `over` are paths the old file goes over, `leave` those that stay."""

    over: list[str] = []
    leave: list[str] = []


class VersionsOut(Schema):
    """A file's text before, as installed and now; null where it was not there or is no text."""

    before: str | None
    installed: str | None
    now: str | None


class InstalledFileOut(Schema):
    kind: StepKind
    path: str


class InstallOut(Schema):
    """`begun` of `total` steps are begun, the last one at `current`.

    `lost` when it is under way but nothing works on it any more. `left` are the files that putting back left as they
    were, since somebody had changed them; `again_at` is when putting back is tried once more.
    """

    id: int
    build_number: int
    undoes: int | None
    place: str
    who: str
    state: InstallState
    lost: bool
    begun: int
    total: int
    stop_asked: bool
    problem: str
    left: list[str]
    again_at: datetime | None
    created: datetime
    changed: datetime
    current: str

    @classmethod
    def of(cls, install: Install) -> "InstallOut":
        """An installation as the API tells it."""
        under_way = install.begun and not install.is_over
        current = install.steps.filter(position=install.begun - 1).first() if under_way else None
        counted = getattr(install, "step_count", None)
        left = getattr(install, "left_steps", None)
        if left is None:
            left = install.steps.filter(left=True)
        return cls(
            id=install.pk,
            build_number=install.build.number,
            undoes=install.undoes_id,
            place=install.place,
            who=install.who,
            state=InstallState(install.state),
            lost=install.is_lost,
            begun=install.begun,
            total=install.steps.count() if counted is None else counted,
            stop_asked=install.stop_asked,
            problem=install.problem,
            left=[step.path for step in left],
            again_at=install.again_at if install.state == InstallState.STUCK and not install.asks_first else None,
            created=install.created,
            changed=install.changed,
            current=current.path if current else "",
        )


class EntryOut(Schema):
    """`ended` says how an installation or its undoing ended."""

    at: datetime
    who: str
    did: str
    told: str
    ended: str


class CaseOut(Schema):
    case: by_hand.Case
    label: str
    steps: list[str]


@router.post("/sites/{site_id}/connection", response=ConnectionOut, auth=Needs(Role.INSTALLS))
def connect(request: HttpRequest, site_id: int, body: ConnectionIn) -> ConnectionOut:
    """Try out the place where a site lives."""
    site = get_object_or_404(Site, pk=site_id)
    trials = places.connect(site, person_of(request).name, body.given, body.keep, body.trust)
    return ConnectionOut(
        works=all(trial.works for trial in trials),
        trials=[TrialOut.of(trial) for trial in trials],
        secret_kept=KeptSecret.objects.filter(site=site).exists(),
    )


@router.post("/sites/{site_id}/plannings", response={202: PlanningOut}, auth=Needs(Role.INSTALLS))
def plan(request: HttpRequest, site_id: int, body: PlanningIn) -> tuple[int, PlanningOut]:
    """Find out, in the background, what installing the latest build would do, step by step."""
    site = get_object_or_404(Site, pk=site_id)
    return 202, PlanningOut.of(starting.start_planning(site, body.given, body.pages, body.rules))


@router.get("/plannings/{planning_id}", response=PlanningOut)
def look_at_planning(request: HttpRequest, planning_id: int) -> PlanningOut:
    """How far a planning is, and the plan once it is made."""
    return PlanningOut.of(planning.planning_by(planning_id))


@router.get("/plannings/{planning_id}/old-picture", response=None)
def old_picture(request: HttpRequest, planning_id: int, px: Annotated[int, Query(ge=1, le=512)] = 16) -> HttpResponse:
    """The icon that most visitors see before the installation, as a PNG that fits `px` best."""
    sha256 = planning.old_picture(planning.planning_by(planning_id))
    if sha256 is None:
        raise Http404
    return picture_response(sha256, px)


@router.post("/plannings/{planning_id}/stop", response={202: None}, auth=Needs(Role.INSTALLS))
def stop_planning(request: HttpRequest, planning_id: int) -> tuple[int, None]:
    """Ask a planning to stop."""
    get_object_or_404(Planning, pk=planning_id).ask_to_stop()
    return 202, None


@router.post("/plannings/{planning_id}/difference", response=DifferenceOut, auth=Needs(Role.INSTALLS))
def difference(request: HttpRequest, planning_id: int, body: DifferenceIn) -> DifferenceOut:
    """What would change in one file, line by line."""
    before, after = planning.before_and_after(planning.planning_by(planning_id), body.path, body.given)
    lines = difflib.unified_diff(_lines(before), _lines(after), "before", "after", n=2, lineterm="")
    return DifferenceOut(lines=list(lines)[2:])


@router.get("/sites/{site_id}/installs", response=list[InstallOut])
def list_installs(request: HttpRequest, site_id: int) -> list[InstallOut]:
    """The installations of a site and their undoings, the latest first."""
    installs = get_object_or_404(Site, pk=site_id).installs
    return [InstallOut.of(install) for install in with_counts(installs.all()).order_by("-id")]


@router.get("/sites/{site_id}/history", response=list[EntryOut])
def list_history(request: HttpRequest, site_id: int) -> list[EntryOut]:
    """Who did what to a site's place, the latest first."""
    return [EntryOut(**asdict(entry)) for entry in history.history(get_object_or_404(Site, pk=site_id))]


@router.get("/sites/{site_id}/history.csv", response=None)
def export_history(request: HttpRequest, site_id: int) -> HttpResponse:
    """The same as CSV."""
    site = get_object_or_404(Site, pk=site_id)
    name = f"{slugify(site.name) or 'site'}-history.csv"
    return HttpResponse(
        history.as_csv(history.history(site)),
        content_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


@router.post("/sites/{site_id}/installs", response={202: InstallOut}, auth=Needs(Role.INSTALLS))
def install(request: HttpRequest, site_id: int, body: InstallIn) -> tuple[int, InstallOut]:
    """Do what was planned, in the background."""
    planned = planning.planning_by(body.planning_id)
    if planned.site_id != site_id:
        raise Http404
    return 202, InstallOut.of(starting.start_install(planned, person_of(request).name, body.given, body.removes))


@router.get("/installs/{install_id}/files", response=list[InstalledFileOut])
def installed_files(request: HttpRequest, install_id: int) -> list[InstalledFileOut]:
    """What an installation did, file by file."""
    steps = get_object_or_404(Install, pk=install_id).steps.all()
    return [InstalledFileOut(kind=StepKind(step.kind), path=step.path) for step in steps]


@router.post("/installs/{install_id}/stop", response={202: None}, auth=Needs(Role.INSTALLS))
def stop(request: HttpRequest, install_id: int) -> tuple[int, None]:
    """Ask an installation to stop and put back what it did."""
    journal = get_object_or_404(Install, pk=install_id)
    journal.ask_to_stop()
    note(journal.site, person_of(request).name, DeedKind.STOPPED, f"Set {journal.build.number}")
    return 202, None


@router.post("/installs/{install_id}/put-back", response={202: InstallOut}, auth=Needs(Role.INSTALLS))
def put_back(request: HttpRequest, install_id: int, body: SecretIn) -> tuple[int, InstallOut]:
    """Put back an installation that was interrupted, in the background."""
    journal = get_object_or_404(Install, pk=install_id)
    services.put_back_now(journal, person_of(request).name, body.given)
    return 202, InstallOut.of(journal)


@router.post("/installs/{install_id}/undo", response={202: InstallOut}, auth=Needs(Role.INSTALLS))
def undo(request: HttpRequest, install_id: int, body: UndoIn) -> tuple[int, InstallOut]:
    """Take an installation back in the background."""
    done = get_object_or_404(Install, pk=install_id)
    return 202, InstallOut.of(starting.start_undo(done, person_of(request).name, body.given, body.over, body.leave))


@router.post("/installs/{install_id}/versions", response=VersionsOut, auth=Needs(Role.INSTALLS))
def versions(request: HttpRequest, install_id: int, body: DifferenceIn) -> VersionsOut:
    """The three versions of a file that was changed since."""
    done = get_object_or_404(Install, pk=install_id)
    before, installed, now = services.three_versions(done, body.path, body.given)
    return VersionsOut(before=_text(before), installed=_text(installed), now=_text(now))


@router.get("/by-hand-cases", response=list[CaseOut])
def cases_by_hand(request: HttpRequest) -> list[CaseOut]:
    """How sites are made, and what is to be done by hand on each."""
    return [CaseOut(case=case, label=case.label, steps=list(case.steps)) for case in by_hand.Case]


@router.get("/builds/{build_id}/by-hand.zip", response=None)
def package_by_hand(request: HttpRequest, build_id: int, case: by_hand.Case = by_hand.Case.PAGES) -> HttpResponse:
    """The set with instructions for one case, for whoever cannot reach the server."""
    return by_hand.set_response(build_id, case)


@router.post("/sites/{site_id}/site-zip", response=None)
def edit_zip(request: HttpRequest, site_id: int, file: File[UploadedFile]) -> HttpResponse:
    """A ZIP of the site in, a ZIP of the changed files out."""
    return by_hand.changed_response(get_object_or_404(Site, pk=site_id), file)


def _lines(data: bytes) -> list[str]:
    return (_text(data) or "").splitlines()


def _text(data: bytes | None) -> str | None:
    if data is None or b"\0" in data[:4000]:
        return None
    try:
        return data[:_SHOWN].decode()
    except UnicodeDecodeError:
        return data[:_SHOWN].decode("cp1252", errors="replace")
