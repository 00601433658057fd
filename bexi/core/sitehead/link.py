"""What one tag in a head declares about the site's icons."""

from collections.abc import Callable
from dataclasses import dataclass

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


def declared_by(element: str, get: Callable[[str], str]) -> IconLink | None:
    """What an element with these attributes declares, or None when that is not about icons."""
    if element == "link":
        words = get("rel").lower().split()
        kinds = [kind for kind in _LINKS if kind in words]
        return IconLink(kinds[0], get("href"), get("type").strip().lower(), get("sizes")) if kinds else None
    name = get("name").lower() if element == "meta" else ""
    return IconLink(name, get("content")) if name in _METAS else None
