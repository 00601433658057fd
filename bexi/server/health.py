"""How Bexi itself fares: settings, disk, database, worker."""

import shutil
from dataclasses import dataclass

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, JsonResponse

from bexi.resources import GATHERED
from bexi.server import worker

LEAST_FREE = 200 * 1024 * 1024
"""Bytes below which a build or an installation may find no room."""


@dataclass(frozen=True)
class Health:
    """What was looked at: a sentence on each that is ill, in the order of `looked_at`; empty for well."""

    looked_at: dict[str, str]

    @property
    def is_well(self) -> bool:
        """Whether nothing is ill."""
        return not any(self.looked_at.values())

    @property
    def lines(self) -> list[str]:
        """One line for each."""
        return [f"{name}: {told or 'well'}" for name, told in self.looked_at.items()]


def state_of_health() -> Health:
    """Look at everything that must be well for Bexi to work."""
    return Health({"pages": _pages(), "disk": _disk(), "database": _database(), "worker": _worker()})


def health(request: HttpRequest) -> JsonResponse:
    """For supervisors: 200 when all is well, else 503, with a word on each."""
    found = state_of_health()
    words = {name: told or "well" for name, told in found.looked_at.items()}
    response = JsonResponse(words, status=200 if found.is_well else 503)
    response["Cache-Control"] = "no-store"
    return response


def _pages() -> str:
    if not (settings.FRONTEND_BUILD / "index.html").is_file():
        return "the front end is not built; run make setup, or install the package anew."
    return "" if GATHERED.is_dir() else "faces and symbols are missing; run make setup, or install the package anew."


def _disk() -> str:
    try:
        free = shutil.disk_usage(settings.DATA_FOLDER).free
        probe = settings.DATA_FOLDER / "probe"
        probe.write_bytes(b"x")
        probe.unlink()
    except OSError as error:
        return f"{settings.DATA_FOLDER} cannot be written: {error.strerror}."
    return f"only {free // 1024**2} MB are free; make room." if free < LEAST_FREE else ""


def _database() -> str:
    try:
        executor = MigrationExecutor(connection)
        left = executor.migration_plan(executor.loader.graph.leaf_nodes())
    except DatabaseError as error:
        return f"it cannot be read: {error}."
    return "it is of another version; start bexi serve to bring it up to date." if left else ""


def _worker() -> str:
    return "" if worker.is_alive() else "it does not run; builds, installations and checks wait for it."
