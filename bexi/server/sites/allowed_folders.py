"""Which folders of this machine may be the place of a site."""

from dataclasses import dataclass
from pathlib import Path

from django.conf import settings

from bexi.core.errors import HostRefused
from bexi.hosts.place import Place

MOST_LISTED = 500
STANDIN_SITES = "sites"
"""The folder inside Bexi's own that the demo's stand-in host serves."""


def refuse_folder(place: Place) -> None:
    """Raise HostRefused when a place is where Bexi keeps its own data, lies around that, or beyond the allowed roots.

    On a machine that others reach, no folder is allowed unless its root is named.
    """
    if place.is_remote:
        return
    folder, own = place.folder.resolve(), Path(settings.DATA_FOLDER).resolve()
    if folder.is_relative_to(own / STANDIN_SITES):
        return
    if folder.is_relative_to(own) or own.is_relative_to(folder):
        raise HostRefused(
            "own-folder",
            f"{place.path} holds Bexi's own data, which an installation could overwrite. Choose the site's own folder.",
        )
    roots = settings.PLACE_ROOTS
    if (roots or settings.REACHED_AS) and not any(folder.is_relative_to(root.resolve()) for root in roots):
        named = (
            f"lie below {' or '.join(map(str, roots))}" if roots else "are allowed once BEXI_ROOTS names their roots"
        )
        raise HostRefused("folder-not-allowed", f"{place.path} is not allowed for a site here: folders {named}.")


@dataclass(frozen=True)
class Listing:
    """A folder of this machine, the one above it when that may be looked into, and the folders in it."""

    path: str
    parent: str | None
    folders: list[str]


def look_into(path: str) -> Listing:
    """The folders in a folder, in the first allowed one for an empty path; raises HostRefused beyond those."""
    roots = [root.resolve() for root in settings.PLACE_ROOTS]
    folder = Path(path or (roots[0] if roots else Path.home())).resolve()
    if (roots or settings.REACHED_AS) and not any(folder.is_relative_to(root) for root in roots):
        raise HostRefused("folder-not-allowed", f"{folder} lies outside the folders that sites may live in here.")
    try:
        inside = sorted(one.name for one in folder.iterdir() if one.is_dir() and not one.name.startswith("."))
    except OSError as error:
        raise HostRefused("folder-unreadable", f"{folder} cannot be read: {error.strerror}.") from error
    is_top = folder.parent == folder or folder in roots
    return Listing(str(folder), None if is_top else str(folder.parent), inside[:MOST_LISTED])
