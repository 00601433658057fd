"""Which icon a phone's home screen, an installed app and a search result take.

By the makers' public documentation [from memory, not asked of any device]; a real one may differ.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from bexi.core.livesite.declared import Declared
from bexi.core.livesite.icon_file import manifest_icons
from bexi.core.livesite.page import Page
from bexi.core.livesite.served import joined
from bexi.core.livesite.taking import Candidate, Look, Taken, at_root, first_that_works
from bexi.core.sitehead.link import HOME_SCREEN, IconLink

HOME_PX = 180
APP_PX = 192
SEARCH_PX = 48
MOST_MEMBERS = 100
"""Icons of a manifest that are looked at."""
_ANYTHING = 1 << 20
_NONE_ON_PHONE = "so the phone shows a small picture of the page"
_NONE_AS_APP = "so the system draws the first letter of the name"
_NONE_IN_SEARCH = "so the search engine shows a plain globe"


def home_screen(page: Page, look: Look) -> Taken:
    """The icon that a phone puts on its home screen: touch icons by size, then by name, then those of the manifest."""
    declared = _by_size(page.of_kind(*HOME_SCREEN), HOME_PX)
    candidates = [
        *(Candidate(one.address, _why_of_size(one.sides, "the home-screen icon", HOME_PX)) for one in declared),
        *_named(page, declared),
        *_of_manifest(page, look, HOME_PX, masked_first=False),
    ]
    return _otherwise(first_that_works("home-screen", candidates, look), _NONE_ON_PHONE)


def app(page: Page, look: Look) -> Taken:
    """The icon of the site installed as an app: of the manifest, a masked one first; then the others."""
    candidates = [
        *_of_manifest(page, look, APP_PX, masked_first=True),
        *(
            Candidate(one.address, "its manifest has none that works, so the home-screen icon stands in")
            for one in _by_size(page.of_kind(*HOME_SCREEN), APP_PX)
        ),
        *(
            Candidate(one.address, "its manifest has none that works, so a tab's icon stands in")
            for one in _by_size(page.of_kind("icon"), APP_PX)
        ),
        *_root_favicon(page, "nothing is declared, so it asks for that name"),
    ]
    return _otherwise(first_that_works("app", candidates, look), _NONE_AS_APP)


def search(home: Page, look: Look) -> Taken:
    """The icon beside a search result, of the site's home page: large enough, else what there is."""
    declared = _by_size(home.of_kind("icon", *HOME_SCREEN), SEARCH_PX)
    candidates = [
        *(Candidate(one.address, _why_of_size(one.sides, "declared", SEARCH_PX)) for one in declared),
        *_root_favicon(home, "nothing else works, so it asks for that name"),
    ]
    return _otherwise(first_that_works("search", candidates, look), _NONE_IN_SEARCH)


def _root_favicon(page: Page, reason: str) -> list[Candidate]:
    return [Candidate(address, reason) for address in at_root(page.address, "favicon.ico")]


def _otherwise(taken: Taken, shown: str) -> Taken:
    return taken if taken.address else replace(taken, why=f"{taken.why}, {shown}")


def _by_size(links: Sequence[Declared], wanted: int) -> list[Declared]:
    """The smallest that is large enough first, then the largest; among equals the last. No size counts as right."""
    last_first = list(reversed(links))
    last_first.sort(key=lambda one: _rank(one.sides, wanted))
    return last_first


def _rank(sides: Sequence[int], wanted: int) -> tuple[bool, int]:
    """Those large enough come first, the closest of them before the others."""
    reached = [side or wanted for side in sides] or [wanted]
    enough = [side for side in reached if side >= wanted]
    return (False, min(enough)) if enough else (True, _ANYTHING - max(reached))


def _why_of_size(sides: Sequence[int], what: str, wanted: int) -> str:
    if not any(sides):
        return f"{what}, without a size, so it counts as right" if not sides else f"{what}, for any size"
    best = min((side for side in sides if side >= wanted), default=max(sides))
    if best == wanted:
        return f"{what} has the {wanted} px that are wanted"
    place = "next size above" if best > wanted else "closest to"
    return f"{what} of {best} px is the {place} the {wanted} px that are wanted"


def _named(page: Page, declared: Sequence[Declared]) -> list[Candidate]:
    """Files that a phone asks for by name, where no touch icon is declared."""
    names = () if declared else [f"{name}.png" for name in HOME_SCREEN]
    return [
        Candidate(address, "the page declares none, so the phone asks for that name")
        for address in at_root(page.address, *names)
    ]


@dataclass(frozen=True)
class ManifestMember:
    """One of a manifest's icons: where it leads, the sizes it declares, and what it is for."""

    address: str
    sides: tuple[int, ...]
    purposes: frozenset[str]


def manifest_members(page: Page, look: Look) -> list[ManifestMember]:
    """The icons of a page's manifest, empty without one that can be read."""
    got = look(page.manifest) if page.manifest else None
    icons = manifest_icons(got.served.body) if got and got.served.status == 200 else None
    at = got.served.address if got else ""
    members = [_member(at, icon) for icon in (icons or [])[:MOST_MEMBERS]]
    return [member for member in members if member.address]


def _member(manifest: str, icon: Mapping[str, object]) -> ManifestMember:
    source = str(icon.get("src", ""))
    sizes = Declared(IconLink("icon", source, sizes=str(icon.get("sizes", ""))), "").sides
    purposes = str(icon.get("purpose", "")).lower().split() or ["any"]
    return ManifestMember(joined(manifest, source) if source else "", sizes, frozenset(purposes))


def _of_manifest(page: Page, look: Look, wanted: int, masked_first: bool) -> list[Candidate]:
    members = manifest_members(page, look)
    found: list[Candidate] = []
    for purpose in ("maskable", "any") if masked_first else ("any",):
        fit = [one for one in reversed(members) if purpose in one.purposes]
        for one in sorted(fit, key=lambda one: _rank(one.sides, wanted)):
            what = "the manifest's masked icon" if purpose == "maskable" else "the manifest's icon"
            reason = _why_of_size(one.sides, what, wanted)
            found.append(Candidate(one.address, reason, masked=purpose == "maskable"))
    return found
