"""Build, install, a worker killed in the middle, undo: on two web servers and three workers that share no disk."""

import os
import signal
import tempfile
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack
from pathlib import Path
from unittest import TestCase, skipUnless

import rq
from redis import Redis

from bexi.standin.account import PASSWORD, USER
from bexi.standin.host import PORTS, SFTP_OFFSET, running
from bexi.standin.mischief import Mischief
from bexi.standin.sites import reset
from tests.machines.machines import LOOPBACK, Park, kill, until
from tests.pictures import BLUE_DISC
from tests.ports import free_port_range

OVER = ("done", "failed", "stopped", "put-back", "undone", "stuck")


@skipUnless(os.environ.get("BEXI_MACHINES"), "run by make machines")
class ThreeWorkersTests(TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        self.addCleanup(folder.cleanup)
        self.stack = ExitStack()
        self.addCleanup(self.stack.close)
        self.folder = Path(folder.name)
        self.folder.chmod(0o755)
        self.served, self.mischief = self.folder / "sites", Mischief()
        reset(self.served)
        self.port = free_port_range(PORTS)
        self.stack.enter_context(running(self.served, self.port, self.mischief))
        self.park = Park(self.stack, self.folder)
        self.one, self.two = self.park.web(), self.park.web()
        self.workers = [self.park.worker() for _ in range(3)]
        self.artwork = self.two.told("POST", "artwork", files={"file": ("disc.svg", BLUE_DISC)})

    def files(self, site: str) -> dict[str, bytes]:
        root = self.served / site
        return {str(path.relative_to(root)): path.read_bytes() for path in root.rglob("*") if path.is_file()}

    def add_site(self, name: str, place: str = "") -> int:
        """A site with a draft, made on one web server."""
        site = self.one.told("POST", "sites", {"name": name, "place": place})["id"]
        recipe = {"framing": {"frame": self.artwork["framings"]["whole"]}}
        self.one.told("POST", f"sites/{site}/drafts", {"artwork_id": self.artwork["id"], "recipe": recipe})
        return site

    def build(self, site: int) -> None:
        """Ordered on one web server, watched on the other."""
        draft = self.one.told("GET", f"sites/{site}/draft")
        self.one.told("POST", f"sites/{site}/builds", {"draft_id": draft["id"], "revision": draft["revision"]})
        run = until(lambda: self.ended(f"sites/{site}/build-run"), 120, "a build")
        self.assertEqual(run["state"], "done", run)

    def ended(self, path: str) -> dict | None:
        told = self.two.told("GET", path)
        return told if told["state"] in OVER else None

    def plan(self, site: int) -> dict:
        planning = self.two.told("POST", f"sites/{site}/plannings", {})
        return until(lambda: self.ended(f"plannings/{planning['id']}"), 60, "a plan")

    def installed(self, site: int, install: int) -> dict:
        def over() -> dict | None:
            told = next(one for one in self.one.told("GET", f"sites/{site}/installs") if one["id"] == install)
            return told if told["state"] in OVER else None

        return until(over, 150, "an installation")

    def kill_who_installs(self) -> None:
        """The worker with the job that is under way, and all its processes, with no chance to tidy up."""
        busy = next(one for one in rq.Worker.all(Redis.from_url(self.park.queue)) if one.get_current_job_id())
        worker = next(one for one in self.workers if one.pid == busy.pid)
        kill(worker, signal.SIGKILL)
        worker.wait()

    def test_build_install_kill_a_worker_in_the_middle_and_undo(self):
        place = f"sftp://{USER}@{LOOPBACK}:{self.port + SFTP_OFFSET}/log"
        site = self.add_site("Log book", place)
        before = self.files("log")
        self.build(site)
        entered = {"secret": PASSWORD, "place": place}
        unknown = self.one.ask("POST", f"sites/{site}/connection", entered).json()
        self.assertEqual(unknown["code"], "unknown-server", unknown)
        trust = {**entered, "trust": unknown["fingerprint"], "keep": True}
        self.assertTrue(self.one.told("POST", f"sites/{site}/connection", trust)["secret_kept"])
        self.two.told("POST", f"sites/{site}/connection", {"keep": True})  # the other machine reads the sealed secret

        plan = self.plan(site)
        self.mischief.set(slow=40)
        install = self.two.told("POST", f"sites/{site}/installs", {"planning_id": plan["id"]})["id"]
        again = self.one.ask("POST", f"sites/{site}/installs", {"planning_id": plan["id"]})
        self.assertEqual((again.status_code, again.json()["code"]), (409, "install-under-way"))
        begun = lambda: self.one.told("GET", f"sites/{site}/installs")[0]["begun"] > 3  # noqa: E731
        until(begun, 60, "some steps")
        self.kill_who_installs()
        self.assertNotEqual(self.files("log"), before)
        self.mischief.set(slow=0)
        self.assertEqual(self.installed(site, install)["state"], "put-back")
        self.assertEqual(self.files("log"), before)

        install = self.one.told("POST", f"sites/{site}/installs", {"planning_id": self.plan(site)["id"]})["id"]
        self.assertEqual(self.installed(site, install)["state"], "done")
        self.assertIn("favicon.ico", self.files("log"))
        undo = self.two.told("POST", f"installs/{install}/undo", {})["id"]
        self.assertEqual(self.installed(site, undo)["state"], "done")
        self.assertEqual(self.files("log"), before)

    def test_of_many_builds_none_is_lost_and_none_done_twice(self):
        sites = [self.add_site(f"Site {number}") for number in range(8)]
        with ThreadPoolExecutor(8) as pool:
            list(pool.map(self.build, sites))
        for site in sites:
            (build,) = self.two.told("GET", f"sites/{site}/builds")
            self.assertGreater(len(build["files"]), 5)
            packed = self.two.ask("GET", f"builds/{build['id']}/set.zip")
            self.assertEqual((packed.status_code, packed.content[:2]), (200, b"PK"))
        self.assertEqual(self.one.ask("GET", "../health").json()["worker"], "well")
