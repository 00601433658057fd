"""Whether a place is the folder that is served at `/`: the usual slip is to choose one inside it, or above it."""

from collections.abc import Callable, Sequence
from pathlib import Path, PurePosixPath

from bexi.hosts.place import Place
from bexi.hosts.protocol import Host

_TRIED = 8
_PLAIN = (".css", ".js", ".png", ".jpg", ".jpeg", ".gif", ".svg", ".ico", ".txt", ".webp", ".woff2")
"""Files that a server gives out as they are, unlike pages, which it may put together."""

Fetch = Callable[[str], bytes | None]
"""Gets what is served at a path like `/style.css`; None when nothing is."""


_OF_THE_SYSTEM = ("bin", "boot", "dev", "etc", "lib", "lib64", "proc", "root", "run", "sbin", "sys", "usr")
_HOLDS_SITES = ("/usr/share/nginx", "/usr/local/www", "/usr/share/caddy")  # where servers' packages put them


def system_folder(place: Place) -> str:
    """A sentence when a folder on this machine is one that its system or a whole account lives in; else empty."""
    if place.is_remote:
        return ""
    folder = place.folder.resolve()
    inside = folder.parts[1:2]
    holds_sites = any(folder.is_relative_to(known) for known in _HOLDS_SITES)
    if (
        not inside
        or (inside[0] in _OF_THE_SYSTEM and not holds_sites)
        or folder in (Path.home(), Path("/home"), Path("/var"))
    ):
        return (
            f"{place.path} is a folder that this machine or an account lives in, not one of a site. "
            "Look twice before you install there."
        )
    return ""


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
