"""How long work on a host may take, and who may end it: a stranger's server may be slow, or drip for ever."""

import time
from collections.abc import Callable
from dataclasses import dataclass, replace
from threading import Event, Thread

from bexi.core.errors import HostRefused

_LOOKED_EVERY = 0.25
_STOP_ASKED_EVERY = 1.0
_GRACE_SECONDS = 30.0


def never() -> bool:
    """Nobody stops it."""
    return False


def nothing() -> None:
    """What is done by default about work that does not even end once its connections are cut."""


@dataclass(frozen=True)
class Patience:
    """The longest that the whole of some work may take, and each of its steps, in seconds.

    `stop_asked` says, from another thread and about once a second, whether somebody wants it to end; `hung` is called
    for work that goes on after it was ended, which only the end of its process can stop.
    """

    whole: float
    step: float = 60.0
    stop_asked: Callable[[], bool] = never
    hung: Callable[[], None] = nothing

    def until(self, stop_asked: Callable[[], bool]) -> "Patience":
        """The same, with another way of asking whether somebody wants it to end."""
        return replace(self, stop_asked=stop_asked)


FOR_A_LOOK = Patience(whole=60, step=20)
"""For what a person waits for: one file, or trying out a connection."""
FOR_WORK = Patience(whole=2 * 3600)
"""For what is done in the background: thousands of pages behind a slow line."""


class Watch:
    """Watches over some work from a thread of its own; ends it by `cut` when patience is over, and remembers why."""

    def __init__(self, patience: Patience, cut: Callable[[], None]) -> None:
        self._patience, self._cut = patience, cut
        self._end = time.monotonic() + patience.whole
        self._step_end: float | None = None
        self._over = Event()
        self.cause: HostRefused | None = None
        Thread(target=self._look, daemon=True).start()

    def begin_step(self) -> None:
        """A step begins; raises HostRefused when patience is over."""
        if self.cause:
            raise self.cause
        self._step_end = time.monotonic() + self._patience.step

    def end_step(self) -> None:
        """The step is done."""
        self._step_end = None

    def end(self) -> None:
        """The work is done."""
        self._over.set()

    def _look(self) -> None:
        asked_at = time.monotonic()
        while not self._over.wait(_LOOKED_EVERY):
            now = time.monotonic()
            step_end = self._step_end
            if now - asked_at >= _STOP_ASKED_EVERY:
                asked_at = now
                if self._patience.stop_asked():
                    self.cause = HostRefused("stopped", "You stopped it.")
            if now > self._end:
                self.cause = _took_too_long(self._patience.whole)
            elif step_end is not None and now > step_end:
                self.cause = _took_too_long(self._patience.step)
            if self.cause:
                self._cut()
                if not self._over.wait(_GRACE_SECONDS):
                    self._patience.hung()
                return


def _took_too_long(seconds: float) -> HostRefused:
    limit = f"{seconds / 60:.0f} minutes" if seconds >= 120 else f"{seconds:.0f} seconds"
    return HostRefused(
        "took-too-long",
        f"The place took longer than the limit of {limit} to answer. Check that it works, then try again.",
    )
