"""A site's own web app manifests: they take the icons where they lie, and keep all else."""

from collections import Counter
from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace

from bexi.core.errors import HostRefused
from bexi.core.formats import webmanifest
from bexi.core.iconset.catalogue import MANIFEST
from bexi.core.livesite.icon_file import manifest_icons
from bexi.core.sitehead.link import IconLink, located
from bexi.core.sitehead.snippet import HeadLines
from bexi.hosts.protocol import OF_ONE_FILE, Host


class OwnManifests(Collection[str]):
    """The manifests that pages name and that can take the icons where they lie, found out page by page."""

    def __init__(self, host: Host) -> None:
        self._host = host
        self._sound: dict[str, bool] = {}
        self._pages: Counter[str] = Counter()
        self.unnamed: list[str] = []

    def __contains__(self, path: object) -> bool:
        path = str(path)
        if path not in self._sound:
            self._sound[path] = "://" not in path and _is_manifest(self._host, path)
        return self._sound[path]

    def __iter__(self) -> Iterator[str]:
        return (path for path, sound in self._sound.items() if sound)

    def __len__(self) -> int:
        return sum(self._sound.values())

    def note(self, page: str, declared: Sequence[IconLink]) -> None:
        """Take note of which manifest a page names."""
        folder = page.rpartition("/")[0]
        named = [located(folder, link.href) for link in declared if link.kind == "manifest"]
        if not any(path in self for path in named):
            self.unnamed.append(page)
        self._pages.update(path for path in named if path in self)

    def taken_by(self, icons: HeadLines) -> HeadLines:
        """The icons with what was found; the manifest most pages name is that of all pages that name none."""
        kept = frozenset(self)
        brings_one = any(file.spec == MANIFEST for file in icons.files)
        (first, _), *_ = (brings_one and self._pages.most_common(1)) or [(MANIFEST.name, 0)]
        return replace(icons, manifests=kept, manifest=first)


def _is_manifest(host: Host, path: str) -> bool:
    try:
        data = host.read(path)
    except HostRefused as refusal:
        if refusal.code not in OF_ONE_FILE:
            raise
        return False
    return data is not None and webmanifest.read(data) is not None


def manifest_files(host: Host, icons: HeadLines, built: bytes) -> Iterator[tuple[str, bytes, tuple[str, ...]]]:
    """Path, bytes and notes of every manifest that takes the icons; `built` is the one of the set."""
    for path in sorted({icons.manifest, *icons.manifests}):
        yield path, *_merged(host, path, built)


def _merged(host: Host, path: str, built: bytes) -> tuple[bytes, tuple[str, ...]]:
    """The one that lies there with new icons, where one does; else the built one."""
    try:
        existing = host.read(path)
    except HostRefused:
        return built, ()
    if existing is None:
        return built, ()
    members = _members_from(built, path.count("/"))
    merged = webmanifest.merged(existing, members)
    if merged is None:
        return built, (f"{path} is not valid JSON, so nothing of it could be kept.",)
    *others, last = members
    taken = f"{', '.join(others)} and {last}" if others else last
    return merged, (f"Keeps every member of {path} but its {taken}.",)


def _members_from(built: bytes, depth: int) -> dict[str, object]:
    """What a built manifest says but for the site's name, as one so many folders down says it."""
    members = {name: value for name, value in (webmanifest.read(built) or {}).items() if name != "name"}
    if "start_url" in members:
        members["start_url"] = _from_below(str(members["start_url"]), depth)
    return members | {"icons": _icons_from(built, depth)}


def _icons_from(built: bytes, depth: int) -> list[dict[str, object]]:
    """The icons of a built manifest, as one so many folders down names them."""
    icons = manifest_icons(built) or []
    return [{**icon, "src": _from_below(str(icon["src"]), depth)} for icon in icons]


def _from_below(address: str, depth: int) -> str:
    return address if address.startswith("/") or "://" in address else "../" * depth + address
