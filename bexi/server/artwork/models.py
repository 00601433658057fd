"""The artwork table."""

from django.db import models

from bexi.core.artwork.treatment import Treatment


class Artwork(models.Model):
    """A picture taken in or drawn here. Its bytes lie in the blob store; the same bytes are one artwork.

    `treatment` says how the original is read, `drawing` how it was drawn when Bexi drew it. A removed one keeps
    its row, so that removing can be undone.
    """

    sha256 = models.CharField(max_length=64, unique=True)
    title = models.CharField(max_length=120)
    file_name = models.CharField(max_length=200)
    alt = models.CharField(max_length=200, blank=True)
    credit = models.CharField(max_length=300, blank=True)
    licence = models.CharField(max_length=40, blank=True)
    origin = models.CharField(max_length=500, blank=True)
    permission = models.BooleanField(default=False)
    treatment = models.JSONField(default=dict)
    drawing = models.JSONField(null=True)
    facts = models.JSONField()
    notes = models.JSONField(default=list)
    created = models.DateTimeField(auto_now_add=True)
    removed = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-created", "-id"]

    def __str__(self) -> str:
        return self.title

    @property
    def read_as(self) -> Treatment:
        """The treatment as a value."""
        return Treatment.from_json(self.treatment)
