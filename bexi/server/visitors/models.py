"""The stand-in visitor's table: one simulated browser."""

from django.db import models


class StandInVisitor(models.Model):
    """A browser with its cache as plain data, its clock in seconds ahead of ours, and what it shows.

    The bytes lie in the blob store. `tabs` are the pages that are open, the latest first, each with what every kind
    shows of it; `home_screen` what was put on the phone.
    """

    browser = models.JSONField(null=True)
    ahead = models.FloatField(default=0)
    tabs = models.JSONField(default=list)
    home_screen = models.JSONField(default=list)
    changed = models.DateTimeField(auto_now=True)

    def __str__(self) -> str:
        return f"stand-in visitor, {self.ahead:.0f} s ahead"
