"""The builds tables."""

from django.db import models

from bexi.server.artwork.models import Artwork
from bexi.server.sites.models import Site


class Build(models.Model):
    """A finished set of one site. Never changed after, so what the artwork was at that time is noted here."""

    site = models.ForeignKey(Site, models.CASCADE, related_name="builds")
    number = models.PositiveIntegerField()
    artwork = models.ForeignKey(Artwork, models.PROTECT, related_name="builds")
    sources = models.JSONField()
    credit = models.TextField(blank=True)
    recipe = models.JSONField()
    engine = models.CharField(max_length=20)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["site", "number"], name="build_number_for_each_site")]

    def __str__(self) -> str:
        return f"{self.site}, build {self.number}"


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
