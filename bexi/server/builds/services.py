"""Building the set of a site, and handing out what was built."""

from django.db import transaction
from django.db.models import Max

from bexi.core.artwork.licences import credit_line
from bexi.core.errors import FramingRefused
from bexi.core.iconset import build as engine
from bexi.core.iconset.build import BuiltFile
from bexi.core.iconset.catalogue import CATALOGUE
from bexi.core.iconset.package import package
from bexi.core.sitehead.snippet import head_lines
from bexi.server import blobs
from bexi.server.benches.services import pictures_for
from bexi.server.builds.models import Build, BuildFile
from bexi.server.sites.models import Site

SPECS = {spec.name: spec for spec in CATALOGUE}


def build_site(site: Site) -> Build:
    """Build the draft of a site; raises FramingRefused when there is none, BuildFailed when a check fails."""
    draft = site.drafts.select_related("artwork").first()
    if draft is None:
        raise FramingRefused("no-draft", "Nothing is on the bench of this site yet. Choose an artwork first.")
    files = engine.build(pictures_for(draft.artwork), draft.read_recipe, site.name)
    artworks = (draft.artwork, *draft.beside.all())
    credits = (credit_line(artwork.title, artwork.credit, artwork.licence) for artwork in artworks)
    with transaction.atomic():
        number = (site.builds.aggregate(last=Max("number"))["last"] or 0) + 1
        build = Build.objects.create(
            site=site,
            number=number,
            artwork=draft.artwork,
            sources=draft.sources(),
            credit="\n".join(filter(None, credits)),
            recipe=draft.recipe,
            engine=engine.ENGINE_VERSION,
        )
        BuildFile.objects.bulk_create(
            BuildFile(build=build, position=position, name=file.name, sha256=blobs.put(file.data), size=len(file.data))
            for position, file in enumerate(files)
        )
    return build


def built_files(build: Build) -> list[BuiltFile]:
    """The files of a build with their bytes."""
    return [BuiltFile(SPECS[file.name], blobs.get(file.sha256)) for file in build.files.all()]


def package_of(build: Build) -> bytes:
    """The build as a ZIP."""
    return package(built_files(build), head_lines(), build.credit)
