"""What one tag in a head declares about the site's icons."""

import posixpath
from collections.abc import Mapping
from dataclasses import dataclass
from urllib.parse import unquote, urlsplit

HOME_SCREEN = ("apple-touch-icon", "apple-touch-icon-precomposed")
TILE_SETTINGS = "msapplication-config"
_LINKS = ("icon", *HOME_SCREEN, "mask-icon", "manifest")
_METAS = (
    *(TILE_SETTINGS, "msapplication-tileimage", "msapplication-square70x70logo", "msapplication-square150x150logo"),
    *("msapplication-wide310x150logo", "msapplication-square310x310logo"),
)


@dataclass(frozen=True)
class IconLink:
    """What a tag declares. `kind` is its rel without the historical "shortcut", or the name of a tile's meta."""

    kind: str
    href: str
    media_type: str = ""
    sizes: str = ""


def declared_by(element: str, attributes: Mapping[str, str]) -> IconLink | None:
    """What a link or meta element with these attributes declares, or None when that is not about icons."""
    if element == "meta":
        name = attributes.get("name", "").lower()
        return IconLink(name, attributes.get("content", "")) if name in _METAS else None
    words = attributes.get("rel", "").lower().split()
    kinds = [kind for kind in _LINKS if kind in words]
    if not kinds:
        return None
    media_type = attributes.get("type", "").strip().lower()
    return IconLink(kinds[0], attributes.get("href", ""), media_type, attributes.get("sizes", ""))


def located(folder: str, href: str) -> str:
    """Where an address leads from the top folder, seen from a folder there; the address itself on another host."""
    try:
        parts = urlsplit(href.strip())
    except ValueError:
        return href
    if parts.scheme or parts.netloc:
        return href if "://" in href else f"{parts.scheme or 'https'}://{href.lstrip('/')}"
    path = unquote(parts.path)
    return posixpath.normpath(posixpath.join("/", folder, path)).lstrip("/") if path else ""
