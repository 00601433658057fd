"""Icons of before that no page names any more once a set is installed: they may go, if somebody says so."""

import posixpath
import re
from collections.abc import Collection, Iterator, Sequence

from bexi.core.errors import HostRefused
from bexi.core.iconset.catalogue import CATALOGUE
from bexi.core.livesite.icon_file import manifest_icons
from bexi.core.sitehead.link import HOME_SCREEN, located
from bexi.hosts.protocol import Host
from bexi.installing.step import Content, Step, StepKind

MOST = 100
_UNNAMED = "No page names it as an icon any more. It may be in use otherwise, as a picture on a page, say."
_ASKED_FOR = "Browsers, phones or older systems ask for it by its name, so some would go on showing it."
_BESIDE = "It lies beside icons that no page names any more, and is called like one."
# What icon files are called [common practice].
_ICON_LIKE = re.compile(
    r"(favicon|apple-touch-icon|touch-icon|icon-\d|mstile|tile-|android-|safari-pinned|pinned-tab|browserconfig|"
    r"site\.webmanifest|manifest\.webmanifest)[\w.-]*\.(ico|png|svg|gif|jpe?g|webp|xml|webmanifest|json)$"
    r"|(browserconfig\.xml|site\.webmanifest|manifest\.webmanifest|favicon\.ico)$",
    re.IGNORECASE,
)
_BY_NAME = (
    *("favicon.ico", "favicon.png", "favicon.gif", "favicon.svg", "browserconfig.xml"),
    *("site.webmanifest", "manifest.webmanifest", *(f"{name}.png" for name in HOME_SCREEN)),
    *(spec.name for spec in CATALOGUE),
)


def leftovers(
    host: Host, files: Sequence[str], replaced: Collection[str], kept: Collection[str], unread: Sequence[str]
) -> tuple[Step, ...]:
    """Steps that would remove the icons of before, none of which is done unless somebody wants it.

    `files` are the paths of all files of the site. `replaced` are those that pages named as icons, and name no more.
    `kept` are those that the set brings or pages go on naming. `unread` are pages that stay as they are: what they name
    stays, too. Whether a picture is used otherwise cannot be known here; the notes say so.
    """
    found: dict[str, Step] = {}
    texts = [page for path in unread if (page := _read(host, path))]
    for path, why in _candidates(host, files, replaced):
        if path in kept or path in found or len(found) >= MOST:
            continue
        if any(posixpath.basename(path).encode() in text for text in texts):
            continue
        data = _read(host, path)
        if data is not None:
            found[path] = Step(StepKind.REMOVE, path, Content.of(data), None, (why,))
    return tuple(found.values())


def _candidates(host: Host, files: Sequence[str], replaced: Collection[str]) -> Iterator[tuple[str, str]]:
    for path in replaced:
        yield path, _UNNAMED
        if path.endswith((".webmanifest", ".json")) and (data := _read(host, path)):
            for icon in (manifest_icons(data) or [])[:MOST]:
                yield located(posixpath.dirname(path), str(icon.get("src", ""))), _UNNAMED
    there = set(files)
    for name in dict.fromkeys(_BY_NAME):
        if name in there:
            yield name, _ASKED_FOR
    folders = {posixpath.dirname(path) for path in replaced} - {""}
    for path in files:
        if posixpath.dirname(path) in folders and _ICON_LIKE.match(posixpath.basename(path)):
            yield path, _BESIDE


def _read(host: Host, path: str) -> bytes | None:
    if not path or "://" in path:
        return None
    try:
        return host.read(path)
    except HostRefused:
        return None
