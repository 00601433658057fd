import multiprocessing
import os
import signal
import subprocess
import sys
import tempfile
import time
from functools import partial
from pathlib import Path
from unittest import TestCase

from bexi.core.iconset.catalogue import tab_icon
from bexi.core.iconset.encode import Job, encode
from bexi.core.iconset.processes import Processes
from tests.pictures import noise


def jobs(*sizes: int) -> list[Job]:
    return [Job(tab_icon(size), [noise(size, size, seed)]) for seed, size in enumerate(sizes)]


def die_at_48(job: Job) -> bytes:
    """Encoding that is ended from outside, unless it goes on in the process that waits for it."""
    if job.pictures[0].shape[0] == 48 and multiprocessing.parent_process():
        os.kill(os.getpid(), signal.SIGKILL)
    return encode(job)


def note_and_wait(folder: Path, job: Job) -> bytes:
    """Work that leaves a trace and takes a moment."""
    (folder / str(len(job.pictures[0]))).touch()
    time.sleep(0.3)
    return b""


class ProcessesTests(TestCase):
    def setUp(self):
        self.processes = Processes(2)
        self.addCleanup(self.processes.close)

    def test_the_same_bytes_in_the_same_order_with_any_number_of_processes(self):
        many = jobs(512, 16, 384, 32, 64)
        alone = [encode(job) for job in many]
        for count in (1, 2, 3):
            processes = Processes(count)
            self.addCleanup(processes.close)
            self.assertEqual(list(processes.each(encode, many)), alone)

    def test_little_work_starts_no_process(self):
        self.assertIsInstance(self.processes.each(encode, jobs(16, 32)), map)

    def test_an_ended_process_costs_nothing_but_time(self):
        many = jobs(512, 384, 48, 64)
        self.assertEqual(list(self.processes.each(die_at_48, many)), [encode(job) for job in many])
        self.assertEqual(list(self.processes.each(encode, many)), [encode(job) for job in many])

    def test_the_largest_begin_first_and_what_is_stopped_begins_no_more(self):
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        work = self.processes.each(partial(note_and_wait, folder), jobs(16, *range(300, 320), 512))
        next(work)
        work.close()
        self.processes.close()
        begun = {path.name for path in folder.iterdir()}
        self.assertLessEqual({"16", "512"}, begun)
        self.assertLess(len(begun), 10)

    def test_they_end_with_a_parent_that_was_killed(self):
        code = (
            "from bexi.core.iconset.processes import Processes; from bexi.core.iconset.encode import encode\n"
            "from tests.core.iconset.test_processes import jobs\n"
            "import os, signal\n"
            "if __name__ == '__main__':\n"
            "    processes = Processes(2); list(processes.each(encode, jobs(512, 512)))\n"
            "    print(*processes._pool._processes, flush=True)\n"
            "    os.kill(os.getpid(), signal.SIGKILL)\n"
        )
        told = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, timeout=60).stdout
        children = [int(number) for number in told.split()]
        self.assertEqual(len(children), 2)
        until = time.monotonic() + 10
        while any(is_alive(child) for child in children) and time.monotonic() < until:
            time.sleep(0.05)
        self.assertEqual([child for child in children if is_alive(child)], [])


def is_alive(process: int) -> bool:
    """Whether a process runs; one that ended and was not collected yet does not."""
    try:
        return "(zombie)" not in Path(f"/proc/{process}/status").read_text()
    except FileNotFoundError:
        return False
