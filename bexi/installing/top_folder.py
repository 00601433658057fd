"""Whether a place is the folder that is served at `/`: the usual slip is to choose one inside it, or above it."""

from collections.abc import Callable, Sequence
from pathlib import PurePosixPath

from bexi.hosts.protocol import Host

_TRIED = 8
_PLAIN = (".css", ".js", ".png", ".jpg", ".jpeg", ".gif", ".svg", ".ico", ".txt", ".webp", ".woff2")
"""Files that a server gives out as they are, unlike pages, which it may put together."""

Fetch = Callable[[str], bytes | None]
"""Gets what is served at a path like `/style.css`; None when nothing is."""


def warning_about(host: Host, place_path: str, fetch: Fetch) -> str:
    """A sentence when the place is not the top folder of the site, as far as its plain files show; else empty."""
    samples = _samples(host)
    for path in samples:
        data = host.read(path)
        if data is None:
            continue
        if fetch(f"/{path}") == data:
            return ""
        above = _above(place_path, path, data, fetch)
        if above:
            return (
                f"{path} of this folder is served at {above}: this folder lies inside the site's top folder. "
                "Choose the one above it, or browsers will not find the icons."
            )
        inside = _inside(path, data, fetch)
        if inside:
            return f"What lies in {inside}/ of this folder is served at the top of the site. Choose {inside} itself."
    return ""


def _samples(host: Host) -> Sequence[str]:
    plain = [path for path in host.files() if path.lower().endswith(_PLAIN)]
    return plain[:: max(1, len(plain) // _TRIED)][:_TRIED]


def _above(place_path: str, path: str, data: bytes, fetch: Fetch) -> str:
    """Where a file is served when the site's top folder is one, two or three folders further up."""
    parts = PurePosixPath(place_path).parts
    for count in range(1, min(3, len(parts)) + 1):
        address = "/" + "/".join((*parts[-count:], path))
        if fetch(address) == data:
            return address
    return ""


def _inside(path: str, data: bytes, fetch: Fetch) -> str:
    """The inner folder that is served at the top, if one is."""
    parts = path.split("/")
    for count in range(1, min(3, len(parts) - 1) + 1):
        if fetch("/" + "/".join(parts[count:])) == data:
            return "/".join(parts[:count])
    return ""
