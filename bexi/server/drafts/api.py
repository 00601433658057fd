"""Drafts and the size ladder over the API."""

import base64
from typing import Annotated

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Body, Router, Schema
from pydantic import AfterValidator, Field, StringConstraints

from bexi.core.formats.sizes import LARGEST_ICON
from bexi.core.framing.cut_off import outside_circle, outside_rounded
from bexi.core.framing.frame import Frame
from bexi.core.framing.hand.held import Grip
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.framing.tabs import TABS
from bexi.core.judging import likeness
from bexi.core.judging.readings import Verdict
from bexi.core.pixels.colour import Colour
from bexi.server.artwork.models import Artwork
from bexi.server.drafts import services
from bexi.server.drafts.models import Draft
from bexi.server.hanging_up import has_hung_up
from bexi.server.people.asking import Needs
from bexi.server.people.roles import Role
from bexi.server.sites.models import Site

router = Router(tags=["drafts"])


class FirstDraftIn(Schema):
    artwork_id: int
    recipe: Recipe


class DraftIn(FirstDraftIn):
    """`revision` is the one that the change was made from."""

    revision: int


class DraftOut(DraftIn):
    id: int
    site_id: int
    name: str
    can_undo: bool
    can_redo: bool


class DraftNameIn(Schema):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]


class CopyIn(DraftNameIn):
    revision: int


class RevisionIn(Schema):
    revision: int


class PictureBody(Schema):
    """One picture of a set: its side in px and what it is for."""

    size: Annotated[int, Field(ge=1, le=LARGEST_ICON)]
    purpose: Purpose


MOST_LADDER_PIXELS = 8_000_000


def _bounded(pictures: list[PictureBody]) -> list[PictureBody]:
    if sum(picture.size**2 for picture in pictures) > MOST_LADDER_PIXELS:
        raise ValueError(
            f"so many large pictures are too much at once; ask for {MOST_LADDER_PIXELS:,} px in all at most"
        )
    return pictures


class LadderIn(Schema):
    """`site_id` is the site whose icons they are; `own_ground` a colour besides the tabs' that they are judged on."""

    recipe: Recipe
    site_id: int | None = None
    own_ground: Colour | None = None
    pictures: Annotated[list[PictureBody], Field(max_length=60), AfterValidator(_bounded)]


class RungOut(Schema):
    """`png` is base64; `enlargement` is how many times the artwork is enlarged, null for vectors.

    `own` is the number of the recipe's own framing that this picture takes, null when it goes with all sizes;
    `framing` is the one it comes out of. `verdict` is null where too little could be measured, `says` the word with the
    worst number; `contrast` is that of the outline to each ground by its name. `edges` is how many were put on whole px
    by hand, `done` what was done to the drawing before, in words, `plain` the base64 PNG without that, null where it is
    the same; `grips` are the edges that can be taken hold of.
    """

    size: int
    purpose: Purpose
    opaque: bool
    png: str
    bytes: int
    enlargement: float | None
    own: int | None
    framing: Framing
    verdict: Verdict | None
    says: str
    notes: list[str]
    contrast: dict[str, float]
    edges: int
    done: list[str]
    plain: str | None
    grips: list[Grip]


class CutOffOut(Schema):
    """Shares of the ink, 0 to 1, that masks would cut off."""

    outside_circle: float
    outside_rounded: float


@router.post("/artwork/{artwork_id}/cut-off", response=CutOffOut, auth=Needs(Role.LOOKS))
def cut_off(request: HttpRequest, artwork_id: int, body: Body[Frame]) -> CutOffOut:
    """How much of the artwork's ink in a frame lies outside the safe circle, and in rounded corners."""
    artwork = get_object_or_404(Artwork, pk=artwork_id)
    ink = services.ink_in(artwork, body)
    return CutOffOut(outside_circle=outside_circle(ink), outside_rounded=outside_rounded(ink))


@router.get("/sites/{site_id}/draft", response=DraftOut | None)
def get_draft(request: HttpRequest, site_id: int) -> DraftOut | None:
    """What is on the bench of a site, or null."""
    draft = get_object_or_404(Site, pk=site_id).drafts.first()
    return draft_out(draft) if draft else None


@router.post("/sites/{site_id}/drafts", response={201: DraftOut})
def begin_draft(request: HttpRequest, site_id: int, body: FirstDraftIn) -> tuple[int, DraftOut]:
    """Put the first artwork on the bench of a site."""
    artwork = get_object_or_404(Artwork, pk=body.artwork_id)
    return 201, draft_out(services.begin(get_object_or_404(Site, pk=site_id), artwork, body.recipe))


@router.get("/drafts/{draft_id}", response=DraftOut)
def look_at_draft(request: HttpRequest, draft_id: int) -> DraftOut:
    """One draft, on the bench or not."""
    return draft_out(get_object_or_404(Draft, pk=draft_id))


