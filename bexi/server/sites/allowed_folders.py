"""Which folders of this machine may be the place of a site."""

from pathlib import Path

from django.conf import settings

from bexi.core.errors import HostRefused
from bexi.hosts.place import Place

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
        raise HostRefused("folder-not-allowed", f"{place.path} is no place for a site here: folders {named}.")
