"""How many heaps the C library keeps, as it tells itself: malloc_info(3)."""

import platform
import subprocess
import sys
import unittest

THREADS = """
import ctypes, sys
from concurrent.futures import ThreadPoolExecutor
from threading import Barrier
from bexi.core.pixels.heap import share_heap

if sys.argv[1] == "shared":
    share_heap()
together = Barrier(3)
with ThreadPoolExecutor(3) as threads:
    list(threads.map(lambda _: (bytearray(50_000), together.wait()), range(3)))
library = ctypes.CDLL(None)
library.malloc_info(0, ctypes.c_void_p.in_dll(library, "stdout"))
library.fflush(None)
"""


@unittest.skipUnless(platform.libc_ver()[0] == "glibc", "the GNU C library alone has a heap for each thread")
class HeapTests(unittest.TestCase):
    def test_threads_share_one_heap(self):
        self.assertEqual(self.heaps("shared"), 1)
        self.assertGreater(self.heaps("apart"), 1)

    def heaps(self, how: str) -> int:
        command = [sys.executable, "-c", THREADS, how]
        return subprocess.run(command, capture_output=True, text=True, check=True).stdout.count("<heap ")
