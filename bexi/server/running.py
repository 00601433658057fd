"""Starting the processes that Bexi is made of, and ending them together."""

import os
import socket
import sys
import threading
import time
import urllib.error
import urllib.request
import webbrowser
from collections.abc import Mapping, Sequence
from pathlib import Path

from bexi.server.keeper import keep_running

LOOPBACK = "127.0.0.1"
WEB_PORT = 8400
_WAIT_SECONDS = 60


_WEB_PROCESSES = 2
"""One that encodes a large PNG answers nobody else meanwhile."""
_WORKERS_ELSEWHERE = 2
"""For work on hosts, of which one may be slow."""


def command(module: str, *arguments: object) -> list[str]:
    """A command that runs a module with this Python."""
    return [sys.executable, "-m", module, *map(str, arguments)]


def web(host: str, port: int) -> dict[str, list[str]]:
    """The web server: several processes on one port."""
    line = command("bexi.server.web", "--host", host, "--port", port)
    return {f"web server {number}": line for number in range(1, _WEB_PROCESSES + 1)}


def workers() -> dict[str, list[str]]:
    """The processes that do what takes long: one for builds and checks, others for work on hosts."""
    elsewhere = command("django", "work", "--line", "elsewhere")
    return {
        "background work": command("django", "work", "--line", "default"),
        **{f"work on sites {number}": elsewhere for number in range(1, _WORKERS_ELSEWHERE + 1)},
    }


def run(processes: Mapping[str, Sequence[str]]) -> int:
    """Keep them running until Ctrl-C; returns the exit code."""
    return keep_running(processes, Path(os.environ["BEXI_DATA"]))


def taken(host: str, ports: Sequence[int]) -> list[int]:
    """Those of the ports that something else listens on."""
    return [port for port in ports if _in_use(host, port)]


def _in_use(host: str, port: int) -> bool:
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    with socket.socket(family) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError:
            return True
    return False


def open_browser_at(address: str) -> None:
    """Open the page in a browser once it answers, where there is one; beside what is done meanwhile."""
    threading.Thread(target=_open_when_up, args=(address,), daemon=True).start()


def _open_when_up(address: str) -> None:
    if not has_browser():
        return
    end = time.monotonic() + _WAIT_SECONDS
    while time.monotonic() < end:
        try:
            urllib.request.urlopen(f"{address}health", timeout=2).close()
        except urllib.error.HTTPError:
            break  # it answers
        except OSError:
            time.sleep(0.3)
            continue
        break
    webbrowser.open(address)


def has_browser() -> bool:
    """Whether a page can be shown to a person here: a browser in a text terminal would take the terminal over."""
    on_screen = sys.platform in ("darwin", "win32") or any(
        os.environ.get(one) for one in ("DISPLAY", "WAYLAND_DISPLAY")
    )
    try:
        webbrowser.get()
    except webbrowser.Error:
        return False
    return on_screen


def data_folder(chosen: Path | None, name: str) -> Path:
    """The data folder of a command, set for all its processes before the settings are read."""
    home = Path(os.environ.get("XDG_DATA_HOME", Path.home() / ".local" / "share"))
    folder = chosen or Path(os.environ.get("BEXI_DATA", home / name))
    os.environ["BEXI_DATA"] = str(folder.resolve())
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "bexi.server.settings")
    return folder.resolve()
