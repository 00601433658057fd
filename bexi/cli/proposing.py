"""What is proposed for a picture, as the commands that frame one by themselves take it."""

import dataclasses
import hashlib
import sys
from collections.abc import Sequence
from pathlib import Path

from bexi.cli.sources import WHITE_GROUND
from bexi.cli.speaking import fail, read
from bexi.cli.taking_in import taken_in
from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.treatment import AS_IT_IS
from bexi.core.framing.recipe import Recipe, parse_ground
from bexi.core.iconset.build import Pictures
from bexi.core.iconset.plan import RECOMMENDED
from bexi.core.iconset.recipe_file import MAIN, ArtworkFile, RecipeFile
from bexi.core.judging.groups import groups_of
from bexi.core.judging.initials import Drawn, drawn_initials, runs_leftwards
from bexi.core.judging.proposals import Proposal, propose
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import Colour
from bexi.resources import initials_face
from bexi.resources.generic import generic_icons

_SAY_THE_NAME = "No part of this picture is clear at every size. Add --name NAME to be offered the site's initials too."


def proposed(picture: Picture, name: str | None) -> tuple[list[Proposal], Sequence[Drawn]]:
    """Proposals for a picture, the best first, and the letters drawn for them; a file's name is no site's name."""
    source = Source(picture, groups_of(picture, runs_leftwards(name or "")))
    letters = list(drawn_initials(name or "", source.groups, initials_face()))
    proposals = propose(source, [one.source for one in letters], others=generic_icons())
    if proposals[0].is_lost and not name:
        print(_SAY_THE_NAME, file=sys.stderr)
    return proposals, letters


def best_of(
    source: Path, frame: str | None, ground: str, home_ground: str, name: str | None
) -> tuple[RecipeFile, Pictures, dict[str, bytes]]:
    """The recipe that is proposed first for a picture, on grounds if they are asked for, and files drawn for it."""
    if frame or source.suffix == ".json":
        fail("--propose frames a picture by itself. Give it a PICTURE, and no --frame.")
    data = read(source)
    _, artwork = taken_in(data)
    (best, *_), letters = proposed(artwork, name)
    drawn = next((one for one in letters if one.source is best.source), None)
    file, content = (source.name, data) if drawn is None else ("letters.svg", drawn.svg)
    sources = {MAIN: ArtworkFile(file, hashlib.sha256(content).hexdigest(), AS_IT_IS)}
    framing = dataclasses.replace(
        best.framing,
        ground=parse_ground(ground) or best.framing.ground,
        home_ground=best.framing.home_ground if home_ground == WHITE_GROUND else Colour.parse(home_ground),
    )
    recipe_file = RecipeFile(name or source.stem, sources, Recipe(framing), RECOMMENDED)
    return recipe_file, lambda key: best.source.picture, {} if drawn is None else {file: content}
