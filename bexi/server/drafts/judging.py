"""Judging what is on the bench: readings of one icon with ways out, and proposals for a whole piece."""

import hashlib
from collections import deque
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import tee
from typing import Literal

from django.core.cache import caches

from bexi.core.artwork.letters import Letters
from bexi.core.framing.compose import compose, framing_for
from bexi.core.framing.cut import Cut
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.framing.tabs import TABS
from bexi.core.iconset.build import ENGINE_VERSION
from bexi.core.judging.groups import Group, groups_of
from bexi.core.judging.initials import Drawn, drawn_initials, initials, runs_leftwards
from bexi.core.judging.judge import judge_at
from bexi.core.judging.marks import Marks, marks_of
from bexi.core.judging.measure import measure
from bexi.core.judging.proposals import Proposal, best_first, candidates, judged_in_turn
from bexi.core.judging.readings import JUDGED_BY, Judgement
from bexi.core.judging.regions import around
from bexi.core.judging.ways_out import Source, WayOut, framed, letters_framing, ways_out
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import Pixels
from bexi.resources import INITIALS_FACE, INITIALS_WEIGHT, initials_face
from bexi.server.artwork.aside import TooLargeHere, aside_when_large
from bexi.server.artwork.drawings import LettersBody, add_drawing
from bexi.server.artwork.models import Artwork
from bexi.server.artwork.services import picture_of
from bexi.server.drafts.beginnings import called_meanwhile
from bexi.server.drafts.models import Draft
from bexi.server.drafts.services import begin, keep, neighbours, pictures_for, stop_if
from bexi.server.sites.models import Site

_proposals = caches["proposals"]
OWN = "own"
MOST_GROUPS = 12


@dataclass(frozen=True)
class Offer:
    """A framing on offer, the letters that it needs drawn first, if any, and its pictures."""

    kind: str
    framing: Framing
    judgements: tuple[Judgement, ...]
    pictures: tuple[Pixels, ...]
    gain: str = ""
    why: str = ""
    letters: LettersBody | None = None


@dataclass(frozen=True)
class Close:
    """One icon looked at closely: its judgement, the places behind it, and the ways out, the best first."""

    judgement: Judgement
    marks: Marks
    ways_out: tuple[Offer, ...]


def grounds_with(own: Colour | None) -> Mapping[str, Colour]:
    """The tabs an icon stands on, and a ground of one's own."""
    return TABS if own is None else {**TABS, OWN: own}


@aside_when_large
def look_closely(
    artwork: Artwork,
    recipe: Recipe,
    size: int,
    purpose: Purpose,
    own: Colour | None,
    site: Site,
    nobody_waits: Callable[[], bool] = lambda: False,
) -> Close:
    """Judge one icon of a recipe and find ways out; raises FramingRefused, or Conflict when nobody waits any more."""
    pictures, grounds = pictures_for(artwork), grounds_with(own)
    framing = framing_for(pictures(recipe.framing.artwork), recipe, size, purpose)
    picture = pictures(framing.artwork)
    source = Source(picture, groups_of(picture))
    letters = list(drawn_initials(site.name, groups_of(pictures(None)), initials_face()))
    instead = [(one.source, letters_framing(one.source, framing)) for one in letters]
    others = neighbours(site.pk, artwork.pk)
    (judgement,) = judge_at(picture, framing, [size], purpose, grounds, others)
    found = ways_out(source, framing, size, purpose, grounds, instead, others, lambda: stop_if(nobody_waits()))
    ways = tuple(_offered(way, letters, size, purpose) for way in found)
    return Close(judgement, marks_of(measure(picture, framing, purpose), size, grounds), ways)


def _offered(way: WayOut, letters: Sequence[Drawn], size: int, purpose: Purpose) -> Offer:
    drawn = next((one for one in letters if one.source is way.source), None)
    icons = compose(way.source.picture, way.framing, purpose, [size])
    return Offer(
        way.kind, way.framing, (way.judgement,), tuple(icons), way.gain, letters=_body(drawn.letters) if drawn else None
    )


@aside_when_large
def framed_groups(artwork: Artwork) -> list[tuple[Literal["emblem", "words"], Framing]]:
    """Each group of an artwork alone in a frame that hugs it: emblems, the largest first, then the words together."""
    picture = picture_of(artwork)
    groups = groups_of(picture)
    plain = Framing(whole_artwork(picture.width, picture.height))
    found: list[tuple[Literal["emblem", "words"], Framing]] = [
        ("emblem", framed(group, groups, plain, margin=0)) for group in groups.emblems[:MOST_GROUPS]
    ]
    if groups.words:
        box = around(groups.words)
        words = Group(box, share=0, cut=Cut.to(box))
        found.append(("words", framed(words, replace(groups, words=()), plain, margin=0)))
    return found


@dataclass(frozen=True)
class Step:
    """How many of how many framings are judged, 0 while that is not known, and the first proposal once it is."""

    done: int
    total: int
    first: Offer | None = None


