"""Keeping drafts with their history, and the pictures the bench shows of them."""

import hashlib
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType

import numpy as np
from django.core.cache import caches
from django.db import transaction

from bexi.core.artwork.ground import on_paper
from bexi.core.artwork.ink import GroundKind, find_ink
from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.errors import FramingRefused
from bexi.core.formats import png
from bexi.core.framing.compose import framing_for, moves_in, steps_done
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.hand.drawn import grips_in
from bexi.core.framing.hand.held import Grip
from bexi.core.framing.hand.steps import HandStep
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.framing.reduce import enlargement, reduced
from bexi.core.framing.tabs import TABS
from bexi.core.iconset.build import ENGINE_VERSION, Pictures, compose_squares
from bexi.core.iconset.catalogue import tab_icon
from bexi.core.iconset.encode import Job, encode
from bexi.core.judging import likeness
from bexi.core.judging.judge import judge
from bexi.core.judging.readings import JUDGED_BY, Judgement
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels
from bexi.resources.generic import generic_icons
from bexi.server.artwork.aside import aside_when_large
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.services import picture_of
from bexi.server.drafts.models import Draft, DraftChange
from bexi.server.encoding import processes
from bexi.server.problems import Conflict
from bexi.server.sites.models import Site

MEASURED_AT = 192
MOST_NEIGHBOURS = 40
"""Sites whose icons are compared with, those worked on last."""
_kept = caches["rungs"]
Icon = tuple[int, Purpose]
"""One picture of a set: its side in px and what it is for."""


@dataclass(frozen=True)
class ByHand:
    """What drawing an icon by hand did: how many edges were put on px, what before that, and the PNG without it."""

    edges: int
    steps: tuple[HandStep, ...]
    plain: bytes


@dataclass(frozen=True)
class Rung:
    """One picture of the ladder, and how many times its artwork is enlarged for it (None for vectors).

    `own` is the number of the recipe's own framing that it takes, None when it goes with all sizes; `framing` is
    the one it comes out of, `judgement` what a person will see of it. `by_hand` is None where it is the plain one;
    `grips` are the edges that can be taken hold of.
    """

    size: int
    purpose: Purpose
    png: bytes
    enlargement: float | None
    own: int | None
    framing: Framing
    judgement: Judgement
    by_hand: ByHand | None = None
    grips: tuple[Grip, ...] = ()


@aside_when_large
def rungs(
    artwork: Artwork,
    recipe: Recipe,
    wanted: Sequence[Icon],
    grounds: Mapping[str, Colour] = TABS,
    others: Mapping[str, Pixels] = MappingProxyType({}),
    nobody_waits: Callable[[], bool] = lambda: False,
) -> list[Rung]:
    """These pictures of the set, judged by the very bytes that a build of this recipe writes.

    Raises Conflict when nobody waits for them any more, found out between two steps.
    """
    pictures = pictures_for(artwork)
    framings = _framings(pictures, recipe, wanted)
    made = _made(artwork, recipe, framings, nobody_waits)
    judged = _judged(artwork, framings, made, grounds, others)
    drawn = _by_hand(artwork, recipe, framings, nobody_waits)
    return [_rung(pictures, recipe, icon, framings[icon], made[icon], judged[icon], drawn.get(icon)) for icon in wanted]


def _framings(pictures: Pictures, recipe: Recipe, wanted: Sequence[Icon]) -> dict[Icon, Framing]:
    return {icon: framing_for(pictures(recipe.framing.artwork), recipe, *icon) for icon in wanted}


def _made(
    artwork: Artwork, recipe: Recipe, framings: Mapping[Icon, Framing], nobody_waits: Callable[[], bool]
) -> dict[Icon, bytes]:
    """The PNG files of icons under their framings, kept for a while."""
    keys = {icon: _key(artwork, framing, *icon) for icon, framing in framings.items()}
    kept = _kept.get_many(keys.values())
    missing = [icon for icon in framings if keys[icon] not in kept]
    squares = compose_squares(pictures_for(artwork), recipe, missing)
    jobs = [Job(tab_icon(size), [squares[size, purpose]]) for size, purpose in missing]
    stop_if(nobody_waits())
    for icon, data in zip(missing, processes.each(encode, jobs), strict=True):
        kept[keys[icon]] = data
        _kept.set(keys[icon], data)
        stop_if(nobody_waits())
    return {icon: kept[key] for icon, key in keys.items()}


