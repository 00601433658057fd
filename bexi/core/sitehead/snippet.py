"""The lines that declare the icons in a page's head."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import cached_property
from html import escape

from bexi.core.iconset.addresses import Addresses
from bexi.core.iconset.build import BuiltFile
from bexi.core.iconset.catalogue import MANIFEST, TILE_CONFIG, IconSpec
from bexi.core.pixels.colour import Colour
from bexi.core.sitehead.link import TILE_SETTINGS, IconLink, located

BEGIN = "<!-- icons: placed by Bexi, replaced whole on the next installation -->"
END = "<!-- end of icons -->"
_MANIFEST = 'link rel="manifest"'
_TURN = ("icon", "apple-touch-icon", "mask-icon")


@dataclass(frozen=True)
class HeadLines:
    """What the head of a site's pages says about the files of a set; `colour` is that of pinned tabs.

    `manifests` are those of the site that take the icons where they lie: pages go on naming the one they name, others
    take `manifest`, which is a path from the top folder, too.
    """

    files: tuple[BuiltFile, ...]
    addresses: Addresses
    colour: Colour
    manifests: Collection[str] = frozenset()
    manifest: str = MANIFEST.name

    def replaces(self, link: IconLink, page: str = "") -> bool:
        """Whether an earlier icon line of a page gives way.

        A manifest or tile settings stay when the set does not bring any, a manifest also when it takes the icons.
        """
        needed = {"manifest": MANIFEST, TILE_SETTINGS: TILE_CONFIG}.get(link.kind)
        if needed is not None and not any(file.spec == needed for file in self.files):
            return False
        return link.kind != "manifest" or located(page.rpartition("/")[0], link.href) not in self.manifests

    def lines(self, page: str = "", xhtml: bool = False, with_manifest: bool = True) -> list[str]:
        """The lines for the page at this path from the top folder, without the marks.

        Of equally suitable icons a browser takes the last (WHATWG HTML, link type "icon"), so the best comes last.
        """
        end = " />" if xhtml else ">"
        depth = page.count("/")  # all that an address depends on
        if depth not in self._by_depth:
            self._by_depth[depth] = self._tags(page)
        return [f"<{line}{end}" for line in self._by_depth[depth] if with_manifest or not line.startswith(_MANIFEST)]

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
                at = escape(self.addresses.of(self.manifest, file.sha256, page))
                tags.append(f'{_MANIFEST} href="{at}"')
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
