"""How long a browser goes on using an answer without asking again (RFC 9111, for a private cache)."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC
from email.utils import parsedate_to_datetime

_DIRECTIVE = re.compile(r"""([\w-]+)(?:\s*=\s*(?:"([^"]*)"|([^\s,]+)))?""")
_HEURISTIC = 10
"""Of the time since the last change, one part in so many (RFC 9111 §4.2.2)."""
_DELTA = re.compile(r"\d+", re.ASCII)
FOREVER = 2.0**31
"""In seconds; a larger max-age counts as this (RFC 9111 §1.2.2)."""


@dataclass(frozen=True)
class Freshness:
    """For how many seconds an answer is fresh, counted from the moment it arrived.

    `why` is the rule in a few words. `kept` is False when it must not be stored, `asks_cheaply` True when a validator
    lets the browser ask whether it changed.
    """

    seconds: float
    why: str
    kept: bool = True
    asks_cheaply: bool = False


def freshness(status: int, headers: Mapping[str, str], received: float) -> Freshness:
    """The freshness of an answer that arrived at `received`, in seconds since 1970.

    `headers` have names in lower case. What cannot be read makes an answer stale (RFC 9111 §4.2.1).
    """
    said = _directives(headers.get("cache-control", ""))
    cheap = "etag" in headers or _moment(headers, "last-modified") is not None
    if "no-store" in said:
        return Freshness(0, "no-store: it is never kept", kept=False, asks_cheaply=cheap)
    if "no-cache" in said or ("cache-control" not in headers and "no-cache" in headers.get("pragma", "").lower()):
        return Freshness(0, "no-cache: the browser asks each time", asks_cheaply=cheap)
    if headers.get("vary", "").strip() == "*":
        return Freshness(0, "Vary: * lets it be used for nothing else", asks_cheaply=cheap)
    lifetime, why = _lifetime(status, headers, said, received)
    left = max(0.0, lifetime - _age(headers, received))
    return Freshness(left, why, asks_cheaply=cheap)


def _lifetime(status: int, headers: Mapping[str, str], said: Mapping[str, str], received: float) -> tuple[float, str]:
    if "max-age" in said:
        seconds = _delta(said["max-age"])
        immutable = ", immutable: not even a reload asks" if "immutable" in said else ""
        return seconds, f"max-age={said['max-age']}{immutable}"
    date = _moment(headers, "date")
    date = received if date is None else date
    if "expires" in headers:
        expires = _moment(headers, "expires")
        return (0, "an Expires that cannot be read") if expires is None else (max(0, expires - date), "Expires")
    changed = _moment(headers, "last-modified")
    if changed is not None and status in _HEURISTICALLY:
        return max(0, date - changed) / _HEURISTIC, "nothing said, so a tenth of the time since its last change"
    return 0, "nothing said, so the browser asks each time"


_HEURISTICALLY = (200, 203, 204, 206, 300, 301, 308, 404, 405, 410, 414, 501)
"""Statuses whose answers may be kept by heuristics (RFC 9110 §15.1)."""


def _age(headers: Mapping[str, str], received: float) -> float:
    """How old the answer was when it arrived (RFC 9111 §4.2.3, without the time on the line)."""
    date = _moment(headers, "date")
    apparent = 0.0 if date is None else max(0.0, received - date)
    return max(apparent, _delta(headers.get("age", "0")))


def _directives(value: str) -> dict[str, str]:
    """Of two of one name the first counts (RFC 9111 §4.2.1)."""
    found: dict[str, str] = {}
    for match in _DIRECTIVE.finditer(value):
        found.setdefault(match[1].lower(), match[2] if match[2] is not None else match[3] or "")
    return found


def _delta(text: str) -> float:
    """Seconds; 0 for what is no number of them."""
    return min(float(text), FOREVER) if _DELTA.fullmatch(text.strip()) else 0.0


def _moment(headers: Mapping[str, str], name: str) -> float | None:
    """A date in seconds since 1970 (RFC 9110 §5.6.7); None when there is none, or it cannot be read."""
    try:
        moment = parsedate_to_datetime(headers[name])
        return (moment if moment.tzinfo else moment.replace(tzinfo=UTC)).timestamp()  # always GMT
    except (KeyError, TypeError, ValueError, OverflowError):
        return None


def changed_at(headers: Mapping[str, str]) -> float | None:
    """When the server says the file was changed last."""
    return _moment(headers, "last-modified")
