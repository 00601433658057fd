"""Under which licence an artwork may be used, and whether it asks for a credit line."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Licence:
    """A licence by its key (an SPDX identifier where there is one); `asks_credit` when its terms ask for a credit."""

    key: str
    name: str
    asks_credit: bool


LICENCES = {
    licence.key: licence
    for licence in (
        Licence("", "not known", asks_credit=False),
        Licence("own", "our own work", asks_credit=False),
        Licence("permission", "used by permission", asks_credit=False),
        Licence("CC0-1.0", "CC0 1.0, public domain", asks_credit=False),
        Licence("CC-BY-4.0", "CC BY 4.0", asks_credit=True),
        Licence("CC-BY-SA-4.0", "CC BY-SA 4.0", asks_credit=True),
        Licence("ISC", "ISC", asks_credit=True),
        Licence("MIT", "MIT", asks_credit=True),
        Licence("OFL-1.1", "SIL Open Font License 1.1", asks_credit=False),
    )
}


def credit_line(title: str, credit: str, licence: str) -> str:
    """The line that must travel with the icons; empty when the licence asks for none."""
    terms = LICENCES[licence]
    return f"{title}: {credit or 'author not noted'} ({terms.name})" if terms.asks_credit else ""
