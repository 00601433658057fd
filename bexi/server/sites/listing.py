"""A list of sites as CSV, out and in."""

import csv
import io
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from bexi.core.errors import Refusal
from bexi.server import spreadsheet
from bexi.server.sites.models import Site

COLUMNS = ("name", "address", "place", "labels")
MOST_ROWS = 5000
_DELIMITERS = ",;\t"
_BETWEEN_LABELS = ","


class ListRefused(Refusal):
    """A file is no list of sites."""


@dataclass(frozen=True)
class ListedSite:
    """One line of a list; `line` counts from 1, the headings included."""

    line: int
    name: str
    address: str
    place: str
    labels: list[str]


def as_csv(sites: Iterable[Site]) -> str:
    """The sites, one on each line."""
    rows = ([site.name, site.address, site.place, f"{_BETWEEN_LABELS} ".join(site.labels)] for site in sites)
    return spreadsheet.table(COLUMNS, rows)


def read_csv(data: bytes) -> list[ListedSite]:
    """The rows of a list with headings, `name` at least, by commas, semicolons or tabs; raises ListRefused."""
    lines = io.StringIO(_text(data), newline="")
    first = lines.readline()
    delimiter = max(_DELIMITERS, key=first.count)
    headings = [heading.strip().lower() for heading in next(csv.reader([first], delimiter=delimiter), [])]
    unknown = [heading for heading in headings if heading and heading not in COLUMNS]
    if "name" not in headings or unknown:
        told = f"“{unknown[0]}” is none of them" if unknown else "there is no “name” among them"
        raise ListRefused(
            "no-list",
            f"The first line must name columns of {', '.join(COLUMNS)}: {told}. Change it, then try again.",
        )
    try:
        rows = list(_rows(csv.reader(lines, delimiter=delimiter), headings))
    except csv.Error as error:
        raise ListRefused("no-list", f"This list cannot be read ({error}). Save it as CSV.") from error
    if len(rows) > MOST_ROWS:
        raise ListRefused("list-too-long", f"A list may hold {MOST_ROWS} sites at most. Send it in parts.")
    return rows


def _rows(read: Iterator[list[str]], headings: list[str]) -> Iterator[ListedSite]:
    for line, cells in enumerate(read, 2):
        if not any(cell.strip() for cell in cells):
            continue
        told = {name: spreadsheet.read(cell.strip()) for name, cell in zip(headings, cells, strict=False)}
        labels = [label.strip() for label in told.get("labels", "").split(_BETWEEN_LABELS) if label.strip()]
        yield ListedSite(line, told.get("name", ""), told.get("address", ""), told.get("place", ""), labels)


def _text(data: bytes) -> str:
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace")  # what spreadsheets write without being asked
