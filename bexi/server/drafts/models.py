"""The drafts tables."""

from django.db import models

from bexi.core.framing.recipe import Recipe
from bexi.server.artwork.models import Artwork
from bexi.server.removal import Removable
from bexi.server.sites.models import Site


class Draft(Removable):
    """What is on a site's bench: an artwork and a recipe. A site may have several; one is `chosen` to be built.

    `revision` counts every change, undoing included; `position` is the number of the change that stands.
    `beside` are artworks that only some sizes take.
    """

    site = models.ForeignKey(Site, models.CASCADE, related_name="drafts")
    name = models.CharField(max_length=60, default="First draft")
    chosen = models.BooleanField(default=True)
    artwork = models.ForeignKey(Artwork, models.PROTECT, related_name="drafts")
    beside = models.ManyToManyField(Artwork, related_name="drafts_beside")
    recipe = models.JSONField()
    revision = models.PositiveIntegerField(default=0)
    position = models.PositiveIntegerField(default=0)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-chosen", "id"]  # so that the first is the chosen one
        constraints = [
            models.UniqueConstraint(
                fields=["site", "name"], condition=models.Q(removed=None), name="draft_name_for_each_site"
            )
        ]

    def __str__(self) -> str:
        return f"{self.site}: {self.artwork}"

    @property
    def read_recipe(self) -> Recipe:
        """The recipe as a value."""
        return Recipe.from_json(self.recipe)

    def sources(self) -> dict[str, list[object]]:
        """What the set is made from: hash and treatment of each artwork, by its key, the main one's being empty."""
        artworks = {"": self.artwork} | {str(artwork.pk): artwork for artwork in self.beside.all()}
        return {key: [artwork.sha256, artwork.treatment] for key, artwork in artworks.items()}


class DraftChange(models.Model):
    """One state of a draft, kept so that every change can be undone and done again."""

    draft = models.ForeignKey(Draft, models.CASCADE, related_name="changes")
    number = models.PositiveIntegerField()
    artwork = models.ForeignKey(Artwork, models.PROTECT, related_name="+")
    recipe = models.JSONField()

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["draft", "number"], name="number_for_each_change")]

    def __str__(self) -> str:
        return f"{self.draft}, change {self.number}"
