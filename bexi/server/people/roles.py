"""What somebody may do; each role holds the ones before it."""

from django.db import models


class Role(models.TextChoices):
    """The roles, the smallest first."""

    LOOKS = "looks", "Viewer"
    EDITS = "edits", "Editor"
    INSTALLS = "installs", "Publisher"
    ADMINISTERS = "administers", "Administrator"

    def holds(self, other: "Role") -> bool:
        """Whether who has this role may do what the other one is for."""
        order = list(Role)
        return order.index(self) >= order.index(other)
