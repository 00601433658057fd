"""What goes on at several sites at once, over the API."""

from typing import Annotated, Any

from django.db.models import Prefetch
from django.http import HttpRequest
from ninja import Query, Router, Schema

from bexi.installing.step import StepKind
from bexi.server.builds.api import BuildRunOut
from bexi.server.builds.models import Build, BuildRun
from bexi.server.checks.api import CheckSummary
from bexi.server.checks.models import Check
from bexi.server.installs.api import InstallOut, with_counts
from bexi.server.installs.models import Install, Planning, PlanningState
from bexi.server.sites.models import Site

router = Router(tags=["sites"])
MOST_SITES = 100
Ids = Annotated[list[int], Query(min_length=1, max_length=MOST_SITES)]


class PlannedOut(Schema):
    """A planning in short: how many files it would add, replace and edit, once it is made.

    It `is_current` as long as it is of the site's latest set and place, and nothing was installed since.
    """

    id: int
    build_number: int
    state: PlanningState
    lost: bool
    done: int
    total: int
    problem: str
    added: int
    replaced: int
    edited: int
    warning: str
    not_well: str
    is_current: bool

    @classmethod
    def of(cls, made: Any) -> "PlannedOut":
        """A planning as a list tells it."""
        build, install = (next(iter(rows), None) for rows in (made.site.latest_builds, made.site.latest_installs))
        is_left = made.build == build and made.place == made.site.place
        kinds = [step["kind"] for step in made.plan["steps"]] if made.plan else []
        return cls(
            id=made.pk,
            build_number=made.build.number,
            state=PlanningState(made.state),
            lost=made.is_lost,
            done=made.done,
            total=made.total,
            problem=made.problem,
            added=kinds.count(StepKind.ADD),
            replaced=kinds.count(StepKind.REPLACE) + kinds.count(StepKind.REMOVE),
            edited=kinds.count(StepKind.EDIT),
            warning=made.plan["warning"] if made.plan else "",
            not_well=made.build.not_well,
            is_current=is_left and (install is None or install.created < made.created),
        )


class ActivityOut(Schema):
    """The latest of each kind of work on a site, null where there was none."""

    site_id: int
    build: BuildRunOut | None
    planning: PlannedOut | None
    install: InstallOut | None
    check: CheckSummary | None


@router.get("/activity", response=list[ActivityOut])
def activity(request: HttpRequest, site: Ids) -> list[ActivityOut]:
    """What goes on at these sites, and how it ended last; in a number of queries that does not grow."""
    found = Site.objects.filter(pk__in=site).prefetch_related(
        _latest("build_runs", BuildRun.objects.all()),
        _latest("builds", Build.objects.all()),
        _latest("plannings", Planning.objects.select_related("build")),
        _latest("installs", with_counts(Install.objects.all())),
        _latest("checks", Check.objects.defer("report")),
    )
    return [
        ActivityOut(
            site_id=one.pk,
            build=_of(BuildRunOut, one, "build_runs"),
            planning=_of(PlannedOut, one, "plannings"),
            install=_of(InstallOut, one, "installs"),
            check=_of(CheckSummary, one, "checks"),
        )
        for one in found
    ]


def _latest(related: str, of: Any) -> "Prefetch[Any]":
    return Prefetch(related, of.order_by("-id")[:1], to_attr=f"latest_{related}")


def _of(schema: Any, site: Site, related: str) -> Any:
    rows = getattr(site, f"latest_{related}")
    for row in rows:
        row.site = site  # with the latest of everything
    return schema.of(rows[0]) if rows else None
