"""Builds over the API."""

from datetime import datetime

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils.text import slugify
from ninja import Router, Schema

from bexi.core.formats import ico, png
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.catalogue import CATALOGUE, FileSpec, IconSpec
from bexi.core.sitehead.snippet import head_lines
from bexi.server import blobs
from bexi.server.benches.api import RecipeBody
from bexi.server.builds import services
from bexi.server.builds.models import Build, BuildFile
from bexi.server.sites.models import Site

router = Router(tags=["builds"])


class PlannedFileOut(Schema):
    """A file of the set; `sizes` are px, empty for text files."""

    name: str
    title: str
    media_type: str
    sizes: list[int]
    opaque: bool
    why: str
    source: str


class BuildFileOut(PlannedFileOut):
    size: int
    sha256: str


def _planned(spec: FileSpec) -> PlannedFileOut:
    icon = spec if isinstance(spec, IconSpec) else None
    return PlannedFileOut(
        name=spec.name,
        title=spec.title,
        media_type=spec.media_type,
        sizes=list(icon.sizes) if icon else [],
        opaque=icon.opaque if icon else False,
        why=spec.why,
        source=spec.source,
    )


def _built(file: BuildFile) -> BuildFileOut:
    return BuildFileOut(**_planned(services.SPECS[file.name]).dict(), size=file.size, sha256=file.sha256)


class BuildOut(Schema):
    id: int
    number: int
    created: datetime
    engine: str
    artwork_id: int
    recipe: RecipeBody
    current: bool
    files: list[BuildFileOut]
    head: list[str]

    @classmethod
    def of(cls, build: Build) -> "BuildOut":
        """A build as the API tells it; `current` when the draft would give the same set."""
        draft = build.site.drafts.first()
        return cls(
            id=build.pk,
            number=build.number,
            created=build.created,
            engine=build.engine,
            artwork_id=build.artwork_id,
            recipe=RecipeBody.of(Recipe.from_json(build.recipe)),
            current=draft is not None and not draft.differs_from(build),
            files=[_built(file) for file in build.files.all()],
            head=head_lines(),
        )


@router.get("/plan", response=list[PlannedFileOut])
def planned_files(request: HttpRequest) -> list[PlannedFileOut]:
    """Which files a set holds, and why."""
    return [_planned(spec) for spec in CATALOGUE]


@router.get("/sites/{site_id}/builds", response=list[BuildOut])
def list_builds(request: HttpRequest, site_id: int) -> list[BuildOut]:
    """The builds of a site, the latest first."""
    return [BuildOut.of(build) for build in get_object_or_404(Site, pk=site_id).builds.all()]


@router.post("/sites/{site_id}/builds", response={201: BuildOut})
def build_site(request: HttpRequest, site_id: int) -> tuple[int, BuildOut]:
    """Build the draft of a site."""
    return 201, BuildOut.of(services.build_site(get_object_or_404(Site, pk=site_id)))


@router.get("/builds/{build_id}/files/{name}", response=None)
def built_file(request: HttpRequest, build_id: int, name: str) -> HttpResponse:
    """One built file, byte for byte."""
    file = get_object_or_404(BuildFile, build_id=build_id, name=name)
    response = HttpResponse(blobs.get(file.sha256), content_type=services.SPECS[name].media_type)
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


@router.get("/builds/{build_id}/files/{name}/frames/{size}", response=None)
def built_frame(request: HttpRequest, build_id: int, name: str, size: int) -> HttpResponse:
    """One frame of a built ICO, read out of the file, as a PNG."""
    file = get_object_or_404(BuildFile, build_id=build_id, name=name)
    frame = next((frame for frame in ico.read(blobs.get(file.sha256)) if frame.pixels.shape[1] == size), None)
    if frame is None:
        raise Http404
    response = HttpResponse(png.write(frame.pixels), content_type=png.MEDIA_TYPE)
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


@router.get("/builds/{build_id}/set.zip", response=None)
def built_set(request: HttpRequest, build_id: int) -> HttpResponse:
    """The whole set as a ZIP."""
    build = get_object_or_404(Build, pk=build_id)
    response = HttpResponse(services.package_of(build), content_type="application/zip")
    name = f"{slugify(build.site.name) or 'site'}-icons-{build.number}.zip"
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
