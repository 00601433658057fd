"""The set as one ZIP archive, the same bytes for the same files."""

import io
import zipfile
from collections.abc import Iterator, Mapping, Sequence
from types import MappingProxyType

from bexi.core.iconset.build import BuiltFile

_FIXED_TIME = (1980, 1, 1, 0, 0, 0)  # the earliest a ZIP can state
_LINES_NAME = "head-lines.html"
_NOTE_NAME = "where-files-go.txt"


def package(
    files: Sequence[BuiltFile],
    lines: Sequence[str],
    credit: str = "",
    beside: Mapping[str, bytes] = MappingProxyType({}),
) -> bytes:
    """A ZIP of the files, the lines for the head of each page, and a note on where everything goes, with credits.

    `beside` are further files for it.
    """
    members = {file.name: file.data for file in files}
    members[_LINES_NAME] = ("\n".join(lines) + "\n").encode()
    members[_NOTE_NAME] = ("\n".join(_note(files, credit)) + "\n").encode()
    return archive({**members, **beside})


def archive(members: Mapping[str, bytes]) -> bytes:
    """A ZIP of these files, in the given order and with one fixed time."""
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as opened:
        for name, data in members.items():
            info = zipfile.ZipInfo(name, _FIXED_TIME)
            info.external_attr = 0o644 << 16
            opened.writestr(info, data, zipfile.ZIP_DEFLATED)
    return target.getvalue()


def _note(files: Sequence[BuiltFile], credit: str) -> Iterator[str]:
    yield "Where these files go"
    yield ""
    yield "1. Put these into the top folder of the site, the one that is served at /. Keep a copy of what they replace,"
    yield "   and do not change their names:"
    yield ""
    for file in files:
        yield f"   {file.name:<30} {file.spec.title}, {len(file.data)} bytes"
    yield ""
    yield f"2. Put the lines of {_LINES_NAME} into the head of each page, or of the header they share, in place of"
    yield "   earlier icon lines."
    yield "3. Save and publish. Then open the site in a private window: browsers keep old icons for a long time."
    if credit:
        yield ""
        yield "Credits"
        yield credit
