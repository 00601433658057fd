"""The lines that declare the icons in a page's head."""

from collections.abc import Sequence

from bexi.core.iconset.catalogue import ICONS, MANIFEST, IconSpec

BEGIN = "<!-- icons: placed by Bexi, replaced whole on the next installation -->"
END = "<!-- end of icons -->"


def head_lines(xhtml: bool = False) -> list[str]:
    """The link lines for the set, in the order in which a browser should meet them, without the marks."""
    end = " />" if xhtml else ">"
    links = [_link(spec) for spec in ICONS if spec.rel]
    return [f"{link}{end}" for link in [*links, f'<link rel="manifest" href="/{MANIFEST.name}"']]


def marked(lines: Sequence[str]) -> list[str]:
    """The lines between the two marks by which the block is found again."""
    return [BEGIN, *lines, END]


def _link(spec: IconSpec) -> str:
    return f'<link rel="{spec.rel}" type="{spec.media_type}" sizes="{spec.sizes_attribute}" href="/{spec.name}"'