def _by_hand(
    artwork: Artwork, recipe: Recipe, framings: Mapping[Icon, Framing], nobody_waits: Callable[[], bool]
) -> dict[Icon, ByHand]:
    """Of those icons that are not the plain ones."""
    pictures = pictures_for(artwork)
    done: dict[Icon, tuple[int, tuple[HandStep, ...]]] = {
        (size, purpose): (moves_in(picture, framing, size).count, steps_done(picture, framing, size))
        for (size, purpose), framing in framings.items()
        if purpose is Purpose.TAB and size in framing.by_hand
        for picture in (pictures(framing.artwork),)
    }
    drawn = {icon: told for icon, told in done.items() if any(told)}
    plain: dict[Icon, Framing] = {icon: framings[icon].plain for icon in drawn}
    made = _made(artwork, recipe.plain, plain, nobody_waits)
    return {icon: ByHand(edges, steps, made[icon]) for icon, (edges, steps) in drawn.items()}


def _judged(
    artwork: Artwork,
    framings: Mapping[Icon, Framing],
    made: Mapping[Icon, bytes],
    grounds: Mapping[str, Colour],
    others: Mapping[str, Pixels],
) -> dict[Icon, Judgement]:
    """Each icon judged by the very bytes that were made, kept for a while like them."""
    among = [(name, hashlib.sha256(icon.tobytes()).hexdigest()) for name, icon in others.items()]
    beside = hashlib.sha256(repr((JUDGED_BY, list(grounds.items()), among)).encode()).hexdigest()
    keys = {icon: f"{_key(artwork, framing, *icon)}-beside-{beside}" for icon, framing in framings.items()}
    kept = _kept.get_many(keys.values())
    pictures = pictures_for(artwork)
    for icon in (icon for icon in framings if keys[icon] not in kept):
        framing, (_, purpose) = framings[icon], icon
        pixels = png.read(made[icon])
        (kept[keys[icon]],) = judge(pictures(framing.artwork), framing, [pixels], purpose, grounds, others)
        _kept.set(keys[icon], kept[keys[icon]])
    return {icon: kept[key] for icon, key in keys.items()}


@aside_when_large
def neighbours(site_id: int, artwork_id: int) -> dict[str, Pixels]:
    """What the icon of a site should not be taken for: those of the other sites, and the plain generic ones.

    Sites that share its artwork share it on purpose, so they are left out.
    """
    drafts = Draft.objects.filter(chosen=True, site__removed=None, site__is_beginning=False).select_related(
        "site", "artwork"
    )
    others = drafts.exclude(site_id=site_id).exclude(artwork_id=artwork_id).exclude(beside=artwork_id)
    drawn = {}
    for draft in others.order_by("-changed")[:MOST_NEIGHBOURS]:
        recipe, icon = draft.read_recipe, (likeness.SIDE, Purpose.TAB)
        framings = _framings(pictures_for(draft.artwork), recipe, [icon])
        made = _made(draft.artwork, recipe, framings, lambda: False)
        drawn[f"{draft.site.name}'s icon"] = png.read(made[icon])
    return {**drawn, **generic_icons()}


def stop_if(outdated: bool) -> None:
    """Raise Conflict when what is being made is outdated."""
    if outdated:
        raise Conflict("outdated", "Nobody waits for these pictures any more.")


def _rung(
    pictures: Pictures,
    recipe: Recipe,
    icon: Icon,
    framing: Framing,
    data: bytes,
    judgement: Judgement,
    by_hand: ByHand | None,
) -> Rung:
    size, purpose = icon
    taken = recipe.own_for(size, purpose)
    enlarged = enlargement(pictures(framing.artwork), framing.frame, size)
    own = recipe.own.index(taken) if taken else None
    grips: list[Grip] = []
    if purpose is Purpose.TAB and size in framing.by_hand:
        grips = grips_in(moves_in(pictures(framing.artwork), framing, size), size, framing.held)
    return Rung(size, purpose, data, enlarged, own, framing, judgement, by_hand, tuple(grips))


