"""Whether a media query is true on an ordinary screen, in one of two colour schemes (Media Queries 4, §2 and 3)."""

import re
from collections.abc import Iterator

LIGHT, DARK = "light", "dark"
_SCHEME = re.compile(r"prefers-color-scheme\s*:\s*([\w-]+)")
_TYPE = re.compile(r"(?:(not|only)\s+)?([a-z-]+)\s*(?:\band\b(.*))?", re.DOTALL)
_WORDS = ("not", "only", "and", "or")
_DEEPEST = 50


def is_true(media: str, scheme: str = LIGHT) -> bool:
    """Whether one of a list of queries is true; what it does not understand of one counts as true."""
    return any(_query(query.strip(), scheme) for query in _split(media.lower(), ","))


def _query(query: str, scheme: str) -> bool:
    typed = _TYPE.fullmatch(query)
    if typed is None or typed[2] in _WORDS:
        return _condition(query, scheme)
    fits = typed[2] in ("all", "screen") and (typed[3] is None or _condition(typed[3].strip(), scheme))
    return fits != (typed[1] == "not")


def _condition(condition: str, scheme: str, depth: int = 0) -> bool:
    """`not` a part, or parts with `and` or `or` between them."""
    if depth > _DEEPEST:
        return True
    if re.match(r"not\b", condition):
        return not _part(condition[3:].strip(), scheme, depth)
    if len(parts := list(_split(condition, " or "))) > 1:
        return any(_part(part.strip(), scheme, depth) for part in parts)
    return all(_part(part.strip(), scheme, depth) for part in _split(condition, " and "))


def _part(part: str, scheme: str, depth: int) -> bool:
    if re.match(r"not\b", part):
        return not _part(part[3:].strip(), scheme, depth + 1)
    if not (part.startswith("(") and part.endswith(")")):
        return True
    inner = part[1:-1].strip()
    if inner.startswith("(") or re.match(r"not\b", inner):
        return _condition(inner, scheme, depth + 1)
    asked = _SCHEME.fullmatch(inner)
    return asked is None or asked[1] == scheme


def _split(text: str, between: str) -> Iterator[str]:
    """The parts of a text between words that stand in no parentheses; any white space counts as a space."""
    text, depth, start = re.sub(r"\s", " ", text), 0, 0
    for position, char in enumerate(text):
        depth += (char == "(") - (char == ")")
        if depth == 0 and text.startswith(between, position) and position >= start:
            yield text[start:position]
            start = position + len(between)
    yield text[start:]
