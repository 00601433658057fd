"""One file of an installation, before and after, known by the hashes of its bytes."""

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Any


class StepKind(StrEnum):
    """What a step does to one file."""

    ADD = "add"
    REPLACE = "replace"
    EDIT = "edit"
    REMOVE = "remove"
    SAME = "same"


@dataclass(frozen=True, slots=True)
class Content:
    """Bytes known by their SHA-256, hexadecimal, and their number. The bytes themselves are got when needed.

    The hash is empty for the edited page of a plan, which is only written when its turn comes.
    """

    sha256: str
    size: int = field(compare=False)

    @classmethod
    def of(cls, data: bytes | None) -> "Content | None":
        """The content of a file, None for one that is not there."""
        return None if data is None else cls(hashlib.sha256(data).hexdigest(), len(data))


@dataclass(frozen=True, slots=True)
class Step:
    """One file before and after; None means it is not there. `notes` say what a person should know.

    `group` is the same for pages whose heads are the same but for their titles: those of one template.
    """

    kind: StepKind
    path: str
    before: Content | None
    after: Content | None
    notes: tuple[str, ...] = ()
    group: str = ""

    def leaving(self, data: bytes | None) -> "Step":
        """The step with what it leaves behind, now that this is known."""
        return replace(self, after=Content.of(data))

    @property
    def reverse(self) -> "Step":
        """The step that takes this one back."""
        kind = {StepKind.ADD: StepKind.REMOVE, StepKind.REMOVE: StepKind.ADD}.get(self.kind, self.kind)
        return Step(kind, self.path, self.after, self.before)

    def as_json(self) -> dict[str, object]:
        """The step as plain data."""
        sides = {"before": self.before, "after": self.after}
        contents = {name: [content.sha256, content.size] if content else None for name, content in sides.items()}
        return {"kind": self.kind, "path": self.path, **contents, "notes": list(self.notes), "group": self.group}

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> "Step":
        """The step that plain data tells of."""
        before, after = (Content(*data[name]) if data[name] else None for name in ("before", "after"))
        notes, group = tuple(data.get("notes", ())), data.get("group", "")
        return cls(StepKind(data["kind"]), data["path"], before, after, notes, group)


def kind_of(before: Content | None, after: Content | None) -> StepKind:
    """What putting a file there does."""
    if before is None:
        return StepKind.ADD
    return StepKind.SAME if before == after else StepKind.REPLACE
