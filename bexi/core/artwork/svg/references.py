"""References inside an SVG: elements that are pointed to by name, and bitmaps embedded in it."""

import base64
import re
import urllib.parse

from bexi.core.artwork import bitmap
from bexi.core.artwork.detection import PictureFormat, detect
from bexi.core.artwork.limits import Limits
from bexi.core.errors import ArtworkRefused

_DATA = re.compile(r"\s*data:(?P<type>[^,]*),(?P<body>.*)", re.IGNORECASE | re.DOTALL)  # RFC 2397
_EMBEDDABLE = (PictureFormat.PNG, PictureFormat.JPEG, PictureFormat.GIF, PictureFormat.WEBP)


class Names:
    """New names for the ids of a file, so that they meet none of Bexi's own."""

    def __init__(self) -> None:
        self._new: dict[str, str] = {}

    def of(self, name: str) -> str:
        """The new name of an id."""
        return self._new.setdefault(name, f"part-{len(self._new) + 1}")

    def is_known(self, name: str) -> bool:
        """Whether anything points to this id."""
        return name in self._new


class Embedded:
    """Bitmaps embedded in one file, decoded to be sure of them, within the limits for all of them together."""

    def __init__(self, limits: Limits) -> None:
        self._limits = limits
        self._pixels = 0

    def rewritten(self, reference: str) -> str | None:
        """The data address of a bitmap written anew; None for any other reference. Raises ArtworkRefused."""
        match = _DATA.fullmatch(reference)
        data = _decoded(match["type"], match["body"]) if match else b""
        kind = detect(data)
        if kind not in _EMBEDDABLE:
            if match and match["type"].lower().startswith("image/") and "svg" not in match["type"].lower():
                raise ArtworkRefused(
                    "broken-picture", "A bitmap embedded in this SVG cannot be read. Export the SVG again."
                )
            return None
        picture = bitmap.decode(data, kind, self._limits)
        self._pixels += picture.width * picture.height
        if self._pixels > self._limits.pixels:
            raise bitmap.too_many_pixels("The bitmaps embedded in this SVG have", self._limits)
        return f"data:{kind.media_type};base64,{base64.b64encode(data).decode()}"


def _decoded(media_type: str, body: str) -> bytes:
    try:
        if media_type.lower().replace(" ", "").endswith(";base64"):
            return base64.b64decode(urllib.parse.unquote_to_bytes(body))
        return urllib.parse.unquote_to_bytes(body)
    except ValueError:
        return b""
