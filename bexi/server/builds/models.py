"""The builds tables."""

from django.db import models

from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.fit import FieldFormat, FieldGround, Requirement
from bexi.core.iconset.plan import RECOMMENDED, Plan
from bexi.core.judging.readings import Verdict
from bexi.server.artwork.models import Artwork
from bexi.server.drafts.models import Draft
from bexi.server.machines.work import CountedWork
from bexi.server.removal import Removable
from bexi.server.sites.models import Site


class SitePlan(models.Model):
    """The set plan of a site; a site without one takes the recommended plan."""

    site = models.OneToOneField(Site, models.CASCADE, related_name="set_plan")
    plan = models.JSONField()

    def __str__(self) -> str:
        return f"{self.site}: set plan"


def plan_of(site: Site) -> Plan:
    """The set plan of a site."""
    return Plan.from_json(site.set_plan.plan) if hasattr(site, "set_plan") else RECOMMENDED


def recommended_plan() -> dict[str, object]:
    """What a build takes that was ordered without a plan."""
    return RECOMMENDED.as_json()


class Order(models.Model):
    """An order, frozen. `sources` are hash and treatment of each artwork by its key, the main one's empty."""

    artwork = models.ForeignKey(Artwork, models.PROTECT, related_name="%(class)ss")
    sources = models.JSONField()
    credit = models.TextField(blank=True)
    recipe = models.JSONField()
    plan = models.JSONField(default=recommended_plan)

    class Meta:
        abstract = True

    @property
    def read_recipe(self) -> Recipe:
        """The recipe as a value."""
        return Recipe.from_json(self.recipe)

    @property
    def read_plan(self) -> Plan:
        """The plan as a value."""
        return Plan.from_json(self.plan)


class Build(Order, Removable):
    """A finished set of one site. Never changed after but to be removed, so what the artwork was then is noted here.

    `colour` is the mark's main colour; `left_out` are names and reasons; `verdicts` what a person will see of each
    picture, as `JudgedIcon` tells it.
    """

    site = models.ForeignKey(Site, models.CASCADE, related_name="builds")
    site_name = models.CharField(max_length=80, default="")
    number = models.PositiveIntegerField()
    engine = models.CharField(max_length=20)
    colour = models.CharField(max_length=7, default="#000000")
    left_out = models.JSONField(default=list)
    verdicts = models.JSONField(default=list)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["site", "number"], name="build_number_for_each_site")]

    def __str__(self) -> str:
        return f"{self.site}, build {self.number}"

    @property
    def not_well(self) -> str:
        """What is not well, in one line; empty when all is, and for builds that were not judged."""
        sizes: dict[str, list[str]] = {}
        for one in self.verdicts:
            if one["verdict"] != Verdict.WELL and str(one["size"]) not in sizes.setdefault(one["says"], []):
                sizes[one["says"]].append(str(one["size"]))
        return "; ".join(f"{', '.join(at)} px {says}" for says, at in sizes.items())

    def differs_from(self, draft: Draft) -> bool:
        """Whether building a draft of the same site would give another set."""
        made = (self.sources, self.read_recipe, self.read_plan)
        return made != (draft.sources(), draft.read_recipe, plan_of(self.site))


class BuildFile(models.Model):
    """One file of a build; its bytes lie in the blob store."""

    build = models.ForeignKey(Build, models.CASCADE, related_name="files")
    position = models.PositiveIntegerField()
    name = models.CharField(max_length=120)
    sha256 = models.CharField(max_length=64)
    size = models.PositiveIntegerField()

    class Meta:
        ordering = ["position"]

    def __str__(self) -> str:
        return self.name


class RunState(models.TextChoices):
    """How far a run has come; the last three end it."""

    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


class BuildRun(Order, CountedWork):
    """The work on one build, done in the background. `done` of `total` files are finished, `current` is the last."""

    UNDER_WAY = RunState.WAITING, RunState.RUNNING
    TASK = "bexi.server.builds.tasks.run_build"

    site = models.ForeignKey(Site, models.CASCADE, related_name="build_runs")
    state = models.CharField(max_length=10, choices=RunState.choices, default=RunState.WAITING)
    current = models.CharField(max_length=120, blank=True)
    build = models.OneToOneField(Build, models.CASCADE, null=True, related_name="run")

    class Meta(CountedWork.Meta):
        pass

    def __str__(self) -> str:
        return f"{self.site}: {self.state}"

    def interrupted(self) -> None:
        """See Work."""
        told = "The build was interrupted when Bexi ended. Build again."
        self.note(RunState.RUNNING, state=RunState.FAILED, problem=told)


class KeptRequirement(models.Model):
    """What an upload field asks for, under a name, for all sites."""

    name = models.CharField(max_length=60, unique=True)
    format = models.CharField(max_length=8, choices=[(one.value, one.value) for one in FieldFormat])
    size = models.PositiveIntegerField()
    at_least = models.BooleanField(default=False)
    most_kb = models.FloatField(null=True)
    ground = models.CharField(max_length=8, choices=[(one.value, one.value) for one in FieldGround])

    class Meta:
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name

    @property
    def requirement(self) -> Requirement:
        """The requirement as a value."""
        return Requirement(FieldFormat(self.format), self.size, self.at_least, self.most_kb, FieldGround(self.ground))
