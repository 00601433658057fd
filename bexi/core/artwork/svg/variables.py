"""Custom properties of style sheets (CSS Custom Properties 1): what `var(--name)` stands for."""

from collections.abc import Mapping, Sequence
from typing import Any

from tinycss2.ast import FunctionBlock

Variables = Mapping[str, Sequence[Any]]
"""What each custom property says, tokens of tinycss2, by its name."""

_MOST_TOKENS, _DEEPEST = 1000, 20
"""Of one value: variables that name variables can grow without end."""


class _MeansNothing(Exception):
    """A value that cannot be known; its property is then as if it had not been said."""


def varies(tokens: Sequence[Any]) -> bool:
    """Whether a value names variables."""
    looked_at = list(tokens)
    for token in looked_at:
        if token.type == "function":
            if token.lower_name == "var":
                return True
            looked_at += token.arguments
    return False


def filled_in(tokens: Sequence[Any], variables: Variables) -> list[Any] | None:
    """A value with what its variables stand for; None where one stands for nothing."""
    try:
        return _Filling(variables).filled(tokens)
    except _MeansNothing:
        return None


class _Filling:
    """Of one value."""

    def __init__(self, variables: Variables) -> None:
        self._variables = variables
        self._count = 0

    def filled(self, tokens: Sequence[Any], depth: int = 0) -> list[Any]:
        """Some of its tokens with what their variables stand for."""
        if depth > _DEEPEST:
            raise _MeansNothing
        made: list[Any] = []
        for token in tokens:
            self._count += 1
            if self._count > _MOST_TOKENS:
                raise _MeansNothing
            if token.type != "function":
                made.append(token)
            elif token.lower_name == "var":
                made += self.filled(_meant(token, self._variables), depth + 1)
            else:
                arguments = self.filled(token.arguments, depth + 1)
                made.append(FunctionBlock(token.source_line, token.source_column, token.name, arguments))
        return made


def _meant(var: Any, variables: Variables) -> Sequence[Any]:
    """What is said under its name, or else what follows the name."""
    said = [token for token in var.arguments if token.type != "comment"]
    names = [number for number, token in enumerate(said) if token.type == "ident"]
    if not names:
        raise _MeansNothing
    if (meant := variables.get(said[names[0]].value)) is not None:
        return meant
    rest = [token for token in said[names[0] + 1 :] if token.type != "whitespace"]
    if not rest or rest[0] != ",":
        raise _MeansNothing
    return rest[1:]
