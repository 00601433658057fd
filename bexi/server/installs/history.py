"""What was done to a site's place, by whom and when, as it is shown and exported."""

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from bexi.server.installs.models import Install
from bexi.server.sites.models import Site

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


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
    """The history as RFC 4180 has it, with a line of headings."""
    out = io.StringIO()
    rows = csv.writer(out)
    rows.writerow(["at", "who", "did", "told", "ended"])
    for entry in entries:
        words = [_plain(text) for text in (entry.who, entry.did, entry.told, entry.ended)]
        rows.writerow([entry.at.isoformat(timespec="seconds"), *words])
    return out.getvalue()


def _plain(text: str) -> str:
    """A text that a spreadsheet takes for no formula (OWASP, CSV injection)."""
    return f"'{text}" if text.startswith(_FORMULA) else text
