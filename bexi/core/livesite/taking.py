"""Which icon is taken: what every kind of visitor has in common, and what came of it."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from bexi.core.artwork.detection import PictureFormat
from bexi.core.livesite.declared import Declared
from bexi.core.livesite.icon_file import IconFile
from bexi.core.livesite.media import LIGHT, is_true
from bexi.core.livesite.served import Served, joined, path_of

_SHOWN = frozenset(PictureFormat) - {PictureFormat.TIFF, PictureFormat.PDF, PictureFormat.SVGZ}
_SVG_TYPE = "image/svg+xml"
MOST_TRIED = 20
"""Icons that are asked for on one page, one after the other failing; a real page has no more."""


@dataclass(frozen=True)
class Got:
    """What came for the address of an icon: the answer, and what it is by its content.

    `icon` is None for what cannot be read: an answer that is no use, or one that is not known any more.
    """

    served: Served
    icon: IconFile | None = None

    @property
    def works(self) -> bool:
        """Whether a browser can show it. Pictures are told by their content, only SVG by its type."""
        return self.served.status == 200 and not self.trouble

    @property
    def trouble(self) -> str:
        """Why it cannot be shown, in a few words; empty when it can."""
        if self.served.status != 200:
            return self.served.told
        if self.icon is None:
            return ""
        if self.icon.real is PictureFormat.SVG and self.served.media_type != _SVG_TYPE:
            return f"an SVG served as {self.served.media_type or 'nothing in particular'}"
        if self.icon.real is None:
            return "no picture that can be shown"
        if self.icon.real not in _SHOWN or self.icon.broken:
            return f"a broken or unknown {self.icon.real.label}"
        return ""

    @property
    def sides(self) -> tuple[int, ...]:
        """Widths in px of the pictures inside; 0 for a drawing without px of its own."""
        if self.icon is None:
            return ()
        if self.icon.real is PictureFormat.SVG:
            return (0,)
        return tuple(width for width, _ in self.icon.sides)


Look = Callable[[str], Got]
"""Gets an address, or what a browser kept of it, and looks into it."""


@dataclass(frozen=True)
class Taken:
    """The icon that a kind of visitor takes from a page, and why.

    `address` is empty when there is none. `asked` are the addresses that were asked for, in order; `maybe` are those
    that may be shown instead, because it is decided by which comes first. `masked` says that it will be cut to a shape.
    """

    by: str
    address: str
    why: str
    asked: tuple[str, ...] = ()
    maybe: tuple[str, ...] = ()
    masked: bool = False


@dataclass(frozen=True)
class Candidate:
    """An icon that may be taken, and why it would be; `worth` says how well it promises to fit, 0 to 1."""

    address: str
    reason: str
    worth: float = 1.0
    masked: bool = False


def first_that_works(
    by: str, candidates: Sequence[Candidate], look: Look, worth_of: Callable[[Got], float] = lambda got: 1.0
) -> Taken:
    """Take the candidates in their order, until one works that is worth as much as the next one promises."""
    asked: list[str] = []
    failed: list[str] = []
    best: tuple[float, Candidate] | None = None
    for candidate in candidates:
        if best and best[0] >= candidate.worth:
            break
        if candidate.address in asked:
            continue
        if len(asked) >= MOST_TRIED:
            break
        asked.append(candidate.address)
        got = look(candidate.address)
        if not got.works:
            failed.append(f"{path_of(candidate.address)} comes before it, but is {got.trouble}")
        elif best is None or worth_of(got) > best[0]:
            best = worth_of(got), candidate
    if best is None:
        told = "; ".join(failed).replace(" comes before it, but is ", ": ")
        return Taken(by, "", f"finds no usable icon ({told})" if told else "finds no icon", tuple(asked))
    why = "; ".join([best[1].reason, *failed])
    return Taken(by, best[1].address, f"uses {path_of(best[1].address)}: {why}", tuple(asked), masked=best[1].masked)


def matching(declared: Sequence[Declared], scheme: str = LIGHT) -> tuple[Declared, ...]:
    """Those whose `media` is true on an ordinary screen in this colour scheme."""
    return tuple(one for one in declared if is_true(one.media, scheme))


def at_root(page: str, *names: str) -> Iterator[str]:
    """The addresses of files at the top of a page's host."""
    return (address for name in names if (address := joined(page, f"/{name}")))
