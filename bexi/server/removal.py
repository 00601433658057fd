"""Rows that are removed and can be brought back: they keep their place, and are only seen when asked for."""

from typing import Any, ClassVar, Self

from django.db import models
from django.utils import timezone


class Present(models.Manager[Any]):
    """Those that are not removed."""

    def get_queryset(self) -> "models.QuerySet[Any]":
        """Without the removed ones."""
        return super().get_queryset().filter(removed=None)


class Removable(models.Model):
    """What can be removed, and brought back."""

    removed = models.DateTimeField(null=True)

    objects: ClassVar["models.Manager[Self]"] = Present()
    everything: ClassVar["models.Manager[Self]"] = models.Manager()

    class Meta:
        abstract = True

    def remove(self) -> None:
        """Have it seen no more."""
        self.removed = timezone.now()
        self.save(update_fields=["removed"])

    def restore(self) -> None:
        """Bring it back."""
        self.removed = None
        self.save(update_fields=["removed"])
