"""Where Bexi keeps its own data, which is no place for a site."""

from pathlib import Path

from django.conf import settings

from bexi.core.errors import HostRefused
from bexi.hosts.place import Place

STANDIN_SITES = "sites"
"""The folder inside Bexi's own that the demo's stand-in host serves."""


def refuse_own_folder(place: Place) -> None:
    """Raise HostRefused when a place is where Bexi keeps its own data, or lies around that."""
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
