"""Doing steps: all of them, or none. What was begun and is not finished can be put back at any time."""

from collections.abc import Callable, Sequence
from contextlib import AbstractContextManager
from time import sleep
from typing import Protocol

from bexi.core.errors import ChangedSince, HostRefused, InstallRefused, Refusal
from bexi.hosts.careful import CarefulHost
from bexi.hosts.patience import never
from bexi.hosts.protocol import Host
from bexi.installing.step import Content, Step, StepKind

_ATTEMPTS = 3
PAUSE_SECONDS = 1
"""Between the attempts to put back: a server that was cut off may need a moment."""

StopAsked = Callable[[], bool]
Opening = Callable[[StopAsked], AbstractContextManager[CarefulHost]]
"""Opens the place of the site, as often as it is called: a dropped connection does not come back by itself.

What it is given says, from another thread, whether work there shall end.
"""
Contents = Callable[[Step, bytes | None], bytes | None]
"""What a step puts in place of what is there now."""


class Journal(Protocol):
    """What is written down, on disk, while steps are done."""

    def begin(self, number: int, step: Step, now: bytes | None) -> None:
        """Step `number` is about to be done; `now` is what it replaces, of which a copy must be kept."""

    def keep(self, data: bytes) -> None:
        """Keep a copy of what is about to be overwritten."""

    def stop_asked(self) -> bool:
        """Whether the person wants it to stop."""

    def copy(self, content: Content) -> bytes:
        """The bytes of a copy that was kept."""


def carry_out(
    opening: Opening,
    steps: Sequence[Step],
    contents: Contents,
    journal: Journal,
    news: Callable[[Host], Sequence[str]] = lambda host: (),
) -> None:
    """Do every step. `news` finds pages that were not there when the steps were planned.

    Raises InstallRefused in these cases:

    - `site-changed`: a file is no longer as it was when the steps were planned, or a page is new. Nothing was changed.
    - `put-back`, `stopped`: a step failed, or the person stopped. Everything is as it was before, but for what somebody
      changed meanwhile: then it is a `PutBackBut`.
    - `put-back-incomplete`: the same, but the place does not answer. `put_back` must be called again.
    """
    begun: list[Step] = []
    try:
        with opening(journal.stop_asked) as host:
            _refuse_changed(host, steps, news)
            for number, step in enumerate(steps):
                if journal.stop_asked():
                    raise HostRefused("stopped", "You stopped it.")
                now = host.read(step.path)
                _refuse_other(step, now)
                data = contents(step, now)
                doing = step.leaving(data)
                journal.begin(number, doing, now)
                begun.append(doing)
                _put(host, step.path, data)
    except HostRefused as refusal:
        if not begun:
            raise InstallRefused(refusal.code, f"{refusal.sentence} Nothing has been changed.") from refusal
        left = put_back(opening, begun, contents, journal, refusal.sentence)
        code = "stopped" if refusal.code == "stopped" else "put-back"
        raise PutBack(code, f"{refusal.sentence} {told_of(left)}", left) from refusal


class PutBack(InstallRefused):
    """An installation that was put back; `left` are the paths that somebody had changed, which stay as they are."""

    def __init__(self, code: str, sentence: str, left: Sequence[str] = ()) -> None:
        super().__init__(code, sentence)
        self.left = tuple(left)


def told_of(left: Sequence[str]) -> str:
    """What putting back came to, with the paths that somebody had changed."""
    if not left:
        return "Everything was put back as it was."
    files = "1 file was" if len(left) == 1 else f"{len(left)} files were"
    return (
        f"It was put back, but {files} changed by somebody since: {_few(left)}. What is there now was kept. "
        "Look it up, then undo the rest, if you want to."
    )


def put_back(
    opening: Opening, begun: Sequence[Step], contents: Contents, journal: Journal, cause: str
) -> tuple[str, ...]:
    """Put back what these steps replaced; returns the paths of files that somebody else has changed since.

    Those are left as they are: a step is only taken back where there is just what Bexi wrote, or a part of it. Of
    whatever is overwritten a copy is kept. Raises InstallRefused when the place does not let it happen; then the steps
    are still known and it can be tried again.
    """
    sentence = ""
    for attempt in range(_ATTEMPTS):
        if attempt:
            sleep(PAUSE_SECONDS)
        try:
            with opening(never) as host:
                left = [step.path for step in reversed(begun) if not _restored(host, step, contents, journal)]
            return tuple(dict.fromkeys(left))
        except HostRefused as refusal:
            sentence = refusal.sentence
    raise InstallRefused(
        "put-back-incomplete",
        f"{cause} Putting back did not work either: {sentence} Bexi tries again by itself, or when you ask it to.",
    )


def _restored(host: CarefulHost, step: Step, contents: Contents, journal: Journal) -> bool:
    """Take a step back; returns False when somebody changed its file, which stays as it is."""
    host.sweep(step.path)
    now = host.read(step.path)
    if Content.of(now) == step.before:
        return True
    before = journal.copy(step.before) if step.before else None
    if Content.of(now) != step.after and not _is_part(now, before, _written(step, contents, before)):
        return False
    if now is not None:
        journal.keep(now)
    _put(host, step.path, before)
    return True


def _written(step: Step, contents: Contents, before: bytes | None) -> bytes | None:
    """What a step put there, made once more; None when that gives other bytes than were written, or none."""
    try:
        data = contents(step, before)
    except (Refusal, OSError):
        return None
    return data if Content.of(data) == step.after else None


def _is_part(now: bytes | None, *written: bytes | None) -> bool:
    """Whether a file is what an interrupted writing leaves of one of these."""
    return now is not None and any(data is not None and data.startswith(now) for data in written)


def plan_undo(host: Host, done: Sequence[Step], over: Sequence[str] = (), leave: Sequence[str] = ()) -> list[Step]:
    """The steps that take these back, last one first; what is back already is left out.

    Raises InstallRefused: `no-such-step` for a path that is not among them, `changed-since` when somebody changed a
    file since, unless its path is in `over` (the old file is put over it) or in `leave` (it stays as it is now).
    """
    known = {step.path for step in done}
    for path in (*over, *leave):
        if path not in known:
            raise InstallRefused("no-such-step", f"{path} was not part of this installation.")
    steps = []
    for step in (step.reverse for step in reversed(done)):
        now = Content.of(host.read(step.path))
        if now == step.after or step.path in leave:
            continue
        if now == step.before or step.path in over:
            steps.append(Step(step.kind if now else StepKind.ADD, step.path, now, step.after))
        else:
            raise ChangedSince(step.path)
    return steps


def _refuse_changed(host: Host, steps: Sequence[Step], news: Callable[[Host], Sequence[str]]) -> None:
    changed = [step.path for step in steps if Content.of(host.read(step.path)) != step.before]
    differing = {"Changed": changed, "New": news(host)}
    told = [f"{what} since the plan was made: {_few(paths)}. " for what, paths in differing.items() if paths]
    if told:
        raise InstallRefused("site-changed", f"{''.join(told)}Nothing has been changed. Look at them, then plan again.")


def _few(paths: Sequence[str]) -> str:
    return f"{', '.join(paths[:5])}{' and more' if len(paths) > 5 else ''}"


def _refuse_other(step: Step, now: bytes | None) -> None:
    if Content.of(now) != step.before:
        raise HostRefused("changed-meanwhile", f"{step.path} was changed while this went on.")


def _put(host: Host, path: str, data: bytes | None) -> None:
    if data is None:
        host.delete(path)
    else:
        host.write(path, data)
