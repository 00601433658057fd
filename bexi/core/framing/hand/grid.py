"""A whole px for each edge: stems of like width stay alike, none closes, and nothing moves by more than a px."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from bexi.core.framing.hand.edges import APART, Edge

_STEM, _GAP = 6.0, 1.5
"""The price of changing a stem's and a gap's width, for each px of the shorter side and the square of the change."""
_WIDE = 4.0
"""In px: what is wider is an area."""
_LIKE = 0.3
"""In px: stems whose widths differ by less are of like width."""
_SYMMETRIC = 0.15
"""In px: halves that differ by less are alike."""

_ROUND = 0.15
"""In px: drawings whose width and height differ by less are as wide as high, and stay so."""
_OFF_GRID = 0.45
"""The price, for each px of its length, of leaving a stem between two halves where it lies."""

_ASIDE = 2.0
"""The price of two halves that meet aside of their middle, for each half px."""

_SMALLER = 0.3
"""The price of each px by which the whole becomes smaller, for each px of the shorter end."""

_Way = tuple[float, tuple[float, ...]]
"""What it costs to move the edges so far to these px."""


@dataclass(frozen=True)
class _Widths:
    """Those of all stems and of all narrow gaps of an icon, along both axes, in px."""

    stems: tuple[float, ...]
    gaps: tuple[float, ...]

    @classmethod
    def of(cls, *axes: Sequence[Edge]) -> "_Widths":
        pairs = [pair for edges in axes for pair in pairwise(edges)]
        stems = tuple(after.place - before.place for before, after in pairs if _is_stem(before, after))
        gaps = tuple(after.place - before.place for before, after in pairs if _is_gap(before, after))
        return cls(stems, gaps)


def on_grid(across: Sequence[Edge], down: Sequence[Edge], size: int) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """The px, 0 to `size`, that each edge of both axes goes to; where there is no room for them, they stay."""
    widths = _Widths.of(across, down)
    one, other = (_by_extent(edges, size, widths) for edges in (across, down))
    if across and down and abs(_extent(across) - _extent(down)) < _ROUND and one.keys() & other.keys():
        extent = min(one.keys() & other.keys(), key=lambda extent: one[extent][0] + other[extent][0])
        return one[extent][1], other[extent][1]
    stay = tuple((0.0, tuple(edge.place for edge in edges)) for edges in (across, down))
    best = [min(ways.values(), default=kept) for ways, kept in zip((one, other), stay, strict=True)]
    return best[0][1], best[1][1]


def _extent(edges: Sequence[Edge]) -> float:
    return edges[-1].place - edges[0].place


def _by_extent(edges: Sequence[Edge], size: int, widths: _Widths) -> dict[float, _Way]:
    """The cheapest way for each distance of the outermost edges."""
    if not edges:
        return {}
    best: dict[float, _Way] = {}
    shorter = min(edges[0].length, edges[-1].length)
    ways = _symmetric(edges, size, widths) if _mirrored(edges) else _ways(edges, size, widths).values()
    for cost, way in ways:
        extent = way[-1] - way[0]
        cost += _SMALLER * shorter * max(0.0, _extent(edges) - extent)
        best[extent] = min((cost, way), best.get(extent, (math.inf, way)))
    return best


def _is_stem(before: Edge, after: Edge) -> bool:
    return before.begins and not after.begins and APART < after.place - before.place < _WIDE


def _is_gap(before: Edge, after: Edge) -> bool:
    return not before.begins and after.begins and APART < after.place - before.place < _WIDE


def _ways(edges: Sequence[Edge], size: int, widths: _Widths, slid: float = 0.0) -> dict[tuple[float, float], _Way]:
    """The cheapest for each pair of px that the first and the last edge may go to (dynamic programming).

    Of a half, each edge costs the mean of its own move and of its mirror image's, which differ when the centre between
    them slides: `slid` is twice that, in px.
    """
    ways: dict[tuple[float, float], _Way] = {}
    for number, edge in enumerate(edges):
        before, ways = ways, {}
        for px in _near(edge.place, size):
            moved = px - edge.place
            if abs(slid - moved) > 1:
                continue
            own = edge.length * (moved**2 + (slid - moved) ** 2) / 2
            if not number:
                ways[px, px] = (own, (px,))
            for (first, last), (cost, way) in before.items():
                cost += own + _price(edges[number - 1], edge, px - last, widths)
                if cost < ways.get((first, px), (math.inf, ()))[0]:
                    ways[first, px] = (cost, (*way, px))
    return ways


def _near(place: float, size: int) -> range:
    return range(max(0, math.ceil(place - 1)), min(size, math.floor(place + 1)) + 1)


def _symmetric(edges: Sequence[Edge], size: int, widths: _Widths) -> Iterator[_Way]:
    """Ways in which both halves move alike; a stem between them may stay between two px, as a hand leaves it."""
    both, half = edges[0].place + edges[-1].place, len(edges) // 2
    last, next_ = edges[half - 1], edges[half]
    near = {round(both)} if abs(both - round(both)) < _SYMMETRIC else {math.floor(both), math.ceil(both)}
    if _is_stem(last, next_):  # half a px aside it may be crisp, like the middle one of three bars
        near |= {min(near) - 1, max(near) + 1}
    for centre in sorted(near):
        slid = centre - both
        aside = _ASIDE * abs(slid)
        for cost, way in _ways(edges[:half], size, widths, slid).values():
            between = _price(last, next_, centre - 2 * way[-1], widths)
            if between < math.inf:
                yield 2 * cost + between + aside, _doubled(way, centre)
        if _is_stem(last, next_):
            middle = (centre - next_.place + last.place) / 2
            stays = last.length * (_OFF_GRID + (slid / 2) ** 2)
            before = _ways(edges[: half - 1], size, widths, slid).values() if half > 1 else [(0.0, ())]
            for cost, way in before:
                gap = _price(edges[half - 2], last, middle - way[-1], widths) if way else 0.0
                if gap < math.inf:
                    yield 2 * (cost + gap + stays) + aside, _doubled((*way, middle), centre)


def _doubled(way: tuple[float, ...], centre: float) -> tuple[float, ...]:
    return (*way, *(centre - px for px in reversed(way)))


def _mirrored(edges: Sequence[Edge]) -> bool:
    if not edges:
        return False
    both = edges[0].place + edges[-1].place
    return all(
        abs(one.place + other.place - both) < _SYMMETRIC and one.begins != other.begins
        for one, other in zip(edges, reversed(edges), strict=True)
    )


def _price(before: Edge, edge: Edge, distance: float, widths: _Widths) -> float:
    """What it costs that an edge comes to lie so many px after the one before it."""
    was = edge.place - before.place
    if distance < 0 or (not distance and was > APART):
        return math.inf
    shorter = min(before.length, edge.length)
    if _is_stem(before, edge):
        like = _like(was, widths.stems)
        return _STEM * shorter * (distance - _whole(sum(like) / len(like))) ** 2
    like = _like(was, widths.gaps)
    wanted = round(sum(like) / len(like)) if len(like) > 1 else was
    return _GAP * shorter * (distance - wanted) ** 2


def _whole(width: float) -> int:
    """The nearest px in proportion: a px and a half is nearer to two than to one."""
    return max(1, math.ceil((math.sqrt(4 * width**2 + 1) - 1) / 2))  # the least n of which n (n + 1) is width² or more


def _like(width: float, widths: Sequence[float]) -> list[float]:
    return [one for one in widths if abs(one - width) < _LIKE]
