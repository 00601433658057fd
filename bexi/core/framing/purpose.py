"""What an icon is for, as far as that changes its picture."""

from enum import StrEnum


class Purpose(StrEnum):
    """Where an icon will be seen.

    `masked` and `one-colour` are the purposes `maskable` and `monochrome` of the W3C Web Application Manifest.
    """

    TAB = "tab"
    HOME = "home"
    MASKED = "masked"
    ONE_COLOUR = "one-colour"

    @property
    def opaque(self) -> bool:
        """Whether nothing may show through: home screens fill clear parts with black."""
        return self in (Purpose.HOME, Purpose.MASKED)
