import multiprocessing
import os
import signal
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
