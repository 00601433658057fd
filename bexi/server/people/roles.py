"""What somebody may do; each role holds the ones before it."""

from django.db import models


class Role(models.TextChoices):
    """The roles, the smallest first."""

    LOOKS = "looks", "looks: sees sites, artwork, sets and checks"
    EDITS = "edits", "edits: adds sites and artwork, frames, builds and checks"
    INSTALLS = "installs", "installs: says where sites live, installs and takes back"
    ADMINISTERS = "administers", "administers: adds people and says what they may do"

    def holds(self, other: "Role") -> bool:
        """Whether who has this role may do what the other one is for."""
        order = list(Role)
        return order.index(self) >= order.index(other)
