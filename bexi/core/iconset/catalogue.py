"""The files a site may need: each with its conventional name, its reason, its source and how current it is.

The values come from the named documents as we remember them; they were not at hand when this was written.
"""

from dataclasses import dataclass
from enum import StrEnum

from bexi.core.formats import media_types
from bexi.core.framing.purpose import Purpose


class Currency(StrEnum):
    """Who still asks for a file."""

    TODAY = "needed today"
    OLDER = "older devices"
    LEGACY = "legacy"


@dataclass(frozen=True, kw_only=True)
class FileSpec:
    """One file of the set."""

    name: str
    title: str
    media_type: str
    why: str
    source: str
    currency: Currency = Currency.TODAY


@dataclass(frozen=True, kw_only=True)
class IconSpec(FileSpec):
    """One icon file.

    `sizes` are px, several only in an ICO and none in an SVG. `rel` is its link in the head, if it has one;
    `tile` its element in the tile configuration, and `width` in px where a tile is wider than high.
    """

    sizes: tuple[int, ...]
    purpose: Purpose = Purpose.TAB
    rel: str | None = None
    in_manifest: bool = False
    tile: str | None = None
    width: int | None = None

    @property
    def sizes_attribute(self) -> str:
        """The value of the `sizes` attribute (WHATWG HTML, link type "icon")."""
        return " ".join(f"{size}x{size}" for size in self.sizes) or "any"

    @property
    def named_by(self) -> FileSpec | None:
        """The text file without which nobody would find it."""
        if self.in_manifest:
            return MANIFEST
        return TILE_CONFIG if self.tile else None

    @property
    def opaque(self) -> bool:
        """Whether nothing may show through."""
        return self.purpose.opaque


ROOT_ICO = IconSpec(
    name="favicon.ico",
    title="Root favicon",
    media_type=media_types.ICO,
    why="Browsers, feed readers and search engines ask for it at the top of a site even when no page says so.",
    source="WHATWG HTML, link type “icon”",
    sizes=(16, 32, 48),
    rel="icon",
)
SVG_ICON = IconSpec(
    name="icon.svg",
    title="SVG icon",
    media_type=media_types.SVG,
    why="Browsers that take SVG draw it sharp at any size, and it can change its colours in dark schemes.",
    source="WHATWG HTML, link type “icon”; Media Queries 5, prefers-color-scheme",
    sizes=(),
    rel="icon",
)
ONE_COLOUR_SVG = IconSpec(
    name="pinned-tab.svg",
    title="One-colour SVG",
    media_type=media_types.SVG,
    why="Some browsers once took it for pinned tabs and gave it the colour in its link.",
    source="a browser maker’s public documentation",
    currency=Currency.LEGACY,
    sizes=(),
    purpose=Purpose.ONE_COLOUR,
    rel="mask-icon",
)


def tab_icon(size: int) -> IconSpec:
    """A PNG icon of any size, 1 to 1024 px, declared in the head."""
    title, why, currency = _TAB_REASONS.get(size, (f"Icon at {size} px", "You asked for this size.", Currency.TODAY))
    return IconSpec(
        name=f"icon-{size}.png",
        title=title,
        media_type=media_types.PNG,
        why=why,
        source="common practice",
        currency=currency,
        sizes=(size,),
        rel="icon",
    )


_TAB_REASONS = {
    16: ("Tab icon", "Tabs and bookmarks on ordinary screens show 16 px; PNG keeps soft edges.", Currency.TODAY),
    32: (
        "Tab icon, dense screens",
        "On dense screens the same tab needs twice the pixels; desktop shortcuts use it, too.",
        Currency.TODAY,
    ),
    48: ("Search result icon", "Search engines show an icon whose side is a multiple of 48 px.", Currency.TODAY),
    96: ("Search result icon, dense screens", "The same search result on a dense screen.", Currency.TODAY),
}
_HOME = "phone makers’ public documentation"


