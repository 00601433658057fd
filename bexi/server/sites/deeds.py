"""Writing down who did what to a site's place."""

from bexi.server.sites.models import Deed, DeedKind, Site


def note(site: Site, who: str, kind: DeedKind, told: str = "") -> None:
    """Write a deed down; no secret is ever part of it."""
    Deed.objects.create(site=site, who=who, kind=kind, told=told)
