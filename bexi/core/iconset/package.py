"""The set as one ZIP archive, the same bytes for the same files."""

import io
import zipfile
from collections.abc import Sequence

from bexi.core.iconset.build import BuiltFile

_FIXED_TIME = (1980, 1, 1, 0, 0, 0)  # the earliest a ZIP can state
_LINES_NAME = "head-lines.html"
_CREDITS_NAME = "credits.txt"


def package(files: Sequence[BuiltFile], lines: Sequence[str], credit: str = "") -> bytes:
    """A ZIP of the files, the lines for the head of each page, and the credit that the artwork's licence asks for."""
    members = [(file.name, file.data) for file in files]
    members.append((_LINES_NAME, ("\n".join(lines) + "\n").encode()))
    if credit:
        members.append((_CREDITS_NAME, f"{credit}\n".encode()))
    archive = io.BytesIO()
    with zipfile.ZipFile(archive, "w") as target:
        for name, data in members:
            info = zipfile.ZipInfo(name, _FIXED_TIME)
            info.external_attr = 0o644 << 16
            target.writestr(info, data, zipfile.ZIP_DEFLATED)
    return archive.getvalue()
