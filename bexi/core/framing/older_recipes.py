"""Recipes of older versions in the members of today's.

Framings of versions 1 to 3 were lists of values by their place; up to version 4 no icon was drawn by hand, in version 5
no edge could be held, up to version 6 a hand did nothing but move edges, and up to version 7 ground inside ink stayed.
"""

from collections.abc import Mapping
from typing import Any

from bexi.core.errors import FramingRefused

OLDER = (1, 2, 3, 4, 5, 6, 7)


def brought_up(data: Mapping[str, Any]) -> dict[str, Any]:
    """An older recipe's plain data as version 8 says it; raises FramingRefused when it is none."""
    try:
        named = data["version"] >= 4
        own = [one if named else _own(one) for one in data.get("own", [])]
        framing = data["framing"] if named else _framing(data["framing"])
        plain = [{**one, "framing": _plain(one["framing"])} for one in own]
        return {"version": 8, "framing": _plain(framing), "own": plain}
    except (KeyError, TypeError, ValueError, AttributeError) as error:
        raise FramingRefused(
            "unknown-recipe", "This recipe is incomplete. Download it from the build again."
        ) from error


def _plain(framing: Mapping[str, Any]) -> dict[str, Any]:
    return {"by_hand_px": [], "held_edges": [], "hand_steps": [], **framing, "lift_inside": False}


def _own(data: Mapping[str, Any]) -> dict[str, Any]:
    """Version 1 says `home` instead of a purpose."""
    purpose = data["purpose"] if "purpose" in data else "home" if data["home"] else "tab"
    sizes = {"smallest_px": data["smallest"], "largest_px": data["largest"]}
    return {**sizes, "purpose": purpose, "framing": _framing(data["framing"])}


def _framing(data: Mapping[str, Any]) -> dict[str, Any]:
    """Weight and cut came with version 3."""
    shape, colour, radius, inset = data["plate"]
    sharpen, outline, outline_colour, recolour, *weight = data["finish"]
    return {
        "frame": _named(data["frame"], "x_px", "y_px", "side_px"),
        "ground": data["ground"],
        "home_ground": data["home_ground"],
        "plate": {"shape": shape, "colour": colour, "radius_percent": radius, "inset_percent": inset},
        "artwork": data.get("artwork"),
        "finish": {
            "sharpen_quarters": sharpen,
            "outline_percent": outline,
            "outline_colour": outline_colour,
            "recolour": recolour,
            "weight_percent": weight[0] if weight else 0,
        },
        "cut": _cut(data.get("cut")),
        "lift_tolerance": None,
    }


def _cut(data: list[int] | None) -> dict[str, Any] | None:
    return None if data is None else _named(data, "left_px", "top_px", "right_px", "bottom_px") | {"outline": []}


def _named(values: list[int], *names: str) -> dict[str, Any]:
    return dict(zip(names, values, strict=True))
