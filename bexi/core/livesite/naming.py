"""What a site is called, from what it says of itself."""

import json
import re
from urllib.parse import urlsplit

from bexi.core.livesite.page import Page

LONGEST = 80
_BETWEEN = re.compile(r"\s+[|·•–—:-]\s+|\s*[|·•]\s*")


def site_name(page: Page, manifest: bytes = b"") -> str:
    """By its manifest (W3C Web Application Manifest: name, short_name), its title, else its address; never empty.

    Of a title in parts, like "Timetable | Merrowmouth Ferry", the part that is like the host, else the first.
    """
    host = (urlsplit(page.address).hostname or "site").removeprefix("www.")
    return (_of_manifest(manifest) or _of_title(page.title, host) or host)[:LONGEST]


def _of_manifest(manifest: bytes) -> str:
    try:
        told = json.loads(manifest) if manifest else {}
    except (ValueError, RecursionError):
        return ""
    if not isinstance(told, dict):
        return ""
    names = (told.get("name"), told.get("short_name"))
    return next((" ".join(name.split()) for name in names if isinstance(name, str) and name.strip()), "")


def _of_title(title: str, host: str) -> str:
    parts = [part.strip() for part in _BETWEEN.split(title) if part.strip()]
    first = _letters(host.partition(".")[0])
    alike = [part for part in parts if _is_alike(_letters(part), first)]
    return (alike or parts or [""])[0]


def _is_alike(one: str, other: str) -> bool:
    return bool(one and other) and (one in other or other in one)


def _letters(text: str) -> str:
    return "".join(character for character in text.lower() if character.isalnum())
