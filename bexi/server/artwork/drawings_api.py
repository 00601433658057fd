"""Drawing letters and symbols over the API."""

import base64
from itertools import islice
from typing import Annotated

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Query, Router, Schema

from bexi.core.artwork.intake import take_in
from bexi.core.artwork.subjects import browsed
from bexi.core.artwork.symbols import search
from bexi.core.formats import png
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.reduce import reduced
from bexi.core.judging.initials import initials_to_choose
from bexi.resources import FACES, symbol_shapes
from bexi.server.artwork import drawings
from bexi.server.artwork.api import ArtworkOut
from bexi.server.artwork.drawings import DrawingBody
from bexi.server.artwork.models import Artwork
from bexi.server.people.asking import Needs
from bexi.server.people.roles import Role

router = Router(tags=["drawings"])

PREVIEW_SIZES = (16, 32, 48, 180)
MOST_SYMBOLS = 120


class FaceOut(Schema):
    key: str
    name: str
    weights: list[int]
    licence: str


class SymbolShapeOut(Schema):
    """`body` is the SVG inside a square of 24 units, to be stroked 2 units thick."""

    name: str
    body: str


class SymbolKindOut(Schema):
    name: str
    symbols: list[SymbolShapeOut]


class PreviewIn(Schema):
    drawing: DrawingBody


class PreviewPictureOut(Schema):
    """`png` is base64."""

    size: int
    png: str


class PreviewOut(Schema):
    """`contrast` is the WCAG ratio of ink and plate, null without a plate."""

    contrast: float | None
    pictures: list[PreviewPictureOut]


@router.get("/faces", response=list[FaceOut])
def list_faces(request: HttpRequest) -> list[FaceOut]:
    """The faces letters can be set in."""
    return [
        FaceOut(key=one.key, name=one.name, weights=list(one.weights), licence=one.licence) for one in FACES.values()
    ]


@router.get("/symbols", response=list[SymbolShapeOut])
def find_symbols(request: HttpRequest, words: str) -> list[SymbolShapeOut]:
    """Symbols found by words, the best first."""
    found = islice(search(words, symbol_shapes()), MOST_SYMBOLS)
    return [SymbolShapeOut(name=shape.name, body=shape.body) for shape in found]


@router.get("/symbol-kinds", response=list[SymbolKindOut])
def browse_symbols(request: HttpRequest) -> list[SymbolKindOut]:
    """Symbols by kind, to be looked through before any word is typed."""
    shapes = symbol_shapes()
    return [
        SymbolKindOut(
            name=kind,
            symbols=[SymbolShapeOut(name=name, body=shapes[name].body) for name in names if name in shapes],
        )
        for kind, names in browsed().items()
    ]


@router.get("/initials", response=list[str])
def letters_for(request: HttpRequest, name: Annotated[str, Query(max_length=200)]) -> list[str]:
    """Letters that may stand for a name, the likeliest first."""
    return initials_to_choose(name)


@router.post("/drawings/preview", response=PreviewOut, auth=Needs(Role.LOOKS))
def preview_drawing(request: HttpRequest, body: PreviewIn) -> PreviewOut:
    """How a drawing looks at a few sizes; nothing is kept."""
    _, picture = take_in(body.drawing.draw().encode())
    composed = reduced(picture, whole_artwork(picture.width, picture.height), None, PREVIEW_SIZES)
    pictures = [
        PreviewPictureOut(size=size, png=base64.b64encode(png.write(pixels)).decode())
        for size, pixels in zip(PREVIEW_SIZES, composed, strict=True)
    ]
    return PreviewOut(contrast=drawings.contrast_of(body.drawing), pictures=pictures)


@router.post("/drawings", response={201: ArtworkOut})
def add_drawing(request: HttpRequest, body: PreviewIn) -> tuple[int, ArtworkOut]:
    """Draw and keep a new artwork."""
    return 201, ArtworkOut.of(drawings.add_drawing(body.drawing))


@router.put("/artwork/{artwork_id}/drawing", response=ArtworkOut)
def change_drawing(request: HttpRequest, artwork_id: int, body: PreviewIn) -> ArtworkOut:
    """Draw an artwork of Bexi's anew."""
    artwork = get_object_or_404(Artwork, pk=artwork_id, drawing__isnull=False)
    drawings.change_drawing(artwork, body.drawing)
    return ArtworkOut.of(artwork)