def _key(artwork: Artwork, framing: Framing, size: int, purpose: Purpose) -> str:
    """Under which a picture is kept: all that it is made of."""
    source = _artwork(artwork, framing.artwork)
    by_hand = (size,) if size in framing.by_hand and purpose is Purpose.TAB else ()
    held = tuple(one for one in framing.held if one.size in by_hand)
    steps = tuple(one for one in framing.steps if one.size in by_hand)
    own = replace(framing, artwork=None, by_hand=by_hand, held=held, steps=steps)
    made_of = (ENGINE_VERSION, source.sha256, source.read_as, own, size, purpose)
    return hashlib.sha256(repr(made_of).encode()).hexdigest()


@aside_when_large
def ink_in(artwork: Artwork, frame: Frame) -> Pixels:
    """The artwork in a frame on a clear ground, MEASURED_AT px large; a solid ground of its own counts as no ink."""
    picture = picture_of(artwork)
    if artwork.facts["ground"] in (GroundKind.SOLID, GroundKind.CHECKERED) and isinstance(picture, Bitmap):
        mask = find_ink(on_paper(picture).pixels).mask
        picture = Bitmap(np.where(mask[..., None], picture.pixels, 0).astype(np.uint8))
    return reduced(picture, frame, None, [MEASURED_AT])[0]


def pictures_for(artwork: Artwork) -> Pictures:
    """Finds the pictures of a recipe on this artwork; raises FramingRefused for an artwork that is not there."""

    def picture(key: str | None) -> Picture:
        return picture_of(_artwork(artwork, key))

    return picture


def save_draft(site: Site, artwork: Artwork, recipe: Recipe, revision: int) -> Draft:
    """Keep the draft that is on the bench of a site; see `keep`."""
    return keep(site.drafts.first() or Draft(site=site), artwork, recipe, revision)


@transaction.atomic
def keep(draft: Draft, artwork: Artwork, recipe: Recipe, revision: int) -> Draft:
    """Keep a draft; `revision` is the one it was made from, 0 for a new one. What was kept already is not kept again.

    Raises Conflict when another window has saved since, FramingRefused when a frame misses its artwork.
    """
    for framing in recipe.framings:
        facts = _artwork(artwork, framing.artwork).facts
        framing.frame.must_touch(facts["width"], facts["height"])
    _alone(draft)
    if _was_kept(draft, artwork, recipe, revision):
        return draft
    refuse_overtaken(draft, revision)
    _record(draft, artwork, recipe)
    return draft


def _was_kept(draft: Draft, artwork: Artwork, recipe: Recipe, revision: int) -> bool:
    """Whether it is sent again after a lost answer: made from an older revision, and what stands now."""
    if not draft.pk:
        return False
    draft.refresh_from_db()
    return draft.revision > revision and draft.artwork_id == artwork.pk and draft.recipe == recipe.as_json()


@transaction.atomic
def begin(site: Site, artwork: Artwork, recipe: Recipe) -> Draft:
    """The first draft of a site; raises Conflict when another window has begun one."""
    Site.objects.select_for_update().get(pk=site.pk)
    if site.drafts.exists():
        raise _overtaken()
    return keep(Draft(site=site), artwork, recipe, 0)


@transaction.atomic
def step(draft: Draft, revision: int, by: int) -> Draft:
    """Undo the last change (`by` -1) or do it again (1); raises Conflict when there is none, or when overtaken."""
    _alone(draft)
    refuse_overtaken(draft, revision)
    change = draft.changes.filter(number=draft.position + by).first()
    if change is None:
        raise Conflict("no-such-change", "There is no further change in that direction.")
    draft.position = change.number
    _put(draft, change.artwork, Recipe.from_json(change.recipe))
    return draft


@transaction.atomic
def duplicate(draft: Draft, name: str, revision: int) -> Draft:
    """A copy of a draft under a new name, chosen from now on; raises Conflict when overtaken or the name is taken."""
    refuse_overtaken(draft, revision)
    _refuse_taken(draft.site, name)
    copy = Draft(site=draft.site, name=name, chosen=False)
    _record(copy, draft.artwork, draft.read_recipe)
    return choose(copy)


@transaction.atomic
def choose(draft: Draft) -> Draft:
    """Put a draft on the bench, to be edited and built from now on."""
    draft.site.drafts.update(chosen=False)
    draft.chosen = True
    draft.save()
    return draft


