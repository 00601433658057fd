"""Live checks over the API."""

from datetime import datetime
from typing import Annotated, Any, Literal

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Query, Router, Schema
from pydantic import AfterValidator, StringConstraints

from bexi.core.iconset.plan import RECOMMENDED
from bexi.core.livesite.comparison import news_since
from bexi.core.livesite.findings import Action
from bexi.core.livesite.served import joined
from bexi.core.livesite.server_lines import lines_for_servers
from bexi.server.checks.models import Check, CheckState, Every, Watch
from bexi.server.checks.services import findings_of
from bexi.server.checks.starting import start_check
from bexi.server.people.asking import Needs
from bexi.server.people.roles import Role
from bexi.server.pictures import picture_response
from bexi.server.sites.adding import RequestKey, add, added_by
from bexi.server.sites.api import SiteOut, TypedAddress
from bexi.server.sites.models import Site
from bexi.web.first_look import look_first
from bexi.web.typed import with_scheme
from bexi.web.visiting import visiting

router = Router(tags=["checks"])
_FIRST_LOOK_SECONDS = 20
_LARGEST = 512


class CheckFindingOut(Schema):
    """`wrong` is false for mere advice; `where` are addresses of pages or files."""

    what: str
    wrong: bool
    where: list[str]
    evidence: str
    why: str
    remedy: str
    action: Action


class ShownOut(Schema):
    """What one kind of visitor shows; `sha256` names the picture, null for none or for one that nobody kept.

    `state` is "new" for what a first visit shows, "old" for an earlier picture, "earlier" for one that is not known.
    """

    address: str | None
    why: str
    masked: bool
    sha256: str | None
    state: Literal["new", "old", "earlier"]


class TimeLineOut(Schema):
    """`seen[came][returns]` is a number into `distinct`, each by kind of visitor."""

    came: list[str]
    returns: list[str]
    seen: list[list[int]]
    distinct: list[dict[str, ShownOut]]


class TakenOut(Schema):
    address: str | None
    why: str


class PageOut(Schema):
    """A page that was looked at; `problem` when it did not come."""

    address: str
    title: str
    problem: str
    taken: dict[str, TakenOut]


class FileOut(Schema):
    """`as_installed` is null for a file that was not installed; `content` is what it is by its content."""

    address: str
    status: int
    problem: str
    type: str
    content: str
    as_installed: bool | None
    fresh_seconds: float
    fresh_why: str


class NotLookedAtOut(Schema):
    pages: int
    files: int
    examples: list[str]


class ReportOut(Schema):
    """What was seen. `changed` and `certain_from` are null when nothing tells that anything was changed."""

    address: str
    findings: list[CheckFindingOut]
    pages: list[PageOut]
    files: list[FileOut]
    not_looked_at: NotLookedAtOut
    time_line: TimeLineOut | None = None
    changed: datetime | None = None
    certain_from: datetime | None = None


class AddressIn(Schema):
    address: TypedAddress


class CheckSummary(Schema):
    """One check in a list; `done` of `total` pages are looked at, `lost` when nothing works on it any more."""

    id: int
    created: datetime
    state: CheckState
    lost: bool
    done: int
    total: int
    problem: str
    problem_count: int

    @classmethod
    def of(cls, check: Check) -> "CheckSummary":
        """A check as a list tells it."""
        return cls(
            id=check.pk,
            created=check.created,
            state=CheckState(check.state),
            lost=check.is_lost,
            done=check.done,
            total=check.total,
            problem=check.problem,
            problem_count=check.problem_count,
        )


class NewsOut(Schema):
    """What came, or went when `better`, since the check before."""

    what: str
    where: list[str]
    better: bool


class CheckOut(Schema):
    """A check with what it found; `since` is when the check before was made, and `news` what changed."""

    summary: CheckSummary
    report: ReportOut | None
    since: datetime | None
    news: list[NewsOut]

    @classmethod
    def of(cls, check: Check) -> "CheckOut":
        """A check as the API tells it."""
        before = check.site.checks.filter(state=CheckState.DONE, pk__lt=check.pk).first() if check.report else None
        news = news_since(findings_of(before), findings_of(check)) if before else []
        return cls(
            summary=CheckSummary.of(check),
            report=_report(check.report) if check.report else None,
            since=before.created if before else None,
            news=[NewsOut(what=one.what, where=list(one.where), better=one.better) for one in news],
        )


def _report(report: dict[str, Any]) -> ReportOut:
    files = [{**file, "content": file["is"]} for file in report["files"]]
    return ReportOut.model_validate({**report, "files": files})


class ServerLinesOut(Schema):
    """What to put into which file of a server program; `program` is empty for plain words."""

    program: str
    where: str
    lines: list[str]


def _webhook(text: str) -> str:
    if text and joined(text, "") != text:
        raise ValueError("write the address with https://, like https://tools.merrowmouth.example/bexi")
    return text


