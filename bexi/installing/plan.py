"""The install plan: every file that will be written, replaced or edited, computed before anything is touched."""

import sys
from collections.abc import Callable, Container, Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import lru_cache
from urllib.parse import urlsplit

from bexi.core.errors import HeadRefused, HostRefused
from bexi.core.iconset.addresses import Addresses
from bexi.core.iconset.catalogue import MANIFEST
from bexi.core.livesite.server_lines import RULES_FILE, with_rules
from bexi.core.sitehead.edit import HeadEditor, edit_head
from bexi.core.sitehead.snippet import HeadLines
from bexi.hosts.protocol import OF_ONE_FILE, Host
from bexi.installing.leftovers import leftovers
from bexi.installing.manifests import OwnManifests, manifest_files
from bexi.installing.step import Content, Step, StepKind, kind_of
from bexi.installing.survey import Found, SiteSurvey

PAGE_ENDINGS = (
    *(".html", ".htm", ".xhtml", ".shtml", ".php", ".phtml", ".asp", ".aspx", ".jsp", ".erb", ".ejs"),
    *(".tpl", ".tmpl", ".twig", ".j2", ".jinja", ".jinja2", ".liquid", ".hbs", ".mustache", ".njk", ".inc"),
    *(".gohtml", ".cshtml", ".vbhtml", ".razor", ".eex", ".leex", ".heex", ".vue"),
)
"""Pages, and templates of them in which other languages are embedded [common practice]."""


_MAY_BE_REFUSED = "Some hosts do not allow such rules and answer with error 500: check the site at once, or undo."


@dataclass(frozen=True)
class LeftAlone:
    """A page that is not edited, and why."""

    path: str
    reason: str


@dataclass(frozen=True)
class InstallPlan:
    """Steps in the order in which they are done: files first, pages last.

    `found` is what the site has already. `leftovers` are steps that remove icons of before that no page names any more;
    they are no part of the plan until somebody wants them. `shown` is the path of the icon that most browsers show on
    most pages, empty for none, None where nobody can tell. `files` are the bytes of what is written whole; pages are
    read and edited when their turn comes, so that a plan for thousands of them stays small.
    """

    steps: tuple[Step, ...]
    icons: HeadLines
    left_alone: tuple[LeftAlone, ...] = ()
    found: tuple[Found, ...] = ()
    files: Mapping[str, bytes] = field(default_factory=dict)
    leftovers: tuple[Step, ...] = ()
    shown: str | None = None

    @property
    def changes(self) -> tuple[Step, ...]:
        """The steps that change something."""
        return tuple(step for step in self.steps if step.kind is not StepKind.SAME)

    def content(self, step: Step, now: bytes | None) -> bytes | None:
        """What a step puts in place of what is there now."""
        if step.path in self.files or now is None or step.after is None:
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
    site_host: str = "",
    rules: bool = False,
) -> InstallPlan:
    """What installing these files and their head lines would do to the site as it is now.

    `wants` says which pages to edit, by their paths; `watch` is told how many pages of how many were read, and may
    raise to stop. `site_host` is the host that visitors type. With `rules` a rules file of the server program that is
    there already gets lines for the types and the freshness of the icons.
    """
    own = OwnManifests(host)
    icons = replace(icons, manifests=own)
    pages: dict[str, Step | LeftAlone] = {}
    survey, editor = SiteSurvey(host, lambda: watch(len(paths), len(paths))), HeadEditor(icons)
    there = list(host.files())
    all_pages = [path for path in there if is_page(path)]
    paths = [path for path in all_pages if wants(path)]
    for done, path in enumerate(paths, 1):
        if planned := _page_step(host, editor, path, survey, own, site_host):
            pages[path] = planned
        watch(done, len(paths))
    icons = own.taken_by(icons)
    if icons.manifest != MANIFEST.name:  # known only now: pages that name no manifest take the site's own
        editor = HeadEditor(icons)
        for path in own.unnamed:
            if planned := _page_step(host, editor, path, None, None, site_host):
                pages[path] = planned
    files, left_alone = _file_steps(host, icons, rules)
    found = tuple(survey.found())
    steps = (*(step for step, _ in files), *(page for page in pages.values() if isinstance(page, Step)))
    gone, stay = survey.named(icons)
    unread = [page.path for page in pages.values() if isinstance(page, LeftAlone)]
    kept = {*stay, *own, *(step.path for step in steps)}
    left_alone += [page for page in pages.values() if isinstance(page, LeftAlone)]
    # What pages that are not read name, nobody knows.
    may_go = leftovers(host, there, sorted(gone), kept, unread) if len(paths) == len(all_pages) else ()
    written = {step.path: data for step, data in files}
    return InstallPlan(steps, icons, tuple(left_alone), found, written, may_go, survey.shown())


