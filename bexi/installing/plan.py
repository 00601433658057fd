"""The install plan: every file that will be written, replaced or edited, computed before anything is touched."""

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from bexi.core.errors import HeadRefused
from bexi.core.formats import webmanifest
from bexi.core.iconset.build import BuiltFile
from bexi.core.iconset.catalogue import MANIFEST
from bexi.core.sitehead.edit import edit_head
from bexi.core.sitehead.snippet import HeadLines
from bexi.hosts.protocol import Host

PAGE_ENDINGS = (".html", ".htm", ".xhtml", ".shtml", ".php")
# Names under which a site may already have a manifest whose other members are worth keeping [common practice].
_MANIFEST_NAMES = (MANIFEST.name, "manifest.webmanifest", "manifest.json")


class StepKind(StrEnum):
    """What a step does to one file."""

    ADD = "add"
    REPLACE = "replace"
    EDIT = "edit"
    REMOVE = "remove"
    SAME = "same"


@dataclass(frozen=True)
class Step:
    """One file before and after; None means it is not there. `notes` say what a person should know."""

    kind: StepKind
    path: str
    before: bytes | None
    after: bytes | None
    notes: tuple[str, ...] = ()


@dataclass(frozen=True)
class LeftAlone:
    """A page that is not edited, and why."""

    path: str
    reason: str


@dataclass(frozen=True)
class InstallPlan:
    """Steps in the order in which they are done: files first, pages last."""

    steps: tuple[Step, ...]
    left_alone: tuple[LeftAlone, ...] = ()

    @property
    def fingerprint(self) -> str:
        """Equal for equal plans over an unchanged site; hexadecimal SHA-256."""
        digest = hashlib.sha256()
        for step in self.steps:
            for part in (step.path.encode(), step.before, step.after):
                digest.update(b"-" if part is None else hashlib.sha256(part).digest())
        return digest.hexdigest()

    @property
    def changes(self) -> tuple[Step, ...]:
        """The steps that change something."""
        return tuple(step for step in self.steps if step.kind is not StepKind.SAME)


def plan_install(host: Host, icons: HeadLines) -> InstallPlan:
    """What installing these files and their head lines would do to the site as it is now."""
    file_steps = [_file_step(host, file) for file in icons.files]
    pages: list[Step] = []
    left_alone: list[LeftAlone] = []
    for path in host.files():
        if not path.lower().endswith(PAGE_ENDINGS):
            continue
        page = host.read(path)
        if page is None:
            continue
        try:
            edit = edit_head(page, icons, path)
        except HeadRefused as refusal:
            left_alone.append(LeftAlone(path, refusal.sentence))
            continue
        notes = tuple(f"Gives way: {link}" for link in edit.removed)
        kind = StepKind.SAME if edit.after == page else StepKind.EDIT
        pages.append(Step(kind, path, page, edit.after, notes))
    return InstallPlan((*file_steps, *pages), tuple(left_alone))


def plan_undo(done: Sequence[Step]) -> InstallPlan:
    """The reverse of these steps, last one first."""
    return InstallPlan(tuple(Step(_reverse(step), step.path, step.after, step.before) for step in reversed(done)))


def _reverse(step: Step) -> StepKind:
    return {StepKind.ADD: StepKind.REMOVE, StepKind.REMOVE: StepKind.ADD}.get(step.kind, step.kind)


def _file_step(host: Host, file: BuiltFile) -> Step:
    before = host.read(file.name)
    after, notes = _manifest(host, file.data) if file.spec is MANIFEST else (file.data, ())
    if before is None:
        return Step(StepKind.ADD, file.name, None, after, notes)
    return Step(StepKind.SAME if before == after else StepKind.REPLACE, file.name, before, after, notes)


def _manifest(host: Host, built: bytes) -> tuple[bytes, tuple[str, ...]]:
    """The manifest to write: the site's own with new icons, where it has one."""
    for name in _MANIFEST_NAMES:
        existing = host.read(name)
        if existing is None:
            continue
        merged = webmanifest.with_icons_of(existing, built)
        if merged is None:
            return built, (f"{name} is not valid JSON, so nothing of it could be kept.",)
        return merged, (f"Keeps every member of {name} but its icons.",)
    return built, ()
