"""The drafts table."""

from django.db import models

from bexi.server.artwork.models import Artwork
from bexi.server.builds.models import Build
from bexi.server.sites.models import Site


class Draft(models.Model):
    """What is on a site's bench: an artwork and a recipe. `revision` counts its changes."""

    site = models.ForeignKey(Site, models.CASCADE, related_name="drafts")
    artwork = models.ForeignKey(Artwork, models.PROTECT, related_name="drafts")
    recipe = models.JSONField()
    revision = models.PositiveIntegerField(default=1)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["site"], name="one_draft_for_each_site")]

    def __str__(self) -> str:
        return f"{self.site}: {self.artwork}"

    def differs_from(self, build: Build) -> bool:
        """Whether building this draft would give another set than this build."""
        return self.artwork_id != build.artwork_id or self.recipe != build.recipe
