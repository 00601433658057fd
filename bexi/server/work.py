"""Work in the background: what every kind of it records, and when it counts as lost."""

from typing import ClassVar

from django.db import models
from django.utils import timezone

from bexi.server.machines import worker


class Work(models.Model):
    """What is done by the worker while people look at something else. The state is each kind's own.

    `problem` is a sentence for the person; `changed` is when something was heard of the work last.
    """

    UNDER_WAY: ClassVar[tuple[str, ...]]
    """States in which something more will happen."""

    state: models.CharField[str, str]
    stop_asked = models.BooleanField(default=False)
    problem = models.TextField(blank=True)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        abstract = True
        ordering = ["-id"]

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
        return self.state == "waiting" and not worker.is_alive(worker.MISSED_AFTER)

    def ask_to_stop(self) -> None:
        """Have it end before its next step."""
        self.stop_asked = True
        self.save(update_fields=["stop_asked"])  # nothing else: the worker writes the rest


class CountedWork(Work):
    """Work of which `done` of `total` parts are finished."""

    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)

    class Meta(Work.Meta):
        abstract = True
