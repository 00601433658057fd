"""The sites table."""

from django.db import models
from django.dispatch import Signal

account_changed = Signal()
"""A site now lives on another server, or is reached by another account there."""


class Site(models.Model):
    """A website: its name, its address as visitors type it, and the place it is served from, as `Place` reads it.

    `trusted` is the fingerprint of that place's server, once somebody has agreed to it.
    """

    name = models.CharField(max_length=80)
    address = models.URLField(max_length=300, blank=True)
    place = models.CharField(max_length=500, blank=True)
    trusted = models.CharField(max_length=120, blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name
