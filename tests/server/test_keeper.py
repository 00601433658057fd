"""Processes that end are started again, later and later, and that is said."""

import json
import os
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from unittest import TestCase, mock

from bexi.server import keeper, running
from bexi.server.keeper import Fate, Keeper, told_of_processes
from tests.hosts.hostile import wait_for

KEEP = """
import sys
from pathlib import Path
from bexi.server.keeper import Keeper
folder = Path(sys.argv[1])
ends = [sys.executable, "-c", f"open({str(folder / 'begun')!r}, 'a').write('x')"]
stays = [sys.executable, "-c", "import time; time.sleep(60)"]
sys.exit(Keeper({"ends": ends, "stays": stays}, folder, {}).run())
"""


KEEP_WATCHING = """
import sys
from pathlib import Path
from bexi.server.keeper import Keeper
folder = Path(sys.argv[1])
waits = "; ".join([
    "import os, time; from bexi.server.keeper import end_with_keeper; end_with_keeper()",
    f"open({str(folder / 'part')!r}, 'w').write(str(os.getpid()))",
    f"os.rename({str(folder / 'part')!r}, {str(folder / 'pid')!r})",
    "time.sleep(600)",
])
Keeper({"waits": [sys.executable, "-c", waits]}, folder, {}).run()
"""


class KeeperTests(TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def told(self) -> dict:
        (file,) = self.folder.glob("processes-*.json")
        return json.loads(file.read_text())

    def test_one_that_ends_is_started_again_and_the_others_go_on(self):
        command = [sys.executable, "-c", KEEP, str(self.folder)]
        process = subprocess.Popen(command, stderr=subprocess.PIPE, text=True)
        try:
            wait_for(lambda: (self.folder / "begun").exists() and len((self.folder / "begun").read_text()) >= 2, 60)
            self.assertIsNone(process.poll())
            told = self.told()
            self.assertGreaterEqual(told["ends"]["ended"], 1)
            self.assertEqual(told["stays"]["ended"], 0)
            wait_for(lambda: "Ends stopped" in told_of_processes(self.folder, time.time()), 60)
        finally:
            process.send_signal(signal.SIGINT)
            code, said = process.wait(60), process.stderr.read()
        self.assertEqual(code, 0)
        self.assertIn("ends stopped (exit code 0); restarting in 1 s.", said)
        self.assertEqual([*self.folder.glob("processes-*")], [])

    def test_nothing_outlives_a_keeper_that_is_killed(self):
        process = subprocess.Popen([sys.executable, "-c", KEEP_WATCHING, str(self.folder)])
        wait_for((self.folder / "pid").exists, 60)
        process.kill()
        process.wait()
        kept = int((self.folder / "pid").read_text())
        wait_for(lambda: not Path(f"/proc/{kept}").exists(), 60)

    def test_pauses_grow_and_a_steady_one_begins_anew(self):
        kept = Keeper({"a": ["true"]}, self.folder, os.environ)
        kept._begun["a"] = time.time()
        pauses = []
        for _ in range(9):
            kept._note_end("a", 1)
            pauses.append(round(kept._fates["a"].again_at - kept._fates["a"].at))
        self.assertEqual(pauses, [1, 2, 4, 8, 16, 32, 60, 60, 60])
        kept._begun["a"] = time.time() - 100
        kept._note_end("a", 1)
        self.assertEqual(kept._fates["a"].ended, 1)

    def test_a_full_disk_keeps_nothing_from_running(self):
        kept = Keeper({"a": ["true"]}, self.folder / "none", os.environ)
        kept._tell()
        kept._begun["a"] = 0
        kept._note_end("a", 1)
        self.assertIsNotNone(kept._fates["a"].again_at)

    def test_what_is_told(self):
        now, file = 1000.0, self.folder / f"processes-{os.getpid()}.json"
        for fate, told in (
            (Fate(), ""),
            (Fate(1, 1, 995, 1003), "Worker stopped; restarting in 3 s."),
            (Fate(4, 1, 995, 1003), "Worker stopped 4 times; restarting in 3 s."),
            (Fate(1, 1, 995), ""),
            (Fate(3, 1, 995), "Worker stopped 3 times and was restarted; the log says why."),
            (Fate(3, 1, 500), ""),
        ):
            file.write_text(json.dumps({"worker": vars(fate)}))
            self.assertEqual(told_of_processes(self.folder, now), told)
        for odd in ("", "[]", '{"worker": 5}', "{"):
            file.write_text(odd)
            self.assertEqual(told_of_processes(self.folder, now), "")

    def test_each_keeper_tells_of_its_own_and_one_that_was_killed_of_nothing_more(self):
        gone = subprocess.Popen([sys.executable, "-c", ""])
        gone.wait()
        for number, name in ((os.getpid(), "worker"), (os.getppid(), "web 1"), (gone.pid, "dead"), ("odd", "odd")):
            fate = json.dumps({name: vars(Fate(1, 1, 995, 1003))})
            (self.folder / f"processes-{number}.json").write_text(fate)
        told = told_of_processes(self.folder, 1000.0)
        self.assertCountEqual(
            told.lower().rstrip(".").split("; "),
            ["worker stopped", "restarting in 3 s", "web 1 stopped", "restarting in 3 s"],
        )
        Keeper({}, self.folder, {})._forget_the_dead()
        self.assertEqual(len([*self.folder.glob("processes-*")]), 2)

    def test_work_on_hosts_has_workers_of_its_own(self):
        lines = [command[-2:] for command in running.workers().values()]
        self.assertEqual(lines.count(["--line", "default"]), 1)
        self.assertGreaterEqual(lines.count(["--line", "elsewhere"]), 2)
        with mock.patch.object(keeper, "Keeper") as made:
            keeper.keep_running(running.workers(), self.folder)
        self.assertTrue(made.return_value.run.called)
