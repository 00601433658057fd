"""Having sites looked at: in the background, or at once."""

from bexi.core.errors import HostRefused
from bexi.server.checks.models import Check
from bexi.server.checks.services import carry_out
from bexi.server.checks.tasks import run_check
from bexi.server.sites.models import Site


def start_check(site: Site) -> Check:
    """Put the looking at a site in line; what is under way for it goes on. Raises HostRefused without an address."""
    under_way = site.checks.first()
    if under_way and not under_way.is_over and not under_way.is_lost:
        return under_way
    check = _ordered(site)
    run_check.enqueue(check.pk)
    check.refresh_from_db()
    return check


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