@router.put("/drafts/{draft_id}", response=DraftOut)
def put_draft(request: HttpRequest, draft_id: int, body: DraftIn) -> DraftOut:
    """Keep a change of a draft."""
    artwork = get_object_or_404(Artwork, pk=body.artwork_id)
    return draft_out(services.keep(get_object_or_404(Draft, pk=draft_id), artwork, body.recipe, body.revision))


@router.get("/sites/{site_id}/drafts", response=list[DraftOut])
def list_drafts(request: HttpRequest, site_id: int) -> list[DraftOut]:
    """All drafts of a site, the chosen one first."""
    return [draft_out(draft) for draft in get_object_or_404(Site, pk=site_id).drafts.all()]


@router.post("/drafts/{draft_id}/duplicate", response={201: DraftOut})
def duplicate_draft(request: HttpRequest, draft_id: int, body: CopyIn) -> tuple[int, DraftOut]:
    """Copy a draft under a new name and put the copy on the bench."""
    return 201, draft_out(services.duplicate(get_object_or_404(Draft, pk=draft_id), body.name, body.revision))


@router.post("/drafts/{draft_id}/choose", response=DraftOut)
def choose_draft(request: HttpRequest, draft_id: int) -> DraftOut:
    """Put a draft on the bench."""
    return draft_out(services.choose(get_object_or_404(Draft, pk=draft_id)))


@router.delete("/drafts/{draft_id}", response={204: None})
def remove_draft(request: HttpRequest, draft_id: int) -> tuple[int, None]:
    """Remove a draft; it can be brought back."""
    services.remove(get_object_or_404(Draft, pk=draft_id))
    return 204, None


@router.post("/drafts/{draft_id}/restore", response=DraftOut)
def restore_draft(request: HttpRequest, draft_id: int) -> DraftOut:
    """Bring a removed draft back."""
    return draft_out(services.restore(get_object_or_404(Draft.everything, pk=draft_id)))


@router.put("/drafts/{draft_id}/name", response=DraftOut)
def rename_draft(request: HttpRequest, draft_id: int, body: DraftNameIn) -> DraftOut:
    """Give a draft another name."""
    return draft_out(services.rename(get_object_or_404(Draft, pk=draft_id), body.name))


@router.post("/drafts/{draft_id}/undo", response=DraftOut)
def undo_change(request: HttpRequest, draft_id: int, body: RevisionIn) -> DraftOut:
    """Take back the last change of a draft."""
    return draft_out(services.step(get_object_or_404(Draft, pk=draft_id), body.revision, by=-1))


@router.post("/drafts/{draft_id}/redo", response=DraftOut)
def redo_change(request: HttpRequest, draft_id: int, body: RevisionIn) -> DraftOut:
    """Do the change again that was taken back last."""
    return draft_out(services.step(get_object_or_404(Draft, pk=draft_id), body.revision, by=1))


@router.post("/artwork/{artwork_id}/ladder", response=list[RungOut], auth=Needs(Role.LOOKS))
def ladder(request: HttpRequest, artwork_id: int, body: LadderIn) -> list[RungOut]:
    """The icons a recipe gives, as they would be built."""
    artwork = get_object_or_404(Artwork, pk=artwork_id)
    wanted = [(picture.size, picture.purpose) for picture in body.pictures]
    grounds = TABS if body.own_ground is None else {**TABS, "own": body.own_ground}
    compared = body.site_id is not None and (likeness.SIDE, Purpose.TAB) in wanted
    others = services.neighbours(body.site_id, artwork_id) if compared and body.site_id is not None else {}
    made = services.rungs(artwork, body.recipe, wanted, grounds, others, nobody_waits=lambda: has_hung_up(request))
    return [
        RungOut(
            size=rung.size,
            purpose=rung.purpose,
            opaque=rung.purpose.opaque,
            png=base64.b64encode(rung.png).decode(),
            bytes=len(rung.png),
            enlargement=rung.enlargement,
            own=rung.own,
            framing=rung.framing,
            verdict=rung.judgement.verdict,
            says=rung.judgement.says,
            notes=list(rung.judgement.readings.notes()),
            contrast=dict(rung.judgement.readings.contrast),
            edges=rung.by_hand.edges if rung.by_hand else 0,
            done=[step.told for step in rung.by_hand.steps] if rung.by_hand else [],
            plain=base64.b64encode(rung.by_hand.plain).decode() if rung.by_hand else None,
            grips=list(rung.grips),
        )
        for rung in made
    ]


def draft_out(draft: Draft) -> DraftOut:
    """A draft as the API tells it."""
    can_undo, can_redo = services.directions(draft)
    return DraftOut(
        id=draft.pk,
        site_id=draft.site_id,
        name=draft.name,
        artwork_id=draft.artwork_id,
        recipe=draft.read_recipe,
        revision=draft.revision,
        can_undo=can_undo,
        can_redo=can_redo,
    )
