"""How Bexi itself fares: settings, disk, database, worker."""

import shutil
import time
from collections.abc import Callable
from dataclasses import dataclass

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest, JsonResponse

from bexi.resources import GATHERED
from bexi.server.keeper import told_of_processes
from bexi.server.machines import worker
from bexi.server.people import accounts
from bexi.server.people.asking import is_open

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
    looks = {
        "pages": _pages,
        "disk": _disk,
        "database": _database,
        "worker": _worker,
        "processes": _processes,
        "people": _people,
    }
    return Health({name: look() for name, look in looks.items()})


def health(request: HttpRequest) -> JsonResponse:
    """For supervisors: 200 when all is well, else 503, with a word on each; the sentences only for this machine."""
    found, tells_all = state_of_health(), is_open(request)
    words = {name: (told if tells_all else "ill") if told else "well" for name, told in found.looked_at.items()}
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
    return f"only {free // 1024**2} MB are free; free up space." if free < LEAST_FREE else ""


def _database() -> str:
    try:
        executor = MigrationExecutor(connection)
        left = executor.migration_plan(executor.loader.graph.leaf_nodes())
    except DatabaseError as error:
        return f"it cannot be read: {error}."
    return "it is of another version; start bexi serve to bring it up to date." if left else ""


def _processes() -> str:
    return told_of_processes(settings.DATA_FOLDER, time.time())


def _people() -> str:
    if not settings.REACHED_AS or _asked(accounts.administrators().exists):
        return ""
    return "there is no administrator, so nobody can sign in from elsewhere; add an account with bexi user add NAME."


def _worker() -> str:
    return "" if _asked(worker.is_alive) else "it is not running; builds, installations and checks wait for it."


def _asked(question: Callable[[], bool]) -> bool:
    """What the database answers; no for one that is not there yet, or of another version."""
    try:
        return question()
    except DatabaseError:
        return False
