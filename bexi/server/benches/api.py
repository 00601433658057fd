"""Drafts and the size ladder over the API."""

import base64

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema

from bexi.core.framing.frame import Frame
from bexi.core.framing.recipe import Recipe, parse_ground
from bexi.core.pixels.colour import WHITE, Colour
from bexi.server.artwork.api import FrameBody
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.services import picture_of
from bexi.server.benches import services
from bexi.server.benches.models import Draft
from bexi.server.sites.models import Site

router = Router(tags=["benches"])


class RecipeBody(Schema):
    """`ground` is `clear` or a hex colour; `home_ground` lies under icons that must be opaque."""

    frame: FrameBody
    ground: str = "clear"
    home_ground: str = str(WHITE)

    def recipe(self) -> Recipe:
        """The recipe; raises FramingRefused."""
        frame = Frame(self.frame.x, self.frame.y, self.frame.side)
        return Recipe(frame, parse_ground(self.ground), Colour.parse(self.home_ground))

    @classmethod
    def of(cls, recipe: Recipe) -> "RecipeBody":
        """A recipe as the API tells it."""
        plain = recipe.as_json()
        return cls(frame=FrameBody.of(recipe.frame), ground=str(plain["ground"]), home_ground=str(recipe.home_ground))


class DraftIn(Schema):
    artwork_id: int
    recipe: RecipeBody
    revision: int


class DraftOut(DraftIn):
    pass


class LadderIn(Schema):
    recipe: RecipeBody
    sizes: list[int]


class RungOut(Schema):
    """`png` is base64; `enlargement` is how many times the artwork is enlarged, null for vectors."""

    size: int
    opaque: bool
    png: str
    bytes: int
    enlargement: float | None


@router.get("/sites/{site_id}/draft", response=DraftOut | None)
def get_draft(request: HttpRequest, site_id: int) -> DraftOut | None:
    """What is on the bench of a site, or null."""
    draft = get_object_or_404(Site, pk=site_id).drafts.first()
    return _out(draft) if draft else None


@router.put("/sites/{site_id}/draft", response=DraftOut)
def put_draft(request: HttpRequest, site_id: int, body: DraftIn) -> DraftOut:
    """Keep the draft of a site; `revision` is the one it was made from, 0 for the first."""
    site = get_object_or_404(Site, pk=site_id)
    artwork = get_object_or_404(Artwork, pk=body.artwork_id)
    return _out(services.save_draft(site, artwork, body.recipe.recipe(), body.revision))


@router.post("/artwork/{artwork_id}/ladder", response=list[RungOut])
def ladder(request: HttpRequest, artwork_id: int, body: LadderIn) -> list[RungOut]:
    """The icons a recipe gives at these sizes, as they would be built."""
    artwork = get_object_or_404(Artwork, pk=artwork_id)
    rungs = services.rungs(picture_of(artwork), body.recipe.recipe(), body.sizes)
    return [
        RungOut(
            size=rung.size,
            opaque=rung.opaque,
            png=base64.b64encode(rung.png).decode(),
            bytes=len(rung.png),
            enlargement=rung.enlargement,
        )
        for rung in rungs
    ]


def _out(draft: Draft) -> DraftOut:
    recipe = Recipe.from_json(draft.recipe)
    return DraftOut(artwork_id=draft.artwork_id, recipe=RecipeBody.of(recipe), revision=draft.revision)
