"""Taking in a picture file: the one way from bytes to artwork."""

from bexi.core.artwork import bitmap, vector
from bexi.core.artwork.detection import PictureFormat, detect
from bexi.core.artwork.limits import DEFAULT_LIMITS, Limits
from bexi.core.artwork.pictures import Picture
from bexi.core.errors import ArtworkRefused


def take_in(data: bytes, limits: Limits = DEFAULT_LIMITS) -> tuple[PictureFormat, Picture]:
    """The format and the decoded picture of a file; raises ArtworkRefused with a sentence for the person."""
    if not data:
        raise ArtworkRefused("empty-file", "This file is empty. Choose the picture again, or download it anew.")
    if len(data) > limits.file_bytes:
        raise ArtworkRefused(
            "file-too-large",
            f"This file has {len(data) / 1024 / 1024:.0f} MB, more than the limit of "
            f"{limits.file_bytes // 1024 // 1024} MB. Save a smaller copy; 1024 px is plenty for any icon.",
        )
    picture_format = detect(data)
    if picture_format is None:
        raise ArtworkRefused(
            "not-a-picture",
            "This is not a picture Bexi can read, whatever its name says. "
            f"Choose one of these: {', '.join(known.label for known in PictureFormat)}.",
        )
    if picture_format is PictureFormat.SVG:
        return picture_format, vector.check(data, limits)
    return picture_format, bitmap.decode(data, picture_format, limits)
