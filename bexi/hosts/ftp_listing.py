"""What an FTP server says lies in a folder: MLSD (RFC 3659 §7), and LIST as Unix servers answer it."""

import re
from collections.abc import Iterable, Iterator
from typing import NamedTuple

# A line of LIST as most servers write it; RFC 959 leaves its form open [common practice].
_UNIX_LINE = re.compile(r"([-dl])\S{9}\s+\d+\s+\S+\s+\S+\s+\d+\s+\S+\s+\d+\s+\S+\s(.+)")


class Listed(NamedTuple):
    """A file or folder. What a server says of its size is not believed, so it is not read."""

    name: str
    is_folder: bool


def from_mlsd(lines: Iterable[bytes]) -> Iterator[Listed]:
    """Files and folders of an MLSD answer; links and what else there may be are left out."""
    for line in map(_text, lines):
        facts, _, name = line.partition(" ")
        values = dict(fact.lower().split("=", 1) for fact in facts.split(";") if "=" in fact)
        if name and values.get("type") in ("file", "dir"):
            yield Listed(name, values["type"] == "dir")


def from_list(lines: Iterable[bytes]) -> Iterator[Listed]:
    """Files and folders of a LIST answer; lines of another form are left out."""
    for match in filter(None, map(_UNIX_LINE.fullmatch, map(_text, lines))):
        if match[1] != "l" and match[2] not in (".", ".."):
            yield Listed(match[2], match[1] == "d")


def _text(line: bytes) -> str:
    """A line as UTF-8 (RFC 2640); bytes that are none stay apart, and make a name that Bexi passes over."""
    return line.rstrip(b"\r").decode("utf-8", "surrogateescape")
