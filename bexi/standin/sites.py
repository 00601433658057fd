"""The demo sites in their first state, and putting a served copy back to it."""

import shutil
from dataclasses import dataclass
from pathlib import Path

_PRISTINE = Path(__file__).parent / "sites"
_HOUR = 3600
_YEAR = 365 * 24 * _HOUR


@dataclass(frozen=True)
class DemoSite:
    """One invented site. `port_offset` is counted from the control port; `cache_seconds` is sent as max-age."""

    folder: str
    title: str
    port_offset: int
    cache_seconds: int


SITES = (
    DemoSite("merrowmouth", "Merrowmouth Ferry", 1, _HOUR),
    DemoSite("crew", "Crew rota", 2, 24 * _HOUR),
    DemoSite("log", "Harbour log", 3, _YEAR),
)


def reset(served: Path) -> None:
    """Make the folder `served` hold every site in its first state. The site folders themselves stay in place."""
    for site in SITES:
        folder = served / site.folder
        folder.mkdir(parents=True, exist_ok=True)
        for old in folder.iterdir():
            shutil.rmtree(old) if old.is_dir() and not old.is_symlink() else old.unlink()
        shutil.copytree(_PRISTINE / site.folder, folder, dirs_exist_ok=True)
