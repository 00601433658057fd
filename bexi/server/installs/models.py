"""The installs tables: the journal of what was put on a host, and kept secrets."""

from django.db import models

from bexi.installing.step import Content, Step, StepKind
from bexi.server.builds.models import Build
from bexi.server.sites.models import Site
from bexi.server.work import CountedWork, Work


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

    @property
    def read_steps(self) -> list[Step]:
        """The steps of the plan as values."""
        return [Step.from_json(step) for step in self.plan["steps"]] if self.plan else []

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


INTERRUPTED = (InstallState.STARTED, InstallState.STUCK)
UNFINISHED = (InstallState.WAITING, InstallState.STARTED, InstallState.STUCK)


class Install(Work):
    """One installation of a build on a site's host, or the undoing of one.

    `sealed` is the secret of the place, sealed, while it is needed; `begun` counts the steps that were begun.
    `planning` is what it was planned by, until that is made anew; `manifests` are those that take the icons where
    they lie, the one of pages that name none first.
    """

    UNDER_WAY = UNFINISHED

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


class InstallStep(models.Model):
    """One file of an installation; null hashes mean the file is not there.

    The hash of an edited page is empty until its turn comes. The bytes lie in the blob store.
    """

    install = models.ForeignKey(Install, models.CASCADE, related_name="steps")
    position = models.PositiveIntegerField()
    kind = models.CharField(max_length=10)
    path = models.CharField(max_length=1000)
    before_sha256 = models.CharField(max_length=64, null=True)
    before_size = models.PositiveBigIntegerField(default=0)
    after_sha256 = models.CharField(max_length=64, null=True)
    after_size = models.PositiveBigIntegerField(default=0)

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


class KeptSecret(models.Model):
    """The secret of a site's place, sealed with the key outside the database."""

    site = models.OneToOneField(Site, models.CASCADE, related_name="kept_secret")
    sealed = models.TextField()

    def __str__(self) -> str:
        return f"{self.site}: kept secret"
