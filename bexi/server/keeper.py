"""Keeps the processes that Bexi is made of running: one that ends is started again, later and later, and that is said.

What happened lies in a file of each keeper in the data folder, for the web processes to tell: `bexi work` keeps more
processes beside those of `bexi serve`.
"""

import json
import os
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import asdict, dataclass
from pathlib import Path
from types import FrameType

_NAMES = "processes-*.json"
"""For * the number of the process that keeps them."""
_KEEPER = "BEXI_KEEPER"
"""The environment variable that tells a kept process who keeps it."""
_FIRST_PAUSE, _LONGEST_PAUSE = 1.0, 60.0
_STEADY_SECONDS = 60.0
"""After so long a process counts as running well."""
_LOOKED_EVERY = 0.2
_GRACE_SECONDS = 10.0


@dataclass
class Fate:
    """How often a process ended by itself of late, its last exit code, and when it starts again; times since 1970."""

    ended: int = 0
    code: int = 0
    at: float = 0
    again_at: float | None = None


class Keeper:
    """Runs processes, by their names, until Ctrl-C or the signal to end."""

    def __init__(self, commands: Mapping[str, Sequence[str]], told: Path, environment: Mapping[str, str]) -> None:
        self._commands, self._told = commands, told / _NAMES.replace("*", str(os.getpid()))
        self._environment = {**environment, _KEEPER: str(os.getpid())}
        self._running: dict[str, subprocess.Popen[bytes]] = {}
        self._begun: dict[str, float] = {}
        self._fates = {name: Fate() for name in commands}
        self._ending = False

    def run(self) -> int:
        """Run them; returns the exit code, which is 0 after Ctrl-C."""
        for number in (signal.SIGINT, signal.SIGTERM):
            signal.signal(number, self._end)
        self._forget_the_dead()
        self._tell()
        for name in self._commands:
            self._start(name)
        while not self._ending:
            for name in self._commands:
                self._look_after(name)
            time.sleep(_LOOKED_EVERY)
        self._stop()
        return 0

    def _forget_the_dead(self) -> None:
        for file in self._told.parent.glob(_NAMES):
            if not _is_alive(file.stem.rpartition("-")[2]):
                file.unlink(missing_ok=True)

    def _look_after(self, name: str) -> None:
        process, fate = self._running.get(name), self._fates[name]
        if process and (code := process.poll()) is not None:
            del self._running[name]
            self._note_end(name, code)
        elif process is None and fate.again_at is not None and time.time() >= fate.again_at:
            fate.again_at = None
            self._start(name)
            self._tell()

    def _start(self, name: str) -> None:
        self._begun[name] = time.time()
        self._running[name] = subprocess.Popen(self._commands[name], env=self._environment)

    def _note_end(self, name: str, code: int) -> None:
        now, fate = time.time(), self._fates[name]
        fate.ended = 1 if now - self._begun[name] > _STEADY_SECONDS else fate.ended + 1
        fate.code, fate.at = code, now
        pause = min(_LONGEST_PAUSE, _FIRST_PAUSE * 2 ** min(fate.ended - 1, 10))
        fate.again_at = now + pause
        print(f"{name} stopped (exit code {code}); restarting in {pause:.0f} s.", file=sys.stderr, flush=True)
        self._tell()

    def _tell(self) -> None:
        """Write down how the processes fare; a full disk keeps none of them from running."""
        aside = self._told.with_suffix(".part")
        try:
            aside.write_text(json.dumps({name: asdict(fate) for name, fate in self._fates.items()}))
            aside.replace(self._told)
        except OSError as error:
            print(f"{self._told} cannot be written: {error.strerror}.", file=sys.stderr)

    def _end(self, number: int, frame: FrameType | None) -> None:
        self._ending = True

    def _stop(self) -> None:
        for process in self._running.values():
            process.terminate()
        end = time.monotonic() + _GRACE_SECONDS
        for process in self._running.values():
            try:
                process.wait(max(0.1, end - time.monotonic()))
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
        self._told.unlink(missing_ok=True)


def end_with_keeper() -> None:
    """Have this process told to end when the one that keeps it is gone, killed perhaps; nothing else would end it."""
    if _KEEPER in os.environ:
        threading.Thread(target=_watch, args=(int(os.environ[_KEEPER]),), daemon=True).start()


def _watch(keeper: int) -> None:
    while os.getppid() == keeper:
        time.sleep(_LOOKED_EVERY)
    os.kill(os.getpid(), signal.SIGTERM)


def told_of_processes(folder: Path, now: float) -> str:
    """A sentence on processes that ended of late; empty when all run."""
    told = [one for file in sorted(folder.glob(_NAMES)) for one in _told_in(file, now)]
    sentence = "; ".join(told)
    return f"{sentence[0].upper()}{sentence[1:]}." if told else ""


def _told_in(file: Path, now: float) -> Iterator[str]:
    if not _is_alive(file.stem.rpartition("-")[2]):
        return
    try:
        fates = {name: Fate(**fate) for name, fate in json.loads(file.read_text()).items()}
    except (OSError, ValueError, TypeError, AttributeError):
        return
    for name, fate in fates.items():
        times = "" if fate.ended == 1 else f" {fate.ended} times"
        if fate.again_at is not None:
            yield f"{name} stopped{times}; restarting in {max(0, fate.again_at - now):.0f} s"
        elif fate.ended > 1 and now - fate.at < _STEADY_SECONDS:
            yield f"{name} stopped{times} and was restarted; the log says why"


def _is_alive(number: str) -> bool:
    """Whether a process is there; one that was killed left its file behind."""
    try:
        os.kill(int(number), 0)
    except (ValueError, OverflowError, ProcessLookupError):
        return False
    except PermissionError:
        pass  # somebody else's
    return True


def keep_running(commands: Mapping[str, Sequence[str]], folder: Path) -> int:
    """Run commands by their names, with the settings of Bexi, until Ctrl-C; returns the exit code."""
    return Keeper(commands, folder, {**os.environ, "DJANGO_SETTINGS_MODULE": "bexi.server.settings"}).run()
