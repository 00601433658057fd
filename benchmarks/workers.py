"""Builds with one, two and four workers on this machine, and how a request fares meanwhile."""

import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from typing import Any

BUILDS = 12
WORKERS = (1, 2, 4)
_IDLE_REQUESTS = 40


def rows() -> Iterator[tuple[str, float, str]]:
    """Builds per minute over those of one worker, and the median and p95 of a request over those at rest."""
    measured = {count: _apart(count) for count in WORKERS}
    first = measured[1]["per_minute"]
    for count, one in measured.items():
        told = f"{one['per_minute']:.0f} a minute on these {os.cpu_count()} cores"
        yield f"builds, workers: {count}", one["per_minute"] / first, told
        yield "  a list of sites meanwhile, median", one["median"] / one["rest"], "times at rest"
        yield "  a list of sites meanwhile, p95", one["p95"] / one["rest"], "times the median at rest"


def _apart(count: int) -> dict[str, float]:
    """Measure in a process of its own, over a data folder of its own."""
    with tempfile.TemporaryDirectory() as folder:
        environment = {**os.environ, "BEXI_DATA": folder, "DJANGO_SETTINGS_MODULE": "bexi.server.settings"}
        command = [sys.executable, "-m", "benchmarks.workers", str(count)]
        told = subprocess.run(command, env=environment, check=True, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL)
        found: dict[str, float] = json.loads(told.stdout)
        return found


def _measured(count: int) -> dict[str, float]:
    import django

    django.setup()
    from django.core.management import call_command
    from django.test import Client

    from benchmarks.pictures import large_png
    from bexi.core.framing.frame import whole_artwork
    from bexi.core.framing.recipe import Recipe
    from bexi.server.artwork.services import add_artwork
    from bexi.server.builds.models import RunState
    from bexi.server.builds.starting import start
    from bexi.server.drafts.services import save_draft
    from bexi.server.sites.models import Site

    call_command("migrate", verbosity=0)
    artwork = add_artwork("grainy.png", large_png(1024))
    sites = [Site.objects.create(name=f"Site {number}") for number in range(BUILDS)]
    for site in sites:
        save_draft(site, artwork, Recipe.of(whole_artwork(1024, 1024)), 0)
    client: Any = Client(headers={"host": "127.0.0.1"})

    def asked() -> float:
        begun = time.perf_counter()
        assert client.get("/api/sites").status_code == 200
        return time.perf_counter() - begun

    rest = statistics.median(asked() for _ in range(_IDLE_REQUESTS))
    workers = [subprocess.Popen([sys.executable, "-m", "django", "work"]) for _ in range(count)]
    try:
        warm = Site.objects.create(name="Warm")  # each has imported what it needs before the clock runs
        save_draft(warm, artwork, Recipe.of(whole_artwork(1024, 1024)), 0)
        for _ in range(count):
            run = start(warm)
            while run.state != RunState.DONE:
                time.sleep(0.1)
                run.refresh_from_db()
        begun, meanwhile = time.perf_counter(), []
        runs = [start(site) for site in sites]
        while any(run.state != RunState.DONE for run in runs):
            meanwhile.append(asked())
            time.sleep(0.1)
            for run in runs:
                run.refresh_from_db()
        seconds = time.perf_counter() - begun
    finally:
        for worker in workers:
            worker.terminate()
            worker.wait()
    p95 = statistics.quantiles(meanwhile, n=20)[-1]
    return {"per_minute": 60 * BUILDS / seconds, "rest": rest, "median": statistics.median(meanwhile), "p95": p95}


if __name__ == "__main__":
    print(json.dumps(_measured(int(sys.argv[1]))))