def _page_step(
    host: Host, editor: HeadEditor, path: str, survey: SiteSurvey | None, own: OwnManifests | None, site_host: str
) -> Step | LeftAlone | None:
    try:
        page = host.read(path)
        if page is None:
            return None
        edit = editor.edit(page, path)
    except HeadRefused as refusal:
        return LeftAlone(path, refusal.sentence)
    except HostRefused as refusal:
        if refusal.code not in OF_ONE_FILE:
            raise
        return LeftAlone(path, refusal.sentence)
    if survey is not None and own is not None:
        survey.add(path, edit.declared, edit.had_block)
        own.note(path, edit.declared)
    notes = (*_gives_way(edit.removed), *_stays(edit.stays), *_elsewhere(edit.base, editor.icons.addresses, site_host))
    kind = StepKind.SAME if edit.is_same else StepKind.EDIT
    return Step(kind, path, Content.of(page), Content("", edit.size_after), notes, sys.intern(edit.template))


@lru_cache(maxsize=100)
def _elsewhere(base: str, addresses: Addresses, site_host: str) -> tuple[str, ...]:
    """A note when the page's own base leads away from where the icons will be."""
    try:
        host = urlsplit(base).netloc
    except ValueError:
        return ()
    is_relative = not addresses.base
    if "://" in addresses.base or not (host or (is_relative and base)) or (host == site_host and not is_relative):
        return ()
    return (
        f"Its <base href> leads to {base[:80]}, so browsers would look for the icons there. "
        "Give them full addresses (in the set: where pages find the files; `--base https://…/` on the command line), "
        "then plan again.",
    )


@lru_cache(maxsize=1000)
def _stays(kept: tuple[str, ...]) -> tuple[str, ...]:
    """Notes on earlier icon lines that the set brings nothing for, so that they go on counting."""
    return tuple(f"Stays: {link}" for link in kept)


@lru_cache(maxsize=1000)
def _gives_way(removed: tuple[str, ...]) -> tuple[str, ...]:
    """Notes on what is removed; pages that say the same share them, so that a plan for thousands stays small."""
    return tuple(f"Replaces: {link}" for link in removed)


def _file_steps(host: Host, icons: HeadLines, rules: bool) -> tuple[list[tuple[Step, bytes]], list[LeftAlone]]:
    """The steps that put files in place, with their bytes, and files that cannot be put there."""
    made: list[tuple[Step, bytes]] = []
    left_alone: list[LeftAlone] = []
    for path, data, notes in (*_files(host, icons), *(_rules(host, icons, left_alone) if rules else ())):
        try:
            before = Content.of(host.read(path))
        except HostRefused as refusal:
            if refusal.code not in OF_ONE_FILE:
                raise
            left_alone.append(LeftAlone(path, refusal.sentence))
            continue
        after = Content.of(data)
        made.append((Step(kind_of(before, after), path, before, after, notes), data))
    return made, left_alone


def _rules(host: Host, icons: HeadLines, left_alone: list[LeftAlone]) -> Iterator[tuple[str, bytes, tuple[str, ...]]]:
    """The server's rules file with lines for the icons, when there is one that can be edited."""
    try:
        existing = host.read(RULES_FILE)
        if existing is not None:
            names = [file.name for file in icons.files]
            yield RULES_FILE, with_rules(existing, names, icons.addresses.stamped), (_MAY_BE_REFUSED,)
    except (HeadRefused, HostRefused) as refusal:
        left_alone.append(LeftAlone(RULES_FILE, refusal.sentence))


def _files(host: Host, icons: HeadLines) -> Iterator[tuple[str, bytes, tuple[str, ...]]]:
    for file in icons.files:
        if file.spec == MANIFEST:
            yield from manifest_files(host, icons, file.data)
        else:
            yield file.name, file.data, ()
