"""The web app manifest (W3C Web Application Manifest): new, or merged into the one a site has."""

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import NoReturn

_BOM = "\ufeff"
_SPACE = re.compile(r"[ \t\r\n]*")


@dataclass(frozen=True)
class ManifestIcon:
    """One member of `icons`: address, side in px, media type, purpose."""

    src: str
    size: int
    media_type: str
    purpose: str = "any"

    def member(self) -> dict[str, str]:
        """The JSON object of this icon."""
        side = f"{self.size}x{self.size}"
        return {"src": self.src, "sizes": side, "type": self.media_type, "purpose": self.purpose}


def new(name: str, icons: Sequence[ManifestIcon], others: Mapping[str, str] | None = None) -> bytes:
    """A manifest with the site's name, other members and these icons."""
    members = {"name": name, **(others or {}), "icons": [icon.member() for icon in icons]}
    return (_dumped(members) + "\n").encode()


def read(data: bytes) -> Mapping[str, object] | None:
    """The members of a manifest; None when it is no JSON object in UTF-8 (RFC 8259), or nested without end."""
    try:
        members = _decoder.decode(_text(data).removeprefix(_BOM))
    except (ValueError, RecursionError):
        return None
    return members if isinstance(members, dict) else None


def merged(existing: bytes, members: Mapping[str, object]) -> bytes | None:
    """A site's own manifest with these members, every byte that is not about them as it was.

    None when the existing one cannot be read, so there is nothing to keep.
    """
    if read(existing) is None:
        return None
    text = _text(existing)
    for name, value in reversed(list(members.items())):  # a new member goes to the front
        text = _with_member(text, name, value)
    return text.encode()


def _with_member(text: str, name: str, value: object) -> str:
    indented = _dumped(value).replace("\n", "\n  ")
    spans = _values_of(name, text)
    for start, end in reversed(spans):  # of two members with one name the last counts, so all are the same
        text = text[:start] + indented + text[end:]
    if spans:
        return text
    brace = text.index("{") + 1
    comma = "" if text[_past_space(text, brace)] == "}" else ","
    return f'{text[:brace]}\n  "{name}": {indented}{comma}{text[brace:]}'


def _values_of(name: str, text: str) -> list[tuple[int, int]]:
    """Where the values of a member stand in a JSON object that is known to be sound."""
    spans = []
    position = _past_space(text, text.index("{") + 1)
    while text[position] != "}":
        key, position = _decoder.raw_decode(text, position)
        start = _past_space(text, _past_space(text, position) + 1)  # over the colon
        _, end = _decoder.raw_decode(text, start)
        if key == name:
            spans.append((start, end))
        position = _past_space(text, end)
        if text[position] == ",":
            position = _past_space(text, position + 1)
    return spans


def _past_space(text: str, position: int) -> int:
    match = _SPACE.match(text, position)
    return match.end() if match else position


def _text(data: bytes) -> str:
    return data.decode("utf-8")


def _no_number(text: str) -> NoReturn:
    raise ValueError(f"{text} is no JSON")


_decoder = json.JSONDecoder(parse_constant=_no_number)


def _dumped(value: object) -> str:
    text = json.dumps(value, ensure_ascii=False, indent=2)
    try:
        text.encode()
    except UnicodeEncodeError:  # half a surrogate pair stands in UTF-8 only as an escape
        text = json.dumps(value, indent=2)
    return text
