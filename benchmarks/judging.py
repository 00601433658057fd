"""Judging: a judged ladder over the ladder, proposals over a build and over decoding."""

import io
from collections.abc import Iterator

from PIL import Image

from benchmarks.icons import imagemagick
from benchmarks.timing import median
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.svg.checking import check
from bexi.core.artwork.vector import render_whole
from bexi.core.framing.compose import compose
from bexi.core.framing.frame import Frame, whole_artwork
from bexi.core.framing.hand.drawn import BY_HAND
from bexi.core.framing.purpose import Purpose
from bexi.core.framing.recipe import Framing, Recipe
from bexi.core.iconset.build import build
from bexi.core.iconset.catalogue import tab_icon
from bexi.core.iconset.encode import Job, encode
from bexi.core.iconset.plan import READY_MADE
from bexi.core.judging.groups import groups_of
from bexi.core.judging.judge import judge
from bexi.core.judging.proposals import candidates, judged_in_turn, propose
from bexi.core.judging.ways_out import Source
from bexi.server.demo.artwork import ferry_lockup

LADDER = (16, 32, 48, 180, 192, 512)


def rows() -> Iterator[tuple[str, float, str]]:
    """Name, ratio and what was asked."""
    for side in (1024, 4096):
        data = _png(side)
        yield f"judged ladder over ladder, {side} px", _judged_ladder(data), "at most 1.5"
        decoding = median(lambda data=data: Image.open(io.BytesIO(data)).load())  # type: ignore[misc]
        proposing, building = median(lambda data=data: _propose(data)), median(lambda data=data: _build(data))  # type: ignore[misc]
        yield f"proposals over a short build, {side} px", proposing / building, "at most 1 from 1024 px"
        yield f"proposals over decoding, {side} px", proposing / decoding, "at most 5 from 4096 px"
        twelve = imagemagick(data)
        first = median(lambda data=data: _propose_first(data))  # type: ignore[misc]
        yield f"first proposal over ImageMagick's twelve icons, {side} px", first / twelve, "at most 0.3 from 1024 px"
        yield f"proposals over ImageMagick's twelve icons, {side} px", proposing / twelve, "at most 0.8 from 1024 px"
    for name, data in (("1024 px", _png(1024)), ("SVG", ferry_lockup())):
        rungs, builds = (of(data, BY_HAND) / of(data, ()) for of in (_ladder_of, _build_of))
        yield f"small rungs by hand over plain ones, {name}", rungs, "at most 3"
        yield f"a short build by hand over a plain one, {name}", builds, "at most 1.1"


def _png(side: int) -> bytes:
    target = io.BytesIO()
    Image.fromarray(render_whole(check(ferry_lockup(), DEFAULT_LIMITS), side)).save(target, "PNG")
    return target.getvalue()


def _judged_ladder(data: bytes) -> float:
    """With levels warm, and each time another frame, as while one is dragged."""
    _, picture = take_in(data)
    frames = iter(range(10_000))

    def ladder(judged: bool) -> None:
        framing = Framing(Frame(next(frames), 0, picture.width // 2))
        icons = compose(picture, framing, Purpose.TAB, LADDER)
        for size, icon in zip(LADDER, icons, strict=True):
            encode(Job(tab_icon(size), [icon]))
        if judged:
            judge(picture, framing, icons)

    ladder(judged=True)
    return median(lambda: ladder(judged=True)) / median(lambda: ladder(judged=False))


def _propose(data: bytes) -> None:
    _, picture = take_in(data)
    propose(Source(picture, groups_of(picture)))


def _propose_first(data: bytes) -> None:
    _, picture = take_in(data)
    next(judged_in_turn(candidates(Source(picture, groups_of(picture))), with_letters=False))


def _ladder_of(data: bytes, by_hand: tuple[int, ...]) -> float:
    """Seconds of the four small rungs, as they are shown, each time with another frame."""
    _, picture = take_in(data)
    frames = iter(range(10_000))

    def ladder() -> None:
        framing = Framing(Frame(next(frames), 0, picture.width // 2), by_hand=by_hand)
        for size, icon in zip(BY_HAND, compose(picture, framing, Purpose.TAB, BY_HAND), strict=True):
            encode(Job(tab_icon(size), [icon]))

    return median(ladder)


def _build_of(data: bytes, by_hand: tuple[int, ...]) -> float:
    """Seconds of a short build, each time with another frame: what was drawn before is kept."""
    sides = iter(range(1, 10_000))
    return median(lambda: _build(data, by_hand, next(sides) + bool(by_hand) * 100))


def _build(data: bytes, by_hand: tuple[int, ...] = BY_HAND, larger: int = 0) -> None:
    _, picture = take_in(data)
    whole = whole_artwork(picture.width, picture.height)
    recipe = Recipe(Framing(Frame(whole.x, whole.y, whole.side + larger), by_hand=by_hand))
    build(lambda key: picture, recipe, READY_MADE["short"], "Ferry")
