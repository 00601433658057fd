"""Beginnings over the API."""

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema
from pydantic import StringConstraints

from bexi.server.artwork.models import Artwork
from bexi.server.drafts import beginnings
from bexi.server.sites.adding import RequestKey
from bexi.server.sites.api import SiteOut, get_site
from bexi.server.sites.models import Site

router = Router(tags=["beginnings"])


class BeginningIn(Schema):
    """Without a `name` it goes by the title of the picture."""

    artwork_id: int
    name: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] = ""


class BeginningOut(Schema):
    """`id` is that of its site, `artwork_id` of the picture on its bench; null once that is gone."""

    id: int
    name: str
    created: datetime
    artwork_id: int | None

    @classmethod
    def of(cls, site: Site) -> "BeginningOut":
        """A beginning as the API tells it."""
        draft = site.drafts.first()
        return cls(id=site.pk, name=site.name, created=site.created, artwork_id=draft.artwork_id if draft else None)


class OntoIn(Schema):
    """The site that a beginning is for."""

    site_id: int


@router.get("/beginnings", response=list[BeginningOut])
def list_beginnings(request: HttpRequest) -> list[BeginningOut]:
    """What was begun without a site, the latest first."""
    return [BeginningOut.of(site) for site in Site.objects.filter(is_beginning=True).order_by("-pk")]


@router.post("/beginnings", response={201: BeginningOut})
def begin(request: HttpRequest, body: BeginningIn, key: RequestKey = None) -> tuple[int, BeginningOut]:
    """Lay a picture on a bench of its own; sent again with the same key, once."""
    artwork = get_object_or_404(Artwork, pk=body.artwork_id)
    return 201, BeginningOut.of(beginnings.begin_with(artwork, body.name, key))


@router.post("/beginnings/{site_id}/onto", response=SiteOut)
def put_on_site(request: HttpRequest, site_id: int, body: OntoIn) -> SiteOut:
    """Lay what was begun on the bench of a site; the change can be undone there."""
    beginning = get_object_or_404(Site, pk=site_id, is_beginning=True)
    beginnings.put_on(beginning, get_object_or_404(Site.named, pk=body.site_id))
    return get_site(request, body.site_id)
