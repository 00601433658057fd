"""Which icon each browser engine shows in a tab: an order of preference and a rule for going on, as data.

The order of tree, `sizes`, `type` and `media` are those of WHATWG HTML, link type "icon"; how far each engine goes its
own way was asked of the engines themselves, and is asked again by the tests. WebKit is by the standard and its makers'
public documentation only.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from bexi.core.livesite.declared import Declared
from bexi.core.livesite.media import LIGHT
from bexi.core.livesite.page import Page
from bexi.core.livesite.taking import Candidate, Got, Look, Taken, at_root, first_that_works, matching
from bexi.core.sitehead.link import HOME_SCREEN

_SVG, _ICO = "image/svg+xml", ("image/x-icon", "image/vnd.microsoft.icon")
_BY_ENDING = {"svg": _SVG, "ico": _ICO[0]}
_TARGETS = (16, 32)
"""Sides in px that Blink wants for a tab: for ordinary screens and for dense ones."""
_TOO_LARGE = 8
"""An icon so many times larger than wanted is drawn in another style, and hardly counts."""
_RICH = 96
"""From so many px on, Gecko takes an icon for its start page, too."""
NO_SIZE = -1


@dataclass(frozen=True)
class Engine:
    """A browser engine: which links it reads, in what order it tries them, and what the one it has is worth.

    `order` gives the candidates of the links it reads, all in tree order; `beside` those that it gets at the same time
    and may show as well. Where none of `root_unless` is declared, it asks for /favicon.ico.
    """

    name: str
    source: str
    kinds: tuple[str, ...]
    order: Callable[[Sequence[Declared]], list[Candidate]]
    heeds_media: bool = True
    reads_body: bool = False
    beside: Callable[[Sequence[Declared]], list[Declared]] = lambda declared: []
    worth_of: Callable[[Got], float] = lambda got: 1.0

    def take(self, page: Page, look: Look, scheme: str = LIGHT) -> Taken:
        """The icon in the tab of a page."""
        read = [one for one in page.of_kind(*self.kinds) if one.in_head or self.reads_body]
        declared = matching(read, scheme) if self.heeds_media else read
        candidates = self.order(declared) or [
            Candidate(address, "the page declares none for it, so it asks for that name")
            for address in at_root(page.address, "favicon.ico")
        ]
        taken = first_that_works(self.name, candidates, look, self.worth_of)
        beside = [one.address for one in self.beside(declared) if one.address != taken.address]
        asked = dict.fromkeys((*taken.asked, *beside))
        known = [one.address for one in candidates]
        maybe = tuple(address for address in beside if taken.address and address in known and look(address).works)
        return replace(taken, asked=tuple(asked), maybe=maybe)


def _by_fit(declared: Sequence[Declared]) -> list[Candidate]:
    """The best fit to a tab first, as declared; what declares no size promises to fit. Among equals the later."""
    return sorted((_fitting(one) for one in reversed(declared)), key=lambda one: -one.worth)


def _fitting(one: Declared) -> Candidate:
    if not one.sides or one.of_any_size:
        said = "it is declared for any size" if one.of_any_size else "no size declared"
        return Candidate(one.address, said)
    return Candidate(one.address, f"of the declared sizes {_told(one.sides)} fits a tab best", _fit(one.sides))


def _fit(sides: Sequence[int]) -> float:
    """How well icons of these sides fit a tab, 0 to 1: the mean over what is wanted."""
    return sum(max((_fit_of(side, wanted) for side in sides), default=0) for wanted in _TARGETS) / len(_TARGETS)


def _fit_of(side: int, wanted: int) -> float:
    if side == wanted:
        return 1.0
    if side > _TOO_LARGE * wanted:
        return 0.01 * wanted / side
    return 0.01 + 0.98 * wanted / side if side > wanted else 0.005


def _fit_of_got(got: Got) -> float:
    """A drawing is worth as much to Blink as one picture of 32 px."""
    return _fit(got.sides if any(got.sides) else _TARGETS[-1:])


def _preferred(declared: Sequence[Declared]) -> list[Candidate]:
    """Gecko's icon for a tab, then the one it also gets for its start page, which may stand in."""
    body = [one for one in declared if not one.in_head and one.kind == "icon"]
    tab = _tab_icon(body or [one for one in declared if one.kind == "icon"])
    reason = "the tab's own icon did not load, and this one was fetched for the start page"
    rich = [Candidate(one.address, reason) for one in _for_start_page(declared) if one.kind == "icon"]
    return [tab, *rich] if tab else []


