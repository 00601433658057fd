"""Telling a program of somebody's that something happened."""

import time

import httpcore
import httpx

from bexi.hosts.asking import Resolve, resolve
from bexi.web.visiting import TIMEOUT_SECONDS, Deadline, transport

_MOST_SECONDS = 20


def post(address: str, body: bytes, find: Resolve = resolve) -> None:
    """Send JSON to an address that a person named. Redirects are not followed.

    Raises httpx.HTTPError or OSError when it is not taken.
    """
    deadline = Deadline(time.monotonic() + _MOST_SECONDS)
    careful = transport(deadline, find, address)
    try:
        with httpx.Client(transport=careful, timeout=TIMEOUT_SECONDS, trust_env=False) as client:
            answer = client.post(address, content=body, headers={"Content-Type": "application/json"})
    except (httpcore.NetworkError, httpcore.TimeoutException, httpcore.ProtocolError) as error:
        raise OSError(str(error)) from error
    if not answer.is_success:
        raise OSError(f"status {answer.status_code}")
