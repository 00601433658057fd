"""The machines tables."""

from django.db import models


class Lease(models.Model):
    """Somebody works on something, named by a hash, until an end that they put off as long as they do."""

    name = models.CharField(max_length=32, unique=True)
    holder = models.CharField(max_length=80)
    until = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.name} until {self.until}"


class WorkerSeen(models.Model):
    """When a worker was heard of last."""

    name = models.CharField(max_length=120, unique=True)
    at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.name} at {self.at}"
