"""Having sites looked at: in the background, or at once."""

from bexi.core.errors import HostRefused
from bexi.server.checks import watching
from bexi.server.checks.models import Check
from bexi.server.checks.services import carry_out
from bexi.server.sites.models import Site


def start_check(site: Site) -> Check:
    """Put the looking at a site in line; what is under way for it goes on. Raises HostRefused without an address."""
    under_way = site.checks.first()
    if under_way:
        under_way.see_to()  # whoever worked on it may be gone
        under_way.refresh_from_db()
        if not under_way.is_over:
            return under_way
    check = _ordered(site)
    check.offer()
    check.refresh_from_db()
    return check


def check_what_is_due() -> None:
    """Have the sites looked at whose time has come."""
    for watch in watching.due():
        start_check(watch.site)


def check_what_changed(site: Site, **_: object) -> None:
    """Have a site looked at after an installation or its undoing; an earlier look under way saw it half done."""
    if site.address:
        _ordered(site).offer()


def check_now(site: Site) -> Check:
    """Look at a site on the spot."""
    check = _ordered(site)
    carry_out(check)
    check.refresh_from_db()
    return check


def _ordered(site: Site) -> Check:
    if not site.address:
        raise HostRefused("no-address", "Bexi does not know this site's address yet. Enter it, then check again.")
    return Check.objects.create(site=site)
