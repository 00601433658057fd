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
_UNNAMED = "No page uses it as an icon any more. A page may still show it as a picture."
_ASKED_FOR = "Browsers, phones or older systems ask for it by its name, so some would go on showing it."
_CALLED_SO = "It is named like an icon, and no page uses it as one. A page may still show it as a picture."
# What icon files are called [common practice].
_ICON_LIKE = re.compile(
    r"(favicon|apple-touch-icon|touch-icon|icon-\d|mstile|tile-|android-|safari-pinned|pinned-tab|browserconfig|"
    r"site\.webmanifest|manifest\.webmanifest)[\w.-]*\.(ico|png|svg|gif|jpe?g|webp|xml|webmanifest|json)$"
    r"|(browserconfig\.xml|site\.webmanifest|manifest\.webmanifest|favicon\.ico)$",
    re.IGNORECASE,
)
_BY_NAME = ("favicon.ico", "browserconfig.xml", *(f"{name}.png" for name in HOME_SCREEN))


def leftovers(
    host: Host, files: Sequence[str], replaced: Collection[str], kept: Collection[str], unread: Sequence[str]
) -> tuple[Step, ...]:
    """Steps that would remove the icons of before, none of which is done unless somebody wants it.

    `files` are the paths of all files of the site. `replaced` are those that pages named as icons, and name no more.
    `kept` are those that the set brings or pages go on naming. `unread` are pages that stay as they are: what they name
    stays, too. Whether a picture is used otherwise cannot be known here; the notes say so.
    """
    may_go = dict[str, str]()
    for path, why in _candidates(host, files, replaced):
        if path not in kept and len(may_go) < MOST:
            may_go.setdefault(path, why)
    for page in unread if may_go else ():  # one after the other: there may be thousands
        text = _read(host, page) or b""
        may_go = {path: why for path, why in may_go.items() if posixpath.basename(path).encode() not in text}
    steps = ((path, why, _read(host, path)) for path, why in may_go.items())
    return tuple(Step(StepKind.REMOVE, path, Content.of(data), None, (why,)) for path, why, data in steps if data)


def _candidates(host: Host, files: Sequence[str], replaced: Collection[str]) -> Iterator[tuple[str, str]]:
    for path in replaced:
        yield path, _UNNAMED
        if path.endswith((".webmanifest", ".json")) and (data := _read(host, path)):
            for icon in (manifest_icons(data) or [])[:MOST]:
                yield located(posixpath.dirname(path), str(icon.get("src", ""))), _UNNAMED
    folders = {posixpath.dirname(path) for path in replaced} | {""}
    of_a_set = {spec.name for spec in CATALOGUE}
    for path in files:
        if path in _BY_NAME:
            yield path, _ASKED_FOR
        elif posixpath.dirname(path) in folders and (path in of_a_set or _ICON_LIKE.match(posixpath.basename(path))):
            yield path, _CALLED_SO


def _read(host: Host, path: str) -> bytes | None:
    if not path or "://" in path:
        return None
    try:
        return host.read(path)
    except HostRefused:
        return None
