"""Doing and undoing installations, with the journal in the database."""

from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager, suppress

from django.db import DatabaseError, transaction

from bexi.core.errors import HostRefused, InstallRefused
from bexi.core.sitehead.edit import edit_head
from bexi.core.sitehead.snippet import HeadLines
from bexi.hosts.careful import CarefulHost
from bexi.hosts.opening import opened
from bexi.hosts.place import Place
from bexi.hosts.protocol import Host
from bexi.hosts.secret import Secret
from bexi.installing.carry_out import PutBack, carry_out, put_back, told_of
from bexi.installing.plan import new_pages
from bexi.installing.step import Content, Step, StepKind
from bexi.server import blobs, own_disk, vault
from bexi.server.installs import reaching
from bexi.server.installs.models import Install, InstallState, site_changed
from bexi.server.installs.places import place_then, secret_of
from bexi.server.installs.planning import PLACE_AWAITED_SECONDS, icons_of, wanted
from bexi.server.machines import leases
from bexi.server.machines.work import take
from bexi.server.sites.deeds import note
from bexi.server.sites.models import DeedKind


def three_versions(
    done: Install, path: str, secret: Secret | None = None
) -> tuple[bytes | None, bytes | None, bytes | None]:
    """A file before it was installed, as it was installed, and as it is now."""
    row = done.steps.filter(path=path).first()
    if row is None:
        raise InstallRefused("no-such-step", f"{path} was not part of this installation.")
    place = place_then(done)
    with reaching.looking(place, secret_of(done.site, secret, place)) as host:
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
        with self._kept():
            if now is not None:
                blobs.put(now)
            with transaction.atomic():
                if step.after:
                    self._install.steps.filter(position=number).update(after_sha256=step.after.sha256)
                self._install.begun = number + 1
                self._install.note(InstallState.STARTED, begun=number + 1)

    def keep(self, data: bytes) -> None:
        with self._kept():
            blobs.put(data)

    def stop_asked(self) -> bool:
        return Install.objects.filter(pk=self._install.pk, stop_asked=True).exists()

    def copy(self, content: Content) -> bytes:
        return blobs.get(content.sha256)

    @contextmanager
    def _kept(self) -> Iterator[None]:
        """Without a journal nothing is changed."""
        try:
            self._held.put_off()  # whoever stood still for too long changes nothing any more
            yield
        except (OSError, DatabaseError) as error:
            raise HostRefused("no-journal", f"Bexi cannot keep its own copies: {own_disk.told(error)}") from error


def run(journal: Install) -> None:
    """Do what an installation or undoing has written down, and note how it ended; one process at a time for a place."""
    take(journal, _carry_out, wait=PLACE_AWAITED_SECONDS)


def _carry_out(journal: Install, held: leases.Holding) -> None:
    journal.note(InstallState.WAITING, state=InstallState.STARTED)
    journal.state = InstallState.STARTED
    steps = [row.step for row in journal.steps.all()]
    planning = journal.planning
    known = planning.known_pages if planning else set()

    def news(host: Host) -> list[str]:
        return new_pages(host, known, wanted(planning.pages)) if planning else []

    try:
        carry_out(_opening(journal), steps, _contents(journal), _Journal(journal, held), news)
    except InstallRefused as refusal:
        _note_refusal(journal, refusal)
    else:
        with transaction.atomic():
            _end(journal, InstallState.DONE, "")
            if journal.undoes:
                _note_undone(journal.undoes)
            transaction.on_commit(lambda: site_changed.send_robust(Install, site=journal.site))


def _note_undone(done: Install) -> None:
    """What was installed is undone; of what was put back in part, the rest is."""
    done.steps.update(left=False)
    done.note(InstallState.DONE, state=InstallState.UNDONE)


def put_back_now(journal: Install, who: str, secret: Secret | None = None) -> None:
    """Have an installation put back that was interrupted, since somebody asks for it."""
    journal.refresh_from_db()
    if journal.is_over:
        raise InstallRefused("nothing-to-put-back", "This installation is finished; there is nothing to put back.")
    # At a stuck one nobody works any more: whoever is at its place, a plan say, is waited for.
    if journal.state != InstallState.STUCK and leases.is_held(*journal.lease):
        raise InstallRefused(
            "install-under-way", "This installation is being worked on. Wait until it has finished, or stop it."
        )
    place = place_then(journal)
    sealed = vault.seal(secret_of(journal.site, secret, place)) or journal.sealed
    journal.note(
        journal.state,
        state=InstallState.STARTED,
        sealed=sealed,
        trusted=place.trusted,
        asks_first=False,
        tries=0,
        again_at=None,
    )
    note(journal.site, who, DeedKind.PUT_BACK, f"Set {journal.build.number}")
    journal.refresh_from_db()
    journal.offer_putting_back()
    journal.refresh_from_db()


def put_back_interrupted(journal: Install) -> None:
    """Put back an installation whose worker is gone, if nobody is at it."""
    with suppress(leases.LeaseHeld), leases.holding(*journal.lease, wait=PLACE_AWAITED_SECONDS) as held:
        journal.refresh_from_db()
        if journal.state in (InstallState.STARTED, InstallState.STUCK) and not journal.asks_first:
            _put_back(journal, held)


def _put_back(journal: Install, held: leases.Holding) -> None:
    begun = [row.step for row in journal.steps.all()[: journal.begun]]
    told = "The installation was interrupted."
    try:
        if not begun:
            raise PutBack("put-back", f"{told} Nothing has been changed.")
        left = put_back(_opening(journal), begun, _contents(journal), _Journal(journal, held), told)
        raise PutBack("put-back", f"{told} {told_of(left)}", left)
    except InstallRefused as refusal:
        _note_refusal(journal, refusal)


def _note_refusal(journal: Install, refusal: InstallRefused) -> None:
    """Note how an installation ended that was not done."""
    if refusal.code == "put-back-incomplete":
        journal.note(journal.state, state=InstallState.STUCK, problem=refusal.sentence)
        journal.refresh_from_db()
        return
    with transaction.atomic():
        if isinstance(refusal, PutBack):
            journal.steps.filter(path__in=refusal.left).update(left=True)
        _end(journal, InstallState.PUT_BACK, refusal.sentence)


def _contents(journal: Install) -> Callable[[Step, bytes | None], bytes | None]:
    """What each step of an installation puts in place of what is there."""
    icons = icons_of(journal.build, journal.manifests)

    def contents(step: Step, now: bytes | None) -> bytes | None:
        if step.after is None:
            return None
        if not journal.undoes_id and step.kind is StepKind.EDIT and now is not None:
            return edit_head(now, icons, step.path).after
        return blobs.get(step.after.sha256)

    return contents


def _opening(journal: Install) -> Callable[[Callable[[], bool]], AbstractContextManager[CarefulHost]]:
    place = Place.parse(journal.place).trusting(journal.trusted)
    return lambda stop_asked: opened(place, vault.unseal(journal.sealed, place), reaching.patience(stop_asked))


def _end(journal: Install, state: InstallState, problem: str) -> None:
    """Note the end; a secret is not kept longer than it is needed."""
    journal.note(journal.state, state=state, problem=problem, sealed="")
    journal.refresh_from_db()
