"""The checks tables: what was found at a site at one time, and which sites are looked at by themselves."""

from django.db import models

from bexi.server.machines.work import CountedWork
from bexi.server.sites.models import Site


class CheckState(models.TextChoices):
    """How far a check has come; the last three end it."""

    WAITING = "waiting"
    LOOKING = "looking"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


class Check(CountedWork):
    """What was found at a site's address at one time, looked for in the background.

    `done` of `total` pages are looked at. `report` is plain data, null until it is made; the bytes of the pictures it
    speaks of lie in the blob store under the names in `pictures`. `icon` is that of the tab as most visitors see it,
    empty for none. `news` are sentences on what is worse than at the check before.
    """

    UNDER_WAY = CheckState.WAITING, CheckState.LOOKING
    TASK = "bexi.server.checks.tasks.run_check"

    site = models.ForeignKey(Site, models.CASCADE, related_name="checks")
    state = models.CharField(max_length=10, choices=CheckState.choices, default=CheckState.WAITING)
    report = models.JSONField(null=True)
    pictures = models.JSONField(default=list)
    problem_count = models.PositiveIntegerField(default=0)
    icon = models.CharField(max_length=64, blank=True)
    news = models.JSONField(default=list)

    def __str__(self) -> str:
        return f"{self.site} at {self.created}"

    def interrupted(self) -> None:
        """See Work."""
        told = "The check was interrupted when Bexi ended. Check again."
        self.note(CheckState.LOOKING, state=CheckState.FAILED, problem=told)


class Every(models.TextChoices):
    """How often a site is looked at by itself."""

    DAY = "day"
    WEEK = "week"


class Watch(models.Model):
    """A site is checked by itself, and a change for the worse is told to these, if any."""

    site = models.OneToOneField(Site, models.CASCADE, related_name="watch")
    every = models.CharField(max_length=5, choices=Every.choices)
    webhook = models.URLField(max_length=500, blank=True)
    mail = models.EmailField(blank=True)
    troubled = models.TextField(blank=True)

    def __str__(self) -> str:
        return f"{self.site}, every {self.every}"
