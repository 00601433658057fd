"""Builds over the API."""

from datetime import datetime
from pathlib import PurePath

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils.text import slugify
from ninja import Router, Schema

from bexi.core.formats import ico, media_types, png
from bexi.core.formats.media_types import SVG
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.catalogue import FileSpec
from bexi.core.iconset.compare import FileChange, FileDifference, difference_image, pictures_in
from bexi.core.judging.readings import Verdict
from bexi.server import blobs
from bexi.server.builds import services, starting
from bexi.server.builds.models import Build, BuildFile, BuildRun, RunState
from bexi.server.builds.plans_api import PlannedFileOut
from bexi.server.drafts.models import Draft
from bexi.server.drafts.services import refuse_overtaken
from bexi.server.people.asking import Needs
from bexi.server.people.roles import Role
from bexi.server.sites.models import Site

router = Router(tags=["builds"])


class BuildFileOut(PlannedFileOut):
    size: int
    sha256: str


class LeftOutOut(Schema):
    name: str
    reason: str


class VerdictOut(Schema):
    """What a person will see of one picture of a set; `verdict` is null where too little could be measured."""

    size: int
    purpose: Purpose
    files: list[str]
    verdict: Verdict | None
    says: str


class BuildOut(Schema):
    id: int
    number: int
    created: datetime
    engine: str
    artwork_id: int
    recipe: Recipe
    plan_name: str | None
    current: bool
    files: list[BuildFileOut]
    left_out: list[LeftOutOut]
    verdicts: list[VerdictOut]
    head: list[str]

    @classmethod
    def of(cls, build: Build, draft: Draft | None) -> "BuildOut":
        """A build as the API tells it; `current` when the draft on the bench would give the same set."""
        specs = {spec.name: spec for spec in build.read_plan.specs}
        return cls(
            id=build.pk,
            number=build.number,
            created=build.created,
            engine=build.engine,
            artwork_id=build.artwork_id,
            recipe=Recipe.from_json(build.recipe),
            plan_name=services.ready_name(build.read_plan),
            current=draft is not None and not build.differs_from(draft),
            files=[_built(file, specs[file.name]) for file in build.files.all()],
            left_out=[LeftOutOut(**one) for one in build.left_out],
            verdicts=[VerdictOut(**one) for one in build.verdicts],
            head=services.head_lines(build).lines(),
        )


def _built(file: BuildFile, spec: FileSpec) -> BuildFileOut:
    return BuildFileOut(**PlannedFileOut.of(spec).dict(), size=file.size, sha256=file.sha256)


class BuildIn(Schema):
    """The draft to build, and its revision that the person saw last."""

    draft_id: int
    revision: int


_GIVEN_UP = "The program that builds in the background has stopped. Start Bexi again, then build again."


class BuildRunOut(Schema):
    """`done` of `total` files are finished; `build_id` is there once it is done, `problem` when it failed.

    `has_no_worker` while it waits and no worker answers.
    """

    id: int
    state: RunState
    stop_asked: bool
    done: int
    total: int
    current: str
    problem: str
    build_id: int | None
    has_no_worker: bool

    @classmethod
    def of(cls, run: BuildRun) -> "BuildRunOut":
        """A run as the API tells it; one that lost its worker is over."""
        told = cls.from_orm(run)
        if run.is_lost and run.state == RunState.RUNNING:
            told.state, told.problem = RunState.FAILED, _GIVEN_UP
        return told


class PictureDifferenceOut(Schema):
    """`mean` and `largest` are of 255; null when the pictures have different sizes."""

    width: int
    height: int
    mean: float | None
    largest: int | None


class FileDifferenceOut(Schema):
    name: str
    change: FileChange
    bytes_before: int | None
    bytes_after: int | None
    pictures: list[PictureDifferenceOut]

    @classmethod
    def of(cls, difference: FileDifference) -> "FileDifferenceOut":
        """A compared file as the API tells it."""
        return cls.from_orm(difference)


@router.get("/sites/{site_id}/builds", response=list[BuildOut])
def list_builds(request: HttpRequest, site_id: int) -> list[BuildOut]:
    """The builds of a site, the latest first."""
    site = get_object_or_404(Site.objects.select_related("set_plan"), pk=site_id)
    draft = site.drafts.select_related("artwork").prefetch_related("beside").first()
    return [BuildOut.of(build, draft) for build in site.builds.prefetch_related("files")]


@router.post("/sites/{site_id}/builds", response={202: BuildRunOut})
def build_site(request: HttpRequest, site_id: int, body: BuildIn) -> tuple[int, BuildRunOut]:
    """Build a draft of a site in the background, as the person sees it."""
    draft = get_object_or_404(Draft, pk=body.draft_id, site_id=site_id)
    refuse_overtaken(draft, body.revision)
    return 202, BuildRunOut.of(starting.start(draft.site, draft))


