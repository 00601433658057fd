"""How the processes fare that Bexi is made of, over the API."""

import time

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema

from bexi.server.keeper import told_of_processes

router = Router(tags=["machines"])


class ProcessesOut(Schema):
    """`told` is a sentence on processes that ended of late, empty when all run."""

    told: str


@router.get("/processes", response=ProcessesOut)
def look_at_processes(request: HttpRequest) -> ProcessesOut:
    """Whether a process ended, and when it starts again."""
    return ProcessesOut(told=told_of_processes(settings.DATA_FOLDER, time.time()))
