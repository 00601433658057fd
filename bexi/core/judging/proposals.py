"""Ways to use a picture: whole framings to choose from, each judged, the first as a designer would choose it."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from itertools import chain, groupby
from types import MappingProxyType

import numpy as np

from bexi.core.framing.compose import compose
from bexi.core.framing.frame import whole_artwork
from bexi.core.framing.hand.drawn import BY_HAND
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.framing.tabs import TABS
from bexi.core.judging.hand_steps import with_steps
from bexi.core.judging.judge import judge
from bexi.core.judging.readings import Judgement, Verdict
from bexi.core.judging.standing import stands_for
from bexi.core.judging.subjects import subjects_of
from bexi.core.judging.telling import telling_squares
from bexi.core.judging.ways_out import Source
from bexi.core.pixels.colour import WHITE, Colour
from bexi.core.pixels.light import Pixels, over

SHOWN: tuple[tuple[int, Purpose], ...] = ((16, Purpose.TAB), (32, Purpose.TAB), (180, Purpose.HOME))
"""Sizes in px and purposes at which a proposal is judged and shown."""
MOST, LEAST = 5, 3
AS_IT_IS, LETTERS = "as it is", "letters"
ALWAYS = (AS_IT_IS, LETTERS)
"""What a person may always choose."""
_COMPACT = 1.25
"""Of areas that can be told apart, and about square: it needs nothing cut out of it."""
_COMPARED = 1
"""The place in SHOWN of the icons that must not look alike."""
_ALIKE = 6.0
"""Mean difference, of 255, of two icons on both tabs below which they look alike."""
_NOTHING: Mapping[str, Pixels] = MappingProxyType({})


@dataclass(frozen=True)
class Proposal:
    """A whole framing of a source, its icon at each of SHOWN as it would be built, and how that is judged.

    `kind` names what is shown and on what, `why` says in one line why so.
    """

    kind: str
    why: str
    framing: Framing
    icons: tuple[Pixels, ...]
    judgements: tuple[Judgement, ...]
    source: Source

    @property
    def standing(self) -> tuple[int, float]:
        """By which the lost are compared: the words of all sizes, then the scores."""
        ranks = [judgement.standing[0] for judgement in self.judgements]
        return sum(ranks), sum(judgement.standing[1] for judgement in self.judgements)

    @property
    def is_lost(self) -> bool:
        """Whether it is lost at one of the sizes."""
        return any(judgement.verdict is Verdict.LOST for judgement in self.judgements)

    @property
    def stands_first(self) -> bool:
        """Whether nothing that is judged after it stands before it, as long as all before it are lost."""
        return not self.is_lost and self.kind != LETTERS

    @property
    def verdicts(self) -> dict[str, Verdict | None]:
        """The word for each size."""
        return {str(judgement.size): judgement.verdict for judgement in self.judgements}


@dataclass(frozen=True)
class Contender:
    """A framing that may be proposed."""

    kind: str
    why: str
    source: Source
    framing: Framing

    def judged(self, grounds: Mapping[str, Colour] = TABS, others: Mapping[str, Pixels] = _NOTHING) -> Proposal:
        """The same, judged at each of SHOWN. `others` are icons that should not be mistaken for this one."""
        picture, framing, made, judgements = self.source.picture, self.framing, [], []
        for purpose, shown in groupby(SHOWN, key=lambda one: one[1]):
            icons = compose(picture, framing, purpose, [size for size, _ in shown])
            judgements += judge(picture, framing, icons, purpose, grounds, others)
            made += icons
        return Proposal(self.kind, self.why, framing, tuple(made), tuple(judgements), self.source)

    def bettered(self, judged: Proposal, grounds: Mapping[str, Colour], others: Mapping[str, Pixels]) -> Proposal:
        """The same with what a hand does to the small icons, where one is not clear and that betters it."""
        if all(judgement.verdict is Verdict.WELL for judgement in judged.judgements if judgement.size in BY_HAND):
            return judged
        framing = with_steps(self.source.picture, self.framing, grounds=grounds)
        return replace(self, framing=framing).judged(grounds, others) if framing.steps else judged


def candidates(source: Source, letters: Iterable[Source] = ()) -> Iterator[Contender]:
    """What may be made of a picture, in a designer's order; `letters` are drawings of the site's letters, the last.

    Each is thought of when it is asked for, and the letters are not drawn before that.
    """
    drawn = (Contender(LETTERS, "letters of the site's name", one, _of_letters(one)) for one in letters)
    by_hand = partial(replace, by_hand=BY_HAND)
    return (replace(one, framing=by_hand(one.framing)) for one in chain(_of_picture(source), drawn))


def judged_in_turn(
    contenders: Iterable[Contender],
    with_letters: bool,
    grounds: Mapping[str, Colour] = TABS,
    others: Mapping[str, Pixels] = _NOTHING,
) -> Iterator[Proposal | None]:
    """Each of them judged; None for one that would not be shown, because as many as are shown stand before it.

    What may stand first is bettered by hand; where all are lost, the one that is least so, which comes once more then.
    `with_letters` tells that letters are among them.
    """
    room = MOST - (len(ALWAYS) if with_letters else len(ALWAYS) - 1)
    told: list[Proposal] = []
    lost: list[tuple[Contender, Proposal]] = []
    stands = False
    for one in contenders:
        if one.kind not in ALWAYS and len(list(_unlike(told))) >= room:
            yield None
            continue
        proposal = one.judged(grounds, others)
        if proposal.stands_first and not stands:
            stands, proposal = True, one.bettered(proposal, grounds, others)
        if proposal.is_lost and one.kind != LETTERS:
            lost.append((one, proposal))
        if one.kind not in ALWAYS and not proposal.is_lost:
            told.append(proposal)
        yield proposal
    if lost and not stands:
        one, proposal = max(lost, key=lambda pair: pair[1].standing)
        bettered = one.bettered(proposal, grounds, others)
        if not bettered.is_lost:
            yield bettered


def best_first(made: Sequence[Proposal]) -> list[Proposal]:
    """MOST of them: in their order, but none that is lost at some size before one that is not; no two look alike.

    Other lost ones than the whole picture and letters are shown only where fewer than LEAST are not lost.
    """
    drawn = [one for one in made if one.kind == LETTERS]
    best = [max(drawn, key=lambda one: one.standing)] if drawn else []
    ranked = [*(one for one in made if one.kind != LETTERS), *best]
    told = [one for one in ranked if not one.is_lost]
    lost = sorted((one for one in ranked if one.is_lost), key=lambda one: one.standing[0], reverse=True)
    in_turn = list(_unlike([*told, *(one for one in lost if len(told) < LEAST or one.kind in ALWAYS)]))
    least = sum(one.kind in ALWAYS for one in in_turn)
    others = [number for number, one in enumerate(in_turn) if one.kind not in ALWAYS][: MOST - least]
    return [one for number, one in enumerate(in_turn) if number in others or one.kind in ALWAYS]


def propose(
    source: Source,
    letters: Sequence[Source] = (),
    grounds: Mapping[str, Colour] = TABS,
    others: Mapping[str, Pixels] = _NOTHING,
) -> list[Proposal]:
    """Proposals for a picture, the best first."""
    judged = judged_in_turn(candidates(source, letters), bool(letters), grounds, others)
    return best_first([one for one in judged if one])


def _of_picture(source: Source) -> Iterator[Contender]:
    picture, groups = source.picture, source.groups
    beneath = groups.paper or groups.ground
    plain = Framing(whole_artwork(picture.width, picture.height), beneath, beneath or WHITE)
    if not groups.separable or (groups.busy and not groups.words):
        if groups.separable and max(picture.width, picture.height) <= _COMPACT * min(picture.width, picture.height):
            yield Contender("whole", "all of it", source, plain)
        square, closer = telling_squares(picture)
        yield Contender("telling square", "the square that shows most of the subject", source, Framing(square))
        yield Contender("closer square", "closer to what stands out most", source, Framing(closer))
    else:
        for subject in subjects_of(groups):
            for stand in stands_for(subject, picture, groups):
                kind = f"{subject.kind} on {stand.on}" if stand.on else subject.kind
                yield Contender(kind, ", ".join(filter(None, (subject.why, stand.why))), source, stand.framing)
    yield Contender(AS_IT_IS, "the whole picture, unchanged", source, plain)


def _of_letters(drawn: Source) -> Framing:
    return Framing(whole_artwork(drawn.picture.width, drawn.picture.height), home_ground=drawn.groups.colours[0])


def _unlike(ranked: Sequence[Proposal]) -> Iterator[Proposal]:
    """Without those that look like one before them."""
    kept: list[tuple[Pixels, ...]] = []
    for one in ranked:
        seen = tuple(over(one.icons[_COMPARED], tab) for tab in TABS.values())
        if all(_difference(seen, other) >= _ALIKE for other in kept):
            kept.append(seen)
            yield one


def _difference(one: tuple[Pixels, ...], other: tuple[Pixels, ...]) -> float:
    pairs = zip(one, other, strict=True)
    return max(float(np.abs(a[..., :3].astype(int) - b[..., :3].astype(int)).mean()) for a, b in pairs)
