"""What `bexi install` has begun on a place, on disk before each step, so that it can always be taken back."""

import fcntl
import hashlib
import json
import os
import signal
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from types import FrameType

from bexi.core.errors import HostRefused, InstallRefused
from bexi.installing.step import Content, Step

_STEPS = "steps.jsonl"


class JournalOnDisk:
    """What was begun on a place, on disk: `$XDG_STATE_HOME/bexi`, one folder for each place."""

    def __init__(self, to: str, fresh: bool) -> None:
        self._folder = _state_folder(to)
        self._folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        self.steps: list[Step] = []
        self._stopping = False
        self._noted = fresh
        if fresh and (self._folder / _STEPS).exists():
            raise InstallRefused(
                "later-install", "An earlier installation stands there. Take it back first, with `bexi undo`."
            )

    @classmethod
    def latest(cls, to: str) -> "JournalOnDisk":
        """The journal of what stands on a place; raises InstallRefused when there is none."""
        journal = cls(to, fresh=False)
        try:
            lines = (journal._folder / _STEPS).read_text().splitlines()
        except OSError as error:
            raise InstallRefused("already-undone", "Nothing that `bexi install` did stands there.") from error
        journal.steps = [Step.from_json(json.loads(line)) for line in lines]
        return journal

    def begin(self, number: int, step: Step, now: bytes | None) -> None:
        """See carry_out.Journal."""
        try:
            if now is not None:
                self._keep(now)
            if self._noted:
                with (self._folder / _STEPS).open("a") as file:
                    file.write(json.dumps(step.as_json()) + "\n")
                    file.flush()
                    os.fsync(file.fileno())
        except OSError as error:  # without a journal nothing is touched
            raise HostRefused(
                "no-journal", f"The copies and the journal in {self._folder} cannot be written: {error.strerror}."
            ) from error

    def stop_asked(self) -> bool:
        """See carry_out.Journal."""
        return self._stopping

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
        with (self._folder / "lock").open("w") as lock:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except OSError as error:
                raise InstallRefused(
                    "install-under-way", "Another `bexi` is at work on this place. Wait for its end."
                ) from error
            yield

    def copy(self, content: Content | None) -> bytes | None:
        """The bytes of a copy that was kept."""
        return None if content is None else (self._folder / content.sha256).read_bytes()

    def close(self) -> None:
        """Forget what stood there; the copies stay."""
        (self._folder / _STEPS).unlink(missing_ok=True)

    def _keep(self, data: bytes) -> None:
        part = self._folder / f"part-{os.getpid()}"
        with part.open("wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        part.replace(self._folder / hashlib.sha256(data).hexdigest())


def _state_folder(to: str) -> Path:
    home = Path(os.environ.get("XDG_STATE_HOME", Path.home() / ".local" / "state"))
    place = to if "://" in to else str(Path(to).resolve())
    return home / "bexi" / hashlib.sha256(place.encode()).hexdigest()[:16]
