"""Cells of tables that go to spreadsheets and come from them (RFC 4180)."""

import csv
import io
from collections.abc import Iterable, Sequence

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def table(headings: Sequence[str], rows: Iterable[Sequence[str]]) -> str:
    """Rows as CSV under a line of headings; no cell is taken for a formula (OWASP, CSV injection)."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(headings)
    writer.writerows([_plain(cell) for cell in row] for row in rows)
    return out.getvalue()


def _plain(cell: str) -> str:
    return f"'{cell}" if cell.startswith(_FORMULA) else cell


def read(cell: str) -> str:
    """A cell as it was before it was kept from being a formula."""
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(_FORMULA) else cell
