"""The artwork table."""

from django.db import models


class Artwork(models.Model):
    """A picture taken in. Its bytes lie in the blob store; the same bytes are one artwork."""

    sha256 = models.CharField(max_length=64, unique=True)
    title = models.CharField(max_length=120)
    file_name = models.CharField(max_length=200)
    facts = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created", "-id"]

    def __str__(self) -> str:
        return self.title