def proposals_for(artwork: Artwork, site: Site) -> list[Offer]:
    """Whole framings for a piece, the best first; kept for a while."""
    key = _key(artwork, site)
    kept: list[Offer] | None = _proposals.get(key)
    while kept is None:
        _propose(artwork, site)
        kept = _proposals.get(key)
    return kept


def first_proposal(artwork: Artwork, site: Site) -> Offer:
    """The best of them, without waiting for the rest."""
    key = _key(artwork, site)
    kept: list[Offer] | None = _proposals.get(key)
    first: Offer | None = kept[0] if kept else _proposals.get(_first_of(key))
    return first or _propose_first(artwork, site)


def proposing(artwork: Artwork, site: Site) -> Iterator[Step]:
    """Judge what can be made of a piece, unless that is kept, step by step."""
    if _key(artwork, site) in _proposals:
        return
    try:
        yield from _each_judged(artwork, site)
    except TooLargeHere:
        yield Step(0, 0)
        yield Step(0, 0, _propose_first(artwork, site))
        _propose(artwork, site)  # what is done aside is told as one
        yield Step(1, 1)


@aside_when_large
def _propose(artwork: Artwork, site: Site) -> None:
    deque(_each_judged(artwork, site), maxlen=0)


@aside_when_large
def _propose_first(artwork: Artwork, site: Site) -> Offer:
    firsts = (step.first for step in _each_judged(artwork, site) if step.first)
    return next(firsts)


def _each_judged(artwork: Artwork, site: Site) -> Iterator[Step]:
    key = _key(artwork, site)
    picture, others, name = picture_of(artwork), neighbours(site.pk, artwork.pk), _name_given_to(site, artwork)
    source = Source(picture, groups_of(picture, runs_leftwards(name)))
    yield Step(0, 0)
    letters: list[Drawn] = []
    drawn = _noted(drawn_initials(name, source.groups, initials_face()), letters)
    tried, counted = tee(candidates(source, (one.source for one in drawn)))
    made: list[Proposal] = []
    first: Offer | None = None
    total = 0
    for done, proposal in enumerate(judged_in_turn(tried, bool(initials(name)), others=others), 1):
        made += [proposal] if proposal else []
        if first is None and proposal and proposal.stands_first:
            first = _made(proposal, letters)
            _proposals.set(_first_of(key), first)
            yield Step(done, 0, first)
        total = total or len(list(counted))
        yield Step(min(done, total), total)
    offers = [_made(one, letters) for one in best_first(made)]
    _proposals.set(key, offers)
    yield Step(total, total, first or offers[0])


def _noted(drawn: Iterator[Drawn], letters: list[Drawn]) -> Iterator[Drawn]:
    """Letters as they are drawn, put down in a list, too."""
    for one in drawn:
        letters.append(one)
        yield one


def _name_given_to(site: Site, artwork: Artwork) -> str:
    """What letters may stand for: the name of a website, not that of a file."""
    return "" if site.is_beginning and site.name == called_meanwhile(artwork) else site.name


def _key(artwork: Artwork, site: Site) -> str:
    told = [(name, icon.tobytes()) for name, icon in neighbours(site.pk, artwork.pk).items()]
    made_of = (ENGINE_VERSION, JUDGED_BY, artwork.sha256, artwork.read_as, site.name, told)
    return hashlib.sha256(repr(made_of).encode()).hexdigest()


def _first_of(key: str) -> str:
    return f"{key}-first"


def _made(one: Proposal, letters: Sequence[Drawn]) -> Offer:
    """A proposal with its pictures."""
    drawn = next((its for its in letters if its.source is one.source), None)
    body = _body(drawn.letters) if drawn else None
    return Offer(one.kind, one.framing, one.judgements, one.icons, why=one.why, letters=body)


def put_on_bench(site: Site, artwork: Artwork, revision: int) -> tuple[Draft, Offer]:
    """Put a piece on the bench of a site, framed as is proposed first, which is told; one change that can be undone.

    `revision` is that of the draft that lies there, 0 for none. Raises Conflict when another window was faster.
    """
    best = first_proposal(artwork, site)
    framing = best.framing
    if best.letters is not None:
        framing = letters_framed(framing, add_drawing(best.letters))
    draft = site.drafts.first()
    if draft is None:
        return begin(site, artwork, Recipe(framing)), best
    return keep(draft, artwork, Recipe(framing), revision), best


def letters_framed(framing: Framing, drawn: Artwork) -> Framing:
    """A framing over letters that were drawn for it."""
    return replace(framing, artwork=str(drawn.pk))


def _body(letters: Letters) -> LettersBody:
    return LettersBody(
        text=letters.text,
        face=INITIALS_FACE,
        weight=INITIALS_WEIGHT,
        tracking=letters.tracking,
        ink=letters.ink,
        plate=letters.plate,
    )
