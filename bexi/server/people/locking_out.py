"""Trying passwords: how many may be tried from one address, how many are looked at at once, and what is told of it."""

from collections.abc import Iterator
from contextlib import contextmanager

from axes.models import AccessAttempt
from django.conf import settings
from django.db.models import Sum
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from bexi.server import locks
from bexi.server.problems import Busy, problem

MOST_FROM_ONE_ADDRESS = 20
"""Wrong passwords within the time that an account is shut after too many."""
HASHED_AT_ONCE = 2
_AWAITED_SECONDS = 20.0


def locked_out(request: HttpRequest, *args: object, **kwargs: object) -> HttpResponse:
    """The answer while an account is shut to an address."""
    minutes = int(settings.AXES_COOLOFF_TIME.total_seconds() // 60)
    return problem(429, "too-many-tries", f"Too many wrong passwords. Wait {minutes} minutes, then try again.")


def refuse_too_many(request: HttpRequest) -> None:
    """Raise Busy when too many wrong passwords came from one address, whatever the names were."""
    since = timezone.now() - settings.AXES_COOLOFF_TIME
    tried = AccessAttempt.objects.filter(ip_address=address_of(request), attempt_time__gte=since)
    if (tried.aggregate(wrong=Sum("failures_since_start"))["wrong"] or 0) >= MOST_FROM_ONE_ADDRESS:
        minutes = int(settings.AXES_COOLOFF_TIME.total_seconds() // 60)
        raise Busy("too-many-tries", f"Too many wrong passwords came from your address. Wait {minutes} minutes.")


@contextmanager
def a_turn_to_hash() -> Iterator[None]:
    """Look at a password while the block runs: Argon2 takes memory and time, so few do at once on one machine."""
    try:
        with locks.one_of(HASHED_AT_ONCE, "hashing", wait=_AWAITED_SECONDS):
            yield
    except locks.Held as held:
        raise Busy("many-sign-in", "Too many people are signing in right now. Wait a little, then try again.") from held


def address_of(request: HttpRequest) -> str:
    """The address somebody asks from: behind a proxy of ours the last one it names, which it adds itself."""
    forwarded = request.headers.get("X-Forwarded-For", "")  # of others it was taken out
    return forwarded.rsplit(",", 1)[-1].strip() or request.META.get("REMOTE_ADDR", "")
