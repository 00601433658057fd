"""Keeping drafts, and the pictures the bench shows of them."""

from collections.abc import Collection
from dataclasses import dataclass

from django.db import transaction

from bexi.core.artwork.pictures import Picture
from bexi.core.formats import png
from bexi.core.framing.compose import compose, enlargement
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.catalogue import ICONS
from bexi.server.artwork.models import Artwork
from bexi.server.benches.models import Draft
from bexi.server.problems import Conflict
from bexi.server.sites.models import Site


@dataclass(frozen=True)
class Rung:
    """One size of the ladder: its picture, and how many times the artwork is enlarged for it (None for vectors)."""

    size: int
    opaque: bool
    png: bytes
    enlargement: float | None


LADDER = tuple(dict.fromkeys((size, spec.opaque) for spec in ICONS for size in spec.sizes))
"""Size in px and opacity of every picture in the catalogue, smallest first."""


def rungs(picture: Picture, recipe: Recipe, sizes: Collection[int]) -> list[Rung]:
    """The pictures of the set at these sizes: PNG icons are the very bytes that a build of this recipe writes."""
    drawn: dict[tuple[int, bool], bytes] = {}
    for opaque in (False, True):
        wanted = [size for size, rung_opaque in LADDER if rung_opaque is opaque and size in sizes]
        if wanted:
            composed = compose(picture, recipe.frame, recipe.ground_for(opaque), wanted)
            drawn |= {(size, opaque): png.write(pixels) for size, pixels in zip(wanted, composed, strict=True)}
    return [
        Rung(size, opaque, drawn[size, opaque], enlargement(picture, recipe.frame, size))
        for size, opaque in LADDER
        if (size, opaque) in drawn
    ]


@transaction.atomic
def save_draft(site: Site, artwork: Artwork, recipe: Recipe, revision: int) -> Draft:
    """Keep the draft of a site; `revision` is the one it was made from, 0 for the first.

    Raises Conflict when another window has saved since, FramingRefused when the frame misses the artwork.
    """
    recipe.frame.must_touch(artwork.facts["width"], artwork.facts["height"])
    draft = Draft.objects.filter(site=site).first() or Draft(site=site, revision=0)
    if draft.revision != revision:
        raise Conflict(
            "draft-changed-elsewhere",
            "This draft was changed in another window. Reload the bench to see that version before you go on.",
        )
    draft.artwork = artwork
    draft.recipe = recipe.as_json()
    draft.revision += 1
    draft.save()
    return draft
