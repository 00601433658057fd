"""Reading picture files that a command was given."""

from bexi.core.artwork.detection import PictureFormat
from bexi.core.artwork.intake import take_in
from bexi.core.artwork.limits import DEFAULT_LIMITS
from bexi.core.artwork.pictures import Picture
from bexi.core.artwork.treatment import AS_IT_IS, Treatment
from bexi.sandbox import in_sandbox


def taken_in(data: bytes, treatment: Treatment = AS_IT_IS) -> tuple[PictureFormat, Picture]:
    """The format and the picture of a file, read apart; raises ArtworkRefused."""
    return in_sandbox(take_in, data, DEFAULT_LIMITS, treatment)
