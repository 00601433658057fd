"""What somebody may do: each role is a set of permissions."""

from enum import Enum, auto

from django.db import models


class Permission(Enum):
    """One kind of thing that somebody may do."""

    SEE = auto()
    CHECK = auto()
    EDIT = auto()
    INSTALL = auto()
    ADMINISTER = auto()


class Role(models.TextChoices):
    """The roles, by the word that commands and the API have for each, and what it is called."""

    LOOKS = "looks", "Viewer"
    CHECKS = "checks", "Checker"
    EDITS = "edits", "Editor"
    INSTALLS = "installs", "Publisher"
    ADMINISTERS = "administers", "Administrator"

    def holds(self, other: "Role") -> bool:
        """Whether who has this role may do all that the other one is for."""
        return _MAY[self] >= _MAY[other]


_MAY: dict[Role, frozenset[Permission]] = {
    Role.LOOKS: frozenset({Permission.SEE}),
    Role.CHECKS: frozenset({Permission.SEE, Permission.CHECK}),
    Role.EDITS: frozenset({Permission.SEE, Permission.CHECK, Permission.EDIT}),
    Role.INSTALLS: frozenset({Permission.SEE, Permission.CHECK, Permission.EDIT, Permission.INSTALL}),
    Role.ADMINISTERS: frozenset(Permission),
}
