"""Set plans and files for upload fields over the API."""

import base64
from typing import Annotated

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Body, Router, Schema
from pydantic import StringConstraints

from bexi.core.framing.purpose import Purpose
from bexi.core.iconset.catalogue import CATALOGUE, Currency, FileSpec, IconSpec
from bexi.core.iconset.fit import Requirement
from bexi.core.iconset.plan import READY_MADE, Plan
from bexi.server.builds import services
from bexi.server.builds.models import KeptRequirement, plan_of
from bexi.server.drafts.api import PictureBody
from bexi.server.people.asking import Needs
from bexi.server.people.roles import Role
from bexi.server.sites.models import Site

router = Router(tags=["plans"])


class PlannedFileOut(Schema):
    """A file of the set; `sizes` are px, empty for text files and drawings; `width` is that of a wide one.

    `named_by` is the text file without which nobody would find it.
    """

    name: str
    title: str
    media_type: str
    sizes: list[int]
    width: int | None
    purpose: Purpose | None
    opaque: bool
    why: str
    source: str
    currency: Currency
    named_by: str | None

    @classmethod
    def of(cls, spec: FileSpec) -> "PlannedFileOut":
        """A file of the catalogue as the API tells it."""
        icon = spec if isinstance(spec, IconSpec) else None
        return cls(
            name=spec.name,
            title=spec.title,
            media_type=spec.media_type,
            sizes=list(icon.sizes) if icon else [],
            width=icon.width if icon else None,
            purpose=icon.purpose if icon else None,
            opaque=icon.opaque if icon else False,
            why=spec.why,
            source=spec.source,
            currency=spec.currency,
            named_by=icon.named_by.name if icon and icon.named_by else None,
        )


class PlanOut(Schema):
    """`ready` is the name of the ready-made plan that holds the same files; `pictures` are all it needs."""

    plan: Plan
    ready: str | None
    files: list[PlannedFileOut]
    pictures: list[PictureBody]

    @classmethod
    def of(cls, plan: Plan) -> "PlanOut":
        """A site's plan as the API tells it."""
        pictures = {(size, spec.purpose) for spec in plan.icons for size in spec.sizes}
        order = list(Purpose)
        return cls(
            plan=plan,
            ready=services.ready_name(plan),
            files=[PlannedFileOut.of(spec) for spec in plan.specs],
            pictures=[
                PictureBody(size=size, purpose=purpose)
                for size, purpose in sorted(pictures, key=lambda one: (order.index(one[1]), one[0]))
            ],
        )


class ReadyPlanOut(Schema):
    name: str
    files: list[str]


class CostOut(Schema):
    """What a file would take, in bytes; null with the reason when it cannot be had from this artwork."""

    name: str
    bytes: int | None
    reason: str


class RequirementIn(Schema):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]
    requirement: Requirement


class RequirementOut(RequirementIn):
    id: int


class FitOut(Schema):
    """`data` is the file in base64; `notes` say what was given up; `enlargement` as on the ladder."""

    media_type: str
    size: int
    bytes: int
    data: str
    notes: list[str]
    enlargement: float | None


class TakeOverIn(Schema):
    """`recipe` takes artwork and framings, `plan` the files of the set."""

    from_site_id: int
    recipe: bool = False
    plan: bool = False


@router.get("/catalogue", response=list[PlannedFileOut])
def catalogue(request: HttpRequest) -> list[PlannedFileOut]:
    """Every file a site may need, and why."""
    return [PlannedFileOut.of(spec) for spec in CATALOGUE]


@router.get("/plans", response=list[ReadyPlanOut])
def ready_plans(request: HttpRequest) -> list[ReadyPlanOut]:
    """The ready-made plans."""
    return [ReadyPlanOut(name=name, files=list(plan.files)) for name, plan in READY_MADE.items()]


@router.get("/sites/{site_id}/plan", response=PlanOut)
def get_plan(request: HttpRequest, site_id: int) -> PlanOut:
    """The set plan of a site."""
    return PlanOut.of(plan_of(get_object_or_404(Site, pk=site_id)))


@router.put("/sites/{site_id}/plan", response=PlanOut)
def put_plan(request: HttpRequest, site_id: int, body: Body[Plan]) -> PlanOut:
    """Keep the set plan of a site."""
    site = get_object_or_404(Site, pk=site_id)
    services.keep_plan(site, body)
    return PlanOut.of(plan_of(site))


@router.post("/sites/{site_id}/take-over", response={204: None})
def take_over(request: HttpRequest, site_id: int, body: TakeOverIn) -> tuple[int, None]:
    """Give a site what another one has on its bench, its set plan, or both."""
    site, source = (get_object_or_404(Site, pk=pk) for pk in (site_id, body.from_site_id))
    services.take_over(site, source, body.recipe, body.plan)
    return 204, None


@router.get("/sites/{site_id}/costs", response=list[CostOut])
def costs(request: HttpRequest, site_id: int) -> list[CostOut]:
    """What each file of the catalogue, and each size of one's own, takes when made from the draft."""
    site = get_object_or_404(Site, pk=site_id)
    plan = plan_of(site)
    made = [CostOut(name=name, bytes=size, reason="") for name, size in services.costs(site, plan).items()]
    left_out = services.whole_set(site, plan).left_out
    return [*made, *(CostOut(name=one.name, bytes=None, reason=one.reason) for one in left_out)]


@router.post("/sites/{site_id}/fit", response=FitOut, auth=Needs(Role.LOOKS))
def fit(request: HttpRequest, site_id: int, body: Body[Requirement]) -> FitOut:
    """The one file that an upload field asks for."""
    made = services.fit_for(get_object_or_404(Site, pk=site_id), body)
    return FitOut(
        media_type=body.format.media_type,
        size=made.size,
        bytes=len(made.data),
        data=base64.b64encode(made.data).decode(),
        notes=list(made.notes),
        enlargement=made.enlargement,
    )


@router.get("/requirements", response=list[RequirementOut])
def list_requirements(request: HttpRequest) -> list[RequirementOut]:
    """What upload fields ask for, as it was kept."""
    return [RequirementOut.from_orm(kept) for kept in KeptRequirement.objects.all()]


@router.post("/requirements", response={201: RequirementOut})
def keep_requirement(request: HttpRequest, body: RequirementIn) -> tuple[int, RequirementOut]:
    """Keep what an upload field asks for under a name."""
    return 201, RequirementOut.from_orm(services.keep_requirement(body.name, body.requirement))


@router.delete("/requirements/{requirement_id}", response={204: None})
def forget_requirement(request: HttpRequest, requirement_id: int) -> tuple[int, None]:
    """Forget what an upload field asks for."""
    get_object_or_404(KeptRequirement, pk=requirement_id).delete()
    return 204, None
