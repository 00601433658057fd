"""Building the set of a site in the background, and handing out what was built."""

import hashlib
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from types import MappingProxyType
from typing import Any

from django.core.cache import cache
from django.db import transaction
from django.db.models import Max

from bexi.core.artwork.licences import credit_line
from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.treatment import Treatment
from bexi.core.errors import FramingRefused, PlanRefused, Refusal
from bexi.core.iconset import build as engine
from bexi.core.iconset.build import BuiltFile, BuiltSet, Pictures, Progress
from bexi.core.iconset.catalogue import IconSpec
from bexi.core.iconset.compare import FileDifference, compare
from bexi.core.iconset.fit import Fit, Requirement, fit
from bexi.core.iconset.judged import JudgedIcon, judged_set
from bexi.core.iconset.package import archive, package
from bexi.core.iconset.plan import READY_MADE, Plan
from bexi.core.iconset.recipe_file import MAIN, NAME, ArtworkFile, RecipeFile
from bexi.core.pixels.colour import Colour
from bexi.core.sitehead.snippet import HeadLines
from bexi.server import blobs
from bexi.server.artwork.aside import aside_when_large
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.services import open_picture
from bexi.server.builds.models import Build, BuildFile, BuildRun, KeptRequirement, Order, RunState, SitePlan, plan_of
from bexi.server.drafts.models import Draft
from bexi.server.drafts.services import neighbours, save_draft
from bexi.server.encoding import processes
from bexi.server.machines.work import take
from bexi.server.problems import Conflict
from bexi.server.sites.models import Site


class BuildStopped(Exception):
    """The person asked to stop."""


def carry_out(run: BuildRun) -> None:
    """Do the work of a run and note how it ended."""
    take(run, lambda run, held: _carry_out(run))


def _carry_out(run: BuildRun) -> None:
    ended: dict[str, object] = {"state": RunState.FAILED}
    try:
        run.note(RunState.WAITING, state=RunState.RUNNING)
        built = _built(run.site, run, lambda progress: _note(run, progress))
        with transaction.atomic():  # a set without its run, or a run without its set, would be said wrongly
            run.note(RunState.RUNNING, state=RunState.DONE, build=_kept(run.site, run, *built))
        return
    except BuildStopped:
        ended = {"state": RunState.STOPPED}
    except Refusal as refusal:
        ended["problem"] = refusal.sentence
    except Exception:
        run.note(RunState.RUNNING, problem="Something went wrong while building; see the log. Try again.", **ended)
        raise
    run.note(RunState.RUNNING, **ended)


def _note(run: BuildRun, progress: Progress) -> None:
    told = {"done": progress.done, "total": progress.total, "current": progress.name}
    if not run.note(RunState.RUNNING, **told) or BuildRun.objects.filter(pk=run.pk, stop_asked=True).exists():
        raise BuildStopped


def build_site(site: Site) -> Build:
    """Build the draft of a site at once; raises FramingRefused without a draft, BuildFailed when a check fails."""
    return build_order(site, BuildRun(site=site, **order_of(draft_on_bench(site))), lambda progress: None)


def build_order(site: Site, order: Order, watch: Callable[[Progress], None]) -> Build:
    """Build what was ordered and keep it."""
    return _kept(site, order, *_built(site, order, watch))


def _built(site: Site, order: Order, watch: Callable[[Progress], None]) -> tuple[BuiltSet, list[JudgedIcon]]:
    pictures = pictures_from(order.sources)
    built = engine.build(pictures, order.read_recipe, order.read_plan, site.name, watch, processes.each)
    return built, judged_set(pictures, order.read_recipe, order.read_plan, neighbours(site.pk, order.artwork_id))


