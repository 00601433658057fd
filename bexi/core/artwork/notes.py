"""What the facts of an artwork mean for its icons, each in a sentence."""

from collections.abc import Iterator
from dataclasses import dataclass

from bexi.core.artwork.facts import Facts
from bexi.core.artwork.ink import GroundKind

LARGEST_USUAL = 512
_THIN_SHARE = 0.12
_MANY_PARTS = 8


@dataclass(frozen=True)
class Note:
    """A sentence about one fact. `caution` marks what will spoil an icon unless something is done."""

    fact: str
    sentence: str
    caution: bool = False


_BLANK = Note("ink", "This picture is blank, so an icon made from it would show nothing.", caution=True)


def notes_on(facts: Facts, mismatch: str | None = None) -> list[Note]:
    """All notes, those about the file itself first; `mismatch` is what its name wrongly promises."""
    notes = [Note("format", mismatch, caution=True)] if mismatch else []
    on_picture = [_BLANK] if facts.ink is None else [*_on_shape(facts), *_on_ink(facts), *_on_size(facts)]
    return [*notes, *_on_file(facts), *on_picture]


def _on_file(facts: Facts) -> Iterator[Note]:
    if facts.animated:
        yield Note("frames", "It is animated; icons do not move, so one of its pictures is used.")
    elif len(facts.frames) > 1:
        yield Note("frames", f"It holds {len(facts.frames)} pictures; one is used, and you can choose another.")
    if facts.turned:
        yield Note("turned", "The camera stored it rotated; Bexi turned it upright by its orientation tag.")
    if facts.profile and "sRGB" not in facts.profile:
        yield Note("profile", "Its colours were converted to sRGB, since icons are shown without a profile.")
    if facts.left_out:
        yield Note("left_out", f"Only its drawing is used. Left out: {', '.join(facts.left_out)}.")
    if facts.live_text:
        yield Note(
            "live_text",
            "It contains live text. Text set in a font that is not in the file cannot be drawn; "
            "convert the text to outlines in a drawing program and choose the file again.",
            caution=True,
        )


def _on_shape(facts: Facts) -> Iterator[Note]:
    if facts.width != facts.height:
        yield Note("shape", "It is not square. The frame cuts a square out of it or pads it; nothing is ever squashed.")
    if facts.ground is GroundKind.SOLID:
        yield Note(
            "ground",
            f"Its background is solid {facts.ground_colour}, so the icon will be a filled square of that colour. "
            "Remove the background if the mark should stand alone.",
        )
    elif facts.ground is GroundKind.CHECKERED:
        yield Note(
            "ground",
            "Its background is not transparent: a checkerboard was saved into the picture, and the icon would show it. "
            "Remove the background, or use the original file.",
            caution=True,
        )
    elif facts.ground is GroundKind.BUSY:
        yield Note(
            "ground", "Its background is busy, so at 16 px the mark will hardly stand out from it.", caution=True
        )


def _on_ink(facts: Facts) -> Iterator[Note]:
    if facts.ink_share < _THIN_SHARE and facts.ground is not GroundKind.BUSY:
        yield Note(
            "ink_share", "Little of it is ink: thin lines and wide margins all but vanish at 16 px.", caution=True
        )
    if len(facts.parts) > _MANY_PARTS:
        yield Note(
            "parts",
            f"It has {len(facts.parts)} separate parts. At 16 px they run together; frame one of them.",
            caution=True,
        )
    if facts.one_colour:
        luminance = facts.colours[0].colour.luminance
        where = "dark" if luminance < 0.18 else "light" if luminance > 0.6 else None
        if where:
            yield Note(
                "colours",
                f"It is all one {where} colour on a transparent background: on a {where} tab it vanishes.",
                caution=True,
            )


def _on_size(facts: Facts) -> Iterator[Note]:
    sharp = facts.sharp_up_to
    if facts.vector:
        yield Note("sharp_up_to", "It is made of shapes, so it is sharp at every size.")
    elif sharp is not None and sharp < LARGEST_USUAL:
        yield Note(
            "sharp_up_to",
            f"It has ink for {sharp} px; at {LARGEST_USUAL} px it would be enlarged {LARGEST_USUAL / sharp:.1f} times "
            "and look soft. A larger original or an SVG would not.",
            caution=True,
        )
