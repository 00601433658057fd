"""The set as one ZIP archive, the same bytes for the same files."""

import io
import zipfile
from collections.abc import Sequence

from bexi.core.iconset.build import BuiltFile

_FIXED_TIME = (1980, 1, 1, 0, 0, 0)  # the earliest a ZIP can state
_LINES_NAME = "head-lines.html"


def package(files: Sequence[BuiltFile], lines: Sequence[str]) -> bytes:
    """A ZIP of the files and, in `head-lines.html`, the lines for the head of each page."""
    members = [(file.name, file.data) for file in files]
    members.append((_LINES_NAME, ("\n".join(lines) + "\n").encode()))
    archive = io.BytesIO()
    with zipfile.ZipFile(archive, "w") as target:
        for name, data in members:
            info = zipfile.ZipInfo(name, _FIXED_TIME)
            info.external_attr = 0o644 << 16
            target.writestr(info, data, zipfile.ZIP_DEFLATED)
    return archive.getvalue()
