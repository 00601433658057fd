"""Settings under which the original is read: chosen frame, lifted ground, recolouring. The original stays as it is."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from bexi.core.artwork.pictures import Bitmap, Picture
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.colour import Colour
from bexi.core.pixels.light import recoloured

LARGEST_TOLERANCE = 0.5
"""In OKLab."""


@dataclass(frozen=True)
class Treatment:
    """How an original is read.

    `frame` is the picture of an animation or ICO, None for the usual one (the first; of an ICO the largest).
    `lift` is the tolerance in OKLab by which a flat ground is lifted, None to keep it, `lift_inside` whether where ink
    encloses it, too. `recolour` is the one colour that all ink takes.
    """

    frame: int | None = None
    lift: float | None = None
    recolour: Colour | None = None
    lift_inside: bool = False

    def __post_init__(self) -> None:
        if self.lift is not None and not 0 < self.lift <= LARGEST_TOLERANCE:
            raise ArtworkRefused(
                "bad-tolerance", f"A tolerance lies above 0 and at most at {LARGEST_TOLERANCE}; {self.lift} does not."
            )

    def as_json(self) -> dict[str, object]:
        """Plain data, read back by `from_json`."""
        recolour = str(self.recolour) if self.recolour else None
        return {"frame": self.frame, "lift": self.lift, "lift_inside": self.lift_inside, "recolour": recolour}

    @classmethod
    def from_json(cls, data: Mapping[str, object]) -> "Treatment":
        """Read plain data as `as_json` wrote it."""
        frame, lift, recolour = data.get("frame"), data.get("lift"), data.get("recolour")
        return cls(
            frame if isinstance(frame, int) else None,
            float(lift) if isinstance(lift, int | float) else None,
            Colour.parse(recolour) if isinstance(recolour, str) else None,
            bool(data.get("lift_inside")),
        )


AS_IT_IS = Treatment()


def treat(picture: Picture, treatment: Treatment) -> Picture:
    """The picture under a treatment whose frame was chosen at decoding already.

    Raises ArtworkRefused when a ground is to be lifted that a drawing does not have.
    """
    if treatment.lift is not None:
        free = lift(picture, treatment.lift, treatment.lift_inside)
        if free == picture:  # an equal drawing may have been kept from before
            raise ArtworkRefused(
                "no-ground-to-lift",
                "None of this drawing's shapes is a flat background. Remove what is to go in a drawing program.",
            )
        picture = free
    if treatment.recolour is None:
        return picture
    if isinstance(picture, Bitmap):
        return replace(picture, pixels=recoloured(picture.pixels, treatment.recolour))
    return replace(picture, recolour=treatment.recolour)


def lift(picture: Picture, tolerance: float, inside: bool) -> Picture:
    """The picture without its flat ground, which of a drawing is a shape of its own; one equal to it if it has none."""
    # On demand: what tells a ground takes its time to import.
    if not isinstance(picture, Bitmap):
        from bexi.core.artwork.ground_shape import without_ground

        return without_ground(picture)
    from bexi.core.artwork.ground import lift_ground

    return replace(picture, pixels=lift_ground(picture.pixels, tolerance, inside))
