"""What is new since an earlier check, and what is gone."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bexi.core.livesite.findings import Finding


@dataclass(frozen=True)
class News:
    """A finding that came or went, and on which addresses. `better` when it went."""

    what: str
    where: tuple[str, ...]
    better: bool

    @property
    def told(self) -> str:
        """In one line."""
        places = "1 place" if len(self.where) == 1 else f"{len(self.where)} places"
        return f"{'Gone' if self.better else 'New'}: {self.what[:1].lower()}{self.what[1:]}, {places}"


def news_since(before: Sequence[Finding], after: Sequence[Finding]) -> list[News]:
    """What came and what went among the findings that are wrong; what came first."""
    was, is_now = _by_kind(before), _by_kind(after)
    return [*_missing_in(was, is_now, better=False), *_missing_in(is_now, was, better=True)]


def _by_kind(findings: Sequence[Finding]) -> dict[str, dict[str, None]]:
    found: dict[str, dict[str, None]] = {}
    for one in findings:
        if one.wrong:
            found.setdefault(one.what, {}).update(dict.fromkeys(one.where))
    return found


def _missing_in(
    known: Mapping[str, Mapping[str, None]], found: Mapping[str, Mapping[str, None]], better: bool
) -> list[News]:
    """What is found and was not known."""
    fresh = {what: tuple(one for one in where if one not in known.get(what, ())) for what, where in found.items()}
    return [News(what, where, better) for what, where in fresh.items() if where]
