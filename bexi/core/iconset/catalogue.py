"""The icons a site needs: each with its conventional name, its reason and its source.

The values come from the named documents as we remember them; they were not at hand when this was written.
"""

from dataclasses import dataclass

from bexi.core.formats import ico, png


@dataclass(frozen=True)
class IconSpec:
    """One icon file to make. `sizes` are px, several only in an ICO; `rel` is its link in the head, if it has one."""

    name: str
    title: str
    media_type: str
    sizes: tuple[int, ...]
    why: str
    source: str
    opaque: bool = False
    rel: str | None = None
    in_manifest: bool = False

    @property
    def sizes_attribute(self) -> str:
        """The value of the `sizes` attribute (WHATWG HTML, link type "icon")."""
        return " ".join(f"{size}x{size}" for size in self.sizes)


MANIFEST_NAME = "site.webmanifest"

CATALOGUE = (
    IconSpec(
        "favicon.ico", "Root favicon", ico.MEDIA_TYPE, (16, 32, 48),
        "Browsers, feed readers and search engines ask for it at the top of the site, even when no page declares it.",
        "WHATWG HTML, link type “icon”", rel="icon",
    ),
    IconSpec(
        "icon-16.png", "Tab icon", png.MEDIA_TYPE, (16,),
        "Tabs and bookmarks on ordinary screens show 16 px; PNG keeps soft edges.",
        "common practice", rel="icon",
    ),
    IconSpec(
        "icon-32.png", "Tab icon, dense screens", png.MEDIA_TYPE, (32,),
        "On dense screens the same tab needs twice the pixels; desktop shortcuts use it, too.",
        "common practice", rel="icon",
    ),
    IconSpec(
        "apple-touch-icon.png", "Home-screen icon", png.MEDIA_TYPE, (180,),
        "A phone shows it when somebody puts the site on the home screen. Opaque, since clear parts turn black there.",
        "phone makers’ public documentation", opaque=True, rel="apple-touch-icon",
    ),
    IconSpec(
        "icon-192.png", "App icon", png.MEDIA_TYPE, (192,),
        "The web app manifest names it for the home screen and the app list.",
        "W3C Web Application Manifest; browser makers’ criteria for installing", in_manifest=True,
    ),
    IconSpec(
        "icon-512.png", "App icon, large", png.MEDIA_TYPE, (512,),
        "The web app manifest names it for start screens and shops.",
        "W3C Web Application Manifest; browser makers’ criteria for installing", in_manifest=True,
    ),
)  # fmt: skip
