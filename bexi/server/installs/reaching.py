"""Reaching places from a web process: a few at once, one at a time for each account, and never too often."""

import math
import os
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from threading import BoundedSemaphore

from django.utils import timezone

from bexi.core.errors import HostRefused
from bexi.hosts.careful import CarefulHost
from bexi.hosts.opening import opened
from bexi.hosts.patience import FOR_A_LOOK, FOR_WORK, Patience
from bexi.hosts.place import Place, UnknownServer
from bexi.hosts.secret import Secret
from bexi.server.installs.models import Attempt
from bexi.server.machines import leases
from bexi.server.problems import Busy

_AT_ONCE = BoundedSemaphore(5)
"""So many threads of a web process may wait for places; the others answer whoever asks for something else."""
_AWAITED_SECONDS = 20
MOST_ATTEMPTS = 5
WITHIN = timedelta(minutes=1)
_KILLED = 70


def patience(stop_asked: Callable[[], bool]) -> Patience:
    """The patience of work in the background, whose process ends when nothing else ends it."""
    return Patience(FOR_WORK.whole, FOR_WORK.step, stop_asked, hung=lambda: os._exit(_KILLED))


@contextmanager
def looking(place: Place, secret: Secret, whole: float = FOR_A_LOOK.whole) -> Iterator[CarefulHost]:
    """A host on this place, for a look while a person waits; raises Busy when too many others are being looked at."""
    with _a_turn(place, _AWAITED_SECONDS):
        _refuse_too_often(place)
        try:
            with opened(place, secret, Patience(whole, FOR_A_LOOK.step)) as host:
                yield host
        except HostRefused as refusal:
            if refusal.code == "wrong-secret":
                _note_attempt(place)
            raise


@contextmanager
def attempting(place: Place) -> Iterator[None]:
    """Somebody tries a password at this place while the block runs; raises Busy when that is done too often."""
    with _a_turn(place, 0):
        _refuse_too_often(place)
        try:
            yield
        except UnknownServer:  # which got no password
            raise
        except BaseException:
            _note_attempt(place)
            raise
        _note_attempt(place)


def count_attempt(place: Place) -> None:
    """Count one attempt more, made in the background; raises Busy when there are too many."""
    _refuse_too_often(place)
    _note_attempt(place)


@contextmanager
def _a_turn(place: Place, wait: float) -> Iterator[None]:
    if not place.is_remote:
        yield
        return
    if not _AT_ONCE.acquire(blocking=False):
        raise Busy("many-places", "Bexi is waiting for several other servers. Wait a moment, then try again.")
    try:
        with leases.holding("account", place.account, wait=wait):
            yield
    except leases.LeaseHeld as held:
        raise Busy("attempt-under-way", f"Bexi is already connecting to {place.host}. Wait for its answer.") from held
    finally:
        _AT_ONCE.release()


def _refuse_too_often(place: Place) -> None:
    since = timezone.now() - WITHIN
    Attempt.objects.filter(at__lt=since).delete()
    recent = list(Attempt.objects.filter(account=place.account).order_by("-at")[:MOST_ATTEMPTS])
    if place.is_remote and len(recent) == MOST_ATTEMPTS:
        seconds = math.ceil((recent[-1].at - since).total_seconds())
        raise Busy(
            "too-many-attempts",
            f"{MOST_ATTEMPTS} attempts were made at {place.host} within a minute; many servers block "
            f"further ones. Try again in {max(1, seconds)} seconds.",
        )


def _note_attempt(place: Place) -> None:
    if place.is_remote:
        Attempt.objects.create(account=place.account)