@router.get("/sites/{site_id}/build-run", response=BuildRunOut | None)
def latest_run(request: HttpRequest, site_id: int) -> BuildRunOut | None:
    """The latest run of a site, or null."""
    run = get_object_or_404(Site, pk=site_id).build_runs.first()
    return BuildRunOut.of(run) if run else None


@router.post("/build-runs/{run_id}/stop", response={202: None})
def stop_run(request: HttpRequest, run_id: int) -> tuple[int, None]:
    """Ask a run to stop."""
    get_object_or_404(BuildRun, pk=run_id).ask_to_stop()
    return 202, None


@router.delete("/builds/{build_id}", response={204: None})
def remove_build(request: HttpRequest, build_id: int, although_installed: bool = False) -> tuple[int, None]:
    """Remove a set; it can be brought back."""
    services.remove_build(get_object_or_404(Build, pk=build_id), although_installed)
    return 204, None


@router.post("/builds/{build_id}/restore", response={204: None})
def restore_build(request: HttpRequest, build_id: int) -> tuple[int, None]:
    """Bring a removed set back."""
    get_object_or_404(Build.everything, pk=build_id).restore()
    return 204, None


@router.post("/builds/{build_id}/again", response=list[FileDifferenceOut], auth=Needs(Role.LOOKS))
def build_again(request: HttpRequest, build_id: int) -> list[FileDifferenceOut]:
    """Make a build once more and say whether the bytes are the same."""
    return [FileDifferenceOut.of(one) for one in services.rebuild(get_object_or_404(Build, pk=build_id))]


@router.get("/builds/{build_id}/compared-with/{earlier_id}", response=list[FileDifferenceOut])
def compare_builds(request: HttpRequest, build_id: int, earlier_id: int) -> list[FileDifferenceOut]:
    """How a build differs from another one."""
    after, before = (get_object_or_404(Build, pk=pk) for pk in (build_id, earlier_id))
    return [FileDifferenceOut.of(one) for one in services.compare_builds(before, after)]


@router.get("/builds/{build_id}/compared-with/{earlier_id}/{name}/{number}", response=None)
def difference(request: HttpRequest, build_id: int, earlier_id: int, name: str, number: int) -> HttpResponse:
    """Where one picture of a file differs between two builds, as a PNG: white is equal."""
    files = (get_object_or_404(BuildFile, build_id=pk, name=name) for pk in (earlier_id, build_id))
    before, after = (pictures_in(blobs.get(file.sha256)) for file in files)
    if number >= min(len(before), len(after)) or before[number].shape != after[number].shape:
        raise Http404
    return _kept(png.write(difference_image(before[number], after[number])), media_types.PNG)


@router.get("/builds/{build_id}/files/{name}", response=None)
def built_file(request: HttpRequest, build_id: int, name: str) -> HttpResponse:
    """One built file, byte for byte."""
    file = get_object_or_404(BuildFile, build_id=build_id, name=name)
    spec = next(spec for spec in file.build.read_plan.specs if spec.name == name)
    return _kept(blobs.get(file.sha256), spec.media_type)


@router.get("/builds/{build_id}/files/{name}/frames/{size}", response=None)
def built_frame(request: HttpRequest, build_id: int, name: str, size: int) -> HttpResponse:
    """One frame of a built ICO, read out of the file, as a PNG."""
    file = get_object_or_404(BuildFile, build_id=build_id, name=name)
    frame = next((frame for frame in ico.read(blobs.get(file.sha256)) if frame.pixels.shape[1] == size), None)
    if frame is None:
        raise Http404
    return _kept(png.write(frame.pixels), media_types.PNG)


@router.get("/builds/{build_id}/set.zip", response=None)
def built_set(request: HttpRequest, build_id: int) -> HttpResponse:
    """The whole set as a ZIP."""
    build = get_object_or_404(Build, pk=build_id)
    return _download(services.package_of(build), f"{_slug(build)}-icons-{build.number}.zip")


@router.get("/builds/{build_id}/recipe.zip", response=None)
def recipe_of(request: HttpRequest, build_id: int) -> HttpResponse:
    """The recipe file and its artwork as a ZIP, for the command line."""
    build = get_object_or_404(Build, pk=build_id)
    return _download(services.recipe_package(build), f"{_slug(build)}-recipe-{build.number}.zip")


def _slug(build: Build) -> str:
    return slugify(build.site.name) or "site"


def _kept(data: bytes, media_type: str) -> HttpResponse:
    response = HttpResponse(data, content_type=media_type)
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    if media_type == SVG:  # a drawing of a stranger: nothing in it may run when it is opened by itself
        response["Content-Security-Policy"] = "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox"
    return response


def _download(data: bytes, name: str) -> HttpResponse:
    response = HttpResponse(data, content_type="application/zip")
    response["Content-Disposition"] = f'attachment; filename="{PurePath(name).name}"'
    return response
