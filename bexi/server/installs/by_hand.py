"""Installing without access to the server: a package to put in place by hand, or the site as a ZIP."""

from enum import StrEnum
from typing import IO

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
_STEPS = "what-to-do.txt"
_FILES = "Put the files of the package into the site's top folder, over the old ones; keep a copy of those."
_LINES = "the lines of head-lines.html"


class Case(StrEnum):
    """How a site is made, which decides what is to be done by hand: a label and the steps."""

    PAGES = (
        "pages",
        "Plain pages",
        _FILES,
        f"Paste {_LINES} into every page, inside <head>, in place of earlier icon lines.",
        "Save, and publish if your host asks for it.",
    )
    TEMPLATE = (
        "template",
        "Shared header",
        _FILES,
        f"Open the one file that holds the <head> of all pages, and paste {_LINES} into it, "
        "in place of earlier icon lines.",
        "Save, and publish if your host asks for it.",
    )
    BUILDER = (
        "builder",
        "Site builder",
        "In the site builder's settings, look for the field for the favicon. "
        "Make the file it asks for on Bexi's Set view.",
        f"If the builder has a field for code in the head, paste {_LINES} there; "
        "they need the files at the addresses they name.",
        "Save, then publish: visitors do not see a saved draft.",
    )

    label: str
    steps: tuple[str, ...]

    def __new__(cls, value: str, label: str, *steps: str) -> "Case":
        """A case with its label and steps beside its value."""
        case = str.__new__(cls, value)
        case._value_ = value
        case.label = label
        case.steps = (*steps, "Then check it on Bexi's Live check: look at what visitors really get.")
        return case


def set_response(build_id: int, case: Case) -> HttpResponse:
    """The set of a build with the steps for one case, as a download."""
    build = get_object_or_404(Build, pk=build_id)
    told = "\n".join(f"{number}. {step}" for number, step in enumerate(case.steps, 1))
    package = package_of(build, {_STEPS: f"{case.label}\n\n{told}\n".encode()})
    return _download(package, f"{slugify(build.site.name) or 'site'}-by-hand.zip")


def changed_response(site: Site, packed: IO[bytes]) -> HttpResponse:
    """What installing the latest build changes in a ZIP of the site, as a download of just those files."""
    return _download(changed_files(site, packed), f"{slugify(site.name) or 'site'}-changed-files.zip")


def changed_files(site: Site, packed: IO[bytes]) -> bytes:
    """A ZIP of the files that installing the latest build changes in a ZIP of the site."""
    storage = ZipStorage(packed)
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
