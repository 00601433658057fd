"""The password or private key of one account: it says to which it belongs, and is given out for no other."""

from dataclasses import dataclass, field

from bexi.core.errors import HostRefused
from bexi.hosts.place import Place


@dataclass(frozen=True)
class Secret:
    """A secret and the account it belongs to, as `Place.account` tells it."""

    account: str
    text: str = field(repr=False)

    @classmethod
    def of(cls, place: Place, text: str) -> "Secret":
        """The secret of a place."""
        return cls(place.account, text)

    def reveal(self, place: Place) -> str:
        """The secret itself, to be sent to this place; raises HostRefused when it belongs to another account."""
        if self.account != place.account:
            raise HostRefused(
                "secret-of-another-place",
                f"This password belongs to another place than {place}, so it was not sent. "
                "Look at the site's place, then enter its password again.",
            )
        return self.text
