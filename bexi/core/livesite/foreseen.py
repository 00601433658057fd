"""Until when visitors who came before would go on seeing the old icon, foreseen before anything is changed."""

from collections.abc import Mapping
from dataclasses import replace
from urllib.parse import quote, urljoin

from bexi.core.errors import Refusal
from bexi.core.livesite.history import Past, SiteChange, certain_from, path_of, seen_by
from bexi.core.livesite.served import Fetch, Served
from bexi.core.livesite.visitor import IN_BROWSER, Reading
from bexi.core.sitehead.edit import edit_head
from bexi.core.sitehead.snippet import HeadLines

_MISSING = 404
_HOME = "index.html"


def old_seconds(
    address: str, fetch: Fetch, files: Mapping[str, bytes | None], icons: HeadLines | None, reading: Reading, now: float
) -> float | None:
    """For how many seconds after an installation some browser goes on showing an icon of before; None for no icon.

    `fetch` gets what is served now, each address once. `files` are what will be there by path from the top folder,
    None for what will be removed. `icons` are the lines that pages will get, None when no page is edited. 0 means:
    everybody sees the new icon on the next visit. It is that of whoever comes just before the installation.
    """
    home, top = fetch(address), urljoin(address, ".")
    if home.status != 200:
        return None  # nor would the rest answer
    answers = {path: fetch(urljoin(top, quote(path))) for path in files}
    before: dict[str, bytes | None] = {path: one.body if one.status == 200 else None for path, one in answers.items()}
    before[_HOME] = home.body

    def after(url: str) -> Served:
        served, path = fetch(url), path_of(address, url)
        if path in files:
            body = files[path]
            if body is None:
                return replace(served, status=_MISSING, body=b"", moved=())
            return replace(served, status=200, body=body, error="", moved=())
        return replace(served, body=_edited(served.body, icons, path)) if icons and served.is_page else served

    past = Past(address, after, [SiteChange(now, before)])
    shown = seen_by(past, reading, now - 1, None)
    if not any(shown[kind].body for kind in IN_BROWSER):
        return None
    return certain_from(past, reading, now) - now


def _edited(page: bytes, icons: HeadLines, path: str) -> bytes:
    try:
        return edit_head(page, icons, path).after
    except Refusal:
        return page
