"""The install plan: every file that will be written, replaced or edited, computed before anything is touched."""

import sys
from collections.abc import Callable, Container, Iterator, Mapping
from dataclasses import dataclass, field
from functools import lru_cache

from bexi.core.errors import HeadRefused, HostRefused
from bexi.core.formats import webmanifest
from bexi.core.iconset.catalogue import MANIFEST
from bexi.core.sitehead.edit import HeadEditor, edit_head
from bexi.core.sitehead.snippet import HeadLines
from bexi.hosts.protocol import Host
from bexi.installing.step import Content, Step, StepKind, kind_of
from bexi.installing.survey import MANIFEST_NAMES, Found, Survey

PAGE_ENDINGS = (
    *(".html", ".htm", ".xhtml", ".shtml", ".php", ".phtml", ".asp", ".aspx", ".jsp", ".erb", ".ejs"),
    *(".tpl", ".twig", ".j2", ".jinja", ".liquid", ".hbs", ".mustache", ".njk", ".inc"),
)
"""Pages, and templates of them in which other languages are embedded [common practice]."""


@dataclass(frozen=True)
class LeftAlone:
    """A page that is not edited, and why."""

    path: str
    reason: str


@dataclass(frozen=True)
class InstallPlan:
    """Steps in the order in which they are done: files first, pages last.

    `found` is what the site has already. `files` are the bytes of what is written whole; pages are read and edited
    when their turn comes, so that a plan for thousands of them stays small.
    """

    steps: tuple[Step, ...]
    icons: HeadLines
    left_alone: tuple[LeftAlone, ...] = ()
    found: tuple[Found, ...] = ()
    files: Mapping[str, bytes] = field(default_factory=dict)

    @property
    def changes(self) -> tuple[Step, ...]:
        """The steps that change something."""
        return tuple(step for step in self.steps if step.kind is not StepKind.SAME)

    def content(self, step: Step, now: bytes | None) -> bytes | None:
        """What a step puts in place of what is there now."""
        if step.path in self.files or now is None:
            return self.files.get(step.path)
        return edit_head(now, self.icons, step.path).after


def is_page(path: str) -> bool:
    """Whether a file is a page or a template of pages, by its name."""
    return path.lower().endswith(PAGE_ENDINGS)


def new_pages(host: Host, known: Container[str], wants: Callable[[str], bool]) -> list[str]:
    """Wanted pages of a site that a plan did not know."""
    return [path for path in host.files() if is_page(path) and wants(path) and path not in known]


def plan_install(
    host: Host,
    icons: HeadLines,
    wants: Callable[[str], bool] = lambda page: True,
    watch: Callable[[int, int], None] = lambda done, total: None,
) -> InstallPlan:
    """What installing these files and their head lines would do to the site as it is now.

    `wants` says which pages to edit, by their paths; `watch` is told how many pages of how many were read.
    """
    files = dict(_files(host, icons))
    file_steps = [_file_step(host, path, *made) for path, made in files.items()]
    pages: list[Step] = []
    left_alone: list[LeftAlone] = []
    survey, editor = Survey(host), HeadEditor(icons)
    paths = new_pages(host, (), wants)
    for done, path in enumerate(paths, 1):
        planned = _page_step(host, editor, path, survey)
        if isinstance(planned, Step):
            pages.append(planned)
        elif planned:
            left_alone.append(planned)
        watch(done, len(paths))
    written = {path: data for path, (data, _) in files.items()}
    return InstallPlan((*file_steps, *pages), icons, tuple(left_alone), tuple(survey.found()), written)


def _page_step(host: Host, editor: HeadEditor, path: str, survey: Survey) -> Step | LeftAlone | None:
    try:
        page = host.read(path)
        if page is None:
            return None
        edit = editor.edit(page, path)
    except HeadRefused as refusal:
        return LeftAlone(path, refusal.sentence)
    except HostRefused as refusal:
        if refusal.code != "file-too-large":
            raise
        return LeftAlone(path, refusal.sentence)
    survey.add(path, edit.declared, edit.had_block)
    notes = _gives_way(edit.removed)
    kind = StepKind.SAME if edit.is_same else StepKind.EDIT
    return Step(kind, path, Content.of(page), Content("", edit.size_after), notes, sys.intern(edit.template))


@lru_cache(maxsize=1000)
def _gives_way(removed: tuple[str, ...]) -> tuple[str, ...]:
    """Notes on what is removed; pages that say the same share them, so that a plan for thousands stays small."""
    return tuple(f"Gives way: {link}" for link in removed)


def _files(host: Host, icons: HeadLines) -> Iterator[tuple[str, tuple[bytes, tuple[str, ...]]]]:
    for file in icons.files:
        yield file.name, _manifest(host, file.data) if file.spec == MANIFEST else (file.data, ())


def _file_step(host: Host, path: str, data: bytes, notes: tuple[str, ...]) -> Step:
    before, after = Content.of(host.read(path)), Content.of(data)
    return Step(kind_of(before, after), path, before, after, notes)


def _manifest(host: Host, built: bytes) -> tuple[bytes, tuple[str, ...]]:
    """The manifest to write: the site's own with new icons, where it has one."""
    for name in MANIFEST_NAMES:
        existing = host.read(name)
        if existing is None:
            continue
        merged = webmanifest.with_icons_of(existing, built)
        if merged is None:
            return built, (f"{name} is not valid JSON, so nothing of it could be kept.",)
        return merged, (f"Keeps every member of {name} but its icons.",)
    return built, ()
