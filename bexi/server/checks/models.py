"""The checks table."""

from django.db import models

from bexi.server.sites.models import Site


class Check(models.Model):
    """What was found at a site's address at one time."""

    site = models.ForeignKey(Site, models.CASCADE, related_name="checks")
    findings = models.JSONField()
    problem_count = models.PositiveIntegerField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.site} at {self.created}"
