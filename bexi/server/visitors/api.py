"""The stand-in visitor over the API."""

import time
from datetime import UTC, datetime
from typing import Annotated

from django.http import Http404, HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import AfterValidator, Field, StringConstraints

from bexi.server.people.asking import Needs
from bexi.server.people.roles import Role
from bexi.server.pictures import picture_response
from bexi.server.sites.api import web_address
from bexi.server.visitors import services
from bexi.server.visitors.models import StandInVisitor

router = Router(tags=["stand-in visitor"])
Address = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=500), AfterValidator(web_address)
]


class SightOut(Schema):
    """What one kind shows of a page; `sha256` names the picture, null for none."""

    address: str | None
    why: str
    masked: bool
    sha256: str | None


class TabOut(Schema):
    """An open page; `at` is when it was visited, by the visitor's clock."""

    address: str
    private: bool
    at: datetime
    shown: dict[str, SightOut]


class OnPhoneOut(Schema):
    """A page on the home screen, with the icon that it was given then."""

    address: str
    at: datetime
    shown: SightOut


class VisitorOut(Schema):
    """The stand-in visitor; its `clock` is `ahead` seconds before ours. `kept` counts what its cache holds."""

    clock: datetime
    ahead: float
    kept: int
    tabs: list[TabOut]
    home_screen: list[OnPhoneOut]

    @classmethod
    def of(cls, visitor: StandInVisitor) -> "VisitorOut":
        """The visitor as the API tells it."""
        kept = visitor.browser or {"cache": {}, "icons": {}}
        return cls(
            clock=_moment(time.time() + visitor.ahead),
            ahead=visitor.ahead,
            kept=len({*kept["cache"], *kept["icons"]}),
            tabs=[TabOut.model_validate({**tab, "at": _moment(tab["at"])}) for tab in visitor.tabs],
            home_screen=[OnPhoneOut.model_validate({**one, "at": _moment(one["at"])}) for one in visitor.home_screen],
        )


def _moment(seconds: float) -> datetime:
    return datetime.fromtimestamp(seconds, UTC)


class VisitIn(Schema):
    address: Address
    private: bool = False


class OnPhoneIn(Schema):
    address: Address


class ClockIn(Schema):
    """Seconds ahead of ours."""

    ahead: Annotated[float, Field(ge=0, le=services.YEARS)]


class MoveIn(Schema):
    """Seconds to move the clock on by."""

    by: Annotated[float, Field(gt=0, le=services.YEARS)]


@router.get("/visitor", response=VisitorOut)
def get_visitor(request: HttpRequest) -> VisitorOut:
    """The stand-in visitor as it is."""
    return VisitorOut.of(services.the_visitor())


@router.post("/visitor/visits", response=VisitorOut, auth=Needs(Role.CHECKS))
def visit(request: HttpRequest, body: VisitIn) -> VisitorOut:
    """Have the visitor open a page, or come back to it."""
    return VisitorOut.of(services.visit(body.address, body.private))


@router.post("/visitor/home-screen", response=VisitorOut, auth=Needs(Role.CHECKS))
def put_on_phone(request: HttpRequest, body: OnPhoneIn) -> VisitorOut:
    """Have the visitor put an open page on the home screen."""
    return VisitorOut.of(services.put_on_phone(body.address))


@router.put("/visitor/clock", response=VisitorOut, auth=Needs(Role.CHECKS))
def set_clock(request: HttpRequest, body: ClockIn) -> VisitorOut:
    """Set the visitor's clock."""
    return VisitorOut.of(services.set_clock(body.ahead))


@router.post("/visitor/clock", response=VisitorOut, auth=Needs(Role.CHECKS))
def move_clock(request: HttpRequest, body: MoveIn) -> VisitorOut:
    """Move the visitor's clock on."""
    return VisitorOut.of(services.move_clock(body.by))


@router.delete("/visitor/cache", response=VisitorOut, auth=Needs(Role.CHECKS))
def clear_cache(request: HttpRequest) -> VisitorOut:
    """Have the visitor clear its cache."""
    return VisitorOut.of(services.clear_cache())


@router.delete("/visitor", response=VisitorOut, auth=Needs(Role.CHECKS))
def start_over(request: HttpRequest) -> VisitorOut:
    """Take a visitor who has never been anywhere."""
    return VisitorOut.of(services.start_over())


@router.get("/visitor/pictures/{sha256}")
def picture(request: HttpRequest, sha256: str, px: Annotated[int, Query(ge=1, le=512)] = 16) -> HttpResponse:
    """A picture that the visitor shows, as a PNG: of several sizes in one file the one that fits best."""
    if sha256 not in services.pictures_of(services.the_visitor()):
        raise Http404
    return picture_response(sha256, px)
