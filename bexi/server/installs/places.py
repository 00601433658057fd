"""Where sites live, and the secrets by which Bexi gets in."""

from collections.abc import Iterator
from contextlib import contextmanager
from urllib.parse import quote, urljoin

from django.db import transaction
from django.dispatch import receiver

from bexi.core.errors import InstallRefused
from bexi.hosts.opening import Trial, try_out
from bexi.hosts.place import Place
from bexi.hosts.protocol import Host
from bexi.hosts.secret import Secret
from bexi.installing.top_folder import system_folder, warning_about
from bexi.server import vault
from bexi.server.installs.models import Install, KeptSecret
from bexi.server.installs.reaching import attempting
from bexi.server.problems import Conflict
from bexi.server.sites.allowed_folders import refuse_folder
from bexi.server.sites.deeds import note
from bexi.server.sites.models import DeedKind, Site, account_changed
from bexi.web.visiting import visiting

_MOST_SECONDS = 20


def place_of(site: Site) -> Place:
    """Where a site lives; raises InstallRefused when nobody said so yet."""
    if not site.place:
        raise InstallRefused("no-place", "Bexi does not know where this site's files are yet. Enter its location.")
    place = Place.parse(site.place).trusting(site.trusted)
    refuse_folder(place)
    return place


def place_then(done: Install) -> Place:
    """Where an installation was done, which may be another place than the site's own by now."""
    place = Place.parse(done.place)
    return place.trusting(done.site.trusted if _is_of(place, done.site) else done.trusted)


def secret_of(site: Site, given: Secret | None, place: Place) -> Secret:
    """The secret that was given now, else the kept one if it is that of this place, else none.

    Raises Conflict when what was given belongs to another place: the site may have been moved meanwhile.
    """
    if given and place.is_remote and given.account != place.account:
        raise Conflict(
            "place-changed",
            f"This password was entered for another place than {place}, so it was not sent. Look at the place, then "
            "enter its password.",
        )
    kept = KeptSecret.objects.filter(site=site).first() if _is_of(place, site) and not given else None
    return vault.unseal(kept.sealed, place) if kept else given or Secret.of(place, "")


def _is_of(place: Place, site: Site) -> bool:
    return bool(site.place) and Place.parse(site.place).is_same_account(place)


def connect(site: Site, who: str, given: Secret | None, keep: bool, trust: str) -> list[Trial]:
    """Try out a site's place; keeps the agreed fingerprint, and the secret when it works and that is wanted.

    Raises Conflict when the site lives elsewhere by now, Busy when this is tried too often.
    """
    place = place_of(site)
    used = secret_of(site, given, place)
    if trust and trust != site.trusted:
        with _still_at(place, site):
            Site.objects.filter(pk=site.pk).update(trusted=trust)
            note(site, who, DeedKind.TRUSTED, f"{site.place}: {trust}")
        place = place.trusting(trust)
    with attempting(place):
        trials = try_out(place, used)
    if all(trial.works for trial in trials):
        _keep(site, who, place, given, keep)
    return trials


def _keep(site: Site, who: str, place: Place, given: Secret | None, keep: bool) -> None:
    """Keep the secret of a place, or forget it."""
    with _still_at(place, site):
        if keep and given:  # the kept one is kept already
            sealed = vault.seal(given)
            KeptSecret.objects.update_or_create(site=site, defaults={"sealed": sealed})
            note(site, who, DeedKind.SECRET_KEPT, site.place)
        elif not keep and KeptSecret.objects.filter(site=site).delete()[0]:
            note(site, who, DeedKind.SECRET_FORGOTTEN, site.place)


@contextmanager
def _still_at(place: Place, site: Site) -> Iterator[None]:
    """Nobody moves the site while the block runs; raises Conflict when somebody has moved it before."""
    with transaction.atomic():
        now = Site.objects.select_for_update().get(pk=site.pk)
        if not _is_of(place, now):
            raise Conflict(
                "place-changed", "This site's location was changed meanwhile, so nothing was saved. Check it."
            )
        yield


@receiver(account_changed, dispatch_uid="forget the secret")
def forget_secret(site: Site, who: str, **_: object) -> None:
    """Another server, or another account on it, must never get the secret of the one before."""
    if KeptSecret.objects.filter(site=site).delete()[0]:
        note(site, who, DeedKind.SECRET_FORGOTTEN, site.place)


class _NoAnswer(Exception):
    """The site is not to be reached."""


def place_warning(site: Site, host: Host) -> str:
    """A sentence when the place does not look like the site's top folder; empty without an address that answers."""
    nearby = system_folder(Place.parse(site.place))
    if nearby or not site.address:
        return nearby
    with visiting(_MOST_SECONDS, site.address) as fetch:

        def served(path: str) -> bytes | None:
            answer = fetch(urljoin(site.address, quote(path)))
            if not answer.status:
                raise _NoAnswer
            return answer.body if answer.status == 200 else None

        try:
            return warning_about(host, Place.parse(site.place).path, served)
        except _NoAnswer:
            return ""
