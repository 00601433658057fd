"""The installs tables: the journal of what was put on a host, and kept secrets."""

from datetime import timedelta

from django.db import models
from django.dispatch import Signal
from django.utils import timezone
from django.utils.module_loading import import_string

from bexi.installing.step import Content, Step, StepKind
from bexi.server.builds.models import Build
from bexi.server.machines.work import CountedWork, Work
from bexi.server.sites.models import Site

site_changed = Signal()
"""An installation on a site, or the undoing of one, has ended well, and what visitors get is another."""


class PlanningState(models.TextChoices):
    """How far the planning of an installation has come; the last three end it."""

    WAITING = "waiting"
    READING = "reading"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


class Planning(CountedWork):
    """The planning of an installation, done in the background, and the plan.

    `done` of `total` pages are read. `plan` is plain data, null until it is made; the bytes of the files it writes
    lie in the blob store. `sealed` is the secret of the place, sealed, while it is needed. With `rules` a rules file of
    the server program gets lines for the icons.
    """

    UNDER_WAY = PlanningState.WAITING, PlanningState.READING
    TASK = "bexi.server.installs.tasks.run_planning"

    site = models.ForeignKey(Site, models.CASCADE, related_name="plannings")
    build = models.ForeignKey(Build, models.CASCADE, related_name="plannings")
    place = models.CharField(max_length=500)
    trusted = models.CharField(max_length=120, blank=True)
    sealed = models.TextField(blank=True)
    pages = models.TextField()
    rules = models.BooleanField(default=False)
    state = models.CharField(max_length=10, choices=PlanningState.choices, default=PlanningState.WAITING)
    plan = models.JSONField(null=True)

    def __str__(self) -> str:
        return f"{self.build} in {self.place}: {self.state}"

    def stopped(self) -> None:
        """See Work; a secret is not kept longer than it is needed."""
        self.note(self.state, state=PlanningState.STOPPED, sealed="")

    def interrupted(self) -> None:
        """See Work."""
        told = "The planning was interrupted when Bexi ended. Nothing has been changed; plan again."
        self.note(PlanningState.READING, state=PlanningState.FAILED, problem=told, sealed="")

    @property
    def read_steps(self) -> list[Step]:
        """The steps of the plan as values."""
        return [Step.from_json(step) for step in self.plan["steps"]] if self.plan else []

    @property
    def read_leftovers(self) -> list[Step]:
        """Steps that are done when somebody wants them."""
        return [Step.from_json(step) for step in self.plan.get("leftovers", [])] if self.plan else []

    @property
    def manifests(self) -> list[str]:
        """The site's own manifests that take the icons; the one of pages that name none first."""
        return list(self.plan.get("manifests", [])) if self.plan else []

    @property
    def known_pages(self) -> set[str]:
        """The pages that the plan knows, those it leaves alone too."""
        left_alone = {page["path"] for page in self.plan["left_alone"]} if self.plan else set()
        return {step.path for step in self.read_steps} | left_alone


class InstallState(models.TextChoices):
    """`waiting` and `started` are under way; `stuck` could neither be finished nor put back yet."""

    WAITING = "waiting"
    STARTED = "started"
    STUCK = "stuck"
    DONE = "done"
    PUT_BACK = "put-back"
    UNDONE = "undone"


UNFINISHED = (InstallState.WAITING, InstallState.STARTED, InstallState.STUCK)


