"""The addresses under which a site's pages name the files of the set."""

import re
from dataclasses import dataclass

from bexi.core.errors import PlanRefused

_BASE = re.compile(r"(?:https?://[A-Za-z0-9.:\[\]-]+)?/(?:[A-Za-z0-9._~%-]+/)*|")


@dataclass(frozen=True)
class Addresses:
    """How files are named: below `base`, with a mark of their content when `stamped`.

    `base` is `/` for the top of the site, a path or an address on another host, each ending in `/`; empty for
    addresses relative to the page. Raises PlanRefused for anything else.
    """

    base: str = "/"
    stamped: bool = False

    def __post_init__(self) -> None:
        if not _BASE.fullmatch(self.base):
            raise PlanRefused(
                "unknown-address",
                f"“{self.base[:60]}” is no place for the files: say / for the top of the site, a path or an address "
                "that ends in /, like https://static.example/icons/, or nothing for relative addresses.",
            )

    def of(self, name: str, sha256: str, page: str = "") -> str:
        """The address of a file as a page or text file at path `page`, from the top folder, names it.

        A stamp changes with the content, so that no cache goes on showing an old file.
        """
        base = self.base or "../" * page.count("/")
        return f"{base}{name}{f'?v={sha256[:8]}' if self.stamped else ''}"


AT_THE_TOP = Addresses(stamped=True)
"""Where browsers look by themselves, and passed by every cache that holds an older icon."""