def _tab_icon(icons: Sequence[Declared]) -> Candidate | None:
    """Of what may stand in a tab: SVG by type, else 16 px, else an ICO, else the next larger size, else the last."""
    held: Declared | None = None
    reason = ""
    for one in icons:
        for rule in _PREFERENCES:
            if rule.holds(one) and (held is None or rule.enters >= _standing(held)):
                held, reason = one, rule.reason
                break
    if held is not None:
        return Candidate(held.address, reason)
    larger = [one for one in reversed(icons) if _width(one) > _TARGETS[0]]
    if larger:
        one = min(larger, key=_width)
        return Candidate(one.address, f"{_width(one)} px is the next size above what a tab needs")
    others = [one for one in icons if _width(one) < _RICH]
    return Candidate(others[-1].address, "it is the last one declared") if others else None


@dataclass(frozen=True)
class _Preference:
    """What Gecko prefers: it takes the place of whatever stands no higher than `enters`, and `stays` as high."""

    holds: Callable[[Declared], bool]
    enters: int
    stays: Callable[[Declared], int]
    reason: str


_PREFERENCES = (
    _Preference(lambda one: _type(one) == _SVG, 3, lambda one: 3, "by type it prefers SVG"),
    _Preference(
        lambda one: _width(one) == _TARGETS[0],
        2,
        lambda one: 1 if _type(one) in _ICO else 2,
        "it is declared with exactly the 16 px of a tab",
    ),
    _Preference(lambda one: _type(one) in _ICO, 1, lambda one: 1, "it is an ICO, which may hold the right size"),
)


def _standing(one: Declared) -> int:
    return next(rule.stays(one) for rule in _PREFERENCES if rule.holds(one))


def _for_start_page(declared: Sequence[Declared]) -> list[Declared]:
    """What Gecko gets beside the tab's icon: the largest of all that are large or meant for a home screen."""
    for links in ([one for one in declared if not one.in_head], [one for one in declared if one.in_head]):
        large = [one for one in links if one.kind in HOME_SCREEN or _width(one) >= _RICH]
        if large:
            return [max(large, key=_width)]
    return []


def _width(one: Declared) -> int:
    """The width that Gecko reads: the first one declared."""
    return one.sides[0] if one.sides and one.sides[0] else NO_SIZE


def _type(one: Declared) -> str:
    """The declared type, else what the ending of the address promises."""
    return one.link.media_type or _BY_ENDING.get(one.address.partition("?")[0].rpartition(".")[2].lower(), "")


def _closest(declared: Sequence[Declared]) -> list[Candidate]:
    """The order of the standard: the most appropriate by size, among equals the last; the next best when one fails."""
    return [replace(one, worth=1.0) for one in _by_fit(declared)]


def _told(sides: Sequence[int]) -> str:
    return " and ".join(f"{side}" for side in sides) + " px"


BLINK = Engine("blink", "asked of the engine itself", ("icon",), _by_fit, worth_of=_fit_of_got)
GECKO = Engine(
    "gecko",
    "asked of the engine itself",
    ("icon", *HOME_SCREEN),
    _preferred,
    heeds_media=False,
    reads_body=True,
    beside=_for_start_page,
)
WEBKIT = Engine("webkit", "by the HTML standard; not asked of the engine", ("icon",), _closest)
ENGINES = (BLINK, GECKO, WEBKIT)
