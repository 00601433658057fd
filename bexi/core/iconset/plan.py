"""The set plan: which files of the catalogue a site gets, and how they are written and named."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from bexi.core.errors import PlanRefused
from bexi.core.formats.sizes import LARGEST_FRAME, LARGEST_ICON
from bexi.core.iconset.addresses import AT_THE_TOP, Addresses
from bexi.core.iconset.catalogue import (
    CATALOGUE,
    ROOT_ICO,
    FileSpec,
    IconSpec,
    tab_icon,
)
from bexi.core.iconset.installed_app import NOTHING_SAID, InstalledApp
from bexi.core.pixels.colour import Colour

VERSION = 2
_READ = (1, VERSION)
FRAME_KINDS = ("bitmap", "compact", "png")
"""How frames of the root favicon are stored: 32-bit bitmaps, the smallest lossless bitmaps, or PNG files."""
LARGEST_ERROR = 8.0


@dataclass(frozen=True)
class Plan:
    """Names of the files wanted, and the choices about them.

    `frames` are px in the root favicon, `extra` px of PNG icons beyond the catalogue. `dark` is the colour that the
    SVG icon's ink takes in dark schemes. `palette_error` above 0 lets PNG icons have 256 colours or fewer, dithered,
    as long as the mean error of their channels (of 255) stays within it. `app` goes into the manifest.
    """

    files: tuple[str, ...]
    frames: tuple[int, ...] = (16, 32, 48)
    frame_kind: str = "bitmap"
    extra: tuple[int, ...] = ()
    addresses: Addresses = AT_THE_TOP
    dark: Colour | None = None
    palette_error: float = 0
    app: InstalledApp = NOTHING_SAID

    def __post_init__(self) -> None:
        known = {spec.name for spec in CATALOGUE}
        for name in self.files:
            if name not in known:
                raise PlanRefused("unknown-file", f"“{name[:60]}” is not in the catalogue. See `bexi plans`.")
        if not self.specs:
            raise PlanRefused("empty-plan", "This plan holds no file. Choose at least one.")
        if not all(1 <= size <= LARGEST_ICON for size in self.extra):
            raise PlanRefused("unknown-sizes", f"Sizes of your own must lie between 1 and {LARGEST_ICON} px.")
        if not self.frames or not all(1 <= size <= LARGEST_FRAME for size in self.frames):
            raise PlanRefused("unknown-frames", f"The root favicon needs frames of 1 to {LARGEST_FRAME} px.")
        if self.frame_kind not in FRAME_KINDS:
            raise PlanRefused("unknown-frames", f"Frames are stored as one of: {', '.join(FRAME_KINDS)}.")
        if not 0 <= self.palette_error <= LARGEST_ERROR:
            raise PlanRefused(
                "unknown-error", f"The error of a palette must lie between 0 and {LARGEST_ERROR:g} of 255."
            )
        if self.app.start and "://" in self.addresses.base:
            raise PlanRefused(
                "unknown-app",
                "The manifest lies on another host, so a start address in it would lead there. Leave it empty.",
            )
        for spec in self.icons:
            if spec.named_by and spec.named_by.name not in self.files:
                raise PlanRefused(
                    "unnamed-files",
                    f"{spec.name} would never be found: only {spec.named_by.name} names it. Add that, or leave it out.",
                )

    @property
    def specs(self) -> tuple[FileSpec, ...]:
        """What is to be made, in the order of the catalogue, sizes of one's own after its PNG icons."""
        own = [tab_icon(size) for size in sorted(set(self.extra)) if f"icon-{size}.png" not in self.files]
        wanted = [spec for spec in CATALOGUE if spec.name in self.files]
        place = sum(1 for spec in wanted if isinstance(spec, IconSpec) and spec.rel == "icon" and spec.sizes)
        specs = [*wanted[:place], *own, *wanted[place:]]
        frames = tuple(sorted(set(self.frames)))
        return tuple(replace(spec, sizes=frames) if spec is ROOT_ICO else spec for spec in specs)

    @property
    def icons(self) -> tuple[IconSpec, ...]:
        """The icon files."""
        return tuple(spec for spec in self.specs if isinstance(spec, IconSpec))

    def must_hold(self, names: Iterable[str]) -> None:
        """Raise PlanRefused for a name of a file that this plan does not hold."""
        held = [spec.name for spec in self.specs]
        for name in names:
            if name not in held:
                raise PlanRefused("unknown-file", f"“{name[:60]}” is not in this plan, which holds {', '.join(held)}.")

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        return {
            "version": VERSION,
            "files": list(self.files),
            "frames": list(self.frames),
            "frame_kind": self.frame_kind,
            "extra": list(self.extra),
            "base": self.addresses.base,
            "stamped": self.addresses.stamped,
            "dark": str(self.dark) if self.dark else None,
            "palette_error": self.palette_error,
            "app": self.app.members,
        }

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> "Plan":
        """Read plain data, which has no app before version 2; raises PlanRefused for an unknown version."""
        if data.get("version") not in _READ:
            raise PlanRefused("unknown-plan", f"This is not a set plan of version {VERSION}, which this Bexi reads.")
        try:
            return cls(
                tuple(str(name) for name in data["files"]),
                tuple(int(size) for size in data["frames"]),
                str(data["frame_kind"]),
                tuple(int(size) for size in data["extra"]),
                Addresses(str(data["base"]), bool(data["stamped"])),
                Colour.parse(str(data["dark"])) if data["dark"] else None,
                float(data["palette_error"]),
                InstalledApp.from_members(data.get("app", {})),
            )
        except (KeyError, TypeError, ValueError, AttributeError) as error:
            raise PlanRefused("unknown-plan", f"This set plan lacks something or has it wrong: {error}.") from error


_SHORT = (
    "favicon.ico",
    "icon.svg",
    "apple-touch-icon.png",
    "icon-192.png",
    "icon-512.png",
    "site.webmanifest",
)
_BALANCED = (*_SHORT, "icon-16.png", "icon-32.png", "icon-maskable-192.png", "icon-maskable-512.png")
READY_MADE = {
    "short": Plan(_SHORT),
    "balanced": Plan(_BALANCED),
    "whole": Plan(tuple(spec.name for spec in CATALOGUE)),
}
"""The smallest sensible set; the one we recommend; and everything that anybody still asks for."""
RECOMMENDED = READY_MADE["balanced"]
