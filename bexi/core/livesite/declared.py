"""What a page declares about icons, one tag at a time."""

import re
from dataclasses import dataclass

from bexi.core.sitehead.link import IconLink

_SIZE = re.compile(r"([1-9]\d{0,5})x([1-9]\d{0,5})", re.ASCII)


@dataclass(frozen=True)
class Declared:
    """One tag that declares an icon, a manifest or tiles.

    `address` is where it leads, empty when that is nowhere; `in_head` says whether a browser puts it into the head.
    """

    link: IconLink
    address: str
    media: str = ""
    in_head: bool = True

    @property
    def kind(self) -> str:
        """Its rel without the historical "shortcut", or the name of a tile's meta."""
        return self.link.kind

    @property
    def sides(self) -> tuple[int, ...]:
        """Widths in px that it declares, in their order (WHATWG HTML, the `sizes` attribute); "any" is 0."""
        words = self.link.sizes.lower().split()
        return tuple(0 if word == "any" else int(word.partition("x")[0]) for word in words if _is_size(word))

    @property
    def of_any_size(self) -> bool:
        """Whether it declares to be good for any size."""
        return 0 in self.sides


def _is_size(word: str) -> bool:
    return word == "any" or _SIZE.fullmatch(word) is not None
