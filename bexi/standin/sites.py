"""The demo sites in their first state, and putting a served copy back to it."""

import shutil
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

_PRISTINE = Path(__file__).parent / "sites"
_HOUR = 3600
YEAR = 365 * 24 * _HOUR


@dataclass(frozen=True)
class DemoSite:
    """One invented site. `port_offset` is counted from the control port; `cache_seconds` is sent as max-age.

    `types` are sent for files of these endings in place of the usual ones, `moved` leads from one path to another, and
    with `answers_all` a page is sent for whatever is missing.
    """

    folder: str
    title: str
    port_offset: int
    cache_seconds: int
    types: Mapping[str, str] = field(default_factory=dict)
    moved: Mapping[str, str] = field(default_factory=dict)
    answers_all: bool = False


SITES = (
    DemoSite("merrowmouth", "Merrowmouth Ferry", 1, _HOUR),
    DemoSite("crew", "Crew rota", 2, 24 * _HOUR),
    DemoSite("log", "Harbour log", 3, YEAR),
    DemoSite("tide", "Tide tables", 4, _HOUR, answers_all=True),
    DemoSite("shop", "Ferry shop", 5, _HOUR, types={".svg": "text/plain"}, moved={"/": "/en/"}),
)


def reset(served: Path, sites: Sequence[DemoSite] = SITES) -> None:
    """Make the folder `served` hold these sites in their first state. The site folders themselves stay in place."""
    for site in sites:
        folder = served / site.folder
        folder.mkdir(parents=True, exist_ok=True)
        for old in folder.iterdir():
            shutil.rmtree(old) if old.is_dir() and not old.is_symlink() else old.unlink()
        shutil.copytree(_PRISTINE / site.folder, folder, dirs_exist_ok=True)
