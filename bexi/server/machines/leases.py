"""Leases: one at a time works on something, on whichever machine.

A lease ends by itself when its holder was not heard of for `LASTS`, by clocks that agree to a few seconds; at once
when its holder was a process of this machine that is gone.
"""

import hashlib
import os
import secrets
import threading
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager, suppress
from dataclasses import dataclass
from datetime import timedelta

from django.db import DatabaseError, IntegrityError, connection, transaction
from django.utils import timezone

from bexi.server import locks
from bexi.server.machines.models import Lease

LASTS = timedelta(seconds=60)
_PUT_OFF_EVERY = 10.0
_ASKED_EVERY = 0.1
_PROCESS = "process"


class LeaseHeld(Exception):
    """Somebody else holds it."""


class Lost(Exception):
    """It ended before the work did; another may hold it by now."""


@dataclass(frozen=True)
class Holding:
    """A lease that is held."""

    name: str
    holder: str

    def put_off(self) -> None:
        """Have it last from now on; raises Lost when it is ours no more."""
        until = timezone.now() + LASTS
        if not Lease.objects.filter(name=self.name, holder=self.holder).update(until=until):
            raise Lost


@contextmanager
def holding(*what: object, wait: float = 0) -> Iterator[Holding]:
    """Hold a lease while the block runs, by the name that its parts make; raises LeaseHeld when it is taken.

    It is waited for so many seconds before.
    """
    held = Holding(_name(what), f"{_this_process()}/{secrets.token_hex(8)}")
    end = time.monotonic() + wait
    while not _take(held):
        if time.monotonic() >= end:
            raise LeaseHeld
        time.sleep(_ASKED_EVERY)
    over = threading.Event()
    threading.Thread(target=_keep, args=(held, over), daemon=True).start()
    try:
        yield held
    finally:
        over.set()
        with suppress(DatabaseError):  # then it ends by itself
            Lease.objects.filter(name=held.name, holder=held.holder).delete()


def is_held(*what: object) -> bool:
    """Whether somebody works on it."""
    lease = Lease.objects.filter(name=_name(what)).first()
    return lease is not None and not _is_free(lease)


def _take(held: Holding) -> bool:
    until = timezone.now() + LASTS
    lease = Lease.objects.filter(name=held.name).first()
    if lease is None:
        with suppress(IntegrityError), transaction.atomic():
            Lease.objects.create(name=held.name, holder=held.holder, until=until)
            return True
        return False
    same = Lease.objects.filter(pk=lease.pk, holder=lease.holder, until=lease.until)
    return _is_free(lease) and same.update(holder=held.holder, until=until) == 1


def _is_free(lease: Lease) -> bool:
    return lease.until <= timezone.now() or locks.is_left(_PROCESS, lease.holder.partition("/")[0])


def _keep(held: Holding, over: threading.Event) -> None:
    while not over.wait(_PUT_OFF_EVERY):
        try:
            held.put_off()
        except Lost:
            return
        except DatabaseError:  # a locked database passes
            continue
        finally:
            connection.close()


def _name(what: tuple[object, ...]) -> str:
    return hashlib.sha256("\n".join(map(str, what)).encode()).hexdigest()[:32]


_processes: dict[int, str] = {}
_until_the_end = ExitStack()


def _this_process() -> str:
    """The name of this process; a lock on it tells the others of this machine that it lives."""
    number = os.getpid()
    if number not in _processes:
        name = secrets.token_hex(16)
        _until_the_end.enter_context(locks.holding(_PROCESS, name))
        _processes[number] = name
    return _processes[number]
