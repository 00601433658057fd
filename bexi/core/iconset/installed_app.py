"""What the manifest says of a site installed as an app, beside its icons (W3C Web Application Manifest)."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from bexi.core.errors import PlanRefused
from bexi.core.pixels.colour import Colour

LONGEST_NAME, LONGEST_ADDRESS = 60, 300
_ELSEWHERE = re.compile(r"[a-z][a-z0-9+.-]*:|[/\\]{2}", re.I)
_NOT_IN_ADDRESSES = re.compile(r"[\x00-\x20\x7f\"<>\\^`{|}]")
_MEMBERS = ("short_name", "start_url", "id", "display", "theme_color", "background_color")


class Display(StrEnum):
    """How much of the browser is seen around the app; NOT_SAID leaves it to the standard, which says `browser`."""

    NOT_SAID = ""
    BROWSER = "browser"
    MINIMAL = "minimal-ui"
    STANDALONE = "standalone"
    FULLSCREEN = "fullscreen"


@dataclass(frozen=True)
class InstalledApp:
    """Members of the manifest; what is empty is not said, so a site's own stays, or what the standard gives counts.

    `short_name` stands under the icon, else the name. `theme` colours the bars around the app, `background` its start
    screen. `start` is the address it opens at, `id` what tells it from other apps of the same host, else the start.
    """

    short_name: str = ""
    theme: Colour | None = None
    background: Colour | None = None
    display: Display = Display.NOT_SAID
    start: str = ""
    id: str = ""

    def __post_init__(self) -> None:
        if len(self.short_name) > LONGEST_NAME:
            raise PlanRefused("unknown-app", f"A short name of over {LONGEST_NAME} characters is none. Shorten it.")
        if self.short_name != self.short_name.strip():
            raise PlanRefused("unknown-app", "The short name begins or ends with a space. Remove it.")
        for what, address in (("The start address", self.start), ("The id", self.id)):
            if _ELSEWHERE.match(address):
                raise PlanRefused(
                    "unknown-app", f"{what} lies on the site itself: give it from the top of the site, like / or /app/."
                )
            if len(address) > LONGEST_ADDRESS or _NOT_IN_ADDRESSES.search(address):
                raise PlanRefused(
                    "unknown-app",
                    f"{what} is not an address: write it as browsers show it, like /app/, with %20 for a space, "
                    f"in at most {LONGEST_ADDRESS} characters.",
                )

    @property
    def members(self) -> dict[str, str]:
        """The members that are said, by their names in the standard; read back by `from_members`."""
        colours = (str(colour or "") for colour in (self.theme, self.background))
        values = (self.short_name, self.start, self.id, self.display.value, *colours)
        return {name: value for name, value in zip(_MEMBERS, values, strict=True) if value}

    @classmethod
    def from_members(cls, data: Mapping[str, Any]) -> "InstalledApp":
        """Read the members of a manifest that are kept here; raises PlanRefused or FramingRefused."""
        said = {name: str(value).strip() for name, value in data.items()}
        unknown = said.keys() - _MEMBERS
        if unknown:
            raise PlanRefused(
                "unknown-app", f"“{min(unknown)[:40]}” is not set here. These are: {', '.join(_MEMBERS)}."
            )
        theme, background = said.get("theme_color"), said.get("background_color")
        try:
            display = Display(said.get("display", ""))
        except ValueError as error:
            known = ", ".join(one.value for one in Display if one)
            raise PlanRefused("unknown-app", f"An app is displayed as one of: {known}.") from error
        return cls(
            said.get("short_name", ""),
            Colour.parse(theme) if theme else None,
            Colour.parse(background) if background else None,
            display,
            said.get("start_url", ""),
            said.get("id", ""),
        )


NOTHING_SAID = InstalledApp()
