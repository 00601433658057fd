"""The drafts table."""

from dataclasses import replace

from django.db import models

from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.recipe import Recipe
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
        now = (self.artwork.sha256, self.artwork.treatment, self.recipe)
        return now != (build.artwork_sha256, build.treatment, build.recipe)

    def refit(self, before: tuple[int, int], after: tuple[int, int]) -> None:
        """Keep the frame where it still fits, when the artwork's width and height changed.

        It grows along when only the scale changed; else it goes around the whole artwork.
        """
        if before == after:
            return
        recipe = Recipe.from_json(self.recipe)
        scale = after[0] / before[0]
        if abs(after[1] - before[1] * scale) <= 1:
            frame = Frame(*(round(length * scale) for length in (recipe.frame.x, recipe.frame.y, recipe.frame.side)))
        else:
            frame = whole_artwork(*after)
        self.recipe = replace(recipe, frame=frame).as_json()
        self.revision += 1
        self.save()
