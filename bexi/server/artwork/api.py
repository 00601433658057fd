"""Artwork over the API."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Query, Router, Schema
from ninja.files import UploadedFile

from bexi.core.artwork.ink import Box, GroundKind
from bexi.core.framing.frame import Frame, hug, largest_inside, whole_artwork
from bexi.server.artwork import services
from bexi.server.artwork.models import Artwork

router = Router(tags=["artwork"])


class BoxOut(Schema):
    left: int
    top: int
    right: int
    bottom: int


class FrameBody(Schema):
    x: int
    y: int
    side: int

    @classmethod
    def of(cls, frame: Frame) -> "FrameBody":
        """A frame as the API tells it."""
        return cls(x=frame.x, y=frame.y, side=frame.side)


class FactsOut(Schema):
    """Measured facts; lengths in artwork px, `margins` as distances from the four edges."""

    format: str
    media_type: str
    vector: bool
    width: int
    height: int
    file_bytes: int
    ground: GroundKind
    ground_colour: str | None
    ink: BoxOut | None
    margins: BoxOut | None
    ink_share: float
    sharp_up_to: int | None
    animated: bool
    turned: bool
    profile: str | None
    notes: list[str]


class FramingsOut(Schema):
    """Ready-made frames: around the whole artwork, the largest square inside it, around the ink."""

    whole: FrameBody
    inside: FrameBody
    ink: FrameBody | None


class ArtworkOut(Schema):
    id: int
    title: str
    file_name: str
    facts: FactsOut
    framings: FramingsOut

    @classmethod
    def of(cls, artwork: Artwork) -> "ArtworkOut":
        """An artwork as the API tells it."""
        facts = FactsOut(**artwork.facts)
        ink = hug(Box(**facts.ink.dict())) if facts.ink else None
        framings = FramingsOut(
            whole=FrameBody.of(whole_artwork(facts.width, facts.height)),
            inside=FrameBody.of(largest_inside(facts.width, facts.height)),
            ink=FrameBody.of(ink) if ink else None,
        )
        return cls(id=artwork.pk, title=artwork.title, file_name=artwork.file_name, facts=facts, framings=framings)


@router.get("/artwork", response=list[ArtworkOut])
def list_artwork(request: HttpRequest) -> list[ArtworkOut]:
    """All artwork, the latest first."""
    return [ArtworkOut.of(artwork) for artwork in Artwork.objects.all()]


@router.post("/artwork", response={201: ArtworkOut})
def add_artwork(request: HttpRequest, file: File[UploadedFile]) -> tuple[int, ArtworkOut]:
    """Take in a picture file."""
    return 201, ArtworkOut.of(services.add_artwork(file.name or "picture", file.read()))


@router.get("/artwork/{artwork_id}/picture", response=None)
def picture(
    request: HttpRequest, artwork_id: int, longest: Annotated[int, Query(ge=16, le=2048)] = 1024
) -> HttpResponse:
    """The whole artwork as a PNG for the screen."""
    artwork = get_object_or_404(Artwork, pk=artwork_id)
    response = HttpResponse(services.preview(artwork.sha256, longest), content_type="image/png")
    response["Cache-Control"] = "private, max-age=86400"
    return response
