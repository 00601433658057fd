"""What a picture file really is, by its content; name and declared type are only compared against it."""

import re
from enum import Enum
from pathlib import PurePath


class PictureFormat(Enum):
    """A picture format Bexi takes in: the trade's name, registered media type, usual file endings."""

    PNG = "PNG", "image/png", (".png",)
    JPEG = "JPEG", "image/jpeg", (".jpg", ".jpeg", ".jpe", ".jfif")
    GIF = "GIF", "image/gif", (".gif",)
    BMP = "BMP", "image/bmp", (".bmp", ".dib")
    WEBP = "WebP", "image/webp", (".webp",)
    ICO = "ICO", "image/vnd.microsoft.icon", (".ico", ".cur")
    AVIF = "AVIF", "image/avif", (".avif",)
    TIFF = "TIFF", "image/tiff", (".tif", ".tiff")
    PDF = "PDF", "application/pdf", (".pdf",)
    SVG = "SVG", "image/svg+xml", (".svg",)
    SVGZ = "SVGZ", "image/svg+xml", (".svgz",)

    def __init__(self, label: str, media_type: str, endings: tuple[str, ...]) -> None:
        self.label = label
        self.media_type = media_type
        self.endings = endings


# WHATWG MIME Sniffing, "image type pattern matching algorithm"; `.` is a byte the pattern's mask ignores.
_PATTERNS = (
    (re.compile(rb"\x00\x00[\x01\x02]\x00"), PictureFormat.ICO),
    (re.compile(rb"BM"), PictureFormat.BMP),
    (re.compile(rb"GIF8[79]a"), PictureFormat.GIF),
    (re.compile(rb"RIFF....WEBPVP", re.DOTALL), PictureFormat.WEBP),
    (re.compile(rb"\x89PNG\r\n\x1a\n"), PictureFormat.PNG),
    (re.compile(rb"\xff\xd8\xff"), PictureFormat.JPEG),
    (re.compile(rb"%PDF-"), PictureFormat.PDF),
    # Not in that standard: TIFF 6.0 §2 and BigTIFF [from memory]; a BMP without its file header, by the lengths its
    # information header may have and its one plane; AVIF's brands in ISO/IEC 14496-12 file type boxes; gzip (RFC 1952
    # §2.3.1).
    (re.compile(rb"II[*+]\x00|MM\x00[*+]"), PictureFormat.TIFF),
    (re.compile(rb"\x0c\0\0\0.{4}\x01\0|[\x28\x34\x38\x40\x6c\x7c]\0\0\0.{8}\x01\0", re.DOTALL), PictureFormat.BMP),
    (re.compile(rb"....ftyp(?:avif|avis|mif1....avif)", re.DOTALL), PictureFormat.AVIF),
    (re.compile(rb"\x1f\x8b\x08"), PictureFormat.SVGZ),
)
# The standard leaves SVG to its XML type; this finds a root element <svg> after the usual prolog (XML 1.0 §2.8).
_SVG = re.compile(
    rb"(?:\xef\xbb\xbf)?\s*(?:<\?.{0,4000}?\?>\s*|<!--.{0,4000}?-->\s*|<!DOCTYPE[^\[>]{0,1000}(?:\[.{0,20000}?\]\s*)?>\s*)*"
    rb"<(?:[A-Za-z_][\w.-]{0,50}:)?svg[\s/>]",
    re.DOTALL,
)


def detect(data: bytes) -> PictureFormat | None:
    """The format of a picture file by its first bytes, or None when it is no picture Bexi knows."""
    for pattern, picture_format in _PATTERNS:
        if pattern.match(data):
            return picture_format
    return PictureFormat.SVG if _SVG.match(data[:32768]) else None


def name_mismatch(name: str, real: PictureFormat) -> str | None:
    """A sentence when the file's ending promises another format than its content has, else None."""
    ending = PurePath(name).suffix.lower()
    promised = next((known for known in PictureFormat if ending in known.endings), None)
    if promised is None or promised is real:
        return None
    return (
        f"The name ends in {ending}, but the file is a {real.label} picture: renaming does not convert. "
        f"It is taken as the {real.label} it is; what Bexi builds from it is converted properly."
    )