def _home_icon(size: int) -> IconSpec:
    return IconSpec(
        name=f"apple-touch-icon-{size}x{size}.png",
        title=f"Home-screen icon, {size} px",
        media_type=media_types.PNG,
        why=f"Phones and tablets of earlier years ask for {size} px; newer ones shrink the 180 px icon.",
        source=_HOME,
        currency=Currency.OLDER if size >= 120 else Currency.LEGACY,
        sizes=(size,),
        purpose=Purpose.HOME,
        rel="apple-touch-icon",
    )


_MANIFEST_SOURCE = "W3C Web Application Manifest"
_INSTALLING = f"{_MANIFEST_SOURCE}; browser makers’ criteria for installing"


def _app_icons(infix: str, title: str, purpose: Purpose, why: tuple[str, str], source: str) -> tuple[IconSpec, ...]:
    return tuple(
        IconSpec(
            name=f"icon-{infix}{size}.png",
            title=f"{title}, large" if size > 192 else title,
            media_type=media_types.PNG,
            why=reason,
            source=source,
            sizes=(size,),
            purpose=purpose,
            in_manifest=True,
        )
        for size, reason in zip((192, 512), why, strict=True)
    )


def _tile(name: str, title: str, element: str, size: int, width: int | None = None) -> IconSpec:
    return IconSpec(
        name=name,
        title=title,
        media_type=media_types.PNG,
        why="Start screens of older desktops show it when somebody pins the site there.",
        source="a system maker’s public documentation",
        currency=Currency.LEGACY,
        sizes=(size,),
        tile=element,
        width=width,
    )


HOME_ICON = IconSpec(
    name="apple-touch-icon.png",
    title="Home-screen icon",
    media_type=media_types.PNG,
    why="Phones show it when somebody puts the site on the home screen. Opaque: clear parts turn black there.",
    source=_HOME,
    sizes=(180,),
    purpose=Purpose.HOME,
    rel="apple-touch-icon",
)
ICONS = (
    ROOT_ICO,
    *(tab_icon(size) for size in (16, 32, 48, 96)),
    SVG_ICON,
    *(_home_icon(size) for size in (57, 60, 72, 76, 114, 120, 144, 152, 167)),
    HOME_ICON,
    *_app_icons(
        "",
        "App icon",
        Purpose.TAB,
        (
            "The web app manifest names it for the home screen and the app list.",
            "The web app manifest names it for start screens and shops.",
        ),
        _INSTALLING,
    ),
    *_app_icons(
        "maskable-",
        "Masked app icon",
        Purpose.MASKED,
        (
            "Phones that cut icons to a shape of their own take it: ground to the edges, mark in the safe circle.",
            "The same, for start screens; without it phones put the plain icon on a white disc.",
        ),
        f"{_MANIFEST_SOURCE}, purpose “maskable”",
    ),
    *_app_icons(
        "monochrome-",
        "One-colour app icon",
        Purpose.ONE_COLOUR,
        (
            "Where a system draws all icons in one colour, the coverage of this one carries the shape.",
            "The same, for large sizes.",
        ),
        f"{_MANIFEST_SOURCE}, purpose “monochrome”",
    ),
    _tile("tile-small.png", "Small tile", "square70x70logo", 128),
    _tile("tile-medium.png", "Medium tile", "square150x150logo", 270),
    _tile("tile-wide.png", "Wide tile", "wide310x150logo", 270, width=558),
    _tile("tile-large.png", "Large tile", "square310x310logo", 558),
    ONE_COLOUR_SVG,
)
MANIFEST = FileSpec(
    name="site.webmanifest",
    title="Web app manifest",
    media_type=media_types.WEB_MANIFEST,
    why="It tells phones and browsers the name and the large icons of the site when somebody keeps it as an app.",
    source=_MANIFEST_SOURCE,
)
TILE_CONFIG = FileSpec(
    name="browserconfig.xml",
    title="Tile configuration",
    media_type=media_types.TILE_CONFIG,
    why="It names the tiles; older desktops look for it at the top of a site.",
    source="a system maker’s public documentation",
    currency=Currency.LEGACY,
)
CATALOGUE: tuple[FileSpec, ...] = (*ICONS, MANIFEST, TILE_CONFIG)