def rename(draft: Draft, name: str) -> Draft:
    """Give a draft another name; raises Conflict when another has it."""
    if name != draft.name:
        _refuse_taken(draft.site, name)
    draft.name = name
    draft.save()
    return draft


@transaction.atomic
def remove(draft: Draft) -> None:
    """Have a draft seen no more; if it was on the bench, the oldest other one is put there."""
    draft.remove()
    other = draft.site.drafts.first()
    if draft.chosen and other:
        choose(other)


@transaction.atomic
def restore(draft: Draft) -> Draft:
    """Bring a draft back, onto the bench when that is empty; raises Conflict when another has its name by now."""
    _refuse_taken(draft.site, draft.name)
    draft.chosen = not draft.site.drafts.exists()
    draft.removed = None
    draft.save()
    return draft


def _refuse_taken(site: Site, name: str) -> None:
    if site.drafts.filter(name=name).exists():
        raise Conflict("name-taken", f"This site has a draft called “{name}” already. Choose another name.")


def directions(draft: Draft) -> tuple[bool, bool]:
    """Whether a change can be undone, and whether one can be done again."""
    numbers = set(draft.changes.values_list("number", flat=True))
    return draft.position - 1 in numbers, draft.position + 1 in numbers


@transaction.atomic
def refit(artwork: Artwork, before: tuple[int, int], **told: object) -> None:
    """Keep the frames over an artwork whose width and height changed where they still fit, in every draft."""
    after = (artwork.facts["width"], artwork.facts["height"])
    if before == after:
        return
    for draft in (*artwork.drafts.all(), *artwork.drafts_beside.all()):
        recipe = draft.read_recipe
        is_main = draft.artwork_id == artwork.pk

        def fitted(framing: Framing, is_main: bool = is_main) -> Framing:
            concerned = is_main if framing.artwork is None else framing.artwork == str(artwork.pk)
            return replace(framing, frame=_refitted(framing.frame, before, after)) if concerned else framing

        own = tuple(replace(one, framing=fitted(one.framing)) for one in recipe.own)
        _record(draft, draft.artwork, Recipe(fitted(recipe.framing), own))


def _refitted(frame: Frame, before: tuple[int, int], after: tuple[int, int]) -> Frame:
    """The frame grown along when only the scale changed, else the one around the whole artwork."""
    scale = after[0] / before[0]
    if abs(after[1] - before[1] * scale) > 1:
        return whole_artwork(*after)
    return Frame(*(round(length * scale) for length in (frame.x, frame.y, frame.side)))


def _artwork(main: Artwork, key: str | None) -> Artwork:
    if key is None:
        return main
    artwork = Artwork.objects.filter(pk=int(key)).first() if key.isdecimal() else None
    if artwork is None:
        raise FramingRefused("no-such-artwork", "The artwork that some sizes use is no longer there. Choose another.")
    return artwork


def _alone(draft: Draft) -> None:
    """Have others wait for the end of this transaction before they change the same draft."""
    list(Draft.objects.select_for_update().filter(pk=draft.pk))


def refuse_overtaken(draft: Draft, revision: int) -> None:
    """Raise Conflict when a draft is not at the revision somebody saw last."""
    if draft.pk:
        draft.refresh_from_db()
    if draft.revision != revision:
        raise _overtaken()


def _overtaken() -> Conflict:
    return Conflict(
        "draft-changed-elsewhere",
        "This draft was changed in another window. Look at that version before you continue.",
    )


def _record(draft: Draft, artwork: Artwork, recipe: Recipe) -> None:
    """Put a new state after the one that stands; what was undone before it is gone."""
    if draft.pk:
        draft.changes.filter(number__gt=draft.position).delete()
    draft.position += 1
    _put(draft, artwork, recipe)
    DraftChange.objects.create(draft=draft, number=draft.position, artwork=artwork, recipe=draft.recipe)


def _put(draft: Draft, artwork: Artwork, recipe: Recipe) -> None:
    draft.artwork = artwork
    draft.recipe = recipe.as_json()
    draft.revision += 1
    draft.save()
    draft.beside.set({int(own.artwork) for own in recipe.framings if own.artwork})
