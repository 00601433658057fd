"""What was done to a site's place, by whom and when, as it is shown and exported."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from bexi.server import spreadsheet
from bexi.server.installs.models import Install
from bexi.server.sites.models import Site


@dataclass(frozen=True)
class Entry:
    """One line of the history; `ended` says how an installation or its undoing ended."""

    at: datetime
    who: str
    did: str
    told: str
    ended: str = ""


def history(site: Site) -> list[Entry]:
    """Installations, undoings and deeds of a site, the latest first."""
    deeds = [Entry(deed.at, deed.who, deed.get_kind_display(), deed.told) for deed in site.deeds.all()]
    installs = [_installed(install) for install in site.installs.select_related("build")]
    return sorted([*deeds, *installs], key=lambda entry: entry.at, reverse=True)


def _installed(install: Install) -> Entry:
    did = "took back" if install.undoes_id else "installed"
    told = f"set {install.build.number}, {install.place}"
    return Entry(install.created, install.who, did, told, install.get_state_display().lower())


def as_csv(entries: Iterable[Entry]) -> str:
    """The history, one entry on each line."""
    rows = ([one.at.isoformat(timespec="seconds"), one.who, one.did, one.told, one.ended] for one in entries)
    return spreadsheet.table(["at", "who", "did", "told", "ended"], rows)
