"""What a picture file really is, by its content; name and declared type are only compared against it."""

import codecs
import re
from enum import Enum
from pathlib import PurePath

from bexi.core.formats import media_types

# The standard leaves SVG to its XML type; this finds a root element <svg> after the usual prolog (XML 1.0 §2.8).
_SVG = (
    rb"(?:\xef\xbb\xbf)?\s*(?:<\?.{0,4000}?\?>\s*|<!--.{0,4000}?-->\s*|<!DOCTYPE[^\[>]{0,1000}(?:\[.{0,20000}?\]\s*)?>\s*)*"
    rb"<(?:[A-Za-z_][\w.-]{0,50}:)?svg[\s/>]"
)


class PictureFormat(Enum):
    """The registry of what Bexi takes in; a bitmap format that Pillow decodes is one line here.

    The trade's name, registered media type, usual file endings, a pattern of the first bytes, and Pillow's decoders:
    none for those made of shapes. Patterns are those of the WHATWG MIME Sniffing standard ("image type pattern matching
    algorithm"; `.` is a byte its mask ignores), but for: TIFF 6.0 §2 and BigTIFF [from memory]; a BMP without its file
    header, by the lengths its information header may have and its one plane; AVIF's brands in ISO/IEC 14496-12 file
    type boxes; gzip (RFC 1952 §2.3.1).
    """

    PNG = "PNG", media_types.PNG, (".png",), rb"\x89PNG\r\n\x1a\n", ("PNG",)
    JPEG = "JPEG", media_types.JPEG, (".jpg", ".jpeg", ".jpe", ".jfif"), rb"\xff\xd8\xff", ("JPEG",)
    GIF = "GIF", media_types.GIF, (".gif",), rb"GIF8[79]a", ("GIF",)
    BMP = (
        *("BMP", media_types.BMP, (".bmp", ".dib")),
        rb"BM|\x0c\0\0\0.{4}\x01\0|[\x28\x34\x38\x40\x6c\x7c]\0\0\0.{8}\x01\0",
        ("BMP", "DIB"),
    )
    WEBP = "WebP", media_types.WEBP, (".webp",), rb"RIFF....WEBPVP", ("WEBP",)
    ICO = "ICO", media_types.ICO, (".ico", ".cur"), rb"\x00\x00[\x01\x02]\x00", ("ICO", "CUR")
    AVIF = "AVIF", media_types.AVIF, (".avif",), rb"....ftyp(?:avif|avis|mif1....avif)", ("AVIF",)
    TIFF = "TIFF", media_types.TIFF, (".tif", ".tiff"), rb"II[*+]\x00|MM\x00[*+]", ("TIFF",)
    PDF = "PDF", media_types.PDF, (".pdf",), rb"%PDF-", ()
    SVGZ = "SVGZ", media_types.SVG, (".svgz",), rb"\x1f\x8b\x08", ()
    SVG = "SVG", media_types.SVG, (".svg",), _SVG, ()

    def __init__(
        self, label: str, media_type: str, endings: tuple[str, ...], begins: bytes, decoders: tuple[str, ...]
    ) -> None:
        self.label = label
        self.media_type = media_type
        self.endings = endings
        self.begins = re.compile(begins, re.DOTALL)
        self.decoders = decoders


def in_utf8(data: bytes) -> bytes:
    """XML in UTF-16 as the same in UTF-8, told by how it begins (XML 1.0, appendix F); anything else as it is."""
    if not data.startswith(_UTF_16):
        return data
    encoding = "utf-16" if data[:2] in (codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE) else _WITHOUT_MARK[data[0] == 0]
    try:
        text = data[: len(data) // 2 * 2].decode(encoding)
    except UnicodeDecodeError:
        return data
    return _DECLARED_ENCODING.sub(r"\1", text, count=1).encode()


_UTF_16 = (codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE, b"<\0?\0", b"\0<\0?", b"<\0s\0", b"\0<\0s", b"<\0!\0", b"\0<\0!")
_WITHOUT_MARK = "utf-16-le", "utf-16-be"
_DECLARED_ENCODING = re.compile(r"(\A\s*<\?xml[^>]*?)\s+encoding\s*=\s*(?:\"[^\"]*\"|'[^']*')")


def detect(data: bytes) -> PictureFormat | None:
    """The format of a picture file by its first bytes, or None when it is no picture Bexi knows."""
    start = in_utf8(data[:32768])
    return next((known for known in PictureFormat if known.begins.match(start)), None)


def name_mismatch(name: str, real: PictureFormat) -> str | None:
    """A sentence when the file's ending promises another format than its content has, else None."""
    ending = PurePath(name).suffix.lower()
    promised = next((known for known in PictureFormat if ending in known.endings), None)
    if promised is None or promised is real:
        return None
    return (
        f"The name ends in {ending}, but the file is a {real.label} picture: renaming does not convert. "
        "Bexi reads it as what it is and converts it properly."
    )
