"""Beginnings: what is made of a picture before anybody says which website it is for."""

from django.db import transaction

from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.recipe import Framing, Recipe
from bexi.server.artwork.models import Artwork
from bexi.server.drafts.models import Draft
from bexi.server.drafts.services import begin, keep
from bexi.server.problems import Conflict
from bexi.server.sites.adding import add, added_by
from bexi.server.sites.models import Site


@transaction.atomic
def begin_with(artwork: Artwork, name: str, key: str | None) -> Site:
    """Lay a picture on a bench of its own, as it came; the same request, sent again, lays it there once.

    `name` is what it is called meanwhile, else it goes by the title of the picture.
    """
    known = added_by(key)
    if known:
        return known
    beginning = add(key, name=name or called_meanwhile(artwork), is_beginning=True)
    whole = whole_artwork(artwork.facts["width"], artwork.facts["height"])
    begin(beginning, artwork, Recipe(Framing(whole)))
    return beginning


def called_meanwhile(artwork: Artwork) -> str:
    """What a beginning goes by that was given no name."""
    return artwork.title[:80] or "A picture"


@transaction.atomic
def put_on(beginning: Site, site: Site) -> Draft:
    """Lay what is on the bench of a beginning on that of a site, as one change there, which can be undone.

    Raises Conflict when nothing lies there.
    """
    draft = beginning.drafts.first()
    if draft is None:
        raise Conflict("nothing-begun", "There is no picture here yet. Drop one first.")
    there = site.drafts.first() or Draft(site=site)
    kept = keep(there, draft.artwork, draft.read_recipe, there.revision)
    beginning.remove()
    return kept
