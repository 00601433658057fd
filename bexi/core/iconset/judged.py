"""The verdicts of a whole set: each icon of a plan judged for what it is for."""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

from bexi.core.framing.compose import framing_for
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Recipe
from bexi.core.iconset.build import Pictures, compose_squares
from bexi.core.iconset.plan import Plan
from bexi.core.judging.judge import judge
from bexi.core.judging.readings import Judgement, Verdict
from bexi.core.pixels.light import Pixels


@dataclass(frozen=True)
class JudgedIcon:
    """One picture of a set, the files that hold it, and how it is judged."""

    size: int
    purpose: Purpose
    files: tuple[str, ...]
    judgement: Judgement

    @property
    def is_well(self) -> bool:
        """Whether there is nothing to say."""
        return self.judgement.verdict is Verdict.WELL

    def as_json(self) -> dict[str, object]:
        """Plain data."""
        verdict = self.judgement.verdict
        return {
            "size": self.size,
            "purpose": self.purpose.value,
            "files": list(self.files),
            "verdict": verdict.value if verdict else None,
            "says": self.judgement.says,
        }


def judged_set(
    pictures: Pictures, recipe: Recipe, plan: Plan, others: Mapping[str, Pixels] = MappingProxyType({})
) -> list[JudgedIcon]:
    """Judge each size and purpose of a plan once, the smallest first; SVG files have no size to be judged at.

    `others` are icons of 16 px that the set's should not be taken for.
    """
    files: dict[tuple[int, Purpose], list[str]] = {}
    for spec in plan.icons:
        for size in spec.sizes:
            files.setdefault((size, spec.purpose), []).append(spec.name)
    squares = compose_squares(pictures, recipe, files)
    return [
        JudgedIcon(
            size, purpose, tuple(names), _judged(pictures, recipe, size, purpose, squares[size, purpose], others)
        )
        for (size, purpose), names in sorted(files.items())
    ]


def _judged(
    pictures: Pictures, recipe: Recipe, size: int, purpose: Purpose, square: Pixels, others: Mapping[str, Pixels]
) -> Judgement:
    framing = framing_for(pictures(recipe.framing.artwork), recipe, size, purpose)
    (judgement,) = judge(pictures(framing.artwork), framing, [square], purpose, others=others)
    return judgement
