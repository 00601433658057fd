"""The sites table."""

from django.db import models


class Site(models.Model):
    """A website: its name, its address as visitors type it, and the folder it is served from."""

    name = models.CharField(max_length=80)
    address = models.URLField(max_length=300, blank=True)
    folder = models.CharField(max_length=500, blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name
