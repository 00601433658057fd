"""What a command starts from: a picture under the options given, or a recipe file."""

import hashlib
from pathlib import Path
from typing import Annotated

import typer

from bexi.cli.speaking import read
from bexi.cli.taking_in import taken_in
from bexi.core.artwork.treatment import AS_IT_IS
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.hand.drawn import BY_HAND
from bexi.core.framing.recipe import Framing, Recipe, parse_ground
from bexi.core.iconset.build import Pictures
from bexi.core.iconset.plan import RECOMMENDED
from bexi.core.iconset.recipe_file import MAIN, ArtworkFile, RecipeFile
from bexi.core.pixels.colour import Colour

SourceArgument = Annotated[Path, typer.Argument(metavar="PICTURE|RECIPE.json", help="A picture or a recipe file.")]
FrameOption = Annotated[
    str | None, typer.Option(metavar="X,Y,SIDE", help="The square in artwork px; the whole artwork if not given.")
]

GroundOption = Annotated[str, typer.Option(metavar="clear|#rrggbb", help="What lies behind the artwork.")]
HomeGroundOption = Annotated[
    str, typer.Option(metavar="#rrggbb", help="Behind icons that must be opaque when the ground is clear.")
]
PlainOption = Annotated[
    bool, typer.Option("--plain", help="Reduce small tab icons plainly, without putting their edges on whole pixels.")
]
WHITE_GROUND = "#ffffff"


def source_of(source: Path, frame: str | None, ground: str, home_ground: str) -> tuple[RecipeFile, Pictures]:
    """A recipe file, or the recipe of a picture under the options given, and the pictures it is of."""
    data = read(source)
    if source.suffix == ".json":
        held = RecipeFile.parse(data)
        return held, held.pictures(
            lambda name: read(source.parent / name), lambda data, treatment: taken_in(data, treatment)[1]
        )
    _, artwork = taken_in(data)
    square = Frame.parse(frame) if frame else whole_artwork(artwork.width, artwork.height)
    recipe = Recipe(Framing(square, parse_ground(ground), Colour.parse(home_ground), by_hand=BY_HAND))
    sources = {MAIN: ArtworkFile(source.name, hashlib.sha256(data).hexdigest(), AS_IT_IS)}
    return RecipeFile(source.stem, sources, recipe, RECOMMENDED), lambda key: artwork
