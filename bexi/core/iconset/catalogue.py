"""The files a site needs: each with its conventional name, its reason and its source.

The values come from the named documents as we remember them; they were not at hand when this was written.
"""

from dataclasses import dataclass

from bexi.core.formats import ico, png, webmanifest


@dataclass(frozen=True)
class FileSpec:
    """One file of the set."""

    name: str
    title: str
    media_type: str
    why: str
    source: str


@dataclass(frozen=True)
class IconSpec(FileSpec):
    """One icon file. `sizes` are px, several only in an ICO; `rel` is its link in the head, if it has one."""

    sizes: tuple[int, ...]
    opaque: bool = False
    rel: str | None = None
    in_manifest: bool = False

    @property
    def sizes_attribute(self) -> str:
        """The value of the `sizes` attribute (WHATWG HTML, link type "icon")."""
        return " ".join(f"{size}x{size}" for size in self.sizes)


ICONS = (
    IconSpec(
        name="favicon.ico",
        title="Root favicon",
        media_type=ico.MEDIA_TYPE,
        why="Browsers, feed readers and search engines ask for it at the top of a site even when no page says so.",
        source="WHATWG HTML, link type “icon”",
        sizes=(16, 32, 48),
        rel="icon",
    ),
    IconSpec(
        name="icon-16.png",
        title="Tab icon",
        media_type=png.MEDIA_TYPE,
        why="Tabs and bookmarks on ordinary screens show 16 px; PNG keeps soft edges.",
        source="common practice",
        sizes=(16,),
        rel="icon",
    ),
    IconSpec(
        name="icon-32.png",
        title="Tab icon, dense screens",
        media_type=png.MEDIA_TYPE,
        why="On dense screens the same tab needs twice the pixels; desktop shortcuts use it, too.",
        source="common practice",
        sizes=(32,),
        rel="icon",
    ),
    IconSpec(
        name="apple-touch-icon.png",
        title="Home-screen icon",
        media_type=png.MEDIA_TYPE,
        why="Phones show it when somebody puts the site on the home screen. Opaque: clear parts turn black there.",
        source="phone makers’ public documentation",
        sizes=(180,),
        opaque=True,
        rel="apple-touch-icon",
    ),
    IconSpec(
        name="icon-192.png",
        title="App icon",
        media_type=png.MEDIA_TYPE,
        why="The web app manifest names it for the home screen and the app list.",
        source="W3C Web Application Manifest; browser makers’ criteria for installing",
        sizes=(192,),
        in_manifest=True,
    ),
    IconSpec(
        name="icon-512.png",
        title="App icon, large",
        media_type=png.MEDIA_TYPE,
        why="The web app manifest names it for start screens and shops.",
        source="W3C Web Application Manifest; browser makers’ criteria for installing",
        sizes=(512,),
        in_manifest=True,
    ),
)
MANIFEST = FileSpec(
    name="site.webmanifest",
    title="Web app manifest",
    media_type=webmanifest.MEDIA_TYPE,
    why="It tells phones and browsers the name and the large icons of the site when somebody keeps it as an app.",
    source="W3C Web Application Manifest",
)
CATALOGUE: tuple[FileSpec, ...] = (*ICONS, MANIFEST)
