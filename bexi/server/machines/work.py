"""Work in the background: what every kind of it records, how it is taken by one worker alone, and how it always ends.

A row is all there is to say about a piece of work; the line of tasks only brings it to a worker. So a row that is under
way with nobody at it is seen (`see_to`), and offered again or ended, wherever its worker died.
"""

from collections.abc import Callable
from contextlib import suppress
from datetime import timedelta
from typing import Any, ClassVar, Self, TypeVar

from django.db import models
from django.utils import timezone
from django.utils.module_loading import import_string
from django_tasks import TaskResultStatus, default_task_backend
from django_tasks.exceptions import TaskResultDoesNotExist

from bexi.server.machines import leases, worker

ELSEWHERE = "elsewhere"
"""The line of work on hosts, which has workers of its own: a slow server keeps no build waiting."""
_OFFERED_AGAIN_AFTER = timedelta(seconds=10)
"""A worker that has just taken something needs a moment to say so."""
WAITING = "waiting"


class Work(models.Model):
    """What is done by a worker while people look at something else. The state is each kind's own.

    `problem` is a sentence for the person; `changed` is when something was heard of the work last. `ticket` is its task
    in the line, `offered` when it was put there.
    """

    UNDER_WAY: ClassVar[tuple[str, ...]]
    """States in which something more will happen; "waiting" is one of them."""
    TASK: ClassVar[str]
    """The task that does it, by its dotted name; it takes the number of the row."""

    state: models.CharField[str, str]
    stop_asked = models.BooleanField(default=False)
    problem = models.TextField(blank=True)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    ticket = models.CharField(max_length=64, blank=True)
    offered = models.DateTimeField(null=True)

    objects: ClassVar["models.Manager[Self]"]

    class Meta:
        abstract = True
        ordering = ["-id"]

    @property
    def lease(self) -> tuple[object, ...]:
        """The name of the lease that whoever works on it holds."""
        return self._meta.label_lower, self.pk

    @property
    def is_over(self) -> bool:
        """Whether nothing more will happen by itself."""
        return self.state not in self.UNDER_WAY

    @property
    def is_lost(self) -> bool:
        """Whether it is under way with nobody to do it; as long as a worker is alive, it may wait for its turn."""
        return not self.is_over and timezone.now() - self.changed >= worker.GONE_AFTER and not worker.is_alive()

    @property
    def has_no_worker(self) -> bool:
        """Whether it waits for a worker, and none answers."""
        return self.state == WAITING and not worker.is_alive(worker.MISSED_AFTER)

    def offer(self) -> None:
        """Put it in line."""
        type(self).objects.filter(pk=self.pk).update(offered=timezone.now())
        task = import_string(self.TASK)
        ticket = task.enqueue(self.pk).id
        type(self).objects.filter(pk=self.pk).update(ticket=ticket)

    def ask_to_stop(self) -> None:
        """Have it end before its next step, or at once when nobody has begun it."""
        self.stop_asked = True
        self.save(update_fields=["stop_asked"])  # nothing else: the worker writes the rest
        with suppress(leases.LeaseHeld), leases.holding(*self.lease):
            self.refresh_from_db()
            if not self.is_over:
                self.stopped()

    def see_to(self) -> None:
        """See to it, if it is under way and nobody is at it: offer it again, or end it."""
        if self.is_over or leases.is_held(*self.lease):
            return
        if self.stop_asked:
            self.stopped()
        elif self.state != WAITING:
            self.interrupted()
        elif self._is_forgotten():
            self.offer()

    def stopped(self) -> None:
        """Note that it ended since somebody wanted that, with nobody at it."""
        self.note(self.state, state="stopped")

    def interrupted(self) -> None:
        """Note that whoever was at it is gone."""
        raise NotImplementedError

    def note(self, only_from: str, **changes: object) -> bool:
        """Change what is recorded, if its state is still this one; returns whether it was."""
        changes["changed"] = timezone.now()
        return type(self).objects.filter(pk=self.pk, **{"state": only_from}).update(**changes) == 1

    def _is_forgotten(self) -> bool:
        """Whether it waits without being in line any more."""
        return timezone.now() - (self.offered or self.created) > _OFFERED_AGAIN_AFTER and not _is_in_line(self.ticket)


class CountedWork(Work):
    """Work of which `done` of `total` parts are finished."""

    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)

    class Meta(Work.Meta):
        abstract = True


W = TypeVar("W", bound=Work)


def take(work: W, do: Callable[[W, leases.Holding], None], wait: float = 0) -> None:
    """Do some work, if it still waits and nobody else is at it; `wait` in seconds for others that are.

    Offered twice, it is done once; asked to stop meanwhile, it is not done at all.
    """
    with suppress(leases.LeaseHeld), leases.holding(*work.lease, wait=wait) as held:
        fresh = type(work).objects.filter(pk=work.pk).first()
        if fresh is None or fresh.state != WAITING:
            return
        if fresh.stop_asked:
            fresh.stopped()
        else:
            do(fresh, held)


def _is_in_line(ticket: str) -> bool:
    """Whether a task still waits for a worker."""
    if not ticket:
        return False
    try:
        result: Any = default_task_backend.get_result(ticket)
    except (TaskResultDoesNotExist, NotImplementedError, ValueError):
        return False
    return bool(result.status == TaskResultStatus.READY)
