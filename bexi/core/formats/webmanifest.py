"""The web app manifest (W3C Web Application Manifest): new, or merged into the one a site has."""

import json
from collections.abc import Sequence
from dataclasses import dataclass

MEDIA_TYPE = "application/manifest+json"


@dataclass(frozen=True)
class ManifestIcon:
    """One member of `icons`: address, side in px, media type, purpose."""

    src: str
    size: int
    media_type: str
    purpose: str = "any"

    def member(self) -> dict[str, str]:
        """The JSON object of this icon."""
        side = f"{self.size}x{self.size}"
        return {"src": self.src, "sizes": side, "type": self.media_type, "purpose": self.purpose}


def new(name: str, icons: Sequence[ManifestIcon]) -> bytes:
    """A manifest with the site's name and these icons."""
    return _dump({"name": name, "icons": [icon.member() for icon in icons]})


def with_icons_of(existing: bytes, built: bytes) -> bytes | None:
    """A site's own manifest with its icons replaced by those of a built one, every other member kept in order.

    None when the existing one is not a JSON object, so there is nothing to keep.
    """
    try:
        members = json.loads(existing)
    except ValueError:
        return None
    if not isinstance(members, dict):
        return None
    return _dump({**members, "icons": json.loads(built)["icons"]})


def _dump(members: dict[str, object]) -> bytes:
    return (json.dumps(members, ensure_ascii=False, indent=2) + "\n").encode()
