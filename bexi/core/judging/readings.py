"""What is read of an icon, the bounds of each reading, and the one word that follows."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from enum import StrEnum

JUDGED_BY = 22
"""Counts the ways of judging: what was judged in an earlier one is judged anew."""


class Verdict(StrEnum):
    """What a person will see of an icon."""

    LOST = "lost"
    HARD = "hard"
    WELL = "well"

    @property
    def rank(self) -> int:
        """0 for lost to 2 for well."""
        return list(Verdict).index(self)

    @classmethod
    def of(cls, score: float) -> "Verdict":
        """The word for a score."""
        return cls.LOST if score < 1 else cls.HARD if score < 2 else cls.WELL

    @property
    def word(self) -> str:
        """What it is called where people read it."""
        return {Verdict.LOST: "lost", Verdict.HARD: "weak", Verdict.WELL: "clear"}[self]


@dataclass(frozen=True)
class Bound:
    """Below `lost` a reading is lost, below `well` it is hard, above it is well."""

    lost: float
    well: float

    def score(self, value: float) -> float:
        """The reading on a scale on which 1 is the bound of lost and 2 that of well."""
        if value < self.lost:
            return max(value, 0.0) / self.lost
        return 1 + (value - self.lost) / (self.well - self.lost)


BOUNDS = {
    "lettering": Bound(4, 7),  # measured with a text recogniser; 5 x 7 dot letters are common practice
    "visible": Bound(0.9, 4),  # scaled on what readers find, as the next three are
    "strokes": Bound(0, 0.76),
    "gaps": Bound(0.7, 1.1),  # of a texture; a single gap that closes costs no recognition
    "contrast": Bound(1.4, 3),  # 3: WCAG 2.2, success criterion 1.4.11
    "structure": Bound(0, 0.1),
    "artwork": Bound(0, 0.8),  # ours: px of the artwork for each px of the icon; what is soft is told all the same
}
"""What the word is made of: whether the mark can be told at this size on this ground, and nothing else."""
NOTED = {
    "ink": Bound(0.25, 0.45),  # common practice: icons look smaller than expected
    "likeness": Bound(4, 8),  # ours, scaled on the symbols that ship
}
"""What is only told beside the word, below the second bound."""
_TEXTURE = 4
"""Gaps that are so many sides long together are a texture, which is lost where they close."""
_CRACK = 0.15
"""Of the strokes beside it: a gap that is narrower may close, and the blocks that it parts are still told."""
_SAME = 1.0
"""Icons nearer than this are the same to the eye."""
_PX, _PERCENT = "{:.1f} px", "{:.0%}"
_SAYS = {
    "visible": ("visible ink", _PX),
    "strokes": ("thinnest stroke", _PX),
    "gaps": ("thinnest gap", _PX),
    "lettering": ("letter height", _PX),
    "contrast": ("contrast", "{:.1f} : 1"),
    "structure": ("parts kept", _PERCENT),
    "ink": ("fills", _PERCENT),
    "artwork": ("artwork px", "{:.2f}"),
}


def noun(name: str) -> str:
    """The word for a reading: "letters" for lettering."""
    return _SAYS[name][0]


def amount(name: str, value: float) -> str:
    """The number of a reading with its unit: "2.4 px"."""
    return _SAYS[name][1].format(value)


@dataclass(frozen=True)
class Readings:
    """Measured of one icon; lengths in px of the icon, None for what does not apply.

    `visible_px` is how much of the mark stands out, as so many px of black on white. `gaps_reach` is how long all gaps
    are together, in sides of the square. `is_small_print` says that a mark is told without its letters. `contrast` is
    the ratio of the outline to each ground by its name. From 0 to 1 are `structure`, the share of all parts and holes
    that stands out, `ink`, the share of the square that the ink's box fills, and `fit`, that of long straight edges on
    borders of pixels. `artwork` is how many of the artwork's px each px has, at most 1; `likeness` the distance to the
    icon that is most alike, `like` its name.
    """

    visible_px: float | None = None
    stroke_px: float | None = None
    gap_px: float | None = None
    gaps_reach: float = 0.0
    lettering_px: float | None = None
    is_small_print: bool = False
    contrast: Mapping[str, float] = field(default_factory=dict)
    structure: float | None = None
    ink: float | None = None
    fit: float | None = None
    artwork: float | None = None
    likeness: float | None = None
    like: str | None = None

    def bounded(self) -> Iterator[tuple[str, float]]:
        """The readings that the word is made of, by the names of their bounds; the least contrast of all grounds."""
        values = {
            "visible": self.visible_px,
            "strokes": self.stroke_px,
            "gaps": self.gap_px if self.gaps_reach >= _TEXTURE and not self._is_cracked else None,
            "lettering": self.lettering_px,
            "contrast": min(self.contrast.values(), default=None),
            "structure": self.structure,
            "artwork": self.artwork,
        }
        yield from ((name, value) for name, value in values.items() if value is not None)

    @property
    def _is_cracked(self) -> bool:
        gap, stroke = self.gap_px, self.stroke_px
        return gap is not None and stroke is not None and gap < _CRACK * stroke

    def score(self, name: str, value: float) -> float:
        """That of one of them; small print that cannot be read makes an icon hard, not lost."""
        score = BOUNDS[name].score(value)
        return max(1.0, score) if name == "lettering" and self.is_small_print else score

    @property
    def has_little_ink(self) -> bool:
        """Whether the mark fills so little of the square that it looks small."""
        return self.ink is not None and self.ink < NOTED["ink"].well

    def notes(self) -> Iterator[str]:
        """What else is worth knowing, in a few words each; none of it changes the word."""
        if self.has_little_ink:
            yield f"the mark fills {amount('ink', self.ink or 0)} of the square"
        if self.likeness is not None and self.likeness < NOTED["likeness"].well:
            yield f"{'the same as' if self.likeness < _SAME else 'looks like'} {self.like}"

    def as_json(self) -> dict[str, object]:
        """Plain data, rounded to what was measured."""
        plain = {
            "visible_px": self.visible_px,
            "stroke_px": self.stroke_px,
            "gap_px": self.gap_px,
            "lettering_px": self.lettering_px,
            "contrast": {name: round(ratio, 2) for name, ratio in self.contrast.items()},
            "structure": self.structure,
            "ink": self.ink,
            "fit": self.fit,
            "artwork": self.artwork,
            "likeness": self.likeness,
            "like": self.like,
        }
        return {name: round(value, 3) if isinstance(value, float) else value for name, value in plain.items()}


@dataclass(frozen=True)
class Judgement:
    """The readings of one icon and what follows from the worst of them.

    `verdict` None says that too little could be measured: a photograph has no separable ink. `because` is the name of
    the worst reading, None where all are well; `says` the word and the number: "lost: thinnest stroke 0.3 px".
    """

    size: int
    readings: Readings
    separable: bool = True

    @property
    def worst(self) -> tuple[str, float] | None:
        """The name and the score of the worst reading; of some about as bad the first in the order of BOUNDS."""
        scored = [(name, self.readings.score(name, value)) for name, value in self.readings.bounded()]
        order = list(BOUNDS)
        return min(scored, key=lambda one: (int(min(one[1], 2)), round(one[1], 1), order.index(one[0])), default=None)

    @property
    def verdict(self) -> Verdict | None:
        """The word."""
        worst = self.worst
        if worst is None or (not self.separable and worst[1] >= 2):
            return None
        return Verdict.of(worst[1])

    @property
    def because(self) -> str | None:
        """The worst reading's name."""
        return self.worst[0] if self.worst and self.worst[1] < 2 else None

    @property
    def says(self) -> str:
        """The word with the worst number."""
        if self.verdict is None:
            return f"not judged: {'no ink that stands apart' if self.separable else 'no flat areas, like a photograph'}"
        if self.because is None:
            return self.verdict.word
        number = dict(self.readings.bounded())[self.because]
        return f"{self.verdict.word}: {noun(self.because)} {amount(self.because, number)}"

    @property
    def standing(self) -> tuple[int, float]:
        """By which judgements are compared: the word first, then the worst score."""
        worst = self.worst
        score = worst[1] if worst else 2.0
        return (self.verdict.rank if self.verdict else Verdict.HARD.rank, min(score, 2.0))
