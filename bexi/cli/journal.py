"""What `bexi install` did on a place, on disk before each step, so that it can always be undone, one after the other.

It lies in `$XDG_STATE_HOME/bexi`: a folder for each place, by its normal form, with copies of what was replaced and
written, by their SHA-256, and one file of JSON lines for each installation that stands (`0001.jsonl`, `0002.jsonl`, …):
a line for each step that was begun, and a last one when all were done.
"""

import fcntl
import hashlib
import json
import os
import signal
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from types import FrameType

from bexi.core.errors import HostRefused, InstallRefused
from bexi.hosts.place import Place
from bexi.installing.step import Content, Step

_DONE = {"ended": "done"}
_FIRST_FORM = "steps.jsonl"
"""The one journal of a place, as it was written before there were several."""


@dataclass
class Standing:
    """An installation that stands on a place, or one that was begun: its file, its steps, whether it was done."""

    file: Path
    steps: list[Step] = field(default_factory=list)
    is_done: bool = False


class JournalOnDisk:
    """The journals of a place."""

    def __init__(self, to: str) -> None:
        self._folder = _folder_of(to)
        self._stopping = False
        self._writing: Path | None = None

    def latest(self) -> Standing | None:
        """The installation that was begun last of those that stand."""
        files = self._files()
        return _read(files[-1]) if files else None

    def must_have_latest(self) -> Standing:
        """The same; raises InstallRefused when there is none."""
        latest = self.latest()
        if latest is None:
            raise InstallRefused("already-undone", "Nothing that `bexi install` did there is left to undo.")
        return latest

    def open_new(self) -> None:
        """Have a new installation written down from now on; raises InstallRefused when one was interrupted."""
        latest = self.latest()
        if latest and not latest.is_done:
            raise InstallRefused(
                "interrupted-install", "An installation was interrupted there. Undo it first, with `bexi undo`."
            )
        number = int(latest.file.stem) if latest else 0
        self._writing = self._folder / f"{number + 1:04}.jsonl"

    def end(self, done: bool) -> None:
        """Note that everything was done; else forget what was put back."""
        if self._writing and done:
            self._line(_DONE)
        elif self._writing:
            self._writing.unlink(missing_ok=True)

    def begin(self, number: int, step: Step, now: bytes | None) -> None:
        """See carry_out.Journal."""
        with self._kept():
            if now is not None:
                self._keep(now)
            if self._writing:
                self._line(step.as_json())

    def keep(self, data: bytes) -> None:
        """See carry_out.Journal."""
        with self._kept():
            self._keep(data)

    def stop_asked(self) -> bool:
        """See carry_out.Journal."""
        return self._stopping

    def copy(self, content: Content) -> bytes:
        """See carry_out.Journal; raises HostRefused for a copy that is not there any more."""
        try:
            return (self._folder / content.sha256).read_bytes()
        except OSError as error:
            raise HostRefused(
                "no-copy", f"A copy of what was there before cannot be read in {self._folder}: {error.strerror}."
            ) from error

    @contextmanager
    def stopped_by_ctrl_c(self) -> Iterator[None]:
        """Ctrl-C asks what goes on meanwhile to stop and put back, instead of leaving it half done."""

        def stop(number: int, frame: FrameType | None) -> None:
            self._stopping = True

        before = signal.signal(signal.SIGINT, stop)
        try:
            with self._alone():
                yield
        finally:
            signal.signal(signal.SIGINT, before)

    @contextmanager
    def _alone(self) -> Iterator[None]:
        self._folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        with (self._folder / "lock").open("w") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError as error:
                raise InstallRefused(
                    "install-under-way", "Another `bexi` is working on this site. Wait until it has finished."
                ) from error
            yield

    def _files(self) -> list[Path]:
        """The journals of what stands, the first one first."""
        first = self._folder / _FIRST_FORM
        if first.exists():
            first.replace(self._folder / "0000.jsonl")
        return sorted(path for path in self._folder.glob("*.jsonl") if path.stem.isdecimal())

    @contextmanager
    def _kept(self) -> Iterator[None]:
        """Without a journal nothing is changed."""
        try:
            self._folder.mkdir(mode=0o700, parents=True, exist_ok=True)
            yield
        except OSError as error:
            raise HostRefused(
                "no-journal", f"The copies and the journal in {self._folder} cannot be written: {error.strerror}."
            ) from error

    def _line(self, told: dict[str, object] | dict[str, str]) -> None:
        """Write a whole line, and have it reach the disk."""
        if self._writing is None:
            return
        descriptor = os.open(self._writing, os.O_WRONLY | os.O_APPEND | os.O_CREAT, 0o600)
        try:
            os.write(descriptor, (json.dumps(told) + "\n").encode())
            os.fsync(descriptor)
        finally:
            os.close(descriptor)

    def _keep(self, data: bytes) -> None:
        part = self._folder / f"part-{os.getpid()}"
        with part.open("wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        part.replace(self._folder / hashlib.sha256(data).hexdigest())


def state_folder() -> Path:
    """Where `bexi install` keeps what it must remember."""
    return Path(os.environ.get("XDG_STATE_HOME", Path.home() / ".local" / "state")) / "bexi"


def _folder_of(to: str) -> Path:
    """The folder of a place; one that was made for another way to write the place is taken over."""
    folder = state_folder() / _hash(Place.parse(to).normal_form)
    as_written = state_folder() / _hash(to)
    if as_written.exists() and not folder.exists():
        as_written.replace(folder)
    return folder


def _hash(place: str) -> str:
    return hashlib.sha256(place.encode()).hexdigest()[:16]


def _read(file: Path) -> Standing:
    """A journal; a last line that was torn is passed over and said, for its step was never begun."""
    standing = Standing(file, is_done=file.stem == "0000")
    try:
        lines = file.read_bytes().split(b"\n")
    except OSError as error:
        raise HostRefused("no-journal", f"The journal {file} cannot be read: {error.strerror}.") from error
    for number, line in enumerate(filter(None, lines), 1):
        try:
            told = json.loads(line)
            standing.is_done = standing.is_done or told == _DONE
            if told != _DONE:
                standing.steps.append(Step.from_json(told))
        except (ValueError, KeyError, TypeError) as error:
            if line is not lines[-1]:
                raise HostRefused(
                    "no-journal",
                    f"Line {number} of the journal {file} is damaged, so it cannot be undone from it. "
                    "The copies of what was there before are next to it.",
                ) from error
            print(f"The last line of the journal {file} is incomplete: that step was not started.", file=sys.stderr)
    return standing
