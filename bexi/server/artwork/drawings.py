"""Artwork drawn by Bexi: letters and symbols, kept as SVG with what they were drawn from, so they can be changed."""

from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from bexi.core.artwork.letters import Letters, draw_letters
from bexi.core.artwork.plate import DARK, Plate
from bexi.core.artwork.symbols import Symbol, draw_symbol
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.colour import Colour
from bexi.resources import FACES, SYMBOL_CREDIT, SYMBOL_LICENCE, face_files, symbol_shapes
from bexi.server.artwork import services
from bexi.server.artwork.models import Artwork


class LettersBody(Schema):
    kind: Literal["letters"] = "letters"
    text: str
    face: str
    weight: int
    tracking: int = 0
    ink: Colour = DARK
    plate: Plate = Plate()

    def draw(self) -> str:
        """The letters as SVG; raises ArtworkRefused."""
        face = FACES.get(self.face)
        if face is None or self.weight not in face.weights:
            raise ArtworkRefused("no-such-face", "There is no such font in this weight. Choose one from the list.")
        letters = Letters(self.text, self.ink, self.tracking, self.plate)
        return draw_letters(letters, face_files(self.face, self.weight))


class SymbolBody(Schema):
    kind: Literal["symbol"] = "symbol"
    name: str
    ink: Colour = DARK
    stroke: float = 2
    plate: Plate = Plate()

    def draw(self) -> str:
        """The symbol as SVG; raises ArtworkRefused."""
        return draw_symbol(Symbol(self.name, self.ink, self.stroke, self.plate), symbol_shapes())


DrawingBody = Annotated[LettersBody | SymbolBody, Field(discriminator="kind")]


def contrast_of(drawing: LettersBody | SymbolBody) -> float | None:
    """WCAG contrast of the ink on its plate; None without a plate."""
    return drawing.plate.contrast_with(drawing.ink)


def add_drawing(drawing: LettersBody | SymbolBody) -> Artwork:
    """Draw and keep a new artwork; raises ArtworkRefused."""
    if isinstance(drawing, LettersBody):
        title, credit, licence = f"Letters {''.join(drawing.text.split())}", "", "own"
    else:
        title, credit, licence = f"Symbol {drawing.name.replace('-', ' ')}", SYMBOL_CREDIT, SYMBOL_LICENCE
    svg = drawing.draw().encode()
    return services.add_artwork(
        f"{title.lower().replace(' ', '-')}.svg",
        svg,
        title,
        credit=credit,
        licence=licence,
        permission=True,
        origin="drawn in Bexi",
        drawing=drawing.model_dump(mode="json"),
    )


def change_drawing(artwork: Artwork, drawing: LettersBody | SymbolBody) -> None:
    """Draw an artwork of ours anew; raises ArtworkRefused, or Conflict when that is another artwork already."""
    services.replace(artwork, artwork.file_name, drawing.draw().encode())
    artwork.drawing = drawing.model_dump(mode="json")
    artwork.save()