def _kept(site: Site, order: Order, built: BuiltSet, judged: Sequence[JudgedIcon]) -> Build:
    for file in built.files:
        blobs.put(file.data)  # before anything points at them
    with transaction.atomic():
        Site.objects.select_for_update().get(pk=site.pk)
        number = (Build.everything.filter(site=site).aggregate(last=Max("number"))["last"] or 0) + 1
        build = Build.objects.create(
            site=site,
            site_name=site.name,
            number=number,
            artwork_id=order.artwork_id,
            sources=order.sources,
            credit=order.credit,
            recipe=order.recipe,
            plan=order.plan,
            engine=engine.ENGINE_VERSION,
            colour=str(built.colour),
            left_out=[{"name": one.name, "reason": one.reason} for one in built.left_out],
            verdicts=[one.as_json() for one in judged],
        )
        BuildFile.objects.bulk_create(
            BuildFile(build=build, position=position, name=file.name, sha256=file.sha256, size=len(file.data))
            for position, file in enumerate(built.files)
        )
    return build


def take_over(site: Site, source: Site, recipe: bool, plan: bool) -> None:
    """Give a site the artwork and recipe of another one's bench, or its set plan, or both.

    The recipe is one more change of the draft, which can be undone. Raises FramingRefused when the other has none.
    """
    with transaction.atomic():
        if recipe:
            theirs, ours = draft_on_bench(source), site.drafts.first()
            save_draft(site, theirs.artwork, theirs.read_recipe, ours.revision if ours else 0)
        if plan:
            keep_plan(site, plan_of(source))


def remove_build(build: Build, although_installed: bool) -> None:
    """Have a set seen no more; raises Conflict for one that is installed, unless that is known."""
    if not although_installed and build.installs.filter(state="done", undoes=None).exists():
        raise Conflict(
            "still-installed",
            f"Set {build.number} is installed. What is on the site stays, and can still be undone in History.",
        )
    build.remove()


def draft_on_bench(site: Site) -> Draft:
    """The draft that is built next; raises FramingRefused when there is none."""
    draft = site.drafts.select_related("artwork").first()
    if draft is None:
        raise FramingRefused("no-draft", "Nothing is on the bench of this site yet. Choose an artwork first.")
    return draft


def order_of(draft: Draft) -> dict[str, object]:
    """What building a draft takes, as it is now."""
    artworks = (draft.artwork, *draft.beside.all())
    credits = (credit_line(artwork.title, artwork.credit, artwork.licence) for artwork in artworks)
    return {
        "artwork": draft.artwork,
        "sources": draft.sources(),
        "credit": "\n".join(filter(None, credits)),
        "recipe": draft.recipe,
        "plan": plan_of(draft.site).as_json(),
    }


def pictures_from(sources: Mapping[str, Any]) -> Pictures:
    """Finds the pictures of an order among the artwork as it was then."""

    def picture(key: str | None) -> Picture:
        sha256, treatment = sources[key or MAIN]
        return open_picture(sha256, Treatment.from_json(treatment))

    return picture


def keep_plan(site: Site, plan: Plan) -> None:
    """Keep the set plan of a site."""
    site.set_plan, _ = SitePlan.objects.update_or_create(site=site, defaults={"plan": plan.as_json()})


def ready_name(plan: Plan) -> str | None:
    """The name of the ready-made plan whose files a plan has, None for one's own choice."""
    return next(
        (name for name, ready in READY_MADE.items() if not plan.extra and set(ready.files) == set(plan.files)), None
    )


@aside_when_large
def whole_set(site: Site, plan: Plan) -> BuiltSet:
    """Everything the catalogue and a plan hold, made from the draft: what each file would add. Kept for a while."""
    draft = draft_on_bench(site)
    whole = replace(plan, files=READY_MADE["whole"].files)
    made_from = repr((engine.ENGINE_VERSION, draft.sources(), draft.recipe, whole, site.name))
    key = f"whole-set-{hashlib.sha256(made_from.encode()).hexdigest()}"
    made: BuiltSet | None = cache.get(key)
    if made is None:
        made = engine.build(pictures_from(draft.sources()), draft.read_recipe, whole, site.name, each=processes.each)
        cache.set(key, made)
    return made


