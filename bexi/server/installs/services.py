"""Doing and undoing installations, with the journal in the database."""

from collections.abc import Callable, Sequence
from contextlib import AbstractContextManager, suppress

from django.db import DatabaseError
from django.utils import timezone

from bexi.core.errors import HostRefused, InstallRefused
from bexi.core.sitehead.edit import edit_head
from bexi.core.sitehead.snippet import HeadLines
from bexi.hosts.careful import CarefulHost
from bexi.hosts.opening import opened
from bexi.hosts.place import Place
from bexi.hosts.protocol import Host
from bexi.installing.carry_out import carry_out, put_back
from bexi.installing.plan import new_pages
from bexi.installing.step import Content, Step, StepKind
from bexi.server import blobs, own_disk, vault
from bexi.server.installs.models import INTERRUPTED, Install, InstallState
from bexi.server.installs.places import place_then, secret_of
from bexi.server.installs.planning import icons_of, wanted
from bexi.server.machines import leases


def three_versions(done: Install, path: str, secret: str = "") -> tuple[bytes | None, bytes | None, bytes | None]:
    """A file before it was installed, as it was installed, and as it is now."""
    row = done.steps.filter(path=path).first()
    if row is None:
        raise InstallRefused("no-such-step", f"{path} was not part of this installation.")
    place = place_then(done)
    with opened(place, secret_of(done.site, secret, place)) as host:
        now = host.read(path)
    return _copy(row.before_sha256), _after(row.step, icons_of(done.build, done.manifests)), now


def _copy(sha256: str | None) -> bytes | None:
    return blobs.get(sha256) if sha256 else None


def _after(step: Step, icons: HeadLines) -> bytes | None:
    """What a step left behind: a file that was kept, or the edit of the page that was."""
    if step.after is None:
        return None
    if step.kind is StepKind.EDIT and step.before:
        return edit_head(blobs.get(step.before.sha256), icons, step.path).after
    return blobs.get(step.after.sha256)


class _Journal:
    """Writes each step down, with a copy of what it replaces, before it is done."""

    def __init__(self, install: Install, held: leases.Holding) -> None:
        self._install, self._held = install, held

    def begin(self, number: int, step: Step, now: bytes | None) -> None:
        try:
            self._held.put_off()  # whoever stood still for too long touches nothing any more
            if now is not None:
                blobs.put(now)
            if step.after:
                self._install.steps.filter(position=number).update(after_sha256=step.after.sha256)
            self._install.begun = number + 1
            self._install.state = InstallState.STARTED
            self._install.save(update_fields=["begun", "state", "changed"])
        except (OSError, DatabaseError) as error:  # without a journal nothing is touched
            raise HostRefused("no-journal", f"Bexi cannot keep its own copies: {own_disk.told(error)}") from error

    def stop_asked(self) -> bool:
        self._install.refresh_from_db(fields=["stop_asked"])
        return self._install.stop_asked


def run(journal: Install) -> None:
    """Do what an installation or undoing has written down, and note how it ended; one process at a time for a place."""
    with leases.holding("place", journal.place, wait=True) as held:
        journal.refresh_from_db()
        if journal.state == InstallState.WAITING:
            _carry_out(journal, held)


def _carry_out(journal: Install, held: leases.Holding) -> None:
    Install.objects.filter(pk=journal.pk).update(state=InstallState.STARTED, changed=timezone.now())
    steps = [row.step for row in journal.steps.all()]
    icons = icons_of(journal.build, journal.manifests)
    pages_edited = not journal.undoes_id
    planning = journal.planning
    known = planning.known_pages if planning else set()

    def news(host: Host) -> list[str]:
        return new_pages(host, known, wanted(planning.pages)) if planning else []

    def contents(step: Step, now: bytes | None) -> bytes | None:
        if step.after is None:
            return None
        if pages_edited and step.kind is StepKind.EDIT and now is not None:
            return edit_head(now, icons, step.path).after
        return blobs.get(step.after.sha256)

    try:
        carry_out(_opening(journal), steps, contents, _Journal(journal, held), _kept, news)
    except InstallRefused as refusal:
        journal.problem = refusal.sentence
        journal.state = InstallState.STUCK if refusal.code == "put-back-incomplete" else InstallState.PUT_BACK
    else:
        journal.state = InstallState.DONE
        if journal.undoes:
            Install.objects.filter(pk=journal.undoes.pk).update(state=InstallState.UNDONE, changed=timezone.now())
    _end(journal)


def put_back_now(journal: Install, secret: str = "") -> None:
    """Put back an installation that was interrupted; raises InstallRefused when the place still does not let it."""
    try:
        with leases.holding("place", journal.place):
            _put_back(journal, secret)
    except leases.LeaseHeld as held:
        raise InstallRefused(
            "install-under-way", "This installation is being worked on. Wait for its end, or stop it."
        ) from held


def _put_back(journal: Install, secret: str) -> None:
    journal.refresh_from_db()
    if journal.is_over:
        raise InstallRefused("nothing-to-put-back", "This installation is finished; there is nothing to put back.")
    if secret:
        journal.sealed = vault.seal(secret)
    begun = [row.step for row in journal.steps.all()[: journal.begun]]
    try:
        if begun:
            put_back(_opening(journal), begun, _kept, "It was interrupted.")
    except InstallRefused as refusal:
        journal.state, journal.problem = InstallState.STUCK, refusal.sentence
        journal.save()
        raise
    journal.state = InstallState.PUT_BACK
    what = "so everything was put back as it was" if begun else "before anything was touched"
    journal.problem = f"The installation was interrupted on the way, {what}."
    _end(journal)


def recover(states: Sequence[InstallState] = INTERRUPTED) -> list[Install]:
    """Put back every installation that was interrupted when its process ended; returns those it looked at.

    One that waits, or that another process works on, is not interrupted.
    """
    interrupted = [
        journal for journal in Install.objects.filter(state__in=states) if not leases.is_held("place", journal.place)
    ]
    for journal in interrupted:
        with suppress(InstallRefused, HostRefused):  # it stays stuck, with its reason, until the place answers
            put_back_now(journal)
    return interrupted


def _opening(journal: Install) -> Callable[[], AbstractContextManager[CarefulHost]]:
    place = Place.parse(journal.place).trusting(journal.trusted)
    return lambda: opened(place, vault.unseal(journal.sealed))


def _kept(content: Content) -> bytes:
    return blobs.get(content.sha256)


def _end(journal: Install) -> None:
    """Note the end; a secret is not kept longer than it is needed."""
    if journal.is_over:
        journal.sealed = ""
    journal.save()