class WatchIn(Schema):
    """How often a site is looked at by itself, and who is told when it got worse."""

    every: Every
    webhook: Annotated[str, StringConstraints(strip_whitespace=True, max_length=500), AfterValidator(_webhook)] = ""
    mail: Annotated[str, StringConstraints(strip_whitespace=True, max_length=254, pattern=r"^$|^[^@\s]+@[^@\s]+$")] = ""


class WatchOut(WatchIn):
    """`troubled` says what could not be told the last time."""

    troubled: str

    @classmethod
    def of(cls, watch: Watch) -> "WatchOut":
        """A watch as the API tells it."""
        return cls(every=Every(watch.every), webhook=watch.webhook, mail=watch.mail, troubled=watch.troubled)


@router.get("/sites/{site_id}/checks", response=list[CheckSummary])
def list_checks(request: HttpRequest, site_id: int) -> list[CheckSummary]:
    """The checks of a site, the latest first."""
    checks = get_object_or_404(Site, pk=site_id).checks.defer("report")
    return [CheckSummary.of(check) for check in checks]


@router.post("/sites/{site_id}/checks", response={201: CheckSummary}, auth=Needs(Role.CHECKS))
def order_check(request: HttpRequest, site_id: int) -> tuple[int, CheckSummary]:
    """Have the site looked at in the background."""
    return 201, CheckSummary.of(start_check(get_object_or_404(Site, pk=site_id)))


@router.post("/start", response={201: SiteOut})
def start_from_address(request: HttpRequest, body: AddressIn, key: RequestKey = None) -> tuple[int, SiteOut]:
    """Add a site of which only the address is known: look what it is called, and have its icons looked at.

    A site with this address that is here already is told instead.
    """
    address = with_scheme(body.address)
    known = added_by(key) or Site.named.filter(address=address).first()
    if known is None:
        with visiting(_FIRST_LOOK_SECONDS, address) as fetch:
            name = look_first(address, fetch).name
        known = add(key, name=name, address=address)
        start_check(known)
    return 201, SiteOut.of(known)


@router.get("/checks/{check_id}", response=CheckOut)
def get_check(request: HttpRequest, check_id: int) -> CheckOut:
    """One check with what it found."""
    return CheckOut.of(get_object_or_404(Check, pk=check_id))


@router.post("/checks/{check_id}/stop", response=CheckSummary, auth=Needs(Role.CHECKS))
def stop_check(request: HttpRequest, check_id: int) -> CheckSummary:
    """Have a check end before the next address."""
    check = get_object_or_404(Check, pk=check_id)
    check.ask_to_stop()
    return CheckSummary.of(check)


@router.get("/checks/{check_id}/pictures/{sha256}")
def picture(
    request: HttpRequest, check_id: int, sha256: str, px: Annotated[int, Query(ge=1, le=_LARGEST)] = 16
) -> HttpResponse:
    """A picture that the check saw, as a PNG: of several sizes in one file the one that fits best."""
    check = get_object_or_404(Check.objects.defer("report"), pk=check_id)
    if sha256 not in check.pictures:
        raise Http404
    return picture_response(sha256, px)


@router.get("/sites/{site_id}/server-lines", response=list[ServerLinesOut])
def server_lines(request: HttpRequest, site_id: int) -> list[ServerLinesOut]:
    """The lines by which the site's server gives the icons of the latest build a right type and freshness."""
    build = get_object_or_404(Site, pk=site_id).builds.first()
    names = [file.name for file in build.files.all()] if build else [spec.name for spec in RECOMMENDED.specs]
    stamped = build is not None and build.read_plan.addresses.stamped
    return [ServerLinesOut.from_orm(lines) for lines in lines_for_servers(names, stamped)]


@router.get("/sites/{site_id}/watch", response=WatchOut | None)
def get_watch(request: HttpRequest, site_id: int) -> WatchOut | None:
    """How the site is looked at by itself, or null."""
    watch = Watch.objects.filter(site=get_object_or_404(Site, pk=site_id)).first()
    return WatchOut.of(watch) if watch else None


@router.put("/sites/{site_id}/watch", response=WatchOut)
def set_watch(request: HttpRequest, site_id: int, body: WatchIn) -> WatchOut:
    """Have the site looked at by itself."""
    site = get_object_or_404(Site, pk=site_id)
    watch, _ = Watch.objects.update_or_create(site=site, defaults={**body.dict(), "troubled": ""})
    return WatchOut.of(watch)


@router.delete("/sites/{site_id}/watch", response={204: None})
def end_watch(request: HttpRequest, site_id: int) -> tuple[int, None]:
    """Leave the site alone from now on."""
    Watch.objects.filter(site=get_object_or_404(Site, pk=site_id)).delete()
    return 204, None
