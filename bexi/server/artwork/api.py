"""Artwork over the API: the shelf, one piece, and taking in."""

from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Body, File, Query, Router, Schema
from ninja.files import UploadedFile
from pydantic import StringConstraints

from bexi.core.artwork.ink import Box, GroundKind
from bexi.core.artwork.licences import LICENCES
from bexi.core.artwork.treatment import LARGEST_TOLERANCE, Treatment
from bexi.core.framing.frame import Frame, balanced, hug, largest_inside, whole_artwork
from bexi.server.artwork import on_site, reading, services
from bexi.server.artwork.changes import read_anew
from bexi.server.artwork.drawings import DrawingBody
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.on_site import PictureOnSite
from bexi.server.sites.models import Site

router = Router(tags=["artwork"])

PAGE_SIZE = 48


class PointOut(Schema):
    x: int
    y: int


class SizeOut(Schema):
    width: int
    height: int


class MainColourOut(Schema):
    colour: str
    share: float


class NoteOut(Schema):
    fact: str
    sentence: str
    caution: bool


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
    ink: Box | None
    margins: Box | None
    centre: PointOut | None
    ink_share: float
    colours: list[MainColourOut]
    one_colour: bool
    parts: list[Box]
    sharp_up_to: int | None
    frames: list[SizeOut]
    animated: bool
    turned: bool
    profile: str | None
    live_text: bool
    left_out: list[str] = []


class WaitingPicturesOut(Schema):
    """How many pictures wait for their turn to be read."""

    waiting: int


class FramingsOut(Schema):
    """Ready-made frames: around the whole artwork, the largest square inside it, around the ink, around the ink but
    centred on its weight."""

    whole: Frame
    inside: Frame
    ink: Frame | None
    balanced: Frame | None


class DetailsBody(Schema):
    title: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
    alt: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)] = ""
    credit: Annotated[str, StringConstraints(strip_whitespace=True, max_length=300)] = ""
    licence: str = ""
    origin: Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)] = ""
    permission: bool = False


class UserOut(Schema):
    """A site whose draft uses an artwork."""

    id: int
    name: str


class ArtworkOut(DetailsBody):
    """`version` changes whenever its picture does, for addresses of pictures."""

    id: int
    file_name: str
    version: str
    facts: FactsOut
    notes: list[NoteOut]
    framings: FramingsOut
    treatment: Treatment
    drawing: DrawingBody | None
    used_by: list[UserOut]

    @classmethod
    def of(cls, artwork: Artwork) -> "ArtworkOut":
        """An artwork as the API tells it."""
        facts = FactsOut(**artwork.facts)
        users = {(draft.site_id, draft.site.name) for draft in services.users_of(artwork)}
        framings = FramingsOut(
            whole=whole_artwork(facts.width, facts.height),
            inside=largest_inside(facts.width, facts.height),
            ink=hug(facts.ink) if facts.ink else None,
            balanced=balanced(facts.ink, (facts.centre.x, facts.centre.y)) if facts.ink and facts.centre else None,
        )
        return cls(
            id=artwork.pk,
            title=artwork.title,
            file_name=artwork.file_name,
            alt=artwork.alt,
            credit=artwork.credit,
            licence=artwork.licence,
            origin=artwork.origin,
            permission=artwork.permission,
            version=services.version(artwork),
            facts=facts,
            notes=artwork.notes,
            framings=framings,
            treatment=artwork.read_as,
            drawing=artwork.drawing,
            used_by=[UserOut(id=site_id, name=name) for site_id, name in sorted(users)],
        )


class ShelfOut(Schema):
    """One page of the shelf; pages count from 1."""

    pieces: list[ArtworkOut]
    total: int
    page_size: int


class LicenceOut(Schema):
    key: str
    name: str
    asks_credit: bool


@router.get("/reading", response=WaitingPicturesOut)
def look_at_reading(request: HttpRequest) -> WaitingPicturesOut:
    """How many pictures wait for their turn, told while one's own is not read yet."""
    return WaitingPicturesOut(waiting=reading.how_many_wait())


@router.get("/artwork", response=ShelfOut)
def list_artwork(
    request: HttpRequest,
    search: Annotated[str, Query(max_length=200)] = "",
    kind: Literal["all", "shapes", "pixels", "drawn", "unused"] = "all",
    page: Annotated[int, Query(ge=1, le=1_000_000)] = 1,
) -> ShelfOut:
    """A page of the shelf, the latest first."""
    found = services.shelf(search, kind)
    pieces = found.prefetch_related("drafts__site")[(page - 1) * PAGE_SIZE : page * PAGE_SIZE]
    return ShelfOut(pieces=[ArtworkOut.of(artwork) for artwork in pieces], total=found.count(), page_size=PAGE_SIZE)


@router.get("/licences", response=list[LicenceOut])
def list_licences(request: HttpRequest) -> list[LicenceOut]:
    """The licences an artwork may be noted under."""
    return [LicenceOut(key=one.key, name=one.name, asks_credit=one.asks_credit) for one in LICENCES.values()]


