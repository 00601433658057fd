"""The one honest state of a site, from what is recorded about it."""

from collections.abc import Sequence
from enum import StrEnum
from typing import Any

from django.db.models import Prefetch, QuerySet

from bexi.server.sites.models import Site


class SiteState(StrEnum):
    """How far the icons of a site have come."""

    EMPTY = "empty"
    DRAFT = "draft"
    BUILT = "built"
    INSTALLED = "installed"
    VERIFIED = "verified"
    PROBLEMS = "problems"


def with_latest(sites: QuerySet[Site]) -> QuerySet[Site]:
    """The sites with the latest of what is recorded about each, in a number of queries that does not grow."""
    return sites.select_related("set_plan").prefetch_related(
        _latest("drafts", "latest_draft", "artwork", "beside"),
        _latest("builds", "latest_build", leaving=["verdicts", "left_out", "credit"]),
        _latest("installs", "latest_install", without={"state": "put-back"}, undoes=None),
        _latest("installs", "standing_install", undoes=None, state="done"),
        _latest("checks", "latest_check", leaving=["report", "pictures"], state="done"),
    )


def latest(site: Site, name: str) -> Any:
    """One of those latest things of a site, or None; looked up when it was not asked for with the site."""
    if not hasattr(site, name):
        site = with_latest(Site.objects.filter(pk=site.pk)).get()
    return next(iter(getattr(site, name)), None)


def state_of(site: Site) -> SiteState:
    """The state of a site. Problems count when they were found after the last change to the site."""
    if not hasattr(site, "latest_draft"):
        site = with_latest(Site.objects.filter(pk=site.pk)).get()
    draft, build = latest(site, "latest_draft"), latest(site, "latest_build")
    install, check = latest(site, "latest_install"), latest(site, "latest_check")
    if check and (install is None or check.created > install.changed) and check.problem_count:
        return SiteState.PROBLEMS
    if draft is None and build is None:
        return SiteState.EMPTY
    if build is None or (draft is not None and build.differs_from(draft)):
        return SiteState.DRAFT
    if install is None or install.state != "done" or install.build_id != build.id:
        return SiteState.BUILT
    return SiteState.VERIFIED if check and check.created > install.changed else SiteState.INSTALLED


def _latest(
    related: str,
    name: str,
    *prefetched: str,
    leaving: Sequence[str] = (),
    without: dict[str, object] | None = None,
    **wanted: object,
) -> Prefetch[Any]:
    """The first of what later apps keep of a site, without importing them: they stand above this one.

    The fields in `leaving` are large and not asked for.
    """
    model: Any = Site._meta.get_field(related).related_model
    found = model.objects.filter(**wanted).exclude(**without) if without else model.objects.filter(**wanted)
    return Prefetch(related, found.defer(*leaving).prefetch_related(*prefetched)[:1], to_attr=name)
