"""Reading a picture file from outside: the one way from bytes to pixels or shapes, and the one way it is refused."""

import zlib
from collections.abc import Iterator

from bexi.core.artwork import bitmap, pdf
from bexi.core.artwork.detection import PictureFormat, detect, in_utf8
from bexi.core.artwork.limits import DEFAULT_LIMITS, Limits
from bexi.core.artwork.pictures import Picture, Vector
from bexi.core.artwork.treatment import AS_IT_IS, Treatment, treat
from bexi.core.artwork.vector import render_whole
from bexi.core.errors import ArtworkRefused
from bexi.core.pixels.light import Pixels

DRAWN_AT = 128
"""In px along the longer side."""
_GZIP = 31  # zlib's window size for gzip streams


def take_in(
    data: bytes, limits: Limits = DEFAULT_LIMITS, treatment: Treatment = AS_IT_IS
) -> tuple[PictureFormat, Picture]:
    """The format and the decoded picture of a file; raises ArtworkRefused with a sentence for the person."""
    picture_format = _detected(data, limits)
    picture = treat(_decode(data, picture_format, limits, treatment.frame), treatment)
    if max(picture.width, picture.height) > limits.side:
        raise ArtworkRefused(
            "too-long",
            f"This picture has {picture.width:,} × {picture.height:,} px; more than {limits.side:,} px along one side "
            "cannot be framed. Save a smaller copy.",
        )
    return picture_format, picture


def every_picture(data: bytes, limits: Limits = DEFAULT_LIMITS) -> Iterator[Pixels]:
    """Every picture of an ICO; of any other file the first, one of shapes DRAWN_AT px large. Raises ArtworkRefused."""
    picture_format = _detected(data, limits)
    if not picture_format.decoders:
        picture = _decode(data, picture_format, limits, None)
        yield render_whole(picture, DRAWN_AT) if isinstance(picture, Vector) else picture.pixels
    else:
        yield from bitmap.decode_each(data, picture_format, limits)


def _detected(data: bytes, limits: Limits) -> PictureFormat:
    if not data:
        raise ArtworkRefused("empty-file", "This file is empty. Choose the picture again, or download it again.")
    if len(data) > limits.file_bytes:
        raise _too_large(len(data), limits)
    picture_format = detect(data)
    if picture_format is None:
        raise ArtworkRefused(
            "not-a-picture",
            "This is not a picture Bexi can read, whatever its name says. "
            f"Choose one of these: {', '.join(known.label for known in PictureFormat)}.",
        )
    return picture_format


def _decode(data: bytes, picture_format: PictureFormat, limits: Limits, frame: int | None) -> Picture:
    match picture_format:
        case PictureFormat.SVG:
            return _checked(in_utf8(data), limits)
        case PictureFormat.SVGZ:
            return _checked(in_utf8(_unpacked(data, limits)), limits)
        case PictureFormat.PDF:
            return pdf.first_page(data)
        case _:
            return bitmap.decode(data, picture_format, limits, frame)


def _checked(svg: bytes, limits: Limits) -> Vector:
    from bexi.core.artwork.svg.checking import check  # on demand, for a bitmap is read sooner without it

    return check(svg, limits)


def _unpacked(data: bytes, limits: Limits) -> bytes:
    """The SVG in a gzip file, never more of it than a file may have (RFC 1952)."""
    stream = zlib.decompressobj(_GZIP)
    try:
        svg = stream.decompress(data, limits.file_bytes + 1)
    except zlib.error as error:
        raise ArtworkRefused("broken-picture", "This SVGZ file is damaged. Export or download it again.") from error
    if len(svg) > limits.file_bytes:
        raise _too_large(len(svg), limits)
    if not stream.eof or detect(svg) is not PictureFormat.SVG:
        raise ArtworkRefused(
            "not-a-picture",
            "This is a compressed file, but not a compressed SVG. Unpack it and choose the picture inside.",
        )
    return svg


def _too_large(size: int, limits: Limits) -> ArtworkRefused:
    return ArtworkRefused(
        "file-too-large",
        f"This file has {size / 1024 / 1024:.0f} MB, more than the limit of "
        f"{limits.file_bytes // 1024 // 1024} MB. Save a smaller copy; 1024 px is plenty for any icon.",
    )
