"""A visitor's browser as plain data, so that it can be kept between visits."""

from collections.abc import Callable, Mapping
from typing import Any

from bexi.core.livesite.served import Served
from bexi.core.livesite.taking import Taken
from bexi.core.livesite.visitor import Reading, Shown, Visitor

VERSION = 1
Keep = Callable[[bytes], str]
"""Keeps bytes and gives the name by which they are found again."""
Found = Callable[[str], bytes]


def visitor_json(visitor: Visitor, keep: Keep) -> dict[str, Any]:
    """The browser as plain data; the bytes of answers are kept apart, by name."""
    return {
        "version": VERSION,
        "cache": {url: _served(served, keep) for url, served in visitor.cache.items()},
        "icons": {url: _served(served, keep) for url, served in visitor.icons.items()},
        "devices": [
            [kind, address, shown_json(shown, keep), at] for (kind, address), (shown, at) in visitor.devices.items()
        ],
    }


def visitor_from(data: Mapping[str, Any], reading: Reading, found: Found) -> Visitor:
    """The browser again; raises ValueError for what is none of this version."""
    if data.get("version") != VERSION:
        raise ValueError(f"This is not a visitor of version {VERSION}.")
    try:
        return Visitor(
            reading,
            {url: _served_from(one, found) for url, one in data["cache"].items()},
            {url: _served_from(one, found) for url, one in data["icons"].items()},
            {(kind, url): (shown_from(one, found), float(at)) for kind, url, one, at in data["devices"]},
        )
    except (KeyError, TypeError, AttributeError) as error:
        raise ValueError(f"This visitor lacks something or has it wrong: {error}.") from error


def shown_json(shown: Shown, keep: Keep) -> dict[str, Any]:
    """What one kind shows."""
    taken = shown.taken
    served = _served(shown.served, keep) if shown.served else None
    return {"by": taken.by, "address": taken.address, "why": taken.why, "masked": taken.masked, "served": served}


def shown_from(data: Mapping[str, Any], found: Found) -> Shown:
    """The same again."""
    taken = Taken(str(data["by"]), str(data["address"]), str(data["why"]), masked=bool(data["masked"]))
    return Shown(taken, _served_from(data["served"], found) if data["served"] else None)


def _served(served: Served, keep: Keep) -> dict[str, Any]:
    return {
        "url": served.url,
        "status": served.status,
        "headers": dict(served.headers),
        "body": keep(served.body),
        "moved": list(served.moved),
        "at": served.at,
    }


def _served_from(data: Mapping[str, Any], found: Found) -> Served:
    return Served(
        str(data["url"]),
        int(data["status"]),
        {str(name): str(value) for name, value in data["headers"].items()},
        found(str(data["body"])),
        moved=tuple(map(str, data["moved"])),
        at=float(data["at"]),
    )
