"""Ways out for an icon that is not well: each is made and judged by the same readings, and offered only when better."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from types import MappingProxyType

from bexi.core.artwork.ink import Box
from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.plate import DARK, Plate, PlateShape
from bexi.core.framing.finish import HEAVIEST, SHARPEST, THINNEST
from bexi.core.framing.frame import Frame, hug, whole_artwork
from bexi.core.framing.hand.drawn import BY_HAND
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing
from bexi.core.framing.tabs import TABS
from bexi.core.judging import pixel_fit
from bexi.core.judging.groups import Group, Groups
from bexi.core.judging.hand_steps import with_steps
from bexi.core.judging.judge import judge_at
from bexi.core.judging.measure import Measured, measure
from bexi.core.judging.readings import BOUNDS, Judgement, Verdict, amount, noun
from bexi.core.pixels.colour import WHITE, Colour, contrast
from bexi.core.pixels.light import Pixels

LARGEST = 64
"""Finishes and fitting to pixels are for icons up to so many px."""
_BETTER = 0.2
"""A way out with the same word must better the worst score by so much."""
_WIDE_ENOUGH = 1.25
"""In px, strokes and gaps: sampling theorem, less than a px is a tint and not a line; common practice."""
_FIT_BETTER = 0.25
_FIT_SCALES = tuple(step / 200 for step in range(-10, 11))
"""Less than 6 %, in steps of half a percent."""
_FIT_SHIFTS = tuple(step / 16 for step in range(-8, 9))
"""In px of the icon."""


_LEFT_OUT = {"lettering": "the letters left out", "gaps": "no narrow gaps left"}
_BY_SHARPENING = ("visible", "structure")
"""The readings that it changes: where another is the worst, the icon stays as bad."""
_BY_WEIGHT = ("strokes", "gaps", *_BY_SHARPENING)
_OF_STROKES = ("heavier", "open gaps", "sharpen", "outline")


@dataclass(frozen=True)
class WayOut:
    """A framing that is better, what it is judged to be, and in words what is gained."""

    kind: str
    source: "Source"
    framing: Framing
    judgement: Judgement
    gain: str


@dataclass(frozen=True)
class Source:
    """A picture to frame, the key by which a framing names it (None for the recipe's artwork), and its groups."""

    picture: Picture
    groups: Groups
    key: str | None = None


def ways_out(
    source: Source,
    framing: Framing,
    size: int,
    purpose: Purpose = Purpose.TAB,
    grounds: Mapping[str, Colour] = TABS,
    instead: Sequence[tuple[Source, Framing]] = (),
    others: Mapping[str, Pixels] = MappingProxyType({}),
    watch: Callable[[], None] = lambda: None,
) -> list[WayOut]:
    """What would better an icon of `size` px, the best first.

    `instead` are framings of other artwork to try as well; `others` are icons it should not be taken for. `watch` is
    called before each try, and may raise to stop.
    """
    (now,) = judge_at(source.picture, framing, [size], purpose, grounds, others)
    is_well = now.because is None and now.verdict is not None
    if is_well and not now.readings.has_little_ink:
        return []
    large = measure(source.picture, framing, purpose)
    tries = [(source, kind, other) for kind, other in _tries(source, framing, size, large, now)]
    if purpose is Purpose.TAB and size in BY_HAND and not is_well:
        drawn = replace(framing, by_hand=tuple(sorted({*framing.by_hand, size})))
        tries.append((source, "by hand", with_steps(source.picture, drawn, [size], grounds)))
    tries += [(other, "letters", its) for other, its in instead]
    if is_well:  # but small in its square
        tries = [one for one in tries if one[1] == "hug"]
    found = []
    for its, kind, other in tries:
        watch()
        if other == framing:
            continue
        (judged,) = judge_at(its.picture, other, [size], purpose, grounds, others)
        gain = _gain(kind, now, judged)
        if gain is not None:
            found.append(WayOut(kind, its, other, judged, gain))
    best = {one.kind: one for one in sorted(found, key=lambda one: one.judgement.standing)}
    return sorted(best.values(), key=lambda one: one.judgement.standing, reverse=True)


def letters_framing(letters: Source, framing: Framing) -> Framing:
    """The whole of a drawing of letters, under an icon's home-screen ground."""
    whole = whole_artwork(letters.picture.width, letters.picture.height)
    return Framing(whole, home_ground=framing.home_ground, artwork=letters.key, by_hand=framing.by_hand)


def framed(group: Group, groups: Groups, framing: Framing, margin: int = 2) -> Framing:
    """The framing of one group: around it, and without what belongs to others though it lies in the square."""
    frame = hug(group.box, margin)
    square = frame.box
    boxes = [other.box for other in groups.emblems if other is not group] + list(groups.words)
    cut = group.cut if any(square.meets(box) for box in boxes) else None
    return replace(framing, frame=frame, cut=cut, ground=group.on.colour if group.on else framing.ground)


def _tries(
    source: Source, framing: Framing, size: int, large: Measured, now: Judgement
) -> Iterator[tuple[str, Framing]]:
    groups = source.groups
    for number, group in enumerate(groups.emblems[:3]):
        yield ("emblem" if number == 0 else "next part"), framed(group, groups, framing)
    box = large.drawing.ink_box
    if box is not None and large.drawing.separable:
        yield "hug", replace(framing, frame=_in_frame(box, framing.frame, large.drawing.side))
    if now.because == "contrast" or min(now.readings.contrast.values(), default=21.0) < BOUNDS["contrast"].well:
        yield from _against_grounds(framing, groups)
    if size > LARGEST:
        return
    if now.because in _BY_WEIGHT:
        yield from _weights(framing, size, now, large)
    if now.because in _BY_SHARPENING:
        yield from (
            ("sharpen", replace(framing, finish=replace(framing.finish, sharpen=sharpen)))
            for sharpen in range(framing.finish.sharpen + 2, SHARPEST + 1, 2)
        )
    yield from _fitted(framing, size, large)


def _in_frame(box: Box, frame: Frame, drawn: int) -> Frame:
    """The frame around what lies in a box of the large drawing, `drawn` px large."""
    scale = frame.side / drawn
    edges = (round(edge * scale) for edge in (box.left, box.top, box.right, box.bottom))
    left, top, right, bottom = edges
    return hug(Box(frame.x + left, frame.y + top, frame.x + max(right, left + 1), frame.y + max(bottom, top + 1)), 2)


def _against_grounds(framing: Framing, groups: Groups) -> Iterator[tuple[str, Framing]]:
    """A plate in the colour that stands out best from all ink, and an outline."""
    inks = groups.colours or (DARK,)
    colour = max((WHITE, DARK), key=lambda plate: min(contrast(ink, plate) for ink in inks))
    if framing.plate.shape is PlateShape.NONE and framing.ground is None:
        side = framing.frame.side
        aside = side // 10
        room = Frame(framing.frame.x - aside, framing.frame.y - aside, side + 2 * aside)
        yield "plate", replace(framing, frame=room, plate=Plate(PlateShape.ROUNDED, colour, 22, 0))
        yield "outline", replace(framing, frame=room, finish=replace(framing.finish, outline=6, outline_colour=colour))


def _weights(framing: Framing, size: int, now: Judgement, large: Measured) -> Iterator[tuple[str, Framing]]:
    """Heavier strokes where they are thin, lighter ones where gaps are narrow, for ink on a clear ground."""
    if large.drawing.colours[0] is not None or framing.plate.shape is not PlateShape.NONE:
        return
    stroke, gap = now.readings.stroke_px, now.readings.gap_px
    well = _WIDE_ENOUGH
    if stroke is not None and stroke < well:
        needed = round(100 * (well - stroke) / size + 0.5)
        for weight in {min(HEAVIEST, needed), min(HEAVIEST, -(-needed // 2))}:
            aside = -(-framing.frame.side * weight // 200)
            frame = Frame(framing.frame.x - aside, framing.frame.y - aside, framing.frame.side + 2 * aside)
            yield "heavier", replace(framing, frame=frame, finish=replace(framing.finish, weight=weight))
    if gap is not None and gap < well:
        for weight in {max(THINNEST, -round(100 * (well - gap) / size + 0.5)), max(THINNEST, -2)}:
            yield "open gaps", replace(framing, finish=replace(framing.finish, weight=weight))


def _fitted(framing: Framing, size: int, large: Measured) -> Iterator[tuple[str, Framing]]:
    """The frame scaled and shifted so that most of the long straight edges fall on borders of pixels."""
    lengths = pixel_fit.edges(large.drawing)
    best = []
    for scale in _FIT_SCALES:
        for axis in lengths:
            shares = ((pixel_fit.share_on_borders(axis, size, 1 + scale, shift)[0], shift) for shift in _FIT_SHIFTS)
            best.append(max((share, -abs(shift), shift) for share, shift in shares))
    across, down = best[::2], best[1::2]
    picked = max(range(len(_FIT_SCALES)), key=lambda one: (across[one][0] + down[one][0], -abs(_FIT_SCALES[one])))
    side = framing.frame.side / (1 + _FIT_SCALES[picked])
    px = side / size
    middle_x, middle_y = framing.frame.x + framing.frame.side / 2, framing.frame.y + framing.frame.side / 2
    x = middle_x - side / 2 - across[picked][2] * px
    y = middle_y - side / 2 - down[picked][2] * px
    yield "fit to the pixels", replace(framing, frame=Frame(round(x), round(y), max(1, round(side))))


def _lettering_ran_together(before: Judgement, after: Judgement) -> bool:
    return before.readings.lettering_px is not None and after.readings.lettering_px is None


def _gain(kind: str, before: Judgement, after: Judgement) -> str | None:
    """What is gained, in words; None when it is not better."""
    if after.verdict is None or (kind in _OF_STROKES and _lettering_ran_together(before, after)):
        return None
    word, score = before.standing
    rank, its = after.standing
    fitted = (after.readings.fit or 0) - (before.readings.fit or 0) >= _FIT_BETTER
    if kind == "fit to the pixels" and fitted and rank >= max(word, Verdict.HARD.rank) and its >= score - 0.02:
        return f"edges on pixels {before.readings.fit or 0:.0%} → {after.readings.fit:.0%}"
    grown = before.readings.has_little_ink and not after.readings.has_little_ink
    if kind == "hug" and grown and rank >= word and its >= score - 0.02:
        return f"fills {amount('ink', before.readings.ink or 0)} → {amount('ink', after.readings.ink or 0)}"
    if not (rank > word or (rank == word and its >= score + _BETTER)):
        return None
    told = dict(after.readings.bounded())
    name = before.because
    if name is None:
        return f"→ {after.says}"
    if kind == "letters":
        return f"{before.verdict.word if before.verdict else 'not judged'} → {after.verdict.word}"
    if name not in told:
        return _LEFT_OUT.get(name, f"{noun(name)} no longer matters")
    return f"{noun(name)} {amount(name, dict(before.readings.bounded())[name])} → {amount(name, told[name])}"