def costs(site: Site, plan: Plan) -> dict[str, int]:
    """What each file would take in bytes, made from the draft; text files as they are with this plan's icons."""
    whole = whole_set(site, plan)
    planned = {spec.name for spec in plan.specs}
    chosen = [file for file in whole.files if file.name in planned]
    taken = {file.name: len(file.data) for file in whole.files}
    for file in chosen:
        if not isinstance(file.spec, IconSpec):
            recipe = draft_on_bench(site).read_recipe
            taken[file.name] = len(engine.text_file(file.spec, plan, recipe, site.name, chosen))
    return taken


def built_files(build: Build) -> list[BuiltFile]:
    """The files of a build with their bytes."""
    specs = {spec.name: spec for spec in build.read_plan.specs}
    return [BuiltFile(specs[file.name], blobs.get(file.sha256)) for file in build.files.all()]


def head_lines(build: Build) -> HeadLines:
    """What the pages of the site say about a build."""
    return HeadLines(tuple(built_files(build)), build.read_plan.addresses, Colour.parse(build.colour))


def package_of(build: Build, beside: Mapping[str, bytes] = MappingProxyType({})) -> bytes:
    """The build as a ZIP, with further files beside it."""
    return package(built_files(build), head_lines(build).lines(), build.credit, beside)


def recipe_package(build: Build) -> bytes:
    """The recipe file of a build and the artwork it names, as a ZIP; `bexi build` makes the same bytes of them."""
    artworks = {MAIN: build.artwork} | {
        key: artwork for key in build.sources if key != MAIN and (artwork := Artwork.objects.filter(pk=key).first())
    }
    sources, members = {}, {}
    for number, (key, (sha256, treatment)) in enumerate(build.sources.items(), 1):
        artwork = artworks.get(key)
        file = f"{number}-{artwork.file_name if artwork else 'artwork'}"
        sources[key] = ArtworkFile(file, sha256, Treatment.from_json(treatment))
        members[file] = blobs.get(sha256)
    recipe = RecipeFile(build.site_name, sources, build.read_recipe, build.read_plan)
    return archive({NAME: recipe.as_bytes(), **members})


def compare_builds(before: Build, after: Build) -> list[FileDifference]:
    """How two builds differ, file by file."""
    return compare(*({file.name: file.data for file in built_files(build)} for build in (before, after)))


@aside_when_large
def rebuild(build: Build) -> list[FileDifference]:
    """Make a build once more from what it was made of, and compare; raises Conflict for one of another engine."""
    if build.engine != engine.ENGINE_VERSION:
        raise Conflict(
            "other-engine",
            f"This was built by engine {build.engine}. Engine {engine.ENGINE_VERSION} may give other bytes.",
        )
    again = engine.build(
        pictures_from(build.sources), build.read_recipe, build.read_plan, build.site_name, each=processes.each
    )
    made = {file.name: file.data for file in again.files}
    return compare({file.name: file.data for file in built_files(build)}, made)


@aside_when_large
def fit_for(site: Site, wanted: Requirement) -> Fit:
    """The one file of the draft that an upload field asks for; raises PlanRefused with the reason."""
    draft = draft_on_bench(site)
    return fit(pictures_from(draft.sources()), draft.read_recipe, wanted)


def keep_requirement(name: str, wanted: Requirement) -> KeptRequirement:
    """Keep what an upload field asks for; raises PlanRefused when the name is taken."""
    if KeptRequirement.objects.filter(name=name).exists():
        raise PlanRefused("name-taken", f"There is a requirement “{name}” already. Choose another name.")
    return KeptRequirement.objects.create(
        name=name,
        format=wanted.format,
        size=wanted.size,
        at_least=wanted.at_least,
        most_kb=wanted.most_kb,
        ground=wanted.ground,
    )