class Install(Work):
    """One installation of a build on a site's host, or the undoing of one.

    `sealed` is the secret of the place, sealed, while it is needed; `begun` counts the steps that were begun.
    `planning` is what it was planned by, until that is made anew; `manifests` are those that take the icons where
    they lie, the one of pages that name none first. One that was interrupted is put back by itself, at `again_at` once
    more when that did not work, unless it `asks_first`.
    """

    UNDER_WAY = UNFINISHED
    TASK = "bexi.server.installs.tasks.run_install"

    site = models.ForeignKey(Site, models.CASCADE, related_name="installs")
    planning = models.ForeignKey(Planning, models.SET_NULL, null=True, related_name="installs")
    build = models.ForeignKey(Build, models.PROTECT, related_name="installs")
    undoes = models.ForeignKey("self", models.CASCADE, null=True, related_name="undoings")
    place = models.CharField(max_length=500)
    trusted = models.CharField(max_length=120, blank=True)
    sealed = models.TextField(blank=True)
    who = models.CharField(max_length=160, blank=True)
    manifests = models.JSONField(default=list)
    state = models.CharField(max_length=10, choices=InstallState.choices, default=InstallState.WAITING)
    begun = models.PositiveIntegerField(default=0)
    asks_first = models.BooleanField(default=False)
    tries = models.PositiveIntegerField(default=0)
    again_at = models.DateTimeField(null=True)

    class Meta(Work.Meta):
        constraints = [
            models.UniqueConstraint(
                fields=["site"],
                condition=models.Q(state__in=["waiting", "started", "stuck"]),
                name="one_unfinished_install_for_each_site",
            ),
            models.UniqueConstraint(
                fields=["place"],
                condition=models.Q(state__in=["waiting", "started", "stuck"]),
                name="one_unfinished_install_for_each_place",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.build} in {self.place}"

    @property
    def lease(self) -> tuple[object, ...]:
        """See Work: one at a time for each place."""
        return "place", self.place

    def stopped(self) -> None:
        """See Work; what was begun is put back."""
        if self.state != InstallState.WAITING:
            self.interrupted()
            return
        self.note(
            InstallState.WAITING,
            state=InstallState.PUT_BACK,
            problem="You stopped it. Nothing has been changed.",
            sealed="",
        )

    def interrupted(self) -> None:
        """See Work: have it put back, later and later when that does not work, or when somebody asks for it."""
        now = timezone.now()
        if self.asks_first or (self.again_at and self.again_at > now):
            return
        if now - self.changed > _LONG_AGO:
            self.note(self.state, state=InstallState.STUCK, problem=LONG_AGO, asks_first=True)
        elif self.note(self.state, again_at=now + _pause(self.tries), tries=self.tries + 1):
            self.offer_putting_back()

    def offer_putting_back(self) -> None:
        """Have it put back in the background."""
        import_string("bexi.server.installs.tasks.run_put_back").enqueue(self.pk)


_LONG_AGO = timedelta(days=1)
LONG_AGO = (
    "It was interrupted long ago, or comes from a backup, so Bexi changes nothing on the site by itself. "
    "Look at the site, then put it back here."
)
_FIRST_PAUSE, _LONGEST_PAUSE = timedelta(seconds=30), timedelta(hours=1)


def _pause(tries: int) -> timedelta:
    """How long to wait before putting back is tried again: twice as long each time."""
    return min(_LONGEST_PAUSE, _FIRST_PAUSE * (1 << min(tries, 10)))


class InstallStep(models.Model):
    """One file of an installation; null hashes mean the file is not there.

    The hash of an edited page is empty until its turn comes. The bytes lie in the blob store. `left` when putting back
    left it as it was, since somebody had changed it.
    """

    install = models.ForeignKey(Install, models.CASCADE, related_name="steps")
    position = models.PositiveIntegerField()
    kind = models.CharField(max_length=10)
    path = models.CharField(max_length=1000)
    before_sha256 = models.CharField(max_length=64, null=True)
    before_size = models.PositiveBigIntegerField(default=0)
    after_sha256 = models.CharField(max_length=64, null=True)
    after_size = models.PositiveBigIntegerField(default=0)
    left = models.BooleanField(default=False)

    class Meta:
        ordering = ["position"]

    def __str__(self) -> str:
        return f"{self.kind} {self.path}"

    @classmethod
    def of(cls, install: Install, position: int, step: Step) -> "InstallStep":
        """The row of a step."""
        return cls(
            install=install,
            position=position,
            kind=step.kind,
            path=step.path,
            before_sha256=step.before.sha256 if step.before else None,
            before_size=step.before.size if step.before else 0,
            after_sha256=step.after.sha256 if step.after else None,
            after_size=step.after.size if step.after else 0,
        )

    @property
    def step(self) -> Step:
        """The step as a value."""
        before = None if self.before_sha256 is None else Content(self.before_sha256, self.before_size)
        after = None if self.after_sha256 is None else Content(self.after_sha256, self.after_size)
        return Step(StepKind(self.kind), self.path, before, after)


class Attempt(models.Model):
    """Somebody tried a password at an account; `account` as `Place.account` tells it."""

    account = models.CharField(max_length=500, db_index=True)
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"{self.account} at {self.at}"


class KeptSecret(models.Model):
    """The secret of a site's place, sealed with the key outside the database."""

    site = models.OneToOneField(Site, models.CASCADE, related_name="kept_secret")
    sealed = models.TextField()

    def __str__(self) -> str:
        return f"{self.site}: kept secret"
