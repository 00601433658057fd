"""The sites table."""

from typing import Any, ClassVar

from django.db import models
from django.dispatch import Signal

from bexi.server.removal import Present, Removable

account_changed = Signal()
"""A site now lives on another server, or is reached by another account there; `who` changed that."""


class WithoutServer(models.TextChoices):
    """How files get to a site whose place Bexi cannot reach."""

    NO = "", "Bexi reaches it"
    ZIP = "zip", "as a ZIP of the site"
    HAND = "hand", "by hand"


class Named(Present):
    """Those that somebody has named or given an address: websites, not beginnings."""

    def get_queryset(self) -> "models.QuerySet[Any]":
        """Without the removed ones and the beginnings."""
        return super().get_queryset().filter(is_beginning=False)


class Site(Removable):
    """A website: its name, its address as visitors type it, and the place it is served from, as `Place` reads it.

    `trusted` is the fingerprint of that place's server, once somebody has agreed to it. `labels` are one's own words.
    `without_server` says how files get there where no place can be reached: as a ZIP of the site, or by hand.
    A beginning has no website yet: it is what was made of a picture, kept until it is put on one.
    `asked_by` is the key of the request that added it: asked again, the same request adds no second site.
    """

    name = models.CharField(max_length=80)
    address = models.URLField(max_length=300, blank=True)
    place = models.CharField(max_length=500, blank=True)
    without_server = models.CharField(max_length=8, blank=True, choices=WithoutServer.choices)
    trusted = models.CharField(max_length=120, blank=True)
    labels = models.JSONField(default=list)
    is_beginning = models.BooleanField(default=False)
    created = models.DateTimeField(auto_now_add=True)
    asked_by = models.CharField(max_length=64, null=True, unique=True, editable=False)

    named: ClassVar["models.Manager[Site]"] = Named()

    class Meta:
        default_manager_name = "objects"
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name


class DeedKind(models.TextChoices):
    """What somebody did that others may ask about later, beside installing and taking back."""

    PLACED = "placed", "changed the place"
    TRUSTED = "trusted", "agreed to the server's key"
    SECRET_KEPT = "secret-kept", "kept a secret"
    SECRET_FORGOTTEN = "secret-forgotten", "forgot the secret"
    STOPPED = "stopped", "asked to stop"
    PUT_BACK = "put-back", "put back"
    REMOVED = "removed", "removed the site"
    RESTORED = "restored", "brought the site back"


class Deed(models.Model):
    """What somebody did to a site's place, when, and what more there is to say; never changed after."""

    site = models.ForeignKey(Site, models.CASCADE, related_name="deeds")
    kind = models.CharField(max_length=20, choices=DeedKind.choices)
    who = models.CharField(max_length=160, blank=True)
    told = models.TextField(blank=True)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.site}: {self.who} {self.get_kind_display()}"
