"""The lines that declare the icons in a page's head."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from html import escape

from bexi.core.iconset.addresses import Addresses
from bexi.core.iconset.build import BuiltFile
from bexi.core.iconset.catalogue import MANIFEST, TILE_CONFIG, IconSpec
from bexi.core.pixels.colour import Colour
from bexi.core.sitehead.link import TILE_SETTINGS, IconLink

BEGIN = "<!-- icons: placed by Bexi, replaced whole on the next installation -->"
END = "<!-- end of icons -->"
_TURN = ("icon", "apple-touch-icon", "mask-icon")


@dataclass(frozen=True)
class HeadLines:
    """What the head of a site's pages says about the files of a set; `colour` is that of pinned tabs."""

    files: tuple[BuiltFile, ...]
    addresses: Addresses
    colour: Colour

    def replaces(self, link: IconLink) -> bool:
        """Whether an earlier icon line gives way: not a manifest or tile settings that this set does not bring."""
        needed = {"manifest": MANIFEST, TILE_SETTINGS: TILE_CONFIG}.get(link.kind)
        return needed is None or any(file.spec == needed for file in self.files)

    def lines(self, page: str = "", xhtml: bool = False) -> list[str]:
        """The lines for the page at this path from the top folder, without the marks.

        Of equally suitable icons a browser takes the last (WHATWG HTML, link type "icon"), so the best comes last.
        """
        end = " />" if xhtml else ">"
        depth = page.count("/")  # all that an address depends on
        if depth not in self._by_depth:
            self._by_depth[depth] = self._tags(page)
        return [f"<{line}{end}" for line in self._by_depth[depth]]

    @cached_property
    def _by_depth(self) -> dict[int, list[str]]:
        return {}

    def _tags(self, page: str) -> list[str]:
        links = [(file, file.spec) for file in self.files if isinstance(file.spec, IconSpec) and file.spec.rel]
        links.sort(key=lambda link: _TURN.index(link[1].rel or ""))
        tags = [self._link(spec, self._address(file, page)) for file, spec in links]
        for file in self.files:
            address = escape(self._address(file, page))
            if file.spec == MANIFEST:
                tags.append(f'link rel="manifest" href="{address}"')
            if file.spec == TILE_CONFIG and self.addresses.base != "/":  # at the top it is found by itself
                tags.append(f'meta name="{TILE_SETTINGS}" content="{address}"')
        return tags

    def _link(self, spec: IconSpec, address: str) -> str:
        if spec.rel == "mask-icon":
            return f'link rel="mask-icon" href="{escape(address)}" color="{self.colour}"'
        return f'link rel="{spec.rel}" type="{spec.media_type}" sizes="{spec.sizes_attribute}" href="{escape(address)}"'

    def _address(self, file: BuiltFile, page: str) -> str:
        return self.addresses.of(file.name, file.sha256, page)


def marked(lines: Sequence[str]) -> list[str]:
    """The lines between the two marks by which the block is found again."""
    return [BEGIN, *lines, END]
