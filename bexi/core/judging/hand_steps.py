"""Which steps of a hand better an icon: each only where the judgement says so."""

import math
from collections.abc import Iterable, Mapping
from dataclasses import replace

from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.framing.compose import before_steps, simplified
from bexi.core.framing.hand.drawn import BY_HAND
from bexi.core.framing.hand.steps import HandStep, StepAt
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.framing.tabs import TABS
from bexi.core.judging.faithful import is_faithful
from bexi.core.judging.judge import judge_at
from bexi.core.judging.readings import BOUNDS, Judgement, Verdict
from bexi.core.pixels.colour import Colour

_BETTER = 0.1
"""Of the distance from the bound of lost to that of well: less is chance."""
_SPARED = (HandStep.SET_OFF, HandStep.LEAVE_OUT, HandStep.THIN_OUT, HandStep.WIDEN)
"""What changes most of the artwork is spared first."""


def with_steps(
    picture: Picture, framing: Framing, sizes: Iterable[int] = BY_HAND, grounds: Mapping[str, Colour] = TABS
) -> Framing:
    """The framing with the steps that better its icons of `sizes` px, of those that are drawn by hand.

    Without any one of them an icon would be worse, and after each it is the same logo. What is well stays as it is.
    """
    for size in sizes:
        if size in framing.by_hand:
            framing = _with_steps(picture, framing, size, grounds)
    return framing


def _with_steps(picture: Picture, framing: Framing, size: int, grounds: Mapping[str, Colour]) -> Framing:
    others = tuple(one for one in framing.steps if one.size != size)

    def told(steps: Iterable[HandStep]) -> Framing:
        return replace(framing, steps=(*others, *(StepAt(size, step) for step in steps)))

    def drawn(steps: Iterable[HandStep]) -> Picture:
        return simplified(picture, told(steps), size, Purpose.TAB)[0]

    judgements: dict[Picture, Judgement] = {}

    def judged(steps: Iterable[HandStep]) -> Judgement:
        shown = drawn(steps)
        if shown not in judgements:
            judgements[shown] = judge_at(picture, told(steps), [size], grounds=grounds)[0]
        return judgements[shown]

    plain = judged(())
    is_of_words = plain.because == "lettering" and not plain.readings.is_small_print
    # Words that cannot be read, and px that are not there, are not for a hand to mend.
    if plain.verdict in (None, Verdict.WELL) or is_of_words or plain.because == "artwork":
        return told(())
    ratio = min(plain.readings.contrast.values(), default=math.inf)
    wanted = [step for step in HandStep if step is not HandStep.SET_OFF or ratio < BOUNDS["contrast"].well]
    large = before_steps(picture, framing)
    made = ((step, drawn([step])) for step in wanted)
    taken = [
        step for step, one in made if isinstance(one, Bitmap) and one is not picture and is_faithful(step, large, one)
    ]
    best = judged(taken)
    if not _is_better(best, plain):  # what is widened, say, is not left out
        taken = max(([step] for step in taken), key=lambda alone: judged(alone).standing, default=[])
        best = judged(taken)
    if not _is_better(best, plain):
        return told(())
    for step in _SPARED:
        if step in taken and len(taken) > 1:
            fewer = [one for one in taken if one is not step]
            without = judged(fewer)
            if not _is_better(best, without):
                taken, best = fewer, max(best, without, key=lambda one: one.standing)
    return told(taken)


def _is_better(one: Judgement, other: Judgement) -> bool:
    (rank, score), (before, scored) = one.standing, other.standing
    return rank > before or (rank == before and score > scored + _BETTER)
