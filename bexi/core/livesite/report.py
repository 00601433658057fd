"""A report of what a site serves as plain data, for programs and for keeping."""

from collections.abc import Iterator, Mapping, Sequence
from datetime import UTC, datetime
from typing import Any

from bexi.core.livesite.declared import Declared
from bexi.core.livesite.findings import Finding, SeenFile, SeenPage
from bexi.core.livesite.history import AGO, DAY, HOUR, WEEK, Past, certain_from, same, seen_by
from bexi.core.livesite.inspect import Report, sha256
from bexi.core.livesite.visitor import Reading, Shown

MOST_LEFT_TOLD = 100


def report_json(report: Report) -> dict[str, Any]:
    """The report: pages, files, findings and what was not looked at."""
    return {
        "address": report.address,
        "pages": [_page(page) for page in report.pages],
        "files": [_file(file) for file in report.files],
        "findings": [finding_json(finding) for finding in report.findings],
        "not_looked_at": {
            "pages": len(report.left),
            "files": report.files_left,
            "examples": list(report.left[:MOST_LEFT_TOLD]),
        },
    }


def _page(seen: SeenPage) -> dict[str, Any]:
    declared = seen.page.declared if seen.page else ()
    return {
        "address": seen.address,
        "asked": seen.page.asked if seen.page else seen.address,
        "title": seen.page.title if seen.page else "",
        "problem": seen.told,
        "declared": [_declared(one) for one in declared],
        "taken": {by: {"address": taken.address or None, "why": taken.why} for by, taken in (seen.taken or {}).items()},
    }


def _declared(one: Declared) -> dict[str, Any]:
    return {
        "kind": one.kind,
        "address": one.address or None,
        "type": one.link.media_type,
        "sizes": one.link.sizes,
        "media": one.media,
        "in_head": one.in_head,
    }


def _file(file: SeenFile) -> dict[str, Any]:
    served, icon = file.got.served, file.got.icon
    return {
        "address": file.address,
        "status": served.status,
        "problem": "" if served.status == 200 else served.told,
        "type": served.content_type,
        "is": str(icon) if icon else "",
        "bytes": len(served.body),
        "sha256": sha256(served.body) if served.status == 200 else None,
        "as_installed": file.as_installed,
        "fresh_seconds": file.fresh.seconds,
        "fresh_why": file.fresh.why,
    }


def finding_json(finding: Finding) -> dict[str, Any]:
    """One finding as plain data."""
    return {
        "what": finding.what,
        "wrong": finding.wrong,
        "where": list(finding.where),
        "evidence": finding.evidence,
        "why": finding.why,
        "remedy": finding.remedy,
        "action": finding.action.value,
    }


def shown_json(shown: Mapping[str, Shown], fresh: Mapping[str, Shown]) -> dict[str, Any]:
    """What each kind shows, beside what a fresh visitor sees: "new", "old", or "earlier" for bytes not known."""
    return {
        by: {
            "address": one.taken.address or None,
            "why": one.taken.why,
            "masked": one.taken.masked,
            "sha256": sha256(one.served.body) if one.served and one.served.known else None,
            "state": _state(one, fresh[by]),
        }
        for by, one in shown.items()
    }


def _state(one: Shown, fresh: Shown) -> str:
    if one.served is not None and not one.served.known:
        return "earlier"
    return "new" if same(one, fresh) else "old"


def visitors_json(past: Past, reading: Reading, now: float, files: Sequence[SeenFile]) -> dict[str, Any]:
    """What visitors see who came at different times, and from when on every browser shows the new icon.

    `certain_from` is null when nothing tells that anything was changed.
    """
    fresh = seen_by(past, reading, now, None)
    seen = {name: seen_by(past, reading, now, ago) if ago else fresh for name, ago in AGO.items()}
    changed = past.changed([file.address for file in files if file.got.served.status == 200])
    certain = certain_from(past, reading, changed) if changed is not None else None
    return {
        "seen": {name: shown_json(shown, fresh) for name, shown in seen.items()},
        "changed": moment(changed),
        "certain_from": moment(certain),
    }


CAME: Mapping[str, float | None] = {
    "never before": None,
    "ten minutes ago": 600,
    "an hour ago": HOUR,
    "six hours ago": 6 * HOUR,
    "a day ago": DAY,
    "three days ago": 3 * DAY,
    "a week ago": WEEK,
    "a month ago": 30 * DAY,
    "a year ago": 365 * DAY,
}
"""Stops on the time line: when a visitor came for the first time, in seconds before the check."""
RETURNS: Mapping[str, float] = {
    "now": 0,
    "in an hour": HOUR,
    "in a day": DAY,
    "in three days": 3 * DAY,
    "in a week": WEEK + 60,
    "in a month": 30 * DAY,
    "in a year": 365 * DAY + 60,
}
"""And when that visitor comes back, in seconds after the check; a minute more, so that what is kept so long is over."""


def time_line_json(past: Past, reading: Reading, now: float) -> tuple[dict[str, Any], list[Mapping[str, Shown]]]:
    """What whoever came at each of CAME sees on coming back at each of RETURNS, and the same as values.

    `seen[came][returns]` is a number into `distinct`, since most are alike.
    """
    fresh = seen_by(past, reading, now, None)
    shown = [
        [seen_by(past, reading, now + later, None if ago is None else ago + later) for later in RETURNS.values()]
        for ago in CAME.values()
    ]
    told = [[shown_json(one, fresh) for one in row] for row in shown]
    distinct: list[dict[str, Any]] = []
    for one in (one for row in told for one in row):
        if one not in distinct:
            distinct.append(one)
    seen = [[distinct.index(one) for one in row] for row in told]
    line = {"came": list(CAME), "returns": list(RETURNS), "seen": seen, "distinct": distinct}
    return line, [one for row in shown for one in row]


def moment(seconds: float | None) -> str | None:
    """A moment as RFC 3339 says it, in UTC; None for none."""
    return None if seconds is None else datetime.fromtimestamp(seconds, UTC).isoformat(timespec="seconds")


def every_body(report: Report, seen: Sequence[Mapping[str, Shown]]) -> Iterator[bytes]:
    """The bytes of all pictures that the report speaks of."""
    yield from (file.got.served.body for file in report.files if file.got.icon is not None)
    for shown in seen:
        yield from (one.served.body for one in shown.values() if one.served and one.served.known)
