"""A park of machines in miniature: each has a data folder of its own; the database, queue and blobs are shared."""

import logging
import os
import shutil
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Iterator, Mapping
from contextlib import ExitStack, contextmanager, suppress
from pathlib import Path

import boto3
import httpx
from cryptography.fernet import Fernet
from django.conf import settings
from moto.server import ThreadedMotoServer

from tests.ports import free_port_range

LOOPBACK = "127.0.0.1"
BUCKET = "bexi-blobs"
S3_KEY = {"AWS_ACCESS_KEY_ID": "stand-in", "AWS_SECRET_ACCESS_KEY": "stand-in"}


def until(happens: Callable[[], object], seconds: float, what: str) -> object:
    """Wait until something is so; returns what it gave."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if found := happens():
            return found
        time.sleep(0.1)
    raise AssertionError(f"{what}: not within {seconds} s")


def _answers(port: int) -> bool:
    with socket.socket() as probe:
        return probe.connect_ex((LOOPBACK, port)) == 0


@contextmanager
def _running(command: list[str], environment: Mapping[str, str] | None = None) -> Iterator["subprocess.Popen[bytes]"]:
    """A process with a group of its own, ended with it."""
    process = subprocess.Popen(
        command, env={**os.environ, **(environment or {})}, cwd=settings.REPOSITORY, start_new_session=True
    )
    try:
        yield process
    finally:
        kill(process, signal.SIGTERM)
        try:
            process.wait(10)
        except subprocess.TimeoutExpired:
            kill(process, signal.SIGKILL)
            process.wait()


def kill(process: "subprocess.Popen[bytes]", how: signal.Signals) -> None:
    """Send a signal to all that a process has started."""
    with suppress(ProcessLookupError):
        os.killpg(process.pid, how)


@contextmanager
def redis(folder: Path) -> Iterator[str]:
    """Debian's redis-server; gives its address."""
    port = free_port_range(1)
    command = ["redis-server", "--bind", LOOPBACK, "--port", str(port), "--save", "", "--dir", str(folder)]
    with _running([*command, "--loglevel", "warning"]):
        until(lambda: _answers(port), 20, "redis")
        yield f"redis://{LOOPBACK}:{port}/0"


@contextmanager
def postgresql(folder: Path) -> Iterator[str]:
    """Debian's PostgreSQL; gives the address of an empty database."""
    port, data = free_port_range(1), folder / "postgresql"
    programs = max(Path("/usr/lib/postgresql").glob("*/bin"), key=lambda path: float(path.parent.name))
    as_user = []
    data.mkdir()
    if os.geteuid() == 0:  # PostgreSQL refuses to run as root
        shutil.chown(data, "postgres", "postgres")
        as_user = ["setpriv", "--reuid=postgres", "--regid=postgres", "--clear-groups"]
    create = [*as_user, programs / "initdb", "--auth=trust", "--username=bexi", "--no-sync", "-D", data]
    subprocess.run(create, check=True, stdout=subprocess.DEVNULL)
    options = [
        "-D",
        data,
        "-h",
        LOOPBACK,
        "-p",
        str(port),
        "-k",
        data,
        "-c",
        "fsync=off",
        "-c",
        "log_min_messages=fatal",
    ]
    with _running([*map(str, [*as_user, programs / "postgres", *options])]):
        until(lambda: _answers(port), 20, "postgresql")
        createdb = [programs / "createdb", "-h", LOOPBACK, "-p", str(port), "-U", "bexi", "bexi"]
        until(lambda: subprocess.run(createdb, capture_output=True).returncode == 0, 20, "createdb")
        yield f"postgresql://bexi@{LOOPBACK}:{port}/bexi"


@contextmanager
def blobs() -> Iterator[str]:
    """A stand-in for S3; gives where the blobs are."""
    port = free_port_range(1)
    logging.getLogger("werkzeug").setLevel(logging.ERROR)
    server = ThreadedMotoServer(ip_address=LOOPBACK, port=port, verbose=False)
    server.start()
    try:
        address = f"http://{LOOPBACK}:{port}"
        keys = {name.lower(): value for name, value in S3_KEY.items()}
        boto3.client("s3", endpoint_url=address, region_name="us-east-1", **keys).create_bucket(Bucket=BUCKET)
        yield f"s3://{BUCKET}/kept?endpoint_url={address}&region_name=us-east-1"
    finally:
        server.stop()


class Park:
    """Web servers and workers, each a machine of its own."""

    def __init__(self, stack: ExitStack, folder: Path) -> None:
        self._stack, self._folder, self._count = stack, folder, 0
        self.queue = stack.enter_context(redis(folder))
        self._shared = {
            "BEXI_QUEUE": self.queue,
            "BEXI_DATABASE": stack.enter_context(postgresql(folder)),
            "BEXI_BLOBS": stack.enter_context(blobs()),
            "BEXI_KEY": Fernet.generate_key().decode(),
            "BEXI_SECRET_KEY": "the same on all machines of this park, and long enough for that",
            "DJANGO_SETTINGS_MODULE": "bexi.server.settings",
            **S3_KEY,
        }
        subprocess.run(
            [sys.executable, "manage.py", "migrate", "--verbosity", "0"],
            env={**os.environ, **self._own()}, cwd=settings.REPOSITORY, check=True,
        )  # fmt: skip

    def _own(self) -> dict[str, str]:
        self._count += 1
        return {**self._shared, "BEXI_DATA": str(self._folder / f"machine-{self._count}")}

    def worker(self) -> "subprocess.Popen[bytes]":
        """One more machine that works."""
        return self._stack.enter_context(_running([sys.executable, "-m", "django", "work"], self._own()))

    def web(self) -> "Web":
        """One more machine that answers."""
        port = free_port_range(1)
        command = [sys.executable, "-m", "bexi.server.web", "--host", LOOPBACK, "--port", str(port)]
        self._stack.enter_context(_running(command, self._own()))
        until(lambda: _answers(port), 60, "a web server")
        return Web(self._stack, f"http://{LOOPBACK}:{port}/")


class Web:
    """Asks one web server, as a page of it does."""

    def __init__(self, stack: ExitStack, address: str) -> None:
        self._client = stack.enter_context(httpx.Client(base_url=f"{address}api/", trust_env=False, timeout=60))
        self._client.get("sites")

    def ask(self, method: str, path: str, body: object = None, **options: object) -> httpx.Response:
        """An answer of the API."""
        token = {"X-CSRFToken": self._client.cookies["csrftoken"]}
        return self._client.request(
            method, path, headers=token, **({"json": body} if body is not None else {}), **options
        )

    def told(self, method: str, path: str, body: object = None, **options: object) -> object:
        """What it tells; fails for an error."""
        answer = self.ask(method, path, body, **options)
        assert answer.is_success, f"{method} {path}: {answer.status_code} {answer.text[:400]}"
        return answer.json() if answer.content else None
