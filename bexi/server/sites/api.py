"""Sites over the API."""

from typing import Annotated
from urllib.parse import urlsplit

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema
from pydantic import AfterValidator, StringConstraints

from bexi.server.sites.models import Site
from bexi.server.sites.status import SiteState, state_of

router = Router(tags=["sites"])


def _web_address(text: str) -> str:
    if text and (urlsplit(text).scheme not in ("http", "https") or not urlsplit(text).netloc):
        raise ValueError("write the address with http:// or https://, like https://merrowmouth.example/")
    return text


class SiteIn(Schema):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
    address: Annotated[str, StringConstraints(strip_whitespace=True, max_length=300), AfterValidator(_web_address)] = ""
    folder: Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)] = ""


class SiteOut(Schema):
    id: int
    name: str
    address: str
    folder: str
    state: SiteState
    has_build: bool
    installed_build_id: int | None

    @classmethod
    def of(cls, site: Site) -> "SiteOut":
        """A site as the API tells it."""
        install = site.installs.filter(state="done").first()
        return cls(
            id=site.pk,
            name=site.name,
            address=site.address,
            folder=site.folder,
            state=state_of(site),
            has_build=site.builds.exists(),
            installed_build_id=install.build_id if install else None,
        )


@router.get("/sites", response=list[SiteOut])
def list_sites(request: HttpRequest) -> list[SiteOut]:
    """All sites."""
    return [SiteOut.of(site) for site in Site.objects.all()]


@router.post("/sites", response={201: SiteOut})
def add_site(request: HttpRequest, body: SiteIn) -> tuple[int, SiteOut]:
    """Add a site."""
    return 201, SiteOut.of(Site.objects.create(**body.dict()))


@router.get("/sites/{site_id}", response=SiteOut)
def get_site(request: HttpRequest, site_id: int) -> SiteOut:
    """One site."""
    return SiteOut.of(get_object_or_404(Site, pk=site_id))


@router.put("/sites/{site_id}", response=SiteOut)
def change_site(request: HttpRequest, site_id: int, body: SiteIn) -> SiteOut:
    """Change a site's name, address or folder."""
    site = get_object_or_404(Site, pk=site_id)
    for field, value in body.dict().items():
        setattr(site, field, value)
    site.save()
    return SiteOut.of(site)
