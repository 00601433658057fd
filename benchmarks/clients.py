"""Fifty clients of one Bexi at once, against the same requests sent one by one."""

import os
import random
import socket
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from typing import Any

import httpx

CLIENTS = 50
SLOW = 24
_REQUESTS_OF_EACH = 12
_THINKING = 3.0
"""Seconds between the requests of one client."""
_SMALL = [{"size": size, "purpose": "tab"} for size in (16, 24, 32, 48, 64)]


def rows() -> Iterator[tuple[str, float, str]]:
    """The 95th percentile of the waiting over the median of the same requests one by one, and how many failed."""
    with _demo() as address, httpx.Client(base_url=address, trust_env=False, timeout=120) as client:
        draft = client.get("/api/sites/1/draft").json()
        drawn = [Request.drawn(draft, random.Random(seed)) for seed in range(3 * CLIENTS * _REQUESTS_OF_EACH)]
        warming, requests, others = drawn[::3], drawn[1::3], drawn[2::3]
        _together(address, warming)  # what each web process imports and keeps at first is no matter of many
        alone = [request.sent_by(client) for request in requests[: 2 * CLIENTS]]
        together = _together(address, requests)
        with _slow(address):
            beside = _together(address, others)
    median = statistics.median(taken for taken, _ in alone)
    yield (
        f"{CLIENTS} clients, p95",
        _p95(together) / median,
        ("at most 12 times the median one by one"),
    )
    yield "  median", statistics.median(taken for taken, _ in together) / median, ""
    yield (
        f"  p95 beside {SLOW} that send half a request, over that without",
        _p95(beside) / _p95(together),
        "at most 1.5",
    )
    yield "  requests that failed", sum(not well for _, well in alone + together + beside), "none"


def _p95(answered: list[tuple[float, bool]]) -> float:
    return statistics.quantiles((taken for taken, _ in answered), n=20)[-1]


@contextmanager
def _slow(address: str) -> Iterator[None]:
    """Clients that send half of a header or of a body, and begin anew when they are ended."""
    over = threading.Event()
    halves = (
        b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Half:",
        b"POST /api/sites HTTP/1.1\r\nContent-Length: 999\r\n\r\n{",
    )
    url = httpx.URL(address)

    def send(number: int) -> None:
        while not over.is_set():
            with suppress(OSError), socket.create_connection((url.host, url.port or 80)) as connection:
                connection.sendall(halves[number % 2])
                while not over.wait(0.5):
                    connection.sendall(b"x")

    threads = [threading.Thread(target=send, args=(number,)) for number in range(SLOW)]
    for thread in threads:
        thread.start()
    try:
        yield
    finally:
        over.set()
        for thread in threads:
            thread.join()


@dataclass(frozen=True)
class Request:
    """One request; `body` is sent as JSON."""

    method: str
    path: str
    body: Any = None

    @classmethod
    def drawn(cls, draft: dict[str, Any], chance: random.Random) -> "Request":
        """One of a realistic mix: lists, the shelf, the ladder of a frame that was moved, facts, a plan."""
        site = chance.randint(1, 3)
        kind = chance.choice(("sites", "builds", "shelf", "ladder", "facts", "plan"))
        if kind == "ladder":
            frame = draft["recipe"]["framing"]["frame"]
            moved = {**frame, "x": frame["x"] + chance.randint(-20, 20)}
            framing = {**draft["recipe"]["framing"], "frame": moved}
            body = {"recipe": {**draft["recipe"], "framing": framing}, "site_id": 1, "pictures": _SMALL}
            return cls("POST", f"/api/artwork/{draft['artwork_id']}/ladder", body)
        paths = {
            "sites": "/api/sites",
            "builds": f"/api/sites/{site}/builds",
            "shelf": f"/api/artwork?page=1&search={chance.choice(('', 'ferry', 'disc'))}",
            "facts": f"/api/artwork/{draft['artwork_id']}",
            "plan": f"/api/sites/{site}/plan",
        }
        return cls("GET", paths[kind])

    def sent_by(self, client: httpx.Client) -> tuple[float, bool]:
        """Seconds until it was answered, and whether it was answered well."""
        token = {"X-CSRFToken": client.cookies.get("csrftoken") or ""}
        begun = time.perf_counter()
        try:
            response = client.request(self.method, self.path, json=self.body, headers=token)
        except httpx.HTTPError:
            return time.perf_counter() - begun, False
        return time.perf_counter() - begun, response.is_success


def _together(address: str, requests: list[Request]) -> list[tuple[float, bool]]:
    def client(number: int) -> list[tuple[float, bool]]:
        done = []
        with httpx.Client(base_url=address, trust_env=False, timeout=120) as connection:
            time.sleep(_THINKING * number / CLIENTS)  # nobody begins at the same moment
            connection.get("/")  # as a browser, which gets its token with the page
            for request in requests[number::CLIENTS]:
                done.append(request.sent_by(connection))
                time.sleep(_THINKING)
        return done

    with ThreadPoolExecutor(CLIENTS) as clients:
        return [one for done in clients.map(client, range(CLIENTS)) for one in done]


@contextmanager
def _demo() -> Iterator[str]:
    """The address of a demo of its own; its ports must be free."""
    with tempfile.TemporaryDirectory() as folder:
        process = subprocess.Popen(
            [sys.executable, "-m", "bexi.server.demo.run"],
            env={**os.environ, "BEXI_DATA": folder},
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )
        address = "http://127.0.0.1:8400"
        try:
            for _ in range(240):
                try:
                    if httpx.get(f"{address}/api/sites", trust_env=False).json():
                        break
                except (httpx.HTTPError, ValueError):
                    pass
                time.sleep(0.5)
            yield address
        finally:
            process.terminate()
            process.wait()