@router.post("/artwork", response={201: ArtworkOut})
def add_artwork(request: HttpRequest, file: File[UploadedFile]) -> tuple[int, ArtworkOut]:
    """Take in a picture file."""
    return 201, ArtworkOut.of(services.add_artwork(file.name or "picture", file.read()))


@router.get("/artwork/{artwork_id}", response=ArtworkOut)
def get_artwork(request: HttpRequest, artwork_id: int) -> ArtworkOut:
    """One artwork, a removed one, too."""
    return ArtworkOut.of(get_object_or_404(Artwork, pk=artwork_id))


@router.put("/artwork/{artwork_id}", response=ArtworkOut)
def change_details(request: HttpRequest, artwork_id: int, body: DetailsBody) -> ArtworkOut:
    """Change what is noted about an artwork."""
    artwork = get_object_or_404(Artwork, pk=artwork_id)
    services.known_licence(body.licence)
    for field, value in body.dict().items():
        setattr(artwork, field, value)
    artwork.save()
    return ArtworkOut.of(artwork)


@router.put("/artwork/{artwork_id}/treatment", response=ArtworkOut)
def change_treatment(request: HttpRequest, artwork_id: int, body: Body[Treatment]) -> ArtworkOut:
    """Read the original differently; the original itself stays."""
    artwork = get_object_or_404(Artwork, pk=artwork_id)
    before = services.change_treatment(artwork, body)
    read_anew.send(Artwork, artwork=artwork, before=before)
    return ArtworkOut.of(artwork)


@router.post("/artwork/{artwork_id}/replacement", response=ArtworkOut)
def replace_artwork(request: HttpRequest, artwork_id: int, file: File[UploadedFile]) -> ArtworkOut:
    """Put a newer version in its place."""
    artwork = get_object_or_404(Artwork, pk=artwork_id)
    before = services.replace(artwork, file.name or "picture", file.read())
    read_anew.send(Artwork, artwork=artwork, before=before)
    return ArtworkOut.of(artwork)


@router.delete("/artwork/{artwork_id}", response={204: None})
def remove_artwork(request: HttpRequest, artwork_id: int) -> tuple[int, None]:
    """Take an artwork off the shelf."""
    services.remove(get_object_or_404(Artwork, pk=artwork_id))
    return 204, None


@router.post("/artwork/{artwork_id}/restore", response=ArtworkOut)
def restore_artwork(request: HttpRequest, artwork_id: int) -> ArtworkOut:
    """Bring a removed artwork back."""
    artwork = get_object_or_404(Artwork, pk=artwork_id)
    services.restore(artwork)
    return ArtworkOut.of(artwork)


@router.get("/artwork/{artwork_id}/picture", response=None)
def picture(
    request: HttpRequest, artwork_id: int, longest: Annotated[int, Query(ge=16, le=2048)] = 1024
) -> HttpResponse:
    """The whole artwork as a PNG for the screen."""
    artwork = get_object_or_404(Artwork, pk=artwork_id)
    response = HttpResponse(services.preview(artwork, longest), content_type="image/png")
    response["Cache-Control"] = "private, max-age=86400"
    return response


@router.get("/artwork/{artwork_id}/picture/lifted", response=None)
def lifted_picture(
    request: HttpRequest,
    artwork_id: int,
    tolerance: Annotated[float, Query(gt=0, le=LARGEST_TOLERANCE)],
    inside: bool = False,
    longest: Annotated[int, Query(ge=16, le=2048)] = 320,
) -> HttpResponse:
    """The artwork as it would look with its ground lifted; nothing is changed."""
    data = services.lifted_preview(get_object_or_404(Artwork, pk=artwork_id), longest, tolerance, inside)
    return HttpResponse(data, content_type="image/png", headers={"Cache-Control": "private, max-age=86400"})


@router.get("/sites/{site_id}/pictures", response=list[PictureOnSite])
def pictures_on_site(request: HttpRequest, site_id: int) -> list[PictureOnSite]:
    """Pictures the site has already."""
    return on_site.pictures_on(get_object_or_404(Site, pk=site_id))


@router.post("/sites/{site_id}/pictures", response={201: ArtworkOut})
def add_from_site(request: HttpRequest, site_id: int, body: PictureOnSite) -> tuple[int, ArtworkOut]:
    """Take in a picture of the site."""
    return 201, ArtworkOut.of(on_site.add_from_site(get_object_or_404(Site, pk=site_id), body))


@router.get("/sites/{site_id}/pictures/thumbnail", response=None)
def thumbnail_on_site(request: HttpRequest, site_id: int, picture: Query[PictureOnSite]) -> HttpResponse:
    """A small PNG of a picture of the site."""
    site = get_object_or_404(Site, pk=site_id)
    return HttpResponse(on_site.thumbnail(site, picture), content_type="image/png")
