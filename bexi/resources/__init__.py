"""Faces and symbols that ship with the application: gathered from npm packages by `make setup`, not committed."""

import json
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from bexi.core.artwork.symbols import SymbolShape

GATHERED = Path(__file__).parent / "gathered"


@dataclass(frozen=True)
class Face:
    """A typeface: its key and npm package name, its own name, the weights it comes in."""

    key: str
    name: str
    weights: tuple[int, ...]
    licence: str = "SIL Open Font License 1.1"


FACES = {
    face.key: face
    for face in (
        Face("atkinson-hyperlegible-next", "Atkinson Hyperlegible Next", (600, 700, 800)),
        Face("barlow", "Barlow", (600, 700, 800, 900)),
        Face("noto-sans", "Noto Sans", (600, 700, 800, 900)),
        Face("nunito", "Nunito", (600, 700, 800, 900)),
        Face("rubik", "Rubik", (600, 700, 800, 900)),
        Face("work-sans", "Work Sans", (600, 700, 800, 900)),
    )
}
SYMBOL_CREDIT = "Symbol from the Lucide set, by its contributors"
SYMBOL_LICENCE = "ISC"


@lru_cache(maxsize=32)
def face_files(key: str, weight: int) -> tuple[bytes, ...]:
    """The font files of one face in one weight, each with some of its characters, Latin first."""
    files = sorted(
        (GATHERED / "faces").glob(f"{key}-*-{weight}-normal.woff"), key=lambda file: "-latin-" not in file.name
    )
    if not files:
        raise FileNotFoundError("The faces are not gathered yet: run make setup.")
    return tuple(file.read_bytes() for file in files)


INITIALS_FACE, INITIALS_WEIGHT = "rubik", 700
"""In which letters are read best at 16 px, of the faces and weights that ship."""


def initials_face() -> tuple[bytes, ...]:
    """The files of the face for letters that stand in for artwork."""
    return face_files(INITIALS_FACE, INITIALS_WEIGHT)


@lru_cache(maxsize=1)
def symbol_shapes() -> dict[str, SymbolShape]:
    """All symbols by name."""
    gathered = json.loads((GATHERED / "symbols.json").read_text())
    return {name: SymbolShape(name, body, tuple(words)) for name, body, words in gathered}
