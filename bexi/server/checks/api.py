"""Live checks over the API."""

from datetime import datetime

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema

from bexi.server.checks import services
from bexi.server.checks.models import Check
from bexi.server.sites.models import Site

router = Router(tags=["checks"])


class FindingOut(Schema):
    ok: bool
    what: str
    where: str
    evidence: str
    why: str
    remedy: str


class CheckOut(Schema):
    created: datetime
    problem_count: int
    findings: list[FindingOut]

    @classmethod
    def of(cls, check: Check) -> "CheckOut":
        """A check as the API tells it."""
        findings = [FindingOut(**finding) for finding in check.findings]
        return cls(created=check.created, problem_count=check.problem_count, findings=findings)


@router.get("/sites/{site_id}/check", response=CheckOut | None)
def latest_check(request: HttpRequest, site_id: int) -> CheckOut | None:
    """The latest check of a site, or null."""
    check = get_object_or_404(Site, pk=site_id).checks.first()
    return CheckOut.of(check) if check else None


@router.post("/sites/{site_id}/check", response={201: CheckOut})
def check_site(request: HttpRequest, site_id: int) -> tuple[int, CheckOut]:
    """Look at the site now."""
    return 201, CheckOut.of(services.check_site(get_object_or_404(Site, pk=site_id)))
