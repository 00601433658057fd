"""Installing without access to the server: a package to put in place by hand, or the site as a ZIP."""

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from django.utils.text import slugify

from bexi.core.iconset.package import archive
from bexi.hosts.archive import ZipStorage, unpacked
from bexi.hosts.careful import CarefulHost
from bexi.installing.plan import plan_install
from bexi.server.builds.models import Build
from bexi.server.builds.services import head_lines, package_of
from bexi.server.installs.planning import latest_build
from bexi.server.sites.models import Site

_NOTE = "what-changed.txt"


def set_response(build_id: int) -> HttpResponse:
    """The set of a build as a download."""
    build = get_object_or_404(Build, pk=build_id)
    return _download(package_of(build), f"{slugify(build.site.name) or 'site'}-by-hand.zip")


def changed_response(site: Site, data: bytes) -> HttpResponse:
    """What installing the latest build changes in a ZIP of the site, as a download of just those files."""
    return _download(changed_files(site, data), f"{slugify(site.name) or 'site'}-changed-files.zip")


def changed_files(site: Site, data: bytes) -> bytes:
    """A ZIP of the files that installing the latest build changes in a ZIP of the site."""
    storage = ZipStorage(data)
    host = CarefulHost(storage)
    plan = plan_install(host, head_lines(latest_build(site)))
    for step in plan.changes:
        content = plan.content(step, host.read(step.path))
        if content is not None:
            host.write(step.path, content)
    files, _ = unpacked(storage.changed)
    told = [f"{step.kind.value:<8} {step.path}" for step in plan.changes]
    told += [f"left alone {page.path}: {page.reason}" for page in plan.left_alone]
    note = "\n".join(["Put these files over those of the site; keep a copy of what they replace.", "", *told, ""])
    return archive({**files, _NOTE: note.encode()})


def _download(data: bytes, name: str) -> HttpResponse:
    response = HttpResponse(data, content_type="application/zip")
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
