"""Having installations planned, done and taken back: in the background, or at once."""

from collections.abc import Collection, Sequence

from django.db import IntegrityError, transaction

from bexi.core.errors import InstallRefused
from bexi.hosts.place import Place
from bexi.hosts.secret import Secret
from bexi.installing.carry_out import plan_undo
from bexi.installing.step import Step, StepKind
from bexi.server import vault
from bexi.server.installs.models import UNFINISHED, Install, InstallState, InstallStep, Planning, PlanningState
from bexi.server.installs.places import place_of, place_then, secret_of
from bexi.server.installs.planning import ALL_PAGES, carry_out, latest_build, planning_by
from bexi.server.installs.reaching import count_attempt, looking
from bexi.server.installs.services import run
from bexi.server.people.asking import owner
from bexi.server.problems import Conflict
from bexi.server.sites.models import Site

_LONGEST_LOOK = 300
"""In seconds, at all files of an installation that is to be undone."""


def start_planning(site: Site, secret: Secret | None = None, pages: str = ALL_PAGES, rules: bool = False) -> Planning:
    """Put the planning of the latest build in line; what is under way for the same goes on.

    Raises InstallRefused when another one, asked for meanwhile, has taken its place, Busy when passwords are tried at
    the place too often.
    """
    fresh = _ordered(site, secret, pages, rules)
    if secret:
        count_attempt(place_of(site))
    with transaction.atomic():  # asked several times at once, one is begun
        Site.objects.select_for_update().get(pk=site.pk)
        under_way = site.plannings.first()
        if under_way and _same(under_way, fresh):
            under_way.see_to()  # whoever worked on it may be gone
            under_way.refresh_from_db()
            if not under_way.is_over:
                return under_way
        site.plannings.exclude(installs__state__in=UNFINISHED).delete()
        fresh.save()
    fresh.offer()
    return planning_by(fresh.pk)


def plan_now(site: Site) -> Planning:
    """Plan at once, for all pages of a folder on this machine."""
    planning = _ordered(site, None, ALL_PAGES, rules=False)
    planning.save()
    carry_out(planning)
    planning.refresh_from_db()
    return planning


def _ordered(site: Site, secret: Secret | None, pages: str, rules: bool) -> Planning:
    place = place_of(site)
    sealed = vault.seal(secret_of(site, secret, place))
    return Planning(
        site=site,
        build=latest_build(site),
        place=str(place),
        trusted=place.trusted,
        sealed=sealed,
        pages=pages,
        rules=rules,
    )


def _same(one: Planning, other: Planning) -> bool:
    return (one.build_id, one.place, one.pages, one.rules) == (other.build_id, other.place, other.pages, other.rules)


def start_install(planning: Planning, who: str, secret: Secret | None = None, removes: Collection[str] = ()) -> Install:
    """Put what was planned in line; raises InstallRefused when the plan is no longer that of the site.

    `removes` are paths of old icons that shall go, among those the plan tells of; it is refused for others.
    """
    site, build = planning.site, planning.build
    is_current = build == latest_build(site) and planning.place == str(place_of(site))
    if planning.state != PlanningState.DONE or not is_current:
        raise InstallRefused(
            "plan-outdated",
            "The set or the place of the site changed since this plan was made. Nothing has been changed; plan again.",
        )
    changes = [step for step in planning.read_steps if step.kind is not StepKind.SAME]
    leftovers = {step.path: step for step in planning.read_leftovers}
    for path in removes:
        if path not in leftovers:
            raise InstallRefused("no-such-step", f"{path} is not part of this plan. Plan again.")
    changes += [leftovers[path] for path in dict.fromkeys(removes)]
    journal = Install(site=site, build=build, planning=planning, manifests=planning.manifests)
    return _start(journal, who, place_of(site), changes, secret)


def install_now(site: Site) -> Install:
    """Plan and install at once; raises InstallRefused when it was put back."""
    return _finished(start_install(plan_now(site), owner()))


def start_undo(
    done: Install, who: str, secret: Secret | None = None, over: Sequence[str] = (), leave: Sequence[str] = ()
) -> Install:
    """Put the undoing of an installation in line, or of what was left when it was put back.

    Raises InstallRefused when it was undone already, a later one lies on top, or a file was changed since and
    nobody has said whether the old one goes over it.
    """
    rows = done.steps.filter(left=True) if done.state == InstallState.PUT_BACK else done.steps.all()
    if done.undoes_id or done.state not in (InstallState.DONE, InstallState.PUT_BACK) or not rows.exists():
        raise InstallRefused("already-undone", "This installation is undone already.")
    later = done.site.installs.filter(pk__gt=done.pk, state=InstallState.DONE, undoes=None)
    if later.exists():
        raise InstallRefused("later-install", "There is a later installation. Undo that one first.")
    place = place_then(done)
    with looking(place, secret_of(done.site, secret, place), _LONGEST_LOOK) as host:
        steps = plan_undo(host, [row.step for row in rows], over, leave)
    return _start(Install(site=done.site, build=done.build, undoes=done), who, place, steps, secret)


def undo(done: Install) -> Install:
    """Undo at once."""
    _finished(start_undo(done, owner()))
    done.refresh_from_db()
    return done


def _start(journal: Install, who: str, place: Place, steps: Sequence[Step], secret: Secret | None) -> Install:
    journal.place, journal.trusted, journal.who = str(place), place.trusted, who
    journal.sealed = vault.seal(secret_of(journal.site, secret, place))
    try:
        with transaction.atomic():
            journal.save()
            InstallStep.objects.bulk_create(
                InstallStep.of(journal, position, step) for position, step in enumerate(steps)
            )
    except IntegrityError as error:
        raise Conflict(
            "install-under-way", "Another installation on this site is not finished. Wait for it, or put it back."
        ) from error
    journal.offer()
    journal.refresh_from_db()
    return journal


def _finished(journal: Install) -> Install:
    """The journal after its work was done on the spot."""
    if not journal.is_over:
        run(journal)
    if journal.state == InstallState.PUT_BACK:
        raise InstallRefused("put-back", journal.problem)
    return journal
