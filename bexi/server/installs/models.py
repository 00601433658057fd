"""The installs tables: the journal of what was put on a host."""

from django.db import models

from bexi.server.builds.models import Build
from bexi.server.sites.models import Site


class InstallState(models.TextChoices):
    """`started` is written before anything is touched; it stays when Bexi was killed on the way."""

    STARTED = "started"
    DONE = "done"
    PUT_BACK = "put-back"
    UNDONE = "undone"


class Install(models.Model):
    """One installation of a build on a site's host."""

    site = models.ForeignKey(Site, models.CASCADE, related_name="installs")
    build = models.ForeignKey(Build, models.PROTECT, related_name="installs")
    folder = models.CharField(max_length=500)
    state = models.CharField(max_length=10, choices=InstallState.choices, default=InstallState.STARTED)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.build} in {self.folder}"


class InstallStep(models.Model):
    """One file of an installation; null hashes mean the file was not there. The bytes lie in the blob store."""

    install = models.ForeignKey(Install, models.CASCADE, related_name="steps")
    position = models.PositiveIntegerField()
    kind = models.CharField(max_length=10)
    path = models.CharField(max_length=1000)
    before_sha256 = models.CharField(max_length=64, null=True)
    after_sha256 = models.CharField(max_length=64, null=True)

    class Meta:
        ordering = ["position"]

    def __str__(self) -> str:
        return f"{self.kind} {self.path}"
