"""All tests, spread over the cores: `python -m tests [LABEL ...]`.

Each process is a Django test run of its own, with its own data folder and database, and takes test class after test
class from one line, the slowest kinds first, so that none waits for the others.
"""

import os
import re
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import TextIO

LINE = "BEXI_TEST_LINE"
"""Names the file with the number of the next class; set for the processes that share one line."""
PROCESS, PROCESSES = "BEXI_TEST_PROCESS", "BEXI_TEST_PROCESSES"
"""The number of such a process, from 0, and how many there are."""
_RAN = re.compile(r"^Ran (\d+) tests?", re.MULTILINE)
_TOOK = re.compile(r"^took +([\d.]+) s ([\w.]+)$", re.MULTILINE)
_SLOWEST = 20
_MEMORY = 4 << 30
"""Bytes, more than all databases of a run take."""
_ONE_THREAD = {"BEXI_ONE_THREAD": "1", "OPENBLAS_NUM_THREADS": "1"}
"""There are more processes than cores."""
_COUNTED = re.compile(r"\b(failures|errors|unexpected successes|skipped)=(\d+)")


def main(labels: list[str]) -> int:
    """Run the tests in half as many processes again as there are cores; returns the exit code.

    A process that drives a browser waits for it a part of its time.
    """
    count = (os.cpu_count() or 1) * 3 // 2
    with tempfile.TemporaryDirectory(dir=_memory()) as folder:
        line = Path(folder) / "line"
        line.write_text("0")
        running = []
        for number in range(count):
            data = Path(folder) / f"data-{number}"
            data.mkdir()
            told = (Path(folder) / f"told-{number}").open("w+")
            own = {LINE: str(line), "BEXI_DATA": str(data), PROCESS: str(number), PROCESSES: str(count)}
            named = labels or ["tests"]
            command = [sys.executable, "manage.py", "test", *named, "--testrunner", "tests.line.LineRunner"]
            running.append(
                (subprocess.Popen(command, env={**os.environ, **_ONE_THREAD, **own}, stdout=told, stderr=told), told)
            )
        ended = [process.wait() for process, _ in running]
        told = [_read(file) for _, file in running]
    # What failed is told last, where the eye is, and what keeps the end of a long log alone.
    print("\n".join(text for _, text in sorted(zip(ended, told, strict=True), key=lambda one: one[0] != 0)))
    slowest = sorted((float(seconds), name) for text in told for seconds, name in _TOOK.findall(text))
    print("The slowest:", *(f"{seconds:6.1f} s {name}" for seconds, name in slowest[: -_SLOWEST - 1 : -1]), sep="\n")
    ran = sum(int(match[1]) for text in told for match in _RAN.finditer(text))
    counted = [(match[1], int(match[2])) for text in told for match in _COUNTED.finditer(text)]
    skipped = sum(number for kind, number in counted if kind == "skipped")
    failed = sum(number for kind, number in counted if kind != "skipped")
    print(f"{ran - skipped - failed} passed, {failed} failed, {skipped} skipped")
    return 1 if failed or any(ended) or not ran else 0


def _memory() -> Path | None:
    """A folder in memory, if there is enough of that: a test writes nothing that should outlast a power cut."""
    folder = Path("/dev/shm")
    return folder if folder.is_dir() and shutil.disk_usage(folder).free >= _MEMORY else None


def _read(file: TextIO) -> str:
    file.seek(0)
    return file.read()


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
